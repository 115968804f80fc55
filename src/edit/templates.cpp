#include "edit/templates.hpp"

#include <algorithm>
#include <cassert>
#include <map>
#include <optional>
#include <vector>

#include "edit/joins.hpp"
#include "join/mask.hpp"
#include "join/template_picture.hpp"
#include "sheet/cut.hpp"

namespace vic::edit {

using namespace level;

namespace {

constexpr double kSaysSo = 0.6; // confidence from which on the art is believed to serve another case

} // namespace

Project with_template(Project project, JoinKind kind, Size tile, const std::string& name) {
    const auto known = [&](const OrderCard& c) { return c.drawn == tile && c.kind == kind; };
    if (std::any_of(project.order_cards.begin(), project.order_cards.end(), known)) return project;
    OrderCard card;
    card.id = project.next_id++;
    card.name = name;
    const auto taken = [&](const OrderCard& c) { return c.name == card.name; };
    for (int n = 2; std::any_of(project.order_cards.begin(), project.order_cards.end(), taken); ++n)
        card.name = name + " " + std::to_string(n);
    card.kind = kind;
    card.layout = join::template_layout(kind);
    card.masks = join::template_masks(kind);
    card.drawn = tile;
    project.order_cards.push_back(std::move(card));
    return project;
}

std::optional<Size> template_cells(const Project& project, Size picture) {
    for (const OrderCard& c : project.order_cards)
        if (c.drawn != Size{} && picture == Size{c.layout.w * c.drawn.w, c.layout.h * c.drawn.h}) return c.drawn;
    return std::nullopt;
}

const OrderCard* template_of(const Project& project, const Sheet& sheet, JoinKind kind) {
    for (const OrderCard& c : project.order_cards)
        if (c.kind == kind && c.drawn != Size{} && sheet.cut.tile == c.drawn && card_fits(c, sheet) &&
            sheet.image->size() == Size{c.layout.w * c.drawn.w, c.layout.h * c.drawn.h})
            return &c;
    return nullptr;
}

join::JoinReading reading_by_template(const OrderCard& card, const Sheet& sheet, const join::JoinReading& art) {
    join::JoinReading out = reading_by_card(card, sheet);
    const Image given = join::template_picture(card.kind, card.drawn);
    const auto untouched = [&](const join::TileReading& t) {
        const Box box = sheet.tiles[static_cast<std::size_t>(t.index)].box;
        return cropped(*sheet.image, box).pixels() == cropped(given, box).pixels();
    };
    for (const join::TileReading& t : out.tiles)
        if (untouched(t)) out.missing.push_back(t.mask);
    std::erase_if(out.tiles, untouched);
    std::sort(out.missing.begin(), out.missing.end());
    if (std::none_of(out.tiles.begin(), out.tiles.end(), [&](const auto& t) { return t.index == out.centre; }))
        out.centre = -1;
    for (join::TileReading& t : out.tiles) {
        const auto read =
            std::find_if(art.tiles.begin(), art.tiles.end(), [&](const auto& a) { return a.index == t.index; });
        if (read == art.tiles.end() || read->mask == t.mask || read->confidence < kSaysSo) continue;
        t.confidence = 1 - read->confidence;
        out.doubtful.push_back(
            {t.index, say("by the template it is %1, but it is drawn as %2", join::describe(t.mask, card.kind),
                          join::describe(read->mask, card.kind))});
    }
    return out;
}

} // namespace vic::edit
