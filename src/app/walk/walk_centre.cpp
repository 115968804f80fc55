#include "app/walk/walk_centre.hpp"

#include <QVBoxLayout>
#include <exception>

#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "parcel/build.hpp"
#include "player/parcel_view.hpp"

namespace vic::app {

WalkCentre::WalkCentre(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    view_ = new player::ParcelView(this);
    column->addWidget(view_);
    connect(view_, &player::ParcelView::ended, this, [this](bool exit) {
        session_.setTried(exit ? Session::Tried::exit : Session::Tried::fell);
        emit session_.said(exit ? tr("The exit is reached") : tr("The walker fell out of the level and starts again"),
                           !exit);
    });
    connect(view_, &player::ParcelView::ticked, this, &WalkCentre::readingChanged);
    connect(&session_, &Session::changed, this, [this] {
        // Changed while one walks (undo, the walker's size): built anew, the walker stays where it is.
        if (active_ && session_.level() != built_.get()) enter();
    });
}

void WalkCentre::enter() {
    if (!session_.isOpen() || !session_.level()) return;
    const bool again = active_ && view_->isLoaded();
    active_ = true;
    for (const auto& l : session_.project().levels)
        if (l.get() == session_.level()) built_ = l;
    try {
        if (!dir_) dir_ = std::make_unique<QTemporaryDir>();
        const fs::path to = fs::path(dir_->path().toStdString()) / session_.level()->id;
        parcel::build(session_.project(), *session_.level(), to);
        view_->load(QString::fromStdString(to.string()), again);
        view_->setRunning(true);
        view_->setFocus();
        if (!again && session_.tried() == Session::Tried::no) session_.setTried(Session::Tried::walked);
    } catch (const std::exception& e) {
        view_->unload();
        emit session_.said(translated(e), true);
    }
    emit readingChanged();
}

void WalkCentre::leave() {
    active_ = false;
    view_->setRunning(false);
}

QString WalkCentre::reading() const {
    if (!view_->isLoaded()) return tr("The level could not be built");
    return view_->level().from_the_side
               ? tr("<b>Arrows</b> walk · <b>Space</b> jumps · Down drops through one-way edges · R starts again · O "
                    "outlines · Esc returns")
               : tr("<b>Arrows</b> walk in eight directions · R starts again · O outlines · Esc returns");
}

} // namespace vic::app
