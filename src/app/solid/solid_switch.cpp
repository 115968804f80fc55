#include "app/solid/solid_switch.hpp"

#include <QEvent>
#include <QHBoxLayout>
#include <QToolButton>
#include <algorithm>

#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "app/solid/solid_view.hpp"
#include "app/view/level_view.hpp"

namespace vic::app {

SolidSwitch::SolidSwitch(Session& session, LevelView& view)
    : QWidget(&view), session_(session), level_(view), bodies_(session) {
    setObjectName("solidSwitch");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(3);
    struct Way {
        const char* id;
        QString name, key, help;
    };
    const Way all[] = {
        {"lookPlan", tr("Plan"), "F5", tr("From above, as it is painted")},
        {"lookAslant", tr("Aslant"), "F6",
         tr("In three dimensions; the middle button turns it, with Shift moves it, the wheel comes nearer. All tools "
            "work here, too")},
        {"lookFront", tr("Front"), "F7", tr("From the south, with right angles")},
        {"lookThrough", tr("Through"), "F8", tr("As one sees it who stands in it")}};
    for (std::size_t i = 0; i < buttons_.size(); ++i) {
        buttons_[i] = toolButton(this, all[i].id, {}, all[i].name, {}, "card");
        buttons_[i]->setCheckable(true);
        buttons_[i]->setStyleSheet("padding: 4px 6px;");
        buttons_[i]->setMinimumWidth(buttons_[i]->fontMetrics().horizontalAdvance(all[i].name) + 18);
        describe(buttons_[i], all[i].name, all[i].key, all[i].help);
        connect(buttons_[i], &QToolButton::clicked, this, [this, i] { look(static_cast<Look>(i)); });
        row->addWidget(buttons_[i]);
    }
    connect(&session_, &Session::opened, this, [this] { look(Look::plan); });
    level_.installEventFilter(this);
    refresh();
}

void SolidSwitch::look(Look how) {
    if (how != Look::plan && !session_.level()) return;
    look_ = how;
    if (how != Look::plan && !solid_) {
        solid_ = new SolidView(session_, level_, bodies_);
        connect(solid_, &SolidView::troubled, this, [this](const QString& why) {
            look(Look::plan);
            emit session_.said(
                tr("There is no OpenGL 3.3 to draw it with (%1): Plan shows the level").arg(why.trimmed()), true);
        });
    }
    if (solid_ && how != Look::plan) solid_->look(static_cast<SolidView::Look>(static_cast<int>(how) - 1));
    settle();
    refresh();
}

void SolidSwitch::settle() {
    const bool on = look_ != Look::plan;
    level_.setCovered(on);
    if (!solid_) return;
    place();
    solid_->setVisible(on);
    if (on) solid_->raise();
    raise();
}

void SolidSwitch::place() {
    constexpr int kAway = 10, kBelow = 30; // pixels from the right, and from above: below the ruler
    adjustSize();
    move(level_.width() - width() - kAway, kBelow);
    if (solid_) solid_->setGeometry(level_.rect());
}

void SolidSwitch::refresh() {
    const auto& sheets = session_.project().sheets;
    const bool any = session_.isOpen() && session_.level() &&
                     std::any_of(sheets.begin(), sheets.end(), [](const auto& s) { return s->kit.has_value(); });
    if (any && !isVisibleTo(&level_)) place();
    setVisible(any);
    if (!any && look_ != Look::plan) look(Look::plan);
    for (std::size_t i = 0; i < buttons_.size(); ++i) buttons_[i]->setChecked(static_cast<Look>(i) == look_);
}

bool SolidSwitch::eventFilter(QObject* watched, QEvent* event) {
    if (watched == &level_ && event->type() == QEvent::Resize) place();
    return QWidget::eventFilter(watched, event);
}

} // namespace vic::app
