// Small parts from which the side panels are built.
#pragma once

#include <QString>

class QComboBox;
class QFrame;
class QLabel;
class QLayout;
class QToolButton;
class QVBoxLayout;
class QWidget;

namespace vic::app {

// A panel's column with the margins that all panels share.
QVBoxLayout* panelColumn(QWidget* panel);
// "Section" on the left, "front" on the right; `aside` may be null.
QLabel* addHeading(QVBoxLayout* column, const QString& title, QLabel** aside = nullptr);
QLabel* label(const QString& text, const char* role, QWidget* parent = nullptr);
// A picture of `side` pixels on the left, a title and a quiet line under it beside it.
struct PictureHead {
    QLabel* picture;
    QLabel* title;
    QLabel* under;
};
PictureHead addPictureHead(QVBoxLayout* column, QWidget* parent, int side);
// As wide as there is room, whatever its entries say.
QComboBox* comboBox(QWidget* parent, const QString& objectName);
inline constexpr int kDrawerNames = 54; // pixels of the names in a drawer of the Section
// A quiet name on the left, a control on the right.
void addField(QVBoxLayout* column, const QString& name, QWidget* control, int nameWidth = 92);
// A name on the left, a number on the right, a rule below. Returns the number's label.
QLabel* addFigure(QVBoxLayout* column, const QString& name, const QString& objectName);
QFrame* rule(QWidget* parent = nullptr);
QFrame* uprightLine(QWidget* parent);
QToolButton* toolButton(QWidget* parent, const QString& objectName, const QString& iconName, const QString& text,
                        const QString& toolTip, const char* role);
// Takes the text "name, shortcut, help" into the tool tip and the accessible name.
void describe(QWidget* widget, const QString& name, const QString& shortcut, const QString& help);
void clearLayout(QLayout* layout); // of its widgets, which go at the end of the event; not of layouts in it
// The style sheet looks at the property "role"; after it changed the widget is polished anew.
void setRole(QWidget* widget, const char* role);

} // namespace vic::app
