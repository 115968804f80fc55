#include "app/bound/class_field.hpp"

#include <QLineEdit>
#include <QSignalBlocker>

#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "edit/classes.hpp"
#include "level/limits.hpp"

namespace vic::app {

ClassField::ClassField(Session& session, const QString& objectName, QWidget* parent)
    : QComboBox(parent), session_(session) {
    setObjectName(objectName);
    setEditable(true);
    setInsertPolicy(QComboBox::NoInsert);
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    lineEdit()->setObjectName(objectName + "Text");
    lineEdit()->setMaxLength(level::kMostClassLetters);
    describe(this, tr("Collision class"), {},
             tr("The engine gets what blocks by its class, and Who is stopped says whom each stops. Choose one, or "
                "write a new one; without, it is that of the layer"));
    const auto take = [this] {
        const QString name = lineEdit()->text().trimmed();
        if (name != shown_) {
            shown_ = name;
            emit named(name);
        }
    };
    connect(lineEdit(), &QLineEdit::editingFinished, this, take);
    connect(this, &QComboBox::activated, this, [this, take](int index) {
        // The first says that there is none.
        lineEdit()->setText(index <= 0 ? QString() : itemText(index));
        take();
        lineEdit()->clearFocus(); // keys are the level's again
    });
}

void ClassField::fill() {
    const QSignalBlocker quiet(this);
    clear();
    addItem(tr("as its layer"));
    for (const std::string& name : edit::classes_of(session_.project())) addItem(QString::fromStdString(name));
}

void ClassField::show(const QString& name) {
    if (lineEdit()->hasFocus() && lineEdit()->isModified()) return; // it is being written
    fill();
    shown_ = name;
    lineEdit()->setPlaceholderText(tr("as its layer"));
    setEditText(name);
}

void ClassField::showMixed() {
    if (lineEdit()->hasFocus() && lineEdit()->isModified()) return;
    fill();
    shown_.clear();
    lineEdit()->setPlaceholderText(tr("different ones"));
    setEditText({});
}

} // namespace vic::app
