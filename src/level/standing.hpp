// Where props stand: what of the level their pictures, feet and shapes cover, however they are turned and scaled.
#pragma once

#include <functional>
#include <memory>
#include <unordered_map>
#include <vector>

#include "level/project.hpp"

namespace vic::level {

// A place in pixels of the level or of a picture, between pixels, too.
struct Spot {
    double x = 0, y = 0;
};
using Spots = std::vector<Spot>; // a closed line without its first point again

// How colours come out: each times `times`, plus `plus`; `times.a` is how much is seen of it at all.
struct Wash {
    Rgba times{255, 255, 255, 255};
    Rgba plus{0, 0, 0, 0}; // its alpha is not used
    [[nodiscard]] bool changes() const { return *this != Wash{}; }
    bool operator==(const Wash&) const = default;
};
Wash wash_of(const Look& look);
Wash washed(const Wash& inner, const Wash& outer); // the one that does what `inner` and then `outer` do

// From the pixels of a kind's picture, as large as it is drawn, into the level and back. Whole turns by quarters and
// whole scales lead from pixels to pixels exactly.
class Placing {
  public:
    Placing(const PropKind& kind, Point at, const Look& look);
    [[nodiscard]] Spot in_level(Spot picture) const {
        return {xx_ * picture.x + xy_ * picture.y + dx_, yx_ * picture.x + yy_ * picture.y + dy_};
    }
    [[nodiscard]] Spot in_picture(Spot level) const {
        const double x = level.x - dx_, y = level.y - dy_;
        return {ux_ * x + uy_ * y, vx_ * x + vy_ * y};
    }
    // Which pixel of the picture is seen in a pixel of the level; it may lie beside the picture.
    [[nodiscard]] Point seen_in(Point pixel) const;
    // The pixels of the level whose middle lies in a box of the picture, or in the box around that.
    [[nodiscard]] Box around(const Box& picture) const;
    [[nodiscard]] Spots corners(const Box& picture) const; // clockwise on screen
    // Whether a picture is only moved, and perhaps mirrored.
    [[nodiscard]] bool plain() const { return plain_; }

  private:
    double xx_, xy_, yx_, yy_, dx_, dy_; // into the level
    double ux_, uy_, vx_, vy_;           // and back
    bool plain_;
};

// One picture of a prop in the level: the prop itself, or one of an ensemble's parts.
struct Piece {
    const PropKind* kind = nullptr; // has a picture of its own
    PropId prop = 0;
    std::vector<PartId> part{}; // the way to it, one for each ensemble it lies in; empty for a prop of its own
    Point at;
    Look look; // how it stands; of its colours `wash` tells
    Wash wash{};
    const EnsemblePart* from = nullptr; // null for a prop of its own
    // Where it counts as standing when it is asked what is drawn in front; pixels of the level.
    [[nodiscard]] Point sorted_at() const { return {at.x, at.y + look.ahead}; }
    [[nodiscard]] Placing placing() const { return {*kind, at, look}; }
    [[nodiscard]] Box box() const { return placing().around(box_of(kind->drawn())); } // pixels of the level
    [[nodiscard]] Box foot_box() const { return placing().around(kind->drawn_foot()); }
};

// Whether one is drawn before the other, so that it lies behind it, where both lie on one layer.
bool before(const Piece& one, const Piece& other);

// Whether an area of a prop has the name of one of the project's areas that tell.
bool is_told(const Project& project, const PropArea& area);
// A kind of prop of the project's that is to walkers what `part` says.
PropKind as_said(const Project& project, PropKind kind, const PartHere& part);

// Kinds by id, in constant time. Points into the project it was made from, which must outlive it.
class PropKinds {
  public:
    PropKinds() = default;
    explicit PropKinds(const Project& project);
    // With what the level alone says of what they block.
    PropKinds(const Project& project, const Level& level);
    [[nodiscard]] const PropKind* find(PropKindId id) const; // null where there is none
    // No picture of a prop with that scale, turned or not, reaches further from its pivot, to any side. In pixels.
    [[nodiscard]] int reach(int most_scale, bool turned) const;
    [[nodiscard]] int reach(const Props& props) const { return reach(props.most_scale(), props.any_turned()); }

    // visit(const Piece&) for each picture of the prop; for none where its kind is gone. Ensembles deeper than
    // kMostEnsembleDepth end there.
    template <class Visit>
    void each_piece(const Prop& prop, Visit visit) const {
        const PropKind* kind = find(prop.kind);
        if (!kind) return;
        Piece piece{kind, prop.id, {}, prop.at, prop.look, wash_of(prop.look)};
        if (!kind->is_ensemble())
            visit(static_cast<const Piece&>(piece));
        else
            each_part(piece, prop.of_its_own(), [&](const Piece& p) { visit(p); });
    }
    [[nodiscard]] std::vector<Piece> pieces(const Prop& prop) const;
    // The pixels of the level in which anything of it is seen.
    [[nodiscard]] Box box(const Prop& prop) const;
    // The box around the feet of its pieces.
    [[nodiscard]] Box foot_box(const Prop& prop) const;

  private:
    void each_part(const Piece& ensemble, const PropOwn& own, const std::function<void(const Piece&)>& visit) const;
    std::unordered_map<PropKindId, const PropKind*> kinds_;
    std::vector<std::shared_ptr<const PropKind>> own_; // those that are otherwise in a level
    int side_ = 0;                                     // the longest of a picture
    int diagonal_ = 0;                                 // likewise
};

// Where a part of an ensemble stands: `look` and place of the ensemble, then the part's.
Point part_place(Point at, const Look& ensemble, Point part);
Look part_look(const Look& ensemble, const Look& part);
// The turn that is left when one of them is taken out of the other: of a part, as it is seen.
std::int16_t turned_by(int turn, int by); // within a full turn

// What of a kind's foot blocks, in pixels of its picture as it is drawn, each clockwise; nothing where it does not.
std::vector<Spots> blocking_shape(const PropKind& kind);
// Of a piece in the level: its foot, and what blocks, in pixels of the level. On isometric lattices a foot is the
// diamond in its box, and what blocks of it the same share of that.
Spots foot_of(const Piece& piece, const Lattice& lattice);
// The corners of the foot in the level, as they are called in its kind's picture: north-west, north-east, south-east,
// south-west; so on isometric lattices, too, where it is the share of the diamond that the picture has it.
Spots foot_corners(const Piece& piece, const Lattice& lattice);
std::vector<Spots> blocking_of(const Piece& piece, const Lattice& lattice);

// Whether two outlines without dents share any area.
bool overlap(const Spots& a, const Spots& b);

// Size, pivot and foot of an ensemble follow from its parts: its kind with them. The project may have the kind in
// another state. Parts that are gone are left out.
PropKind fitted(const Project& project, PropKind ensemble);
// The same for all ensembles of the project, after kinds changed or went. One whose parts are all gone goes, too.
void fit_ensembles(Project& project);
// The pictures that a prop of each kind is drawn with, deeper ensembles counted; kMostPieces + 1 where there are more.
std::unordered_map<PropKindId, int> piece_counts(const Project& project);
// Why the project's ensembles cannot be: one holds itself, or too many; "" where nothing is wrong.
Text ensembles_trouble(const Project& project);
} // namespace vic::level
