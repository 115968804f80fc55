#include "app/session/session.hpp"

#include <QDir>
#include <QEventLoop>
#include <algorithm>
#include <exception>
#include <unordered_map>
#include <utility>

#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/merged_mass.hpp"
#include "app/session/tool.hpp"
#include "edit/clash.hpp"
#include "edit/clips.hpp"
#include "edit/close_up.hpp"
#include "edit/plant.hpp"
#include "edit/replace.hpp"
#include "edit/storeys.hpp"
#include "join/compose_sheet.hpp"
#include "join/mask.hpp"
#include "level/shape.hpp"
#include "store/project_files.hpp"

namespace vic::app {

Session::Session(QObject* parent)
    : QObject(parent),
      derived_(*this),
      planter_(*this),
      checker_(std::make_shared<findings::Checker>()),
      jobs_(nullptr),
      joins_(*this),
      joined_(*this),
      library_(*this),
      keeper_(*this),
      bodies_(std::make_unique<KitBodies>(*this)),
      mass_(std::make_unique<MergedMass>(*this)) {
    connect(&derived_, &Derived::counted, this, &Session::changed);
    connect(&joins_, &JoinReadings::known, this, &Session::changed);
    connect(&jobs_, &Jobs::stoppedNamed, this, [this] {
        if (document_) emit changed();
    });
    connect(this, &Session::changed, &playClock_, [this] {
        if (document_) playClock_.follow(project().sheets, project().prop_kinds);
    });
    findingsTimer_.setSingleShot(true);
    findingsTimer_.setInterval(150);
    connect(&findingsTimer_, &QTimer::timeout, this, &Session::lookForFindings);
    connect(this, &Session::changed, &findingsTimer_, [this] {
        if (document_ && findingsOf_ != document_->state()) findingsTimer_.start();
    });
}

Session::~Session() = default;

const level::Project& Session::project() const {
    static const level::Project nothing;
    return document_ ? document_->project() : nothing;
}

Jobs::Failed Session::complain() {
    return [this](const std::exception& e) { emit said(translated(e), true); };
}

std::vector<const level::Tile*> Session::chosenTiles() const {
    std::vector<const level::Tile*> all;
    const level::Sheet* chosen = sheet();
    if (!chosen || tiles().empty()) return all;
    std::unordered_map<level::TileId, const level::Tile*> by_id;
    for (const level::Tile& t : chosen->tiles) by_id.emplace(t.id, &t);
    for (const level::TileId id : tiles())
        if (const auto at = by_id.find(id); at != by_id.end()) all.push_back(at->second);
    return all;
}

void Session::lookForFindings() {
    if (!document_) return;
    if (jobs_.running("findings")) return findingsTimer_.start();
    const edit::ProjectState state = document_->state();
    jobs_.start<std::vector<findings::Finding>>(
        "findings", {}, [checker = checker_, state](Jobs::Progress&) { return checker->check(*state); },
        [this, state](std::vector<findings::Finding>& found) {
            findings_ = std::move(found);
            findingsOf_ = state;
            emit findingsChanged();
            if (document_ && document_->state() != state) findingsTimer_.start();
        },
        complain());
}

void Session::open(const QString& dir, bool looks) {
    auto presence = looks ? std::nullopt : Presence::claim(dir.toStdString());
    open(std::make_unique<edit::Document>(edit::Document::open(dir.toStdString())), std::move(presence), looks);
}

void Session::open(std::unique_ptr<edit::Document> opened, std::optional<Presence> presence, bool looks) {
    finishSaving();
    jobs_.stopNamed(); // what they come to belongs to the project before
    jobs_.stop("watch");
    document_ = std::move(opened);
    choice_.forget();
    waiting_.reset();
    derived_.forget();
    planter_.forget();
    joins_.forget();
    tried_ = Tried::no;
    triedLevel_.reset();
    library_.opened();
    keeper_.opened(std::move(presence), looks);
    settle();
    emit this->opened();
    emit changed();
    emit handChanged();
    emit selectionChanged();
    tellDamages();
    library_.followPlans(); // a plan may have been painted on while the project was closed
}

void Session::close() {
    if (!document_) return;
    finishSaving();
    jobs_.stopAll();
    keeper_.closed();
    library_.closed();
    document_.reset();
    choice_.forget();
    waiting_.reset();
    derived_.forget();
    planter_.forget();
    joins_.forget();
    findings_.clear();
    findingsOf_.reset();
    tried_ = Tried::no;
    triedLevel_.reset();
    emit opened();
    emit changed();
}

void Session::tookOver() {
    library_.opened();
    moved();
}

void Session::movedTo(const edit::Document::Saving& all) {
    document_->moved(all);
    keeper_.opened(Presence::claim(all.dir), false);
    library_.opened();
    moved();
}

void Session::tellDamages() {
    for (const store::Damage& d : document_->damages()) {
        const level::Level* l = project().level(d.level);
        const level::Layer* layer = l ? l->layer(d.layer) : nullptr;
        if (!layer) continue;
        emit said(tr("The layer %1 of %2 is damaged: %3. What could be read is shown and locked; the file as it was is "
                     "kept as %4")
                      .arg(QString::fromStdString(layer->name), QString::fromStdString(l->name), translated(d.what),
                           QString::fromStdString(d.aside)),
                  true);
    }
}

const level::Level* Session::level() const { return document_ ? project().level(choice_.level) : nullptr; }

std::shared_ptr<const level::Level> Session::levelRef() const {
    for (const auto& l : project().levels)
        if (l->id == choice_.level) return l;
    return nullptr;
}

MaterialRef Session::materialRef() const {
    for (const MaterialRef& m : project().materials)
        if (m->id == choice_.material) return m;
    return nullptr;
}

const level::Layer* Session::activeLayer() const {
    const level::Level* l = level();
    return l ? l->layer(choice_.layer) : nullptr;
}

// What was chosen and is gone is replaced.
void Session::settle() {
    if (choice_.settle(project(), tilesOf(project()))) emit handChanged();
}

void Session::setStage(Stage stage) {
    if (choice_.stage == stage) return;
    choice_.enter(stage);
    if (stage == Stage::dress && !hand().is<edit::held::Prop>()) setHand({});
    if (stage == Stage::lay && hand().is<edit::held::Prop>()) setHand({});
    emit stageChanged();
    emit changed();
}

void Session::setTool(const Tool& tool) {
    choice_.tool = tool;
    emit changed();
    emit handChanged();
}

void Session::setHand(const edit::Hand& hand) {
    choice_.take(hand);
    // What is laid in other cells than the active layer's takes one to the layer that has them.
    if (level() && laysCells(stage())) {
        const level::LayerId layer = edit::layer_for(project(), *level(), hand, activeLayerId());
        if (layer != 0 && layer != activeLayerId()) setActiveLayer(layer);
    }
    emit handChanged();
}

void Session::setOptions(const ToolOptions& options) {
    choice_.options = options;
    emit changed();
    emit handChanged();
}

void Session::setSelection(level::Region cells) {
    if (const level::Level* l = level()) cells.keep(l->cells());
    choice_.selection = std::move(cells);
    emit selectionChanged();
}

std::vector<level::LayerId> Session::selectedLayers() const {
    const level::Level* l = level();
    return l ? edit::concerned(seen(*l), choice_.layer, options().allLayers) : std::vector<level::LayerId>{};
}

void Session::setAlone(level::LayerId layer, bool on) {
    if (on)
        choice_.seenAlone.insert(layer);
    else
        choice_.seenAlone.erase(layer);
    emit changed();
}

void Session::noneAlone() {
    choice_.seenAlone.clear();
    emit changed();
}

level::Level Session::seen(const level::Level& level) const {
    const level::Layer* active = level.layer(activeLayerId());
    const bool storeys = active && edit::storeys_of(level).size() > 1;
    if (!anyAlone() && !storeys) return level;
    level::Level out = storeys ? edit::seen_from_storey(level, active->storey) : level;
    if (!anyAlone()) return out;
    for (const level::LayerRef& l : level.layers)
        if (!isAlone(l->id) && l->shown) out.edit(l->id).shown = false;
    return out;
}

level::Level Session::work() const { return edit::close_up(*level(), closeUpOf()); }

level::LayerId Session::closeUpOf() const {
    const level::Layer* layer = activeLayer();
    return layer && layer->grain().own() && laysCells(stage()) ? layer->id : 0;
}

Lattice Session::workLattice() const {
    const level::Layer* layer = laysCells(stage()) ? activeLayer() : nullptr;
    return layer && layer->tiles() ? level()->lattice_of(*layer) : level() ? level()->geometry() : Lattice{};
}

level::Level Session::withWork(const level::Level& work) const {
    const level::LayerId of = closeUpOf();
    return of == 0 ? work : edit::put_back(*level(), work, of);
}

void Session::setLevel(const std::string& id) {
    choice_.level = id;
    choice_.layer = 0;
    choice_.chosen = {};
    choice_.ensemble = 0;
    choice_.measured.reset();
    choice_.seenAlone.clear();
    choice_.selection.clear();
    settle();
    emit changed();
}

void Session::setActiveLayer(level::LayerId id) {
    const level::Layer* before = activeLayer();
    const level::Grain grain = before ? before->grain() : level::Grain{};
    choice_.layer = id;
    const level::Layer* layer = activeLayer();
    // What was selected was told in other cells.
    if (layer && layer->grain() != grain && !selection().empty()) setSelection({});
    // On a layer of blockers, or of facts, there is but one thing to lay, and nowhere else.
    const bool blockers = layer && layer->blockers();
    if (blockers && laysCells(stage()) && !hand().is<edit::held::Blocker>()) {
        setHand(edit::blocker_hand(level::TileShape::full));
    } else if (!blockers && hand().is<edit::held::Blocker>()) {
        setHand({});
    }
    const bool facts = layer && layer->facts();
    if (facts && laysCells(stage())) {
        setHand(edit::fact_hand(project(), layer->facts()->note(), hand()));
    } else if (!facts && hand().is<edit::held::Fact>()) {
        setHand({});
    }
    emit changed();
}

void Session::setSheet(level::SheetId id) {
    if (choice_.sheet == id) return;
    choice_.sheet = id;
    choice_.tiles.clear();
    emit changed();
}

void Session::setMaterial(level::MaterialId id) {
    choice_.material = id;
    if (const level::Material* m = material()) {
        const auto& masks = join::cases(m->joins.kind);
        if (std::find(masks.begin(), masks.end(), joinCase()) == masks.end()) choice_.joinCase = masks.back();
    }
    emit changed();
}

void Session::moved() {
    waiting_.reset();
    settle();
    emit changed();
}

void Session::apply(const QString& name, level::Project next, const std::string& merge) {
    // Whatever a hand does to what was planted stays.
    for (const auto& l : std::vector(next.levels)) {
        const level::Level* before = project().level(l->id);
        if (!before || before == l.get()) continue;
        level::Level kept = *l;
        if (edit::keep_by_hand(next, *before, kept)) next.put(std::move(kept));
    }
    applyGrown(name, std::move(next), merge);
}

void Session::applyGrown(const QString& name, level::Project next, const std::string& merge) {
    if (keeper_.looks())
        return emit said(tr("Another window has the project open: here it is only looked at. A copy can be changed"),
                         true);
    // Derived sheets follow their sources.
    if (next.sheets != project().sheets) next = join::compose_sheets(std::move(next));
    document_->apply(name.toStdString(), std::move(next), merge);
    moved();
}

void Session::applyLevel(const QString& name, level::Level next, const std::string& merge) {
    level::Project p = project();
    p.put(std::move(next));
    apply(name, std::move(p), merge);
}

void Session::applyLevel(const QString& name, level::Level next, std::uint32_t nextId) {
    level::Project p = project();
    p.next_id = std::max(p.next_id, nextId);
    p.put(std::move(next));
    apply(name, std::move(p));
}

void Session::applyWork(const QString& name, const level::Level& next) { applyLevel(name, withWork(next)); }

void Session::applyWork(const QString& name, const level::Level& next, std::uint32_t nextId) {
    applyLevel(name, withWork(next), nextId);
}

void Session::goTo(std::size_t place) {
    document_->go_to(place);
    moved();
}

void Session::keepPoint(const QString& name) {
    const edit::Document::Saving now = document_->saving();
    jobs_.start<edit::KeepPoint>(
        "keep/" + name, tr("Keeping the project as it is"),
        [now, name](Jobs::Progress&) { return edit::Document::write_kept(now.state, now.dir, name.toStdString()); },
        [this, name](edit::KeepPoint& point) {
            document_->kept(std::move(point));
            emit said(tr("Kept as %1").arg(name), false);
            emit changed();
        },
        complain());
}

void Session::readKept(std::size_t keepPoint, const std::function<void(std::size_t)>& done) {
    const edit::KeepPoint point = document_->keep_points().at(keepPoint);
    jobs_.start<edit::ProjectState>(
        "go back", tr("Reading the keep-point"),
        [point, dir = document_->dir()](Jobs::Progress&) { return edit::Document::read_kept(point, dir); },
        [this, point, done](edit::ProjectState& state) {
            document_->kept_read(point.id, state);
            const auto& all = document_->keep_points();
            for (std::size_t i = 0; i < all.size(); ++i)
                if (all[i].id == point.id) return done(i);
        },
        complain());
}

void Session::goBack(std::size_t keepPoint) {
    readKept(keepPoint, [this](std::size_t i) {
        document_->go_back(i);
        moved();
    });
}

void Session::forget(std::size_t keepPoint) {
    document_->forget(keepPoint);
    emit changed();
}

void Session::undo() {
    if (!document_ || !document_->can_undo()) return;
    emit said(tr("Took back: %1").arg(QString::fromStdString(document_->undo_name())), false);
    document_->undo();
    moved();
}

void Session::redo() {
    if (!document_ || !document_->can_redo()) return;
    emit said(tr("Done again: %1").arg(QString::fromStdString(document_->redo_name())), false);
    document_->redo();
    moved();
}

void Session::save() {
    library_.keepEarlierPictures();
    document_->save();
    keeper_.saved();
    emit changed();
}

void Session::saveInBackground(std::function<void()> done, std::function<void(const std::exception&)> failed) {
    if (jobs_.running("save")) {
        saveNext_ = [this, done = std::move(done), failed = std::move(failed)] { saveInBackground(done, failed); };
        return;
    }
    library_.keepEarlierPictures();
    const edit::Document::Saving saving = document_->saving();
    const auto next = [this] {
        if (const auto waiting = std::exchange(saveNext_, nullptr)) waiting();
    };
    jobs_.start(
        "save", tr("Saving"), [saving](Jobs::Progress& progress) { saving.write([&] { return progress.stopped(); }); },
        [this, saving, done, next] {
            document_->saved(saving);
            keeper_.saved();
            emit changed();
            done();
            next();
        },
        [failed, next](const std::exception& e) {
            failed(e);
            next();
        });
}

void Session::finishSaving() {
    QEventLoop loop;
    while (jobs_.running("save"))
        loop.processEvents(QEventLoop::ExcludeUserInputEvents | QEventLoop::WaitForMoreEvents);
}

void Session::propose(const QString& name, level::Project next, const std::string& merge) {
    const edit::Losses lost = edit::losses(project(), next);
    if (!lost.any()) return apply(name, std::move(next), merge);
    waiting_ = {name, std::make_shared<const level::Project>(std::move(next)), lost.text()};
    emit changed();
}

void Session::answer(bool go) {
    if (!waiting_) return;
    const Waiting w = *std::exchange(waiting_, std::nullopt);
    if (go)
        apply(w.name, *w.next);
    else
        emit changed();
}

const level::Tile* Session::blockInHand() const {
    if (!hand().is<edit::held::Tile>()) return nullptr;
    for (const auto& sheet : project().sheets)
        for (auto t = sheet->tiles.rbegin(); t != sheet->tiles.rend() && t->is_block(); ++t)
            if (t->id == hand().tile()) return &*t;
    return nullptr;
}

Session::Tried Session::tried() const { return level() == triedLevel_.get() ? tried_ : Tried::no; }

void Session::setTried(Tried tried) {
    tried_ = tried;
    triedLevel_ = levelRef();
    emit changed();
}

QString Session::builtDir() const { return QDir(QString::fromStdString(document_->dir().string())).filePath("built"); }

} // namespace vic::app
