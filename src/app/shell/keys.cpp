#include "app/shell/keys.hpp"

#include <QSettings>
#include <algorithm>

namespace vic::app {

namespace {

QString settingOf(const QAction* action) { return "keys/" + action->objectName(); }

// Whether there is a stage in which both can be given.
bool meet(Where a, Where b) {
    const auto anywhere = [](Where w) { return w == Where::always || w == Where::everywhere; };
    const auto onLevel = [](Where w) {
        return w == Where::level || w == Where::lay || w == Where::dress || w == Where::bound;
    };
    return a == b || anywhere(a) || anywhere(b) ||
           (onLevel(a) && onLevel(b) && (a == Where::level || b == Where::level));
}

} // namespace

void Keys::add(QAction* action, Where where) {
    actions_.push_back(action);
    action->setProperty("where", static_cast<int>(where));
    usual_[action] = action->shortcut();
    const QVariant kept = QSettings().value(settingOf(action));
    if (kept.isValid()) action->setShortcut(QKeySequence::fromString(kept.toString(), QKeySequence::PortableText));
}

Where Keys::where(const QAction* action) { return static_cast<Where>(action->property("where").toInt()); }

QKeySequence Keys::usual(const QAction* action) const {
    const auto found = usual_.find(action);
    return found == usual_.end() ? QKeySequence() : found->second;
}

QAction* Keys::holder(const QKeySequence& key, const QAction* of) const {
    if (key.isEmpty()) return nullptr;
    const auto has = [&](const QAction* a) { return a != of && a->shortcut() == key && meet(where(a), where(of)); };
    const auto found = std::find_if(actions_.begin(), actions_.end(), has);
    return found == actions_.end() ? nullptr : *found;
}

void Keys::set(QAction* action, const QKeySequence& key) {
    while (QAction* other = holder(key, action)) {
        other->setShortcut({});
        keep(other);
    }
    action->setShortcut(key);
    keep(action);
}

void Keys::reset(QAction* action) { set(action, usual(action)); }

void Keys::resetAll() {
    for (QAction* a : actions_) a->setShortcut(usual(a));
    for (const QAction* a : actions_) QSettings().remove(settingOf(a));
}

bool Keys::changed(const QAction* action) const { return action->shortcut() != usual(action); }

void Keys::keep(const QAction* action) const {
    if (changed(action))
        QSettings().setValue(settingOf(action), action->shortcut().toString(QKeySequence::PortableText));
    else
        QSettings().remove(settingOf(action));
}

QStringList Keys::freeLetters(Where where) const {
    QStringList out;
    for (const int with : {0, static_cast<int>(Qt::SHIFT)})
        for (int key = Qt::Key_A; key <= Qt::Key_Z; ++key) {
            const QKeySequence letter(with | key);
            const bool taken = std::any_of(actions_.begin(), actions_.end(), [&](const QAction* a) {
                return a->shortcut() == letter && meet(Keys::where(a), where);
            });
            if (!taken) out << letter.toString(QKeySequence::NativeText);
        }
    return out;
}

QString Keys::current(const QString& tip, const QString& usual) const {
    const QKeySequence was(usual);
    for (const QAction* a : actions_) {
        if (this->usual(a) != was || !changed(a)) continue;
        const QString now = a->shortcut().toString(QKeySequence::NativeText);
        QString out = tip;
        const QString gap = "&nbsp;&nbsp;";
        return out.replace(gap + usual.toHtmlEscaped(), now.isEmpty() ? QString() : gap + now.toHtmlEscaped());
    }
    return tip;
}

} // namespace vic::app
