#include "app/gesture/gesture.hpp"

#include <QCoreApplication>
#include <QPainter>

#include "app/session/session.hpp"
#include "level/level.hpp"

namespace vic::app {

Gesture::~Gesture() = default;

void Gesture::move(const Pointer&) {}
void Gesture::release(const Pointer&) {}
void Gesture::cancel() {}
void Gesture::forget() {}
bool Gesture::preview(const Pointer&) { return false; }
void Gesture::paint(QPainter&, const std::optional<Pointer>&) const {}

Session& Gesture::session() const { return board_.session(); }

const Camera& Gesture::camera() const { return board_.camera(); }

Lattice Gesture::grain() const { return session().workLattice(); }

Point Gesture::pixelAt(const Pointer& at) const { return camera().pixelAt(at.place); }

Point Gesture::cellAt(const Pointer& at) const { return grain().cell_at(pixelAt(at)); }

QString Gesture::placeName(const Pointer& at) const {
    const Point cell = cellAt(at);
    return tr("cell %1, %2").arg(cell.x).arg(cell.y);
}

std::optional<Sentence> Gesture::beyond(const Pointer& at) const {
    const level::Level level = session().work();
    if (level.cells().contains(cellAt(at))) return std::nullopt;
    return Sentence{level.grows ? tr("Beyond the edge: the level grows to here when something is laid")
                                : tr("Outside the level")};
}

QString bold(const QString& text) { return "<b>" + text.toHtmlEscaped() + "</b>"; }

} // namespace vic::app
