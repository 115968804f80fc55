#include "app/session/session.hpp"

#include <QDir>
#include <QMetaObject>
#include <algorithm>

#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "edit/clips.hpp"
#include "edit/close_up.hpp"
#include "edit/sheets.hpp"
#include "join/compose_sheet.hpp"
#include "join/read_kind.hpp"
#include "join/resolve.hpp"
#include "level/shape.hpp"
#include "store/project_files.hpp"

namespace vic::app {

namespace {
// Above this, outlines are not counted while one works; the corners are.
constexpr int kMostCounted = 200000;
constexpr std::size_t kPartsCountedAtOnce = 4096;
} // namespace

Session::Session(QObject* parent) : QObject(parent) {
    watchTimer_.setSingleShot(true);
    watchTimer_.setInterval(250); // programs write in several steps
    connect(&watchTimer_, &QTimer::timeout, this, &Session::lookAtPictures);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, &watchTimer_, qOverload<>(&QTimer::start));
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, &watchTimer_, qOverload<>(&QTimer::start));
    countTimer_.setSingleShot(true);
    countTimer_.setInterval(250);
    connect(&countTimer_, &QTimer::timeout, this, [this] {
        if (!level()) return;
        countNow_ = true;
        static_cast<void>(outlineCount(*level()));
        countNow_ = false;
        emit changed();
    });
    playTimer_.setInterval(30);
    connect(&playTimer_, &QTimer::timeout, this, [this] {
        clock_ = clockBefore_ + playSince_.elapsed();
        emit ticked();
    });
    connect(this, &Session::changed, this, &Session::play);
    findingsTimer_.setSingleShot(true);
    findingsTimer_.setInterval(150);
    connect(&findingsTimer_, &QTimer::timeout, this, &Session::lookForFindings);
    connect(this, &Session::changed, &findingsTimer_, [this] {
        if (document_ && findingsOf_ != document_->state()) findingsTimer_.start();
    });
}

Session::~Session() {
    if (findingsWork_.joinable()) findingsWork_.join();
}

void Session::lookForFindings() {
    if (findingsBusy_ || !document_) return findingsTimer_.start();
    if (findingsWork_.joinable()) findingsWork_.join();
    findingsBusy_ = true;
    findingsWork_ = std::thread([this, state = document_->state()] {
        auto found = std::make_shared<std::vector<findings::Finding>>(checker_.check(*state));
        QMetaObject::invokeMethod(
            this,
            [this, state, found] {
                findings_ = std::move(*found);
                findingsOf_ = state;
                findingsBusy_ = false;
                emit findingsChanged();
                if (document_ && document_->state() != state) findingsTimer_.start();
            },
            Qt::QueuedConnection);
    });
}

void Session::open(const QString& dir) {
    auto opened = std::make_unique<edit::Document>(edit::Document::open(dir.toStdString()));
    document_ = std::move(opened);
    levelId_.clear();
    hand_ = {};
    lastHands_.clear();
    selection_.clear();
    alone_.clear();
    readings_.clear();
    waiting_.reset();
    gone_.clear();
    onDisk_.clear();
    for (const auto& s : project().sheets)
        if (s->image) onDisk_[s->file] = s->image;
    watchPictures();
    tried_ = Tried::no;
    traceOf_ = {};
    planKept_.clear();
    choose();
    emit changed();
    emit handChanged();
    for (const store::Damage& d : document_->damages()) {
        const level::Level* l = project().level(d.level);
        const level::Layer* layer = l ? l->layer(d.layer) : nullptr;
        if (layer)
            emit said(
                tr("The layer %1 of %2 is damaged: %3. What could be read is shown and locked; the file as it was "
                   "is kept as %4")
                    .arg(QString::fromStdString(layer->name), QString::fromStdString(l->name), translated(d.what),
                         QString::fromStdString(d.aside)),
                true);
    }
    followPlans(); // a plan may have been painted on while the project was closed
}

const level::Level* Session::level() const { return document_ ? project().level(levelId_) : nullptr; }

const level::Layer* Session::activeLayer() const {
    const level::Level* l = level();
    return l ? l->layer(activeLayer_) : nullptr;
}

void Session::choose() {
    const level::Project& p = project();
    if (!p.level(levelId_)) levelId_ = p.levels.empty() ? "" : p.levels.front()->id;
    std::erase_if(alone_, [l = level()](level::LayerId id) { return !l || !l->layer(id); });
    if (const level::Level* l = level()) selection_.keep(l->cells());
    if (const level::Level* l = level(); l && !l->layer(activeLayer_)) {
        activeLayer_ = 0;
        for (const level::LayerRef& layer : l->layers)
            if (layer->kind == level::LayerKind::tiles && (activeLayer_ == 0 || layer->solid)) {
                activeLayer_ = layer->id;
                if (layer->solid) break;
            }
    }
    if (!p.sheet(sheet_)) sheet_ = p.sheets.empty() ? 0 : p.sheets.front()->id;
    if (!p.material(material_)) material_ = p.materials.empty() ? 0 : p.materials.front()->id;
    const level::TileTable& table = tilesOf(p);
    std::erase_if(tiles_, [&](level::TileId id) { return !table.find(id).tile; });
    const bool handGone = (hand_.kind == edit::Hand::Kind::material && !p.material(hand_.material)) ||
                          (hand_.kind == edit::Hand::Kind::tile && !table.find(hand_.tile).tile) ||
                          (hand_.kind == edit::Hand::Kind::prop && !p.prop_kind(hand_.prop));
    const auto there = [&](const edit::SpreadItem& i) {
        return i.material != 0 ? p.material(i.material) != nullptr : table.find(i.tile).tile != nullptr;
    };
    if (hand_.kind == edit::Hand::Kind::spread && !std::all_of(hand_.spread.begin(), hand_.spread.end(), there)) {
        edit::Hand rest = hand_;
        std::erase_if(rest.spread, [&](const auto& i) { return !there(i); });
        setHand(rest.spread.empty() ? edit::Hand{} : rest);
    }
    if (handGone) {
        setHand({});
        lastHands_.clear();
    }
}

void Session::setStage(Stage stage) {
    if (stage_ == stage) return;
    stage_ = stage;
    if (stage == Stage::dress && !tool_.dresses) tool_ = Tool::props;
    if (laysCells(stage) && tool_.dresses) tool_ = Tool::pencil;
    if (stage == Stage::dress && hand_.kind != edit::Hand::Kind::prop) setHand({});
    if (stage == Stage::lay && hand_.kind == edit::Hand::Kind::prop) setHand({});
    emit stageChanged();
    emit changed();
}

void Session::setTool(const Tool& tool) {
    tool_ = tool;
    emit changed();
    emit handChanged();
}

void Session::setHand(const edit::Hand& hand) {
    hand_ = hand;
    hand_.size = std::clamp(hand_.size, 1, 16);
    hand_.share_empty = std::clamp(hand_.share_empty, 0, 99);
    if (hand_.kind != edit::Hand::Kind::empty && hand_.kind != edit::Hand::Kind::eraser) {
        // The same thing in another size or turn is still the same Hand.
        const auto thing = [](edit::Hand h) {
            h.size = 1;
            h.turn = {};
            h.seed = 0;
            h.share_empty = 0;
            h.round = false;
            for (edit::SpreadItem& i : h.spread) i.weight = 0;
            return h;
        };
        std::erase_if(lastHands_, [&](const edit::Hand& h) { return thing(h) == thing(hand_); });
        lastHands_.insert(lastHands_.begin(), hand_);
        if (lastHands_.size() > 10) lastHands_.pop_back();
    }
    emit handChanged();
}

void Session::setOptions(const ToolOptions& options) {
    options_ = options;
    emit changed();
    emit handChanged();
}

void Session::setSelection(level::Region cells) {
    if (const level::Level* l = level()) cells.keep(l->cells());
    selection_ = std::move(cells);
    emit selectionChanged();
}

std::vector<level::LayerId> Session::selectedLayers() const {
    const level::Level* l = level();
    return l ? edit::concerned(seen(*l), activeLayer_, options_.allLayers) : std::vector<level::LayerId>{};
}

const std::optional<edit::HomeProposal>& Session::proposedHome() {
    const level::Level* l = level();
    edit::Hand hand;
    hand.kind = hand_.kind;
    hand.material = hand_.material;
    hand.tile = hand_.tile;
    const std::size_t layers = l ? l->layers.size() : 0;
    auto& of = proposedOf_;
    if (of.hand != hand || of.level != levelId_ || of.layers != layers || of.sheets != project().sheets ||
        of.materials != project().materials) {
        of = {hand, levelId_, layers, project().sheets, project().materials};
        proposed_ = l ? edit::propose_home(project(), *l, hand) : std::nullopt;
    }
    if (proposed_ && !(l && l->layer(proposed_->layer))) proposed_.reset();
    return proposed_;
}

void Session::setAlone(level::LayerId layer, bool on) {
    if (on)
        alone_.insert(layer);
    else
        alone_.erase(layer);
    emit changed();
}

void Session::noneAlone() {
    alone_.clear();
    emit changed();
}

level::Level Session::work() const { return edit::close_up(*level(), closeUpOf()); }

level::LayerId Session::closeUpOf() const {
    const level::Layer* layer = activeLayer();
    return layer && layer->subdivision != 1 && (stage_ == Stage::lay || stage_ == Stage::bound) ? layer->id : 0;
}

Lattice Session::workLattice() const {
    const level::Layer* layer = level() ? level()->layer(closeUpOf()) : nullptr;
    return layer ? level()->lattice_of(*layer) : level() ? level()->geometry() : Lattice{};
}

level::Level Session::withWork(const level::Level& work) const {
    const level::LayerId of = closeUpOf();
    return of == 0 ? work : edit::put_back(*level(), work, of);
}

void Session::applyWork(const QString& name, const level::Level& next) { applyLevel(name, withWork(next)); }

void Session::applyWork(const QString& name, const level::Level& next, std::uint32_t nextId) {
    applyLevel(name, withWork(next), nextId);
}

level::Level Session::seen(const level::Level& level) const {
    if (alone_.empty()) return level;
    level::Level out = level;
    for (const level::LayerRef& l : level.layers)
        if (!isAlone(l->id) && l->shown) out.edit(l->id).shown = false;
    return out;
}

void Session::setLevel(const std::string& id) {
    levelId_ = id;
    activeLayer_ = 0;
    prop_ = 0;
    alone_.clear();
    selection_.clear();
    choose();
    emit changed();
}

void Session::setActiveLayer(level::LayerId id) {
    const level::Layer* before = activeLayer();
    const int subdivision = before ? before->subdivision : 1;
    activeLayer_ = id;
    // What was selected was told in other cells.
    if (const level::Layer* now = activeLayer(); now && now->subdivision != subdivision && !selection_.empty())
        setSelection({});
    // On a layer of blockers there is but one thing to lay, and nowhere else.
    const level::Layer* layer = activeLayer();
    const bool blockers = layer && layer->kind == level::LayerKind::blockers;
    const bool lays = stage_ == Stage::lay || stage_ == Stage::bound;
    if (blockers && lays && hand_.kind != edit::Hand::Kind::blocker)
        setHand(edit::blocker_hand(level::TileShape::full));
    else if (!blockers && hand_.kind == edit::Hand::Kind::blocker)
        setHand({});
    emit changed();
}

void Session::setSheet(level::SheetId id) {
    if (sheet_ == id) return;
    sheet_ = id;
    tiles_.clear();
    emit changed();
}

void Session::setMaterial(level::MaterialId id) {
    material_ = id;
    if (const level::Material* m = material()) {
        const auto& masks = join::cases(m->joins.kind);
        if (std::find(masks.begin(), masks.end(), case_) == masks.end()) case_ = masks.back();
    }
    emit changed();
}

void Session::setCase(join::Mask mask) {
    case_ = mask;
    emit changed();
}

void Session::setTiles(std::vector<level::TileId> tiles) {
    tiles_ = std::move(tiles);
    emit changed();
}

void Session::setProp(level::PropId id) {
    prop_ = id;
    emit changed();
}

void Session::apply(const QString& name, level::Project next, const std::string& merge) {
    // Derived sheets follow their sources.
    if (next.sheets != project().sheets) next = join::compose_sheets(std::move(next));
    document_->apply(name.toStdString(), std::move(next), merge);
    waiting_.reset();
    choose();
    emit changed();
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

void Session::goTo(std::size_t place) {
    document_->go_to(place);
    waiting_.reset();
    choose();
    emit changed();
}

void Session::keepPoint(const QString& name) {
    document_->keep(name.toStdString());
    emit said(tr("Kept as %1").arg(name), false);
    emit changed();
}

void Session::goBack(std::size_t keepPoint) {
    document_->go_back(keepPoint);
    waiting_.reset();
    choose();
    emit changed();
}

void Session::forget(std::size_t keepPoint) {
    document_->forget(keepPoint);
    emit changed();
}

void Session::undo() {
    if (!document_->can_undo()) return;
    const QString name = QString::fromStdString(document_->undo_name());
    document_->undo();
    waiting_.reset();
    choose();
    emit said(tr("Took back: %1").arg(name), false);
    emit changed();
}

void Session::redo() {
    if (!document_->can_redo()) return;
    const QString name = QString::fromStdString(document_->redo_name());
    document_->redo();
    waiting_.reset();
    choose();
    emit said(tr("Done again: %1").arg(name), false);
    emit changed();
}

void Session::save() {
    keepEarlierPictures();
    document_->save();
    emit changed();
}

void Session::makeMaterial(level::SheetId id, level::JoinKind kind) {
    const level::Sheet* sheet = project().sheet(id);
    if (!sheet || !sheet->image) return;
    if (project().free_material() == 0) {
        emit said(tr("A project has at most 255 materials"), true);
        return;
    }
    join::JoinReading read;
    if (kind != level::JoinKind::plain) read = join::read_joins(edit::tile_pictures(*sheet), kind);
    level::MaterialId added = 0;
    QString name = QString::fromStdString(sheet->name);
    if (!name.isEmpty()) name[0] = name[0].toUpper();
    level::Project next = edit::add_material(project(), *sheet, kind, read, name.toStdString(), added);
    material_ = added;
    case_ = join::canonical(255, kind);
    apply(tr("Make the material %1").arg(name), std::move(next));
    edit::Hand hand;
    hand.kind = edit::Hand::Kind::material;
    hand.material = added;
    setHand(hand);
    setStage(Stage::join);
    if (kind == level::JoinKind::plain)
        emit said(tr("%1 is a plain material: its tiles are variants").arg(name), false);
    else
        emit said(tr("Read %1 tiles of %2: missing cases %3, doubtful tiles %4")
                      .arg(read.tiles.size())
                      .arg(name)
                      .arg(read.missing.size())
                      .arg(joinsRead().doubtful.size()),
                  false);
}

level::JoinKind Session::kindOf(level::SheetId id) {
    auto& slot = kinds_[id];
    for (const auto& s : project().sheets) {
        if (s->id != id || slot.first == s) continue;
        slot = {s, level::JoinKind::full};
        if (s->image && s->accepted && s->tiles.size() > 1) slot.second = join::proposed_kind(edit::tile_pictures(*s));
    }
    return slot.first ? slot.second : level::JoinKind::full;
}

const Session::JoinsRead& Session::joinsRead() {
    std::shared_ptr<const level::Material> now;
    for (const auto& m : project().materials)
        if (m->id == material_) now = m;
    if (now == joinsReadOf_ && joinsReadIn_ == project().sheets) return joinsRead_;
    const level::SheetId id = now ? edit::main_sheet(project(), now->joins) : 0;
    const level::Sheet* sheet = project().sheet(id);
    const bool readable = sheet && sheet->image && now->joins.kind != level::JoinKind::plain;
    // Another table of the same kind needs no other reading.
    const bool sameArt = readable && joinsReadOf_ && joinsReadOf_->id == now->id && joinsRead_.sheet == id &&
                         joinsReadOf_->joins.kind == now->joins.kind && joinsReadIn_ == project().sheets;
    if (!sameArt) joinsRead_ = {};
    if (readable && !sameArt) {
        joinsRead_.sheet = id;
        joinsRead_.reading = join::read_joins(edit::tile_pictures(*sheet), now->joins.kind);
    }
    joinsRead_.doubtful.clear();
    if (readable) joinsRead_.doubtful = edit::doubtful_tiles(*sheet, now->joins, joinsRead_.reading);
    joinsReadOf_ = now;
    joinsReadIn_ = project().sheets;
    return joinsRead_;
}

const join::Rules& Session::rules() {
    if (!rules_ || rulesOf_ != project().materials) {
        rules_ = std::make_unique<join::Rules>(project());
        rulesOf_ = project().materials;
    }
    return *rules_;
}

const sheet::SheetReading& Session::reading(level::SheetId id) {
    const level::Sheet* sheet = project().sheet(id);
    auto& slot = readings_[id];
    if (sheet && sheet->image && slot.first != sheet->image) slot = {sheet->image, sheet::read_cut(*sheet->image)};
    return slot.second;
}

const outline::Trace& Session::trace(const level::Level& level) {
    const bool sheetsSame = traceSheets_ == project().sheets;
    if (!sheetsSame) {
        traceSheets_ = project().sheets;
    }
    const auto difference = level::difference(traceOf_, level, project());
    if (!sheetsSame || difference.everything) {
        trace_ = outline::trace(level, tilesOf(project()));
        counted_ = false;
    } else if (!difference.cells.empty()) {
        outline::retrace(trace_, level, tilesOf(project()), difference.cells);
        counted_ = false;
    }
    traceOf_ = level;
    return trace_;
}

int Session::outlineCount(const level::Level& level) {
    const outline::Trace& t = trace(level);
    // Of a very large level they are counted when nothing else happens; until then the last number stands.
    if (!counted_ && t.parts.size() > kPartsCountedAtOnce && !countTimer_.isActive() && !countNow_) countTimer_.start();
    if (!counted_ && (t.parts.size() <= kPartsCountedAtOnce || countNow_)) {
        outlineCount_ = t.corner_count() > kMostCounted ? -1 : static_cast<int>(outline::outlines(t).size());
        counted_ = true;
    }
    return outlineCount_;
}

void Session::play() {
    if (isOpen() && playSheets_ != project().sheets) {
        playSheets_ = project().sheets;
        toPlay_ = false;
        for (const auto& s : playSheets_)
            toPlay_ = toPlay_ || std::any_of(s->tiles.begin(), s->tiles.end(),
                                             [](const level::Tile& t) { return !t.frames.empty(); });
    }
    const bool any = isOpen() && playing_ && toPlay_;
    if (any == playTimer_.isActive()) return;
    if (any) {
        playSince_.start();
        playTimer_.start();
    } else {
        playTimer_.stop();
        clockBefore_ = clock_;
    }
}

void Session::setPlaying(bool on) {
    playing_ = on;
    play();
    emit ticked();
}

const level::Tile* Session::blockInHand() const {
    if (hand_.kind != edit::Hand::Kind::tile) return nullptr;
    for (const auto& sheet : project().sheets)
        for (auto t = sheet->tiles.rbegin(); t != sheet->tiles.rend() && t->is_block(); ++t)
            if (t->id == hand_.tile) return &*t;
    return nullptr;
}

Session::Tried Session::tried() const { return level() == triedLevel_.get() ? tried_ : Tried::no; }

void Session::setTried(Tried tried) {
    tried_ = tried;
    triedLevel_.reset();
    for (const auto& l : project().levels)
        if (l.get() == level()) triedLevel_ = l;
    emit changed();
}

QString Session::builtDir() const { return QDir(QString::fromStdString(document_->dir().string())).filePath("built"); }

} // namespace vic::app
