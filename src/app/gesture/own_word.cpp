// Writing the cells' own word in Bound: that one may walk there, or may not.

#include <QPainter>
#include <QPen>
#include <QString>
#include <algorithm>
#include <cstdint>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "edit/own_word.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"

namespace vic::app {

namespace {

class WordBrush : public Gesture {
  public:
    WordBrush(Board& board, edit::OwnWord word) : Gesture(board), word_(word) {}
    bool takes(const Pointer& at) const override {
        return session().stage() == Stage::bound && at.button != Qt::MiddleButton;
    }
    bool press(const Pointer& at) override;
    void move(const Pointer& at) override;
    void release(const Pointer& at) override;
    void cancel() override { stroke_.reset(); }
    bool preview(const Pointer& at) override;
    void paint(QPainter& painter, const std::optional<Pointer>& at) const override;
    Sentence sentence(const Pointer& at) const override;
    level::LayerId target() const override {
        return session().level() ? edit::own_word_layer(*session().level(), storey()) : 0;
    }

  private:
    struct Stroke {
        level::Level level;
        edit::OwnWord word;
        std::uint32_t nextId;
        Point last;
    };
    [[nodiscard]] Lattice lattice() const { return session().level()->geometry(); }
    [[nodiscard]] Point cell(const Pointer& at) const { return lattice().cell_at(pixelAt(at)); }
    [[nodiscard]] level::Region tip(Point cell) const {
        level::Region out;
        for (const Point p : edit::pencil_cells(cell, session().hand().size, session().hand().round)) out.add(p);
        return out;
    }
    [[nodiscard]] bool locked() const {
        const level::Layer* layer = session().level()->layer(target());
        return layer && layer->locked;
    }
    [[nodiscard]] int storey() const { return session().activeLayer() ? session().activeLayer()->storey : 0; }
    // Whether a piece stands there and blocks: it is merged whatever the cell says.
    [[nodiscard]] bool pieceBlocks(Point cell) const;
    void write(const level::Region& cells);

    edit::OwnWord word_;
    std::optional<Stroke> stroke_;
};

bool WordBrush::pieceBlocks(Point cell) const {
    const auto kits = session().bodies().all();
    const level::TileTable tiles(session().project());
    for (const level::LayerRef& layer : session().level()->layers) {
        if (layer->storey != storey() || !layer->tiles() || layer->grain().finer != 1) continue;
        const level::TileId tile = layer->grid().cell(cell).tile();
        const level::Tile* const is = tiles.find(tile).tile;
        if (is && is->shape != level::TileShape::none &&
            std::any_of(kits.begin(), kits.end(), [tile](const auto& kit) { return kit->piece_of.contains(tile); }))
            return true;
    }
    return false;
}

void WordBrush::write(const level::Region& cells) {
    stroke_->level = edit::with_own_word(stroke_->level, cells, stroke_->word, tr("Own words").toStdString(),
                                         stroke_->nextId, storey());
    board_.show(stroke_->level);
    board_.drawAgain();
}

bool WordBrush::press(const Pointer& at) {
    if (locked()) {
        emit session().said(sentence(at).text, true);
        return false;
    }
    stroke_ =
        Stroke{*session().level(), at.left() ? word_ : edit::OwnWord::none, session().project().next_id, cell(at)};
    write(tip(stroke_->last));
    return true;
}

void WordBrush::move(const Pointer& at) {
    if (!stroke_ || cell(at) == stroke_->last) return;
    level::Region cells;
    for (const Point p : edit::line_cells(stroke_->last, cell(at))) cells.add(tip(p));
    stroke_->last = cell(at);
    write(cells);
}

void WordBrush::release(const Pointer&) {
    auto stroke = std::exchange(stroke_, std::nullopt);
    if (!stroke || stroke->level.layers == session().level()->layers) return;
    level::Project p = session().project();
    p.next_id = stroke->nextId;
    p.put(std::move(stroke->level));
    session().apply(stroke->word == edit::OwnWord::may_walk       ? tr("One may walk here")
                    : stroke->word == edit::OwnWord::may_not_walk ? tr("One may not walk here")
                                                                  : tr("Take a cell's own word back"),
                    std::move(p));
}

bool WordBrush::preview(const Pointer& at) {
    if (locked()) return false;
    std::uint32_t next = session().project().next_id;
    board_.show(edit::with_own_word(*session().level(), tip(cell(at)), word_, {}, next, storey()));
    return true;
}

void WordBrush::paint(QPainter& p, const std::optional<Pointer>& at) const {
    if (!at || !session().level()) return;
    const Point c = cell(*at);
    const int size = session().hand().size;
    p.setPen(QPen(word_ == edit::OwnWord::may_walk ? paper().brine : paper().vermilion, 2));
    p.setBrush(Qt::NoBrush);
    camera().drawCells(p, lattice(), {c.x - (size - 1) / 2, c.y - (size - 1) / 2, size, size});
}

Sentence WordBrush::sentence(const Pointer& at) const {
    if (const auto none = beyond(at)) return *none;
    if (locked())
        return {tr("%1 is locked: unlock it in the Section")
                    .arg(bold(QString::fromStdString(session().level()->layer(target())->name))),
                true};
    QString says = word_ == edit::OwnWord::may_walk ? tr("Says that <b>one may walk</b> at %1")
                                                    : tr("Says that <b>one may not walk</b> at %1");
    if (word_ == edit::OwnWord::may_walk && pieceBlocks(cell(at)))
        says = tr("Says that <b>one may walk</b> at %1 in the plan alone: the piece there blocks in three dimensions");
    return {tr("%1 · right button takes its own word back").arg(says.arg(placeName(at)))};
}

} // namespace

std::unique_ptr<Gesture> makeMayWalk(Board& board) {
    return std::make_unique<WordBrush>(board, edit::OwnWord::may_walk);
}
std::unique_ptr<Gesture> makeMayNotWalk(Board& board) {
    return std::make_unique<WordBrush>(board, edit::OwnWord::may_not_walk);
}

} // namespace vic::app
