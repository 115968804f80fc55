// What is chosen in the document, one thing at a time.
#include <algorithm>
#include <utility>
#include <vector>

#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "edit/ensemble.hpp"
#include "edit/storeys.hpp"
#include "level/level.hpp"

namespace vic::app {

void Session::setCase(join::Mask mask) {
    choice_.joinCase = mask;
    emit changed();
}

void Session::setTiles(std::vector<level::TileId> tiles) {
    choice_.tiles = std::move(tiles);
    emit changed();
}

void Session::setProp(level::PropId id) {
    edit::Chosen one;
    if (id != 0) one.props.insert(id);
    setChosen(std::move(one));
}

void Session::setMeasured(std::optional<std::pair<Point, Point>> line) {
    choice_.measured = line;
    emit changed();
}

void Session::setFactsLook(FactsLook look) {
    choice_.factsLook = look;
    emit changed();
}

void Session::setMark(level::MarkId id) {
    edit::Chosen one;
    if (id != 0) one.marks.insert(id);
    setChosen(std::move(one));
}

void Session::setChosen(edit::Chosen chosen) {
    choice_.chosen = std::move(chosen);
    emit changed();
}

level::PropId Session::prop() const {
    const edit::Chosen& c = choice_.chosen;
    return c.props.size() == 1 && c.marks.empty() ? *c.props.begin() : 0;
}

void Session::openEnsemble(level::PropId prop) {
    const level::PropId was = std::exchange(choice_.ensemble, prop);
    choice_.chosen = {};
    if (prop == 0 && was != 0) choice_.chosen.props.insert(was);
    settle();
    emit changed();
    emit handChanged();
}

level::Level Session::dressed() const { return edit::opened(project(), *level(), choice_.ensemble); }

level::LayerId Session::dressedLayer() const { return choice_.ensemble != 0 ? edit::kPartsLayer : activeLayerId(); }

level::Level Session::onStorey(const level::Level& level) const {
    const level::Layer* active = activeLayer();
    const bool several = active && edit::storeys_of(level).size() > 1;
    return several ? edit::storey_alone(level, active->storey) : level;
}

bool Session::applyDressed(const QString& name, const level::Level& next, const std::string& merge,
                           std::uint32_t nextId) {
    level::Project p = project();
    p.next_id = std::max(p.next_id, nextId);
    if (choice_.ensemble == 0) {
        p.put(next);
    } else {
        try {
            p = edit::closed(std::move(p), next, next.id, choice_.ensemble, options().onlyHere);
        } catch (const InputError& e) {
            emit said(translated(e), true);
            return false;
        }
    }
    apply(name, std::move(p), merge);
    return true;
}

const level::Mark* Session::mark() const {
    const edit::Chosen& c = choice_.chosen;
    if (c.marks.size() != 1 || !c.props.empty()) return nullptr;
    if (const level::Level* l = level())
        for (const level::Mark& m : l->marks)
            if (m.id == *c.marks.begin()) return &m;
    return nullptr;
}

} // namespace vic::app
