// The pieces that stand in a level, by the cells that they touch; they come and go. All lengths are in 1/64 cells,
// heights too.
#pragma once

#include <cstdint>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <tuple>
#include <unordered_map>
#include <utility>
#include <vector>

#include "mass/merge.hpp"
#include "mass/sections.hpp"
#include "outline/trace.hpp"

namespace vic::mass {

class Crowd {
  public:
    // `lows`: where each storey begins.
    Crowd(std::vector<std::shared_ptr<const scene::LoadedKit>> kits, std::vector<int> lows);

    using Number = std::uint32_t; // of one that stands
    static constexpr Number kNobody = 0xFFFFFFFF;
    // Their numbers, kNobody of those that do not block. Box() may change.
    std::vector<Number> add(const std::vector<const scene::Placed*>& placed);
    void remove(Number number);

    struct Span {
        Box cells; // none where nothing is filled
        int from = 0, to = 0;
    };
    [[nodiscard]] Span span(Number number) const;
    // Where it is one that stays apart; null where it is not.
    [[nodiscard]] std::shared_ptr<const Body> body(Number number) const;
    [[nodiscard]] int pieces() const { return pieces_; } // that fill anything
    [[nodiscard]] int open() const { return open_; }     // whose meshes are not closed, or have nothing that is
    // All cells that are touched, and some beyond: the lattice of what filled() gives begins at its corner.
    [[nodiscard]] const Box& box() const { return box_; }
    // Much of what is kept is of pieces that went: a new one would be smaller.
    [[nodiscard]] bool worn() const { return shapes_.size() > 4 * standing_.size() + 1000; }

    // All heights at which anything begins or ends, and those of storeys in between.
    [[nodiscard]] std::vector<int> heights() const;
    [[nodiscard]] int storey_of(int height) const;
    // What is filled right above a height and, where that is given, not right above another one. As long as nothing
    // comes or goes it may be asked from several threads at once; this must outlive it.
    [[nodiscard]] outline::SolidSource filled(int height, std::optional<int> without = {}) const;

  private:
    struct Shape;
    struct Standing {
        const Shape* shape = nullptr; // none: it fills nothing
        Point cell;                   // its first
        int up = 0;                   // by how much it is lifted
        bool open = false;
        const Body* apart = nullptr; // about the corner of its first cell, on the ground
    };
    struct Filled {
        outline::SolidCode code = outline::kOpen;
        outline::Form form; // where it is one
    };
    // What fills a cell right above a height: numbers of parts of pieces, each once.
    using Stack = std::vector<std::uint32_t>;
    struct Stacks { // what parts less others; looked up without a copy
        const Stack& parts;
        const Stack& less;
    };
    struct Hash {
        using is_transparent = void;
        std::size_t operator()(const Stacks& key) const;
        std::size_t operator()(const std::pair<Stack, Stack>& key) const {
            return (*this)(Stacks{key.first, key.second});
        }
    };
    struct Same {
        using is_transparent = void;
        using Key = std::pair<Stack, Stack>;
        bool operator()(const Key& a, const Key& b) const { return a == b; }
        bool operator()(const Stacks& a, const Key& b) const { return a.parts == b.first && a.less == b.second; }
        bool operator()(const Key& a, const Stacks& b) const { return (*this)(b, a); }
    };
    struct Touch { // a piece in a cell
        Number number;
        std::uint32_t cell; // which of its shape's
    };
    struct Cut {
        const Shape* shape = nullptr;
        bool open = false;
        std::shared_ptr<const Body> apart{};
    };

    [[nodiscard]] Standing standing(const scene::Placed& placed);
    Cut shape_of(const scene::Placed& placed);
    const Shape* keep(const Sections& sections, Size size, Size on, Turn turn, Point half);
    void reach(const Box& cells);
    void put(Number number);
    [[nodiscard]] std::size_t index_of(Point cell) const {
        return static_cast<std::size_t>(cell.y - box_.y) * static_cast<std::size_t>(box_.w) +
               static_cast<std::size_t>(cell.x - box_.x);
    }
    void take(Point cell, int height, Stack& out, std::vector<Point>* bends) const;
    [[nodiscard]] const Filled& what(const Stack& parts, const Stack& less) const;

    std::vector<std::shared_ptr<const scene::LoadedKit>> kits_;
    std::vector<int> lows_;
    Box box_;
    int pieces_ = 0, open_ = 0;
    std::map<std::pair<std::size_t, std::size_t>, Sections> sections_; // by kit and piece
    std::map<std::tuple<std::size_t, std::size_t, int, Point>, Cut> laid_;
    std::map<std::tuple<std::size_t, std::size_t, scene::Placing>, Cut> free_;
    std::vector<std::unique_ptr<Shape>> shapes_;
    std::vector<level::Polygons> parts_; // by number, in units from the cell's corner
    std::vector<Standing> standing_;
    std::vector<Number> unused_;         // of those that went
    std::vector<std::vector<Touch>> at_; // by cell of the box: who touches it
    std::map<int, int> heights_;         // how many begin or end there
    mutable std::mutex known_guard_;
    mutable std::unordered_map<std::pair<Stack, Stack>, std::unique_ptr<Filled>, Hash, Same> known_;

  public:
    ~Crowd();
    Crowd(const Crowd&) = delete;
    Crowd& operator=(const Crowd&) = delete;
};

} // namespace vic::mass
