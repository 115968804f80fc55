// Fields that follow the document: each is bound to what it shows and to what changing it does. After every change and
// undo the panel calls refresh(), and the fields show what the document says; a field is not touched where it shows
// that already, nor while one types in it. Nothing else has to be listed.
#pragma once

#include <QString>
#include <QVariant>
#include <functional>
#include <utility>
#include <vector>

class QAbstractButton;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QSlider;
class QSpinBox;
class QWidget;

namespace vic::app {

class Bindings {
  public:
    template <class T>
    using Get = std::function<T()>;
    template <class T>
    using Set = std::function<void(T)>; // called for the user's changes only

    void bindInt(QSpinBox* field, Get<int> get, Set<int> set);
    void bindInt(QSlider* field, Get<int> get, Set<int> set);
    void bindNumber(QDoubleSpinBox* field, Get<double> get, Set<double> set);
    // When Enter is pressed or the field is left; trimmed. `set` is not called where nothing was changed.
    void bindText(QLineEdit* field, const Get<QString>& get, const Set<QString>& set);
    void bindCheck(QAbstractButton* field, const Get<bool>& get, const Set<bool>& set);
    // The entry with this data. `fill` gives the entries, which are put in anew where they differ.
    struct Choice {
        QString text;
        QVariant data;
        QVariant decoration = {};
        bool operator==(const Choice& other) const { return text == other.text && data == other.data; }
    };
    void bindChoice(QComboBox* field, const Get<std::vector<Choice>>& fill, const Get<QVariant>& get,
                    const Set<QVariant>& set);
    void bindLabel(QLabel* label, const Get<QString>& get);
    // Whether it is to be seen; and whether it may be used.
    void bindShown(QWidget* widget, const Get<bool>& get);
    void bindEnabled(QWidget* widget, const Get<bool>& get);
    // Anything else that follows.
    void follow(std::function<void()> what) { all_.push_back(std::move(what)); }

    void refresh() const;

  private:
    std::vector<std::function<void()>> all_;
};

} // namespace vic::app
