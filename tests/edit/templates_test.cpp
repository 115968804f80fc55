// A template that comes back drawn is known, and checked case by case.
#include "edit/templates.hpp"

#include <algorithm>
#include <catch2/catch.hpp>
#include <memory>
#include <set>

#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "join/mask.hpp"
#include "join/read_joins.hpp"
#include "join/template_picture.hpp"
#include "sheet/cut.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;
using level::JoinKind;

namespace {

void paste(Image& to, const Image& tile, Point at) {
    for (int y = 0; y < tile.height(); ++y)
        for (int x = 0; x < tile.width(); ++x) to.set(at.x + x, at.y + y, tile.at(x, y));
}

// The template with these cells drawn, each as the case given.
Image drawn(int side, const std::vector<std::pair<std::size_t, join::Mask>>& cells) {
    Image out = join::template_picture(JoinKind::full, {side, side});
    for (const auto& [i, mask] : cells)
        paste(out, make::tile(mask, side, make::Style::outlined, 3),
              {static_cast<int>(i) % 8 * side, static_cast<int>(i) / 8 * side});
    return out;
}

level::SheetId add(level::Project& project, const Image& image, int side) {
    level::Sheet sheet;
    sheet.id = project.next_id++;
    sheet.name = "Drawn";
    sheet.file = "sheets/drawn.png";
    sheet.image = std::make_shared<const Image>(image);
    sheet.cut.tile = {side, side};
    sheet.accepted = true;
    for (const Box& box : sheet::cut_boxes(sheet.cut, image.size())) {
        level::Tile t;
        t.id = project.next_tile++;
        t.box = box;
        sheet.tiles.push_back(t);
    }
    const level::SheetId id = sheet.id;
    project.put(std::move(sheet));
    return id;
}

} // namespace

TEST_CASE("a template has a cell for each case, and no two look alike", "[template]") {
    for (const JoinKind kind : {JoinKind::full, JoinKind::edges, JoinKind::corners}) {
        const Size tile{24, 16};
        const Image picture = join::template_picture(kind, tile);
        const auto masks = join::template_masks(kind);
        const Size layout = join::template_layout(kind);
        CHECK(picture.size() == Size{layout.w * tile.w, layout.h * tile.h});
        std::set<join::Mask> cases;
        std::set<std::vector<std::uint32_t>> looks;
        for (std::size_t i = 0; i < masks.size(); ++i) {
            if (!masks[i]) continue;
            cases.insert(*masks[i]);
            const Image cell = cropped(picture, {static_cast<int>(i) % layout.w * tile.w,
                                                 static_cast<int>(i) / layout.w * tile.h, tile.w, tile.h});
            std::vector<std::uint32_t> look;
            for (int y = 0; y < tile.h; ++y)
                for (int x = 0; x < tile.w; ++x) look.push_back(cell.at(x, y).a);
            looks.insert(look);
        }
        CHECK(cases == std::set<join::Mask>(join::cases(kind).begin(), join::cases(kind).end()));
        CHECK(looks.size() == cases.size());
    }
}

TEST_CASE("what was drawn on a template serves its case; what was not is missing; what is wrong is named",
          "[template]") {
    make::Small small;
    level::Project p = with_template(small.project, JoinKind::full, {32, 32}, "Template");
    CHECK(with_template(p, JoinKind::full, {32, 32}, "Template").order_cards == p.order_cards);
    CHECK(with_template(p, JoinKind::full, {16, 16}, "Template").order_cards.back().name == "Template 2");
    const auto masks = join::template_masks(JoinKind::full);
    std::vector<std::pair<std::size_t, join::Mask>> cells;
    for (std::size_t i = 0; i < 47; ++i)
        if (i != 5 && i != 20) cells.emplace_back(i, *masks[i]);
    std::swap(cells[10].second, cells[30].second); // drawn in each other's places
    const std::size_t first = cells[10].first, second = cells[30].first;
    const level::SheetId id = add(p, drawn(32, cells), 32);
    CHECK(template_cells(p, {256, 192}) == Size{32, 32});
    CHECK_FALSE(template_cells(p, {256, 190}));
    const level::OrderCard* card = template_of(p, *p.sheet(id), JoinKind::full);
    REQUIRE(card);
    CHECK_FALSE(template_of(p, *p.sheet(id), JoinKind::edges));
    CHECK_FALSE(template_of(small.project, *p.sheet(id), JoinKind::full));
    const auto art = join::read_joins(tile_pictures(*p.sheet(id)), JoinKind::full);
    const join::JoinReading read = reading_by_template(*card, *p.sheet(id), art);
    CHECK(read.tiles.size() == 45);
    for (const auto& t : read.tiles) CHECK(t.mask == *masks[static_cast<std::size_t>(t.index)]);
    CHECK(read.missing == [&] {
        std::vector<join::Mask> m{*masks[5], *masks[20]};
        std::sort(m.begin(), m.end());
        return m;
    }());
    std::set<std::size_t> named;
    for (const auto& d : read.doubtful) named.insert(static_cast<std::size_t>(d.index));
    CHECK(named == std::set<std::size_t>{first, second});
    // The card is kept.
    make::Folder dir;
    make::save_with_pictures(p, dir.path());
    CHECK(store::load(dir.path()).order_cards == p.order_cards);
}
