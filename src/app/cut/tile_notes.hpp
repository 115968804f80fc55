// Tags, allowed turns and typed notes of the chosen tiles.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>
#include <map>
#include <vector>

#include "app/session/session.hpp"
#include "level/notes.hpp"

class QComboBox;
class QLineEdit;
class QVBoxLayout;

namespace vic::level {
struct Tile;
} // namespace vic::level

namespace vic::app {

class Session;

class TileNotes : public QWidget {
    Q_OBJECT
  public:
    TileNotes(Session& session, QWidget* parent);
    // All of the same sheet, at least one.
    void refresh();

  private:
    void change(const QString& name, const std::function<void(level::Tile&)>& what);
    void rebuild();
    void addKind();
    QWidget* editorOf(const level::NoteKind& kind);
    void show(const level::NoteKind& kind, QWidget* editor, const std::vector<const level::Tile*>& chosen);

    Session& session_;
    QLineEdit* tags_;
    QComboBox* turns_;
    QVBoxLayout* rows_;
    std::vector<level::NoteKind> builtFor_;
    std::map<level::NoteId, QWidget*> editors_;
};

} // namespace vic::app
