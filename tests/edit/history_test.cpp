// Long random sessions: whatever is done, every state can be come back to, saved and loaded.
#include <catch2/catch.hpp>

#include "base/files.hpp"
#include "edit/document.hpp"
#include "edit/levels.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "outline/trace.hpp"
#include "parcel/build.hpp"
#include "store/project_files.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"

using namespace vic;
using namespace vic::edit;

namespace {

// One thing that a designer may do; returns its name.
std::string something(make::Random& random, level::Project& p, const std::string& id) {
    level::Level level = *p.level(id);
    const auto any_layer = [&](level::LayerKind kind) -> level::LayerId {
        std::vector<level::LayerId> found;
        for (const level::LayerRef& l : level.layers)
            if (l->kind() == kind) found.push_back(l->id);
        return found.empty() ? 0 : found[static_cast<std::size_t>(random.below(static_cast<int>(found.size())))];
    };
    switch (random.below(9)) {
        case 0:
        case 1:
        case 2: {
            const level::LayerId layer = any_layer(level::LayerKind::tiles);
            if (!layer) return "nothing";
            const Hand hand = random.flip(0.2) ? make::eraser() : make::material(1 + random.below(2));
            const Point at{random.below(40), random.below(30)};
            p.put(lay(p, join::Rules(p), level, layer, hand,
                      box_cells({at.x, at.y, 1 + random.below(8), 1 + random.below(5)}))
                      .level);
            return "lay";
        }
        case 3: {
            const level::LayerId layer = any_layer(level::LayerKind::props);
            if (!layer) return "nothing";
            const level::PropId prop = p.next_id++;
            p.put(add_prop(level, layer,
                           {prop, p.prop_kinds[0]->id, {random.below(640), random.below(480)}, {random.flip()}}));
            return "prop";
        }
        case 4: {
            const int n = static_cast<int>(level.layers.size());
            p.put(move_entry(level, random.below(n + 1), random.below(n + 1)));
            return "reorder";
        }
        case 5: {
            const level::LayerId layer = p.next_id++;
            p.put(add_layer(level, layer, "Layer", random.flip(0.7) ? level::LayerKind::tiles : level::LayerKind::props,
                            level.layers.empty() ? 0 : level.layers[0]->id));
            return "add layer";
        }
        case 6: {
            if (level.layers.size() < 3) return "nothing";
            p.put(remove_layer(
                level,
                level.layers[static_cast<std::size_t>(random.below(static_cast<int>(level.layers.size())))]->id));
            return "remove layer";
        }
        case 7: {
            const level::Cut cut{{random.flip() ? 16 : 32, 16}, {random.flip() ? 0 : 16, 0}, {}, 1};
            p = recut_sheet(p, p.sheets[0]->id, cut, true);
            return "recut";
        }
        default: {
            p = rejoin(set_case(p, 1, join::cases(level::JoinKind::full)[static_cast<std::size_t>(random.below(47))],
                                {{static_cast<level::TileId>(1 + random.below(47)), 1 + random.below(200), {}}}));
            return "case";
        }
    }
}

} // namespace

TEST_CASE("every state of a long session comes back by undo, and survives the disk", "[history]") {
    for (unsigned seed = 0; seed < 4; ++seed) {
        make::Folder dir;
        make::Small small;
        make::save_with_pictures(small.project, dir.path());
        Document doc = Document::open(dir.path());
        make::Random random(seed);
        std::vector<std::map<std::string, std::string>> texts{store::texts(doc.project())};
        for (int step = 0; step < 60; ++step) {
            level::Project p = doc.project();
            const std::string name = something(random, p, "place");
            doc.apply(name, std::move(p));
            texts.push_back(store::texts(doc.project()));
            if (step % 15 == 0) {
                doc.save();
                CHECK(store::texts(store::load(dir.path())) == texts.back());
            }
        }
        for (std::size_t i = texts.size() - 1; i > 0; --i) {
            REQUIRE(store::texts(doc.project()) == texts[i]);
            doc.undo();
        }
        CHECK(store::texts(doc.project()) == texts[0]);
        for (std::size_t i = 1; i < texts.size(); ++i) doc.redo();
        CHECK(store::texts(doc.project()) == texts.back());
        doc.save();
        CHECK(store::texts(store::load(dir.path())) == texts.back());
        // Whatever came of it can be built and read back.
        CHECK_NOTHROW(parcel::build(doc.project(), *doc.project().level("place"), dir / "built"));
        CHECK_NOTHROW(vicinum::load(dir / "built"));
    }
}

TEST_CASE("outlines followed through a session are those of the last state", "[history]") {
    make::Small small;
    make::Random random(9);
    const join::Rules rules(small.project);
    const level::TileTable tiles(small.project);
    level::Level level = small.level();
    outline::Trace live = outline::trace(level, tiles);
    for (int i = 0; i < 200; ++i) {
        const Hand hand = random.flip(0.3) ? make::eraser() : make::material(1 + random.below(2));
        const level::Level next =
            lay(small.project, rules, level, small.ground, hand,
                box_cells({random.below(40), random.below(30), 1 + random.below(6), 1 + random.below(6)}))
                .level;
        outline::retrace(live, next, tiles, level::difference(level, next, small.project).cells);
        level = next;
    }
    CHECK(live == outline::trace(level, tiles));
}

TEST_CASE("taking back ten thousand random edits gives every state as it was", "[history]") {
    make::Small small({64, 48});
    Document document(small.project, "/nowhere");
    make::Random random(2024);
    // Everything that cells hold, as one number: states are values, and none may ever change behind one's back.
    const auto sum = [&](const level::Project& p) {
        std::uint64_t out = 0;
        for (const level::LayerRef& l : p.level(small.id)->layers) {
            if (l->kind() != level::LayerKind::tiles) continue;
            level::each_cell(l->grid(), box_of(l->grid().size()), [&](Point at, level::Cell c, level::MaterialId m) {
                std::uint64_t h = out ^ (std::uint64_t{c.bits} << 8) ^ m;
                h = (h ^ static_cast<std::uint64_t>(at.x * 977 + at.y)) * 0x9E3779B97F4A7C15ULL;
                out = h ^ (h >> 29);
            });
        }
        return out;
    };
    std::vector<std::uint64_t> sums{sum(document.project())};
    const join::Rules rules(document.project());
    constexpr int kEdits = 10000;
    for (int i = 0; i < kEdits; ++i) {
        const int kind = random.below(4);
        Hand hand = kind == 0   ? make::eraser()
                    : kind == 1 ? make::laying(static_cast<level::TileId>(49 + random.below(4)))
                                : make::material(1 + random.below(2));
        hand.share_empty = random.flip(0.2) ? 50 : 0;
        const Point at{random.below(64), random.below(48)};
        level::Project next = document.project();
        next.put(lay(next, rules, *next.level(small.id), random.flip() ? small.ground : small.front, hand,
                     box_cells({at.x, at.y, 1 + random.below(6), 1 + random.below(6)}))
                     .level);
        document.apply("Edit", std::move(next));
        if (i % 50 == 49) sums.push_back(sum(document.project()));
    }
    for (int i = kEdits; i > 0; --i) {
        if (i % 50 == 0) REQUIRE(sum(document.project()) == sums[static_cast<std::size_t>(i / 50)]);
        document.undo();
    }
    CHECK(sum(document.project()) == sums[0]);
    CHECK_FALSE(document.can_undo());
    for (int i = 0; i < kEdits; ++i) document.redo();
    CHECK(sum(document.project()) == sums.back());
}
