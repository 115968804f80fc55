// The right side of Cut among islands: the chosen props of the sheet, their pivot, and what can be done with them.
#pragma once

#include <QString>
#include <QWidget>
#include <array>
#include <functional>
#include <vector>

#include "app/parts/binding.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "level/level.hpp"
#include "level/props.hpp"

class QEvent;
class QLabel;
class QLineEdit;
class QPushButton;
class QSpinBox;
class QToolButton;
class QVBoxLayout;

namespace vic::app {

class KindFields;
class Session;
class SheetView;

class KindPanel : public QWidget {
    Q_OBJECT
  public:
    KindPanel(Session& session, SheetView& view, QWidget* parent);
    void refresh();
    void removeChosen(); // Del
    void mergeChosen();  // J

  protected:
    void changeEvent(QEvent* event) override;

  private:
    void buildDeeds(QVBoxLayout* inner);
    void buildSize(QVBoxLayout* inner);
    void buildPivots(QVBoxLayout* inner);
    void buildName(QVBoxLayout* inner);
    // Of all that are chosen; merges with the same change just before, so that a number that is turned is one step.
    void change(const QString& name, const std::function<void(level::PropKind&)>& what, bool merges = true);
    void paintSigns();
    [[nodiscard]] bool ofAll(const std::function<bool(const level::PropKind&)>& what) const;
    [[nodiscard]] QString piecesText() const;
    [[nodiscard]] std::vector<level::PropKind> chosen() const;
    void split();
    Session& session_;
    SheetView& view_;
    Bindings fields_; // of what is chosen; at least one is
    QLabel* count_;
    QLabel* picture_;
    QLabel* title_;
    QLabel* under_;
    QWidget* one_;
    QLineEdit* name_;
    KindFields* more_;
    std::array<QToolButton*, 9> pivots_{};
    QSpinBox* factor_;
    QSpinBox* piece_;
    QLabel* pieces_;
    QPushButton* merge_;
    QPushButton* split_;
    QPushButton* remove_;
    QLabel* hint_;
    std::vector<level::PropKindId> warned_; // asked for once already: they are placed in levels
};

} // namespace vic::app
