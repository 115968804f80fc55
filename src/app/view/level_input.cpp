// How the level view answers to mouse and keys: it finds the gesture and leaves the rest to that.

#include <QEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QWheelEvent>
#include <QWidget>
#include <optional>
#include <utility>

#include "app/gesture/gesture.hpp"
#include "app/gesture/tools.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "app/view/level_view.hpp"
#include "base/text.hpp"
#include "edit/stroke.hpp"
#include "level/sheet.hpp"

namespace vic::app {

bool LevelView::open() const { return session_.isOpen() && session_.level(); }

std::optional<Pointer> LevelView::pointer() const {
    if (!place_ || (!covered_ && !camera_.area().contains(place_->toPoint()))) return std::nullopt;
    return Pointer{*place_, modifiers_};
}

Gesture& LevelView::toolGesture() const {
    for (const auto& [tool, gesture] : tools_)
        if (tool == session_.tool()) return *gesture;
    return *tools_.front().second;
}

// What is at hand with every tool goes first, then the tool, then the eraser of the right button.
Gesture* LevelView::gestureFor(const Pointer& at) const {
    for (const auto& gesture : common_)
        if (!(covered_ && gesture->besideLevel()) && gesture->takes(at)) return gesture.get();
    if (toolGesture().takes(at)) return &toolGesture();
    for (const auto& [tool, gesture] : tools_)
        if (tool == Tool::eraser && gesture->takes(at)) return gesture.get();
    return nullptr;
}

void LevelView::press(QMouseEvent* event, bool twice) {
    setFocus();
    place_ = event->position();
    modifiers_ = event->modifiers();
    if (!open() || active_ || trial_) return;
    const Pointer at{*place_, modifiers_, event->button(), twice};
    Gesture* gesture = gestureFor(at);
    if (!gesture) return;
    active_ = gesture;
    if (!gesture->press(at)) end();
    say();
    update();
}

// What was under way is over: the document's level is shown again.
void LevelView::end() {
    active_ = nullptr;
    if (open()) show(trial_ ? *trial_ : *session_.level());
    preview();
}

void LevelView::mouseMoveEvent(QMouseEvent* event) {
    place_ = event->position();
    modifiers_ = event->modifiers();
    if (active_)
        active_->move({*place_, modifiers_, Qt::NoButton});
    else
        preview();
    pointReach();
    pointLiveTry();
    say();
    update();
}

void LevelView::mouseReleaseEvent(QMouseEvent* event) {
    place_ = event->position();
    modifiers_ = event->modifiers();
    if (Gesture* gesture = std::exchange(active_, nullptr)) {
        gesture->release({*place_, modifiers_, event->button()});
        end();
    }
    say();
    update();
}

void LevelView::mouseDoubleClickEvent(QMouseEvent* event) { press(event, true); }

void LevelView::mousePressEvent(QMouseEvent* event) { press(event, false); }

void LevelView::wheelEvent(QWheelEvent* event) {
    const int by = event->angleDelta().y() > 0 ? 1 : event->angleDelta().y() < 0 ? -1 : 0;
    if (by == 0) return;
    if ((event->modifiers() & Qt::ControlModifier) && session_.stage() == Stage::dress) {
        emit scaleAsked(by);
    } else if (event->modifiers() & Qt::ControlModifier) {
        edit::Hand hand = session_.hand();
        hand.size += by;
        session_.setHand(hand);
    } else {
        zoomStep(by, event->position());
    }
    event->accept();
}

void LevelView::leaveEvent(QEvent*) {
    place_.reset();
    preview();
    say();
    update();
}

// Esc puts away one thing at a time.
void LevelView::dismiss() {
    if (active_) {
        std::exchange(active_, nullptr)->cancel();
        end();
    } else if (liveTry_.on()) {
        liveTry_.stop();
    } else if (toolGesture().putAway()) {
        update();
    } else if (!session_.selection().empty()) {
        session_.setSelection({});
    } else if (session_.tool().dresses && session_.tool() != Tool::props) {
        session_.setTool(Tool::props);
    } else {
        session_.setHand({});
    }
}

void LevelView::keyPressEvent(QKeyEvent* event) {
    if (liveTry_.on() && !event->isAutoRepeat() && liveTry_.key(event->key(), true)) return;
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
        space_ = true;
        setCursor(Qt::OpenHandCursor);
    } else if (event->key() == Qt::Key_Escape) {
        dismiss();
    } else if (!open() || active_ || !toolGesture().takes({}) || !toolGesture().key(*event)) {
        QWidget::keyPressEvent(event);
    }
}

bool LevelView::giveKey(int key) {
    const QKeyEvent event(QEvent::KeyPress, key, Qt::NoModifier);
    if (active_) return active_->key(event);
    return open() && toolGesture().takes({}) && toolGesture().key(event);
}

void LevelView::keyReleaseEvent(QKeyEvent* event) {
    if (!event->isAutoRepeat() && liveTry_.key(event->key(), false)) return;
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
        space_ = false;
        if (!active_) unsetCursor();
    }
    QWidget::keyReleaseEvent(event);
}

// What the next click would make, drawn before the click.
void LevelView::preview() {
    if (active_ || !open()) return;
    const auto at = pointer();
    Gesture* gesture = at && !trial_ ? gestureFor(*at) : nullptr;
    if (offered_ && offered_ != gesture) offered_->forget();
    offered_ = gesture;
    if (gesture && gesture->preview(*at)) return;
    show(trial_ ? *trial_ : *session_.level());
}

level::LayerId LevelView::targetLayer() const {
    const Gesture* gesture = active_ ? active_ : offered_;
    return gesture ? gesture->target() : 0;
}

Sentence LevelView::sentence() const {
    if (!open()) return {};
    if (trial_) return {tr("This is what the plan would lay: nothing is changed yet")};
    const auto at = pointer();
    if (!at) return {};
    const Gesture* gesture = active_ ? active_ : gestureFor(*at);
    return gesture ? gesture->sentence(*at) : Sentence{};
}

void LevelView::say() {
    Sentence now = sentence();
    if (now.text == reading_.text && now.warns == reading_.warns) return;
    reading_ = std::move(now);
    emit readingChanged();
}

} // namespace vic::app
