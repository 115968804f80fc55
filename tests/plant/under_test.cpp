// Plantings under and over one another, what lies flat among what stands, and tints.
#include <algorithm>
#include <cmath>
#include <set>

#include "edit/recipe_text.hpp"
#include "level/standing.hpp"
#include "plant/bed.hpp"

using namespace vic;
using namespace vic::plant;
using level::AreaOf;
using plant_test::Bed;

TEST_CASE("what lies flat grows under what stands, and keeps off its like alone", "[plant][flat]") {
    Bed b;
    level::PropKind leaves = *b.project.prop_kind(b.stone);
    leaves.id = 850;
    leaves.flat = true;
    b.project.put(leaves);
    b.pass({{b.tree}}, 30);
    b.pass({{leaves.id}}).where = {{.of = AreaOf::pass, .pass = 0, .to = 14}};
    const std::vector<level::Prop> all = b.grown().props;
    const level::PropKinds kinds(b.project);
    int under = 0, together = 0;
    for (const level::Prop& p : all)
        for (const level::Prop& q : all) {
            if (p.kind != leaves.id || (p.at == q.at && q.kind == p.kind)) continue;
            if (q.kind == leaves.id)
                together += std::hypot(p.at.x - q.at.x, p.at.y - q.at.y) < 8;
            else
                under += kinds.foot_box(q).contains(p.at);
        }
    CHECK(under > 20);
    CHECK(together == 0);
    // One that stands, placed by hand, is no hindrance to it either; one that lies is.
    level::Prop by_hand{990, b.tree, {480, 400}};
    b.plant();
    const std::size_t before = b.props().size();
    b.level.edit(b.layer).props().put(by_hand);
    level::Planting only = b.recipe();
    only.passes.erase(only.passes.begin());
    only.passes[0].where.clear();
    const auto count_with = [&](level::PropKindId kind) {
        by_hand.kind = kind;
        level::Level with = b.level;
        with.edit(b.layer).props() = level::Props();
        with.edit(b.layer).props().put(by_hand);
        return plant::grow(b.project, with, b.layer, only).props;
    };
    CHECK(before > 50);
    const auto near_it = [&](const std::vector<level::Prop>& props) {
        return std::any_of(props.begin(), props.end(),
                           [&](const level::Prop& p) { return kinds.foot_box(by_hand).contains(p.at); });
    };
    CHECK(near_it(count_with(b.tree)));
    CHECK(!near_it(count_with(leaves.id)));
}

TEST_CASE("a planting keeps off the plantings under it, and those do not see it", "[plant][order]") {
    Bed b;
    b.pass({{b.tree}}, 40);
    b.plant();
    level::Layer upper = *b.level.layer(b.layer);
    upper.id = 860;
    upper.content = level::PlantedProps{};
    level::Planting& recipe = upper.planted()->recipe;
    recipe.area = b.recipe().area;
    level::Pass p;
    p.name = "stones";
    p.kinds = {{b.stone}};
    recipe.passes = {p};
    b.level.layers.push_back(std::make_shared<const level::Layer>(upper));
    const edit::Planted above = edit::planted(b.project, b.level, 860);
    const level::PropKinds kinds(b.project);
    int met = 0;
    for (const level::Prop& q : above.level.layer(860)->props())
        for (const level::Prop& tree : b.props()) met += kinds.foot_box(tree).contains(q.at);
    CHECK(above.count > 50);
    CHECK(met == 0);
    // The lower one grows as if nothing lay over it.
    CHECK(edit::planted(b.project, above.level, b.layer).level.layer(b.layer)->props().all() == b.props());
    // Near its trees.
    level::Level near = above.level;
    near.edit(860).planted()->recipe.passes[0].where = {{.of = AreaOf::props, .kind = b.tree, .to = 24}};
    const edit::Planted close = edit::planted(b.project, near, 860);
    CHECK(close.count > 10);
    CHECK(close.count < above.count);
    for (const level::Prop& q : close.level.layer(860)->props()) {
        double least = 1e9;
        for (const level::Prop& tree : b.props())
            least = std::min(least, std::hypot(tree.at.x - q.at.x, tree.at.y - q.at.y));
        CHECK(least < 24 + 20 + 8);
    }
}

TEST_CASE("each has a tint on the way from one to another", "[plant][tint]") {
    Bed b;
    level::Pass& pass = b.pass({{b.herb}}, 12);
    pass.tint = {40, 200, 100, 255};
    pass.tint_to = Rgba{200, 40, 100, 255};
    std::set<int> reds;
    int wrong = 0;
    for (const level::Prop& p : b.grown().props) {
        reds.insert(p.look.tint.r);
        // On the line between both, within rounding.
        wrong += p.look.tint.b != 100 || std::abs(p.look.tint.r + p.look.tint.g - 240) > 2 || p.look.tint.r < 40 ||
                 p.look.tint.r > 200;
    }
    CHECK(wrong == 0);
    CHECK(reds.size() > 8);
    CHECK(*reds.begin() == 40);
    CHECK(*reds.rbegin() == 200);
    // The same places as without.
    level::Level plain = b.level;
    plain.edit(b.layer).planted()->recipe.passes[0].tint_to.reset();
    const Grown same = grow(b.project, plain, b.layer, plain.layer(b.layer)->planted()->recipe);
    const Grown with = b.grown();
    REQUIRE(same.props.size() == with.props.size());
    for (std::size_t i = 0; i < same.props.size(); ++i) CHECK(same.props[i].at == with.props[i].at);
    const std::string text = edit::recipe_text(b.project, b.level, b.recipe());
    CHECK(edit::recipe_of(b.project, b.level, text) == b.recipe());
}
