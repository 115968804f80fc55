#include "join/read_sheet.hpp"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "base/text.hpp"
#include "join/mask.hpp"
#include "join/read_joins.hpp"
#include "join/read_kind.hpp"
#include "level/material.hpp"
#include "sheet/cut.hpp"
#include "sheet/inspect.hpp"

namespace vic::join {

namespace {

constexpr std::int64_t kMostPixels = 1 << 20;
constexpr std::size_t kMostCuts = 8;
constexpr double kWhole = 0.75;    // the fit from which on a set counts as whole
constexpr double kSteep = 20;      // nats for a fit of 1 above kNone
constexpr double kNone = 0.5;      // the fit that says nothing: half of a set
constexpr double kUnlikely = 1e-3; // the confidence of a cut that is not proposed otherwise
constexpr double kTorn = 0.75;     // the confidence at most where the joins say something else than the lines
constexpr double kMost = 0.97;

struct Tried {
    sheet::CutReading reading;
    double fit = -1; // how well the tiles are a whole set, 1 at best; -1 where they were not read
    double score = 0;
};

// The best fit of the kinds that so many tiles may be a set of.
double fit_of(const Image& image, const level::Cut& cut) {
    std::vector<Image> tiles;
    const auto boxes = sheet::cut_boxes(cut, image.size());
    if (boxes.size() > 160) return -1;
    std::size_t filled = 0;
    for (const Box& b : boxes) {
        tiles.push_back(cropped(image, b));
        filled += !sheet::is_blank(image, b, {});
    }
    double best = -1;
    for (const level::JoinKind kind : {level::JoinKind::full, level::JoinKind::edges, level::JoinKind::corners}) {
        const std::size_t all = cases(kind).size();
        if (10 * filled < 8 * all || filled > 2 * all) continue;
        best = std::max(best, kind_reading(tiles, kind).fit);
    }
    return best;
}

std::vector<Tried> cuts_to_try(const sheet::SheetReading& read, Size size) {
    std::vector<Tried> out;
    const auto add = [&](const sheet::CutReading& r) {
        const bool known = std::any_of(out.begin(), out.end(), [&](const Tried& t) { return t.reading.cut == r.cut; });
        if (!known && out.size() < kMostCuts) out.push_back({r});
    };
    if (read.best) add(*read.best);
    for (const auto& r : read.others) add(r);
    for (int side = std::min({size.w, size.h, 128}); side >= 8; --side) {
        if (size.w % side != 0 || size.h % side != 0) continue;
        const int columns = size.w / side, rows = size.h / side;
        if (columns * rows < 12 || columns * rows > 96) continue;
        sheet::CutReading r;
        r.cut = {{side, side}, {}, {}, 1};
        r.columns = columns;
        r.rows = rows;
        r.confidence = 0;
        r.reason = say("the picture divides into squares of %1 px", side);
        add(r);
    }
    return out;
}

} // namespace

sheet::SheetReading read_sheet(const Image& image) {
    sheet::SheetReading read = sheet::read_cut(image);
    const bool gaps = read.best && read.best->cut.spacing != Point{};
    if (image.empty() || gaps || image.size().area() > kMostPixels) return read;
    std::vector<Tried> all = cuts_to_try(read, image.size());
    bool any = false;
    for (Tried& t : all) {
        t.score = std::log(std::max(t.reading.confidence, kUnlikely));
        t.fit = fit_of(image, t.reading.cut);
        if (t.fit < kWhole) continue;
        t.score += kSteep * (t.fit - kNone);
        any = true;
    }
    if (!any) return read;
    std::stable_sort(all.begin(), all.end(), [](const Tried& a, const Tried& b) { return a.score > b.score; });
    Tried& best = all.front();
    if (best.fit < kWhole) return read;
    double sum = 0;
    for (const Tried& t : all) sum += std::exp(t.score - best.score);
    const bool torn = read.best && read.best->cut.tile != best.reading.cut.tile;
    best.reading.confidence = std::min(torn ? kTorn : kMost, 1 / sum);
    best.reading.reason = say("%1; as such its tiles are a whole set of joins", best.reading.reason);
    std::vector<sheet::CutReading> ranked;
    for (Tried& t : all) {
        if (ranked.size() == 4) break;
        if (!ranked.empty()) t.reading.confidence = std::exp(t.score - best.score) / sum;
        ranked.push_back(std::move(t.reading));
    }
    return sheet::reading_of(image, std::move(ranked));
}

} // namespace vic::join
