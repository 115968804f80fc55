#include "app/parts/binding.hpp"

#include <QAbstractButton>
#include <QAbstractSpinBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QEvent>
#include <QKeyEvent>
#include <QKeySequence>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QObject>
#include <QSignalBlocker>
#include <QSlider>
#include <QSpinBox>
#include <QWidget>
#include <algorithm>
#include <cmath>
#include <memory>

#include "app/parts/panel.hpp"
#include "level/limits.hpp"

namespace vic::app {

namespace {

template <class Field, class Value>
void bindValue(Bindings& bindings, Field* field, Bindings::Get<Value> get, Bindings::Set<Value> set) {
    QObject::connect(field, &Field::valueChanged, field, [set](Value value) { set(value); });
    bindings.follow([field, get] {
        const Value now = get();
        if (field->value() == now) return;
        const QSignalBlocker quiet(field);
        field->setValue(now);
    });
}

// What was typed and not yet taken is the field's own to undo; all else is the document's.
class PassesUndo : public QObject {
  public:
    explicit PassesUndo(QAbstractSpinBox* field) : QObject(field) { field->installEventFilter(this); }
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() != QEvent::ShortcutOverride) return QObject::eventFilter(watched, event);
        const auto* const key = static_cast<QKeyEvent*>(event);
        if ((!key->matches(QKeySequence::Undo) && !key->matches(QKeySequence::Redo)) || typed(watched)) return false;
        event->ignore();
        return true;
    }

  private:
    static bool typed(QObject* field) {
        if (const auto* box = qobject_cast<QSpinBox*>(field))
            return box->locale().toInt(box->cleanText()) != box->value();
        const auto* box = qobject_cast<QDoubleSpinBox*>(field);
        return box && std::abs(box->locale().toDouble(box->cleanText()) - box->value()) > 1e-9;
    }
};

} // namespace

void Bindings::bindInt(QSpinBox* field, Get<int> get, Set<int> set) {
    field->setKeyboardTracking(false);
    new PassesUndo(field);
    bindValue<QSpinBox, int>(*this, field, std::move(get), std::move(set));
}

void Bindings::bindInt(QSlider* field, Get<int> get, Set<int> set) {
    bindValue<QSlider, int>(*this, field, std::move(get), std::move(set));
}

void Bindings::bindNumber(QDoubleSpinBox* field, Get<double> get, Set<double> set) {
    field->setKeyboardTracking(false);
    new PassesUndo(field);
    bindValue<QDoubleSpinBox, double>(*this, field, std::move(get), std::move(set));
}

void Bindings::bindText(QLineEdit* field, const Get<QString>& get, const Set<QString>& set) {
    field->setMaxLength(std::min(field->maxLength(), level::kMostNameLetters));
    QObject::connect(field, &QLineEdit::editingFinished, field, [field, get, set] {
        if (!field->isModified()) return;
        field->setModified(false); // leaving the field ends the typing, too
        const QString text = field->text().trimmed();
        field->setText(get()); // what becomes of it the document will tell
        if (text != field->text()) set(text);
    });
    follow([field, get] {
        if (const QString now = get(); field->text() != now && !(field->hasFocus() && field->isModified()))
            field->setText(now);
    });
}

void Bindings::bindCheck(QAbstractButton* field, const Get<bool>& get, const Set<bool>& set) {
    field->setCheckable(true);
    QObject::connect(field, &QAbstractButton::clicked, field, [set](bool on) { set(on); });
    follow([field, get] { field->setChecked(get()); });
}

void Bindings::bindChoice(QComboBox* field, const Get<std::vector<Choice>>& fill, const Get<QVariant>& get,
                          const Set<QVariant>& set) {
    const auto shown = std::make_shared<std::vector<Choice>>();
    QObject::connect(field, &QComboBox::activated, field, [field, set](int at) { set(field->itemData(at)); });
    follow([field, fill, get, shown] {
        const QSignalBlocker quiet(field);
        if (std::vector<Choice> now = fill(); now != *shown) {
            *shown = std::move(now);
            field->clear();
            for (const Choice& c : *shown) {
                field->addItem(c.text, c.data);
                field->setItemData(field->count() - 1, c.decoration, Qt::DecorationRole);
            }
        }
        const QVariant now = get();
        const auto at = std::find_if(shown->begin(), shown->end(), [&](const Choice& c) { return c.data == now; });
        field->setCurrentIndex(at == shown->end() ? 0 : static_cast<int>(at - shown->begin()));
    });
}

void Bindings::bindLabel(QLabel* label, const Get<QString>& get) {
    follow([label, get] { label->setText(get()); });
}

void Bindings::bindShown(QWidget* widget, const Get<bool>& get) {
    follow([widget, get] { widget->setVisible(get()); });
}

void Bindings::bindEnabled(QWidget* widget, const Get<bool>& get) {
    follow([widget, get] { widget->setEnabled(get()); });
}

void Bindings::refresh() const {
    for (const auto& one : all_) one();
}

} // namespace vic::app
