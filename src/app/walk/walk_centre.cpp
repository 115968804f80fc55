#include "app/walk/walk_centre.hpp"

#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <utility>

#include "app/parts/translated.hpp"
#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "edit/blocking.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "parcel/build.hpp"
#include "player/parcel_view.hpp"
#include "walk/proofs.hpp"
#include "walk/world.hpp"

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
    connect(view_, &player::ParcelView::left, this, &WalkCentre::goOn, Qt::QueuedConnection);
    connect(view_, &player::ParcelView::ticked, this, &WalkCentre::readingChanged);
    connect(view_, &player::ParcelView::ticked, this, &WalkCentre::watchFall);
    connect(&session_, &Session::changed, this, [this] {
        // Changed while one walks (undo, the walker's size): built anew, the walker stays where it is.
        if (active_ && session_.level() != built_.get()) enter();
    });
}

void WalkCentre::enter() {
    if (!session_.isOpen() || !session_.level()) return;
    const bool again = active_ && view_->isLoaded() && built_ && built_->id == session_.level()->id;
    fallen_ = 0;
    through_ = 0;
    active_ = true;
    built_ = session_.levelRef();
    if (!dir_) dir_ = std::make_unique<QTemporaryDir>();
    const fs::path to = fs::path(dir_->path().toStdString()) / built_->id;
    view_->setFocus();
    const auto build = [state = session_.document().state(), level = built_, to](Jobs::Progress&) {
        parcel::build(*state, *level, to);
        std::vector<bool> held;
        if (level->proofs.empty()) return held;
        const vicinum::Level parcel = vicinum::load(to);
        for (const vicinum::Proof& proof : parcel.proofs) held.push_back(walk::prove(parcel, proof).holds);
        return held;
    };
    const auto show = [this, level = built_, to, again](std::vector<bool>& held) {
        if (!active_ || built_ != level) return;
        held_ = std::move(held);
        try {
            view_->load(QString::fromStdString(to.string()), again);
            view_->setRunning(true);
            if (!again && session_.tried() == Session::Tried::no) session_.setTried(Session::Tried::walked);
        } catch (const std::exception& e) {
            refuse(e);
        }
        emit readingChanged();
    };
    session_.jobs().start<std::vector<bool>>("walk", tr("Building %1").arg(QString::fromStdString(built_->name)), build,
                                             show, [this](const std::exception& e) { refuse(e); });
    emit readingChanged();
}

// By a side that leads on: into the other level, as the game would.
void WalkCentre::goOn(int side) {
    if (!active_ || !built_) return;
    const QString sides[] = {tr("north"), tr("east"), tr("south"), tr("west")};
    const level::LevelSide& way = built_->sides[static_cast<std::size_t>(side)];
    const level::Level* next = session_.project().level(way.to);
    if (!next)
        return emit session_.said(
            tr("The walker left by the %1 side: the game says where that leads. Here it starts again").arg(sides[side]),
            false);
    const QString name = QString::fromStdString(next->name);
    view_->setBeginning(std::nullopt);
    session_.setLevel(next->id);
    emit session_.said(tr("Went on to %1 by the %2 side").arg(name, sides[side]), false);
}

// Ground that was painted and blocks nothing: nobody should have to fall through it for ever.
void WalkCentre::watchFall() {
    if (!active_ || !built_ || built_->view != level::View::from_the_side) return;
    if (view_->world().grounded()) {
        fallen_ = 0;
        through_ = 0;
        return;
    }
    const auto foot = view_->world().foot();
    const Point cell{static_cast<int>(std::floor(foot.x)), static_cast<int>(std::floor(foot.y))};
    if (const level::MaterialId ground = groundAt(cell)) through_ = ground;
    if (++fallen_ < walk::kTicks || through_ == 0) return;
    fallen_ = 0;
    view_->setRunning(false);
    session_.setTried(Session::Tried::fell);
    emit fallsThrough(std::exchange(through_, 0));
}

level::MaterialId WalkCentre::groundAt(Point cell) const {
    if (!built_->cells().contains(cell)) return 0;
    for (const level::LayerRef& layer : built_->layers) {
        if (!layer->solid()) continue;
        const Box own = layer->grain().touching(Box{cell.x, cell.y, 1, 1});
        const level::MaterialId id = layer->grid().material(own.corner());
        const level::Material* m = id ? session_.project().material(id) : nullptr;
        if (m && edit::blocking_of(session_.project(), *m) == edit::Blocking::nothing) return id;
    }
    return 0;
}

std::vector<edit::Pin> WalkCentre::pins() const {
    if (!view_->isLoaded() || !built_) return {};
    const auto& now = view_->world().happenings();
    const bool last = now.empty() && !view_->last().happenings.empty();
    return edit::pins_of(session_.project(), *built_, view_->level(), last ? view_->last().happenings : now,
                         last ? view_->last().way : view_->recorder().way());
}

void WalkCentre::keepTry() {
    if (!view_->isLoaded() || !session_.level() || view_->recorder().ticks() == 0) return;
    level::Level next = *session_.level();
    if (next.proofs.size() >= level::kMostProofs)
        return emit session_.said(tr("There are as many proofs as there can be: forget one first"), true);
    const std::string mark = walk::exit_touched(view_->level(), view_->world());
    std::uint32_t id = 1;
    for (const level::Proof& p : next.proofs) id = std::max(id, p.id + 1);
    level::Proof proof = view_->recorder().proof(
        mark.empty() ? tr("Try %1").arg(id).toStdString() : tr("To %1").arg(QString::fromStdString(mark)).toStdString(),
        mark);
    proof.id = id;
    // A try that went on from another state of the level, or was pushed about by it, cannot be played again.
    if (!walk::prove(view_->level(), walk::as_built(proof)).holds)
        return emit session_.said(
            tr("This try cannot be played again from its beginning, for the level changed meanwhile: R begins anew"),
            true);
    next.proofs.push_back(std::move(proof));
    session_.applyLevel(tr("Keep a try as a proof"), std::move(next));
}

void WalkCentre::forgetProof(std::uint32_t id) {
    level::Level next = *session_.level();
    std::erase_if(next.proofs, [id](const level::Proof& p) { return p.id == id; });
    session_.applyLevel(tr("Forget a proof"), std::move(next));
}

void WalkCentre::refuse(const std::exception& trouble) {
    view_->unload();
    emit session_.said(translated(trouble), true);
    emit readingChanged();
}

// In whole 1/64 cells, as a proof keeps it.
void WalkCentre::beginAt(walk::Position foot) {
    const auto whole = [](double v) { return std::round(v * vicinum::kUnit) / vicinum::kUnit; };
    view_->setBeginning(walk::Position{whole(foot.x), whole(foot.y)});
}

void WalkCentre::leave() {
    active_ = false;
    view_->setBeginning(std::nullopt);
    if (view_->isLoaded()) view_->lookAt(std::nullopt);
    if (session_.isOpen()) session_.jobs().stop("walk");
    view_->setRunning(false);
}

QString WalkCentre::reading() const {
    if (session_.jobs().running("walk") && !view_->isLoaded()) return tr("The level is being built");
    if (!view_->isLoaded()) return tr("The level could not be built");
    const int ways = view_->level().walker.ways;
    return view_->level().from_the_side
               ? tr("<b>Arrows</b> walk · <b>Space</b> jumps · Down drops through one-way edges · R starts again · O "
                    "outlines · Esc returns")
           : ways == level::kAllWays ? tr("<b>Hold the mouse</b> where he is to go, or walk by the arrows · R starts "
                                          "again · O outlines · Esc "
                                          "returns")
           : ways == 4 ? tr("<b>Arrows</b> walk in four directions · R starts again · O outlines · Esc returns")
                       : tr("<b>Arrows</b> walk in eight directions · R starts again · O outlines · Esc returns");
}

} // namespace vic::app
