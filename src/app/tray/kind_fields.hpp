// What kinds of props are in a level: what of them blocks, how high they stand, how they vary, how they may be turned
// and scaled, what they tell. Cut and Dress both show it.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>
#include <string>
#include <vector>

#include "app/parts/binding.hpp"
#include "level/prop_kind.hpp"

class QVBoxLayout;

namespace vic::app {

class NoteRows;
class Session;

class AreaBoard;
class FootBoard;
class ShapeBoard;

class KindFields : public QWidget {
    Q_OBJECT
  public:
    // `kinds`: those that are shown and changed; with none the fields are not to be seen. `prefix` begins the names of
    // the controls.
    KindFields(Session& session, std::function<std::vector<level::PropKind>()> kinds, const QString& prefix,
               QWidget* parent);
    void refresh();

  private:
    void buildBlocking(QVBoxLayout* column);
    void buildStanding(QVBoxLayout* column);
    void buildFoot(QVBoxLayout* column);
    void buildFrames(QVBoxLayout* column);
    void buildChecks(QVBoxLayout* column);
    void buildVariants(QVBoxLayout* column);
    void buildWords(QVBoxLayout* column);
    void buildAreas(QVBoxLayout* column);
    void change(const QString& name, const std::function<void(level::PropKind&)>& what, bool merges = false);
    void setShape(int what);
    void setOutline(const level::Polygons& drawn);
    [[nodiscard]] QString areaNames() const;
    [[nodiscard]] bool ofAll(const std::function<bool(const level::PropKind&)>& what) const;
    [[nodiscard]] level::PropKind first() const;
    [[nodiscard]] bool one() const;   // and it has a picture
    [[nodiscard]] QImage art() const; // of that one
    [[nodiscard]] QString id(const char* name) const { return prefix_ + name; }
    Session& session_;
    std::function<std::vector<level::PropKind>()> kinds_;
    QString prefix_;
    Bindings fields_;
    NoteRows* notes_ = nullptr;
    ShapeBoard* board_ = nullptr;
    AreaBoard* areas_ = nullptr;
    FootBoard* foot_ = nullptr;
};

} // namespace vic::app
