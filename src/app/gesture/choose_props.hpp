// Choosing props and marks, moving and copying what is chosen, opening ensembles. Placing builds on it.
#pragma once

#include <optional>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "base/geometry.hpp"
#include "edit/dress.hpp"
#include "edit/placing.hpp"
#include "level/level.hpp"

class QPainter;

namespace vic::app {

inline constexpr level::PropId kShownProp = 0xEFFFFFFFU; // of the prop that is shown before it is placed

class ChooseProps : public Gesture {
  public:
    ChooseProps(Board& board, bool goesRound) : Gesture(board), goesRound_(goesRound) {}
    bool takes(const Pointer& at) const override;
    bool press(const Pointer& at) override;
    void move(const Pointer& at) override;
    void release(const Pointer& at) override;
    void cancel() override;
    bool holds() const override { return drag_.has_value(); }
    void paint(QPainter& painter, const std::optional<Pointer>& at) const override;
    Sentence sentence(const Pointer& at) const override;
    bool putAway() override;
    bool key(const QKeyEvent& event) override;

  protected:
    // A prop that comes to stand somewhere: as the options snap it, and what is in its way there.
    struct Spot {
        level::Prop prop;
        std::vector<edit::SnapLine> lines;
        edit::Stand stand;
    };
    [[nodiscard]] Spot spotFor(const level::Prop& wanted, const std::set<level::PropId>& kept, bool free) const;
    [[nodiscard]] level::LayerId layerOf(const level::Level& level, const level::Prop& prop) const;
    void paintProp(QPainter& painter, const level::Level& level, level::PropId id, bool chosen) const;
    void paintFeet(QPainter& painter, const level::Level& level, const level::Prop& prop, bool inTheWay) const;
    void paintFront(QPainter& painter, const level::Prop& prop) const;
    void paintLines(QPainter& painter, const std::vector<edit::SnapLine>& lines) const;
    // "its foot would stand in Barrel"; empty where nothing is in the way.
    [[nodiscard]] QString inTheWay(const level::Level& level, const edit::Stand& stand) const;
    [[nodiscard]] QString nameOf(const level::Prop& prop) const;

  private:
    struct Drag {
        edit::Chosen chosen;
        level::Prop grip; // the one that is held; id 0 for a mark
        Point from;       // the pointer's pixel
        bool copies = false;
        Point by;
        std::uint32_t nextId = 0;
        edit::Chosen shownChosen; // in `level`
        level::Level level;
        Spot spot;
    };
    struct Drawn {
        enum class Mode { fresh, add, remove };
        Mode mode = Mode::fresh;
        Point from, last;
        level::Spots line;
    };
    void begin(const Pointer& at, const edit::Chosen& chosen, const level::Prop& grip);
    void removeAt(const Pointer& at);
    void removeChosen();
    void nudge(Point by);
    [[nodiscard]] edit::Chosen drawnChosen() const;
    [[nodiscard]] Box box() const { return spanning(drawn_->from, drawn_->last); }
    bool goesRound_;
    std::optional<Drag> drag_;
    std::optional<Drawn> drawn_;
};

} // namespace vic::app
