// What is chosen in the document, one thing at a time.
#include <utility>
#include <vector>

#include "app/session/session.hpp"
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
    choice_.prop = id;
    choice_.mark = 0;
    emit changed();
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
    choice_.mark = id;
    choice_.prop = 0;
    emit changed();
}

const level::Mark* Session::mark() const {
    if (const level::Level* l = level())
        for (const level::Mark& m : l->marks)
            if (m.id == choice_.mark) return &m;
    return nullptr;
}

} // namespace vic::app
