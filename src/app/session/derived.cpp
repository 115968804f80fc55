#include "app/session/derived.hpp"

#include <utility>

#include "app/parts/thumbs.hpp"
#include "app/session/session.hpp"
#include "join/read_sheet.hpp"
#include "join/resolve.hpp"
#include "level/project.hpp"
#include "outline/convex.hpp"
#include "outline/rectangles.hpp"

namespace vic::app {

namespace {
// Above this, outlines are not counted while one works; the corners are.
constexpr int kMostCounted = 200000;
constexpr std::int64_t kMostCellsCut = 1 << 18; // of a level that is cut into rectangles at once
constexpr std::size_t kPartsCountedAtOnce = 4096;

SheetRef refOf(const level::Project& project, level::SheetId id) {
    for (const SheetRef& s : project.sheets)
        if (s->id == id) return s;
    return nullptr;
}
} // namespace

Derived::Derived(Session& session) : session_(session) {
    countTimer_.setSingleShot(true);
    countTimer_.setInterval(250);
    connect(&countTimer_, &QTimer::timeout, this, [this] {
        if (!session_.isOpen() || !session_.level()) return;
        countNow_ = true;
        static_cast<void>(outlineCount(*session_.level()));
        countNow_ = false;
        emit counted();
    });
}

Derived::~Derived() = default;

void Derived::forget() {
    readings_.clear();
    reads_.clear();
    seams_.clear();
    joinsRead_.forget();
    home_.forget();
    traceOf_ = {};
    countTimer_.stop();
}

const plant::Lively& Derived::lively(const level::Level& level, const level::LayerRef& layer) {
    return lively_.get({layer, session_.project().prop_kinds},
                       [&] { return plant::lively_of(session_.project(), level, *layer); });
}

const sheet::Seam& Derived::seam(const std::shared_ptr<const Image>& picture, bool across) {
    for (const SeamRead& s : seams_)
        if (s.picture == picture && s.across == across) return s.seam;
    constexpr std::size_t kMost = 8;
    if (seams_.size() >= kMost) seams_.erase(seams_.begin());
    return seams_.emplace_back(SeamRead{picture, across, sheet::seam_of(*picture, across)}).seam;
}

const join::Rules& Derived::rules() {
    const level::Project& p = session_.project();
    return *rules_.get(p.materials, [&] { return std::make_unique<join::Rules>(p); });
}

const sheet::SheetReading* Derived::reading(level::SheetId id) {
    const SheetRef sheet = refOf(session_.project(), id);
    if (!sheet || !sheet->image) return nullptr;
    const std::shared_ptr<const Image> image = sheet->image;
    auto& memo = readings_[id];
    if (memo.has(image)) return &memo.get(image, [] { return sheet::SheetReading(); });
    if (std::exchange(reads_[id], image) == image) return nullptr; // on its way
    session_.jobs().start<sheet::SheetReading>(
        QString("cut-%1").arg(id), QObject::tr("Reading %1").arg(QString::fromStdString(sheet->name)),
        [image](Jobs::Progress&) { return join::read_sheet(*image); },
        [this, id, image](sheet::SheetReading& read) {
            take(id, image, std::move(read));
            emit counted();
        },
        session_.complain());
    return nullptr;
}

bool Derived::readingStopped(level::SheetId id) {
    const SheetRef sheet = refOf(session_.project(), id);
    if (!sheet || !sheet->image || readings_[id].has(sheet->image)) return false;
    const auto read = reads_.find(id);
    return read != reads_.end() && read->second == sheet->image && !session_.jobs().running(QString("cut-%1").arg(id));
}

void Derived::readAgain(level::SheetId id) {
    reads_.erase(id);
    (void)reading(id);
    emit counted();
}

void Derived::take(level::SheetId id, std::shared_ptr<const Image> image, sheet::SheetReading reading) {
    readings_[id].put(std::move(image), std::move(reading));
}

const JoinsRead& Derived::joinsRead() {
    const MaterialRef material = session_.materialRef();
    const level::Project& p = session_.project();
    const SheetRef sheet = material && material->joins.kind != level::JoinKind::plain
                               ? refOf(p, edit::main_sheet(p, material->joins))
                               : nullptr;
    const JoinReadings::Reading reading =
        sheet && sheet->image ? session_.joins().reading(sheet->id, material->joins.kind) : nullptr;
    const bool stopped = sheet && sheet->image && !reading && session_.joins().stopped(sheet->id, material->joins.kind);
    return joinsRead_.get({material, p.sheets, reading, stopped}, [&] {
        if (!sheet || !sheet->image) return JoinsRead();
        if (!reading) return JoinsRead{false, stopped, {}};
        // Of two readings it is the one that was taken whose doubts count.
        JoinsRead out{true, false, edit::doubtful_tiles(*sheet, material->joins, *reading), !reading->others.empty()};
        if (out.other && edit::fits_better(*sheet, material->joins, reading->others.front(), *reading))
            out.doubtful = edit::doubtful_tiles(*sheet, material->joins, reading->others.front());
        return out;
    });
}

void Derived::readJoinsAgain() {
    const level::Material* m = session_.material();
    if (!m || m->joins.kind == level::JoinKind::plain) return;
    session_.joins().readAgain(edit::main_sheet(session_.project(), m->joins), m->joins.kind);
    emit counted();
}

std::optional<edit::HomeProposal> Derived::proposedHome() {
    const level::Level* l = session_.level();
    if (!l) return std::nullopt;
    HomeKey key{{}, l->id, l->layers.size(), session_.project().sheets, session_.project().materials};
    key.hand.holds = session_.hand().holds;
    const auto& home = home_.get(key, [&] { return edit::propose_home(session_.project(), *l, key.hand); });
    return home && l->layer(home->layer) ? home : std::nullopt;
}

const outline::Trace& Derived::trace(const level::Level& level) {
    const level::Project& p = session_.project();
    const bool sheetsSame = traceSheets_ == p.sheets && traceKinds_ == p.prop_kinds && traceOf_.here == level.here;
    traceSheets_ = p.sheets;
    traceKinds_ = p.prop_kinds;
    const outline::Kinds kinds{tilesOf(p, level), propKindsOf(p, level)};
    const auto difference = level::difference(traceOf_, level, p);
    if (!sheetsSame || difference.everything) {
        trace_ = outline::trace(level, kinds);
        counted_ = rectanglesCounted_ = partsCounted_ = false;
    } else if (!difference.cells.empty()) {
        outline::retrace(trace_, level, kinds, difference.cells);
        counted_ = rectanglesCounted_ = partsCounted_ = false;
    }
    traceOf_ = level;
    return trace_;
}

int Derived::outlineCount(const level::Level& level) {
    const outline::Trace& t = trace(level);
    // Of a very large level they are counted when nothing else happens; until then the last number stands.
    const bool many = t.parts.size() > kPartsCountedAtOnce;
    if (!counted_ && many && !countTimer_.isActive() && !countNow_) countTimer_.start();
    if (!counted_ && (!many || countNow_)) {
        outlineCount_ = cornerCount_ = -1;
        if (t.corner_count() <= kMostCounted) {
            const std::vector<outline::Outline> all = outline::outlines(t);
            outlineCount_ = static_cast<int>(all.size());
            cornerCount_ = 0;
            for (const outline::Outline& o : all) cornerCount_ += static_cast<int>(o.points.size());
        }
        counted_ = true;
    }
    return outlineCount_;
}

int Derived::cornerCount(const level::Level& level) {
    static_cast<void>(outlineCount(level));
    return cornerCount_;
}

int Derived::partCount(const level::Level& level) {
    const outline::Trace& t = trace(level);
    if (level.size.area() > kMostCellsCut || t.corner_count() > kMostCounted) return -1;
    if (std::exchange(partsCounted_, true)) return partCount_;
    partCount_ = static_cast<int>(outline::convex_parts(outline::outlines(t)).size());
    return partCount_;
}

int Derived::rectangleCount(const level::Level& level) {
    static_cast<void>(trace(level));
    if (level.size.area() > kMostCellsCut) return -1;
    if (std::exchange(rectanglesCounted_, true)) return rectangleCount_;
    const level::Project& p = session_.project();
    const outline::Kinds kinds{tilesOf(p, level), propKindsOf(p, level)};
    rectangleCount_ =
        static_cast<int>(outline::fewest_rectangles(level.size, outline::full_cells(level, kinds)).size());
    return rectangleCount_;
}

} // namespace vic::app
