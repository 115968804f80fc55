// Asking in Bound who decides over a place: a click offers to change what does.

#include <QPainter>
#include <QPen>
#include <QString>
#include <memory>
#include <optional>

#include "app/gesture/gesture.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "level/level.hpp"

namespace vic::app {

namespace {

class WhoDecides : public Gesture {
  public:
    using Gesture::Gesture;
    bool takes(const Pointer& at) const override {
        return session().stage() == Stage::bound && (at.left() || at.button == Qt::NoButton);
    }
    bool press(const Pointer& at) override {
        if (session().level()->cells().contains(cell(at))) emit session().whoAsked(cell(at));
        return false;
    }
    void paint(QPainter& p, const std::optional<Pointer>& at) const override {
        if (!at || !session().level() || beyond(*at)) return;
        p.setPen(QPen(paper().ink, 2));
        p.setBrush(Qt::NoBrush);
        const Point c = cell(*at);
        camera().drawCells(p, session().level()->geometry(), {c.x, c.y, 1, 1});
    }
    Sentence sentence(const Pointer& at) const override {
        if (const auto none = beyond(at)) return *none;
        return {tr("Offers to change <b>who decides</b> at %1").arg(placeName(at))};
    }

  private:
    [[nodiscard]] Point cell(const Pointer& at) const { return session().level()->geometry().cell_at(pixelAt(at)); }
};

} // namespace

std::unique_ptr<Gesture> makeWhoDecides(Board& board) { return std::make_unique<WhoDecides>(board); }

} // namespace vic::app
