#include "app/parts/binding.hpp"

#include <QAbstractButton>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QObject>
#include <QSignalBlocker>
#include <QSlider>
#include <QSpinBox>
#include <QWidget>
#include <algorithm>
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

} // namespace

void Bindings::bindInt(QSpinBox* field, Get<int> get, Set<int> set) {
    field->setKeyboardTracking(false);
    bindValue<QSpinBox, int>(*this, field, std::move(get), std::move(set));
}

void Bindings::bindInt(QSlider* field, Get<int> get, Set<int> set) {
    bindValue<QSlider, int>(*this, field, std::move(get), std::move(set));
}

void Bindings::bindNumber(QDoubleSpinBox* field, Get<double> get, Set<double> set) {
    field->setKeyboardTracking(false);
    bindValue<QDoubleSpinBox, double>(*this, field, std::move(get), std::move(set));
}

void Bindings::bindText(QLineEdit* field, Get<QString> get, Set<QString> set) {
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

void Bindings::bindCheck(QAbstractButton* field, Get<bool> get, Set<bool> set) {
    field->setCheckable(true);
    QObject::connect(field, &QAbstractButton::clicked, field, [set](bool on) { set(on); });
    follow([field, get] { field->setChecked(get()); });
}

void Bindings::bindChoice(QComboBox* field, Get<std::vector<Choice>> fill, Get<QVariant> get, Set<QVariant> set) {
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

void Bindings::bindLabel(QLabel* label, Get<QString> get) {
    follow([label, get] { label->setText(get()); });
}

void Bindings::bindShown(QWidget* widget, Get<bool> get) {
    follow([widget, get] { widget->setVisible(get()); });
}

void Bindings::bindEnabled(QWidget* widget, Get<bool> get) {
    follow([widget, get] { widget->setEnabled(get()); });
}

void Bindings::refresh() const {
    for (const auto& one : all_) one();
}

} // namespace vic::app
