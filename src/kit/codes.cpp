#include "kit/codes.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <tuple>
#include <utility>

namespace vic::kit {

namespace {

constexpr std::size_t kMostLooked = 200'000; // triangles of a piece whose corners are looked at

class CodeReader {
  public:
    CodeReader(const std::vector<Body>& bodies, const std::vector<Mesh>& meshes, const Told& told, KitReading& out)
        : bodies_(bodies), meshes_(meshes), told_(told), out_(out) {}

    void read() {
        std::map<std::string, std::vector<std::pair<std::size_t, int>>> by_stem; // pieces and their numbers
        for (std::size_t i = 0; i < bodies_.size(); ++i)
            if (const auto n = numbered(bodies_[i].name)) by_stem[n->first].emplace_back(i, n->second);
        for (const auto& [stem, all] : by_stem) {
            std::set<int> apart;
            for (const auto& [piece, number] : all) apart.insert(number);
            if (apart.size() < 5) continue; // few agree by chance
            Codes codes;
            codes.stem = stem;
            codes.corners = *apart.rbegin() > 15;
            codes.of = static_cast<int>(4 * all.size());
            codes.agree = -1;
            const auto said = told_.counting.find(stem);
            const bool is_said = said != told_.counting.end();
            for (const auto& way : is_said ? std::vector{said->second.bit_of_side} : ways_of_counting(codes.corners))
                for (const bool inverted : {false, true}) {
                    if (is_said && inverted != said->second.inverted) continue;
                    int agree = 0;
                    for (const auto& [piece, number] : all)
                        for (std::size_t side = 0; side < 4; ++side)
                            agree += (out_.pieces[piece].couplings[side] != 0) ==
                                     (((number >> way[side]) & 1) != (inverted ? 1 : 0));
                    if (agree <= codes.agree) continue;
                    codes.agree = agree;
                    codes.bit_of_side = way;
                    codes.inverted = inverted;
                }
            if (codes.corners) read_corners(all, codes);
            // Else they were counted one after the other, say.
            codes.taken = is_said ? said->second.taken : codes.agree * 10 >= codes.of * 8;
            out_.codes.push_back(codes);
            if (!codes.taken) continue;
            std::map<int, int> variants;
            for (const auto& [piece, number] : all) {
                out_.pieces[piece].code = number;
                out_.pieces[piece].variant = variants[number]++;
                out_.pieces[piece].codes = static_cast<int>(out_.codes.size()) - 1;
            }
            if (!is_said)
                out_.reasons.push_back(
                    say("\"%1\" is numbered by its neighbours: %2 of %3 sides couple as the numbers say", stem,
                        codes.agree, codes.of));
            if (codes.corners_agree > 0)
                out_.reasons.push_back(say("\"%1\": %2 of %3 corners between sides that meet look as the numbers say",
                                           stem, codes.corners_agree, codes.corners_of));
        }
    }

  private:
    // The last number in a name, up to 255, and the name without it; nothing where there is none.
    static std::optional<std::pair<std::string, int>> numbered(const std::string& name) {
        std::size_t end = name.size();
        while (end > 0 && !std::isdigit(static_cast<unsigned char>(name[end - 1]))) --end;
        std::size_t from = end;
        while (from > 0 && std::isdigit(static_cast<unsigned char>(name[from - 1]))) --from;
        if (from == end || end - from > 3) return std::nullopt;
        const int out = std::stoi(name.substr(from, end - from));
        if (out > 255) return std::nullopt;
        return std::pair(name.substr(0, from) + name.substr(end), out);
    }
    // At what heights, in millimetres, faces of a piece lie over a place.
    [[nodiscard]] std::vector<int> heights_over(std::size_t i, double x, double z) const {
        std::vector<int> out;
        const Mesh& mesh = meshes_[i];
        for (const auto& t : mesh.triangles) {
            const Vec &a = mesh.points[t[0]], &b = mesh.points[t[1]], &c = mesh.points[t[2]];
            const auto side = [&](const Vec& p, const Vec& q) {
                return (q.x - p.x) * (z - p.z) - (q.z - p.z) * (x - p.x);
            };
            const double u = side(b, c), v = side(c, a), w = side(a, b), all = u + v + w;
            if (std::abs(all) < 1e-12 || (u > 0) != (all > 0) || (v > 0) != (all > 0) || (w > 0) != (all > 0)) continue;
            out.push_back(static_cast<int>(std::lround((u * a.y + v * b.y + w * c.y) / all * 1000)));
        }
        std::sort(out.begin(), out.end());
        return out;
    }
    // Of corners between two sides that meet: whether pieces with the bit are alike there, and those without, and the
    // two are not.
    [[nodiscard]] std::pair<int, int> corners_that_agree(
        const std::vector<std::pair<std::size_t, int>>& all, const Codes& codes, const std::array<int, 4>& bits,
        const std::vector<std::array<std::vector<int>, 4>>& looks) const {
        const auto is_set = [&](int number, int bit) { return ((number >> bit) & 1) != (codes.inverted ? 1 : 0); };
        std::array<std::map<std::vector<int>, int>, 2> often;
        int of = 0;
        for (std::size_t k = 0; k < all.size(); ++k)
            for (std::size_t corner = 0; corner < 4; ++corner) {
                const int number = all[k].second;
                if (!is_set(number, codes.bit_of_side[corner]) || !is_set(number, codes.bit_of_side[(corner + 1) % 4]))
                    continue;
                ++of;
                ++often[is_set(number, bits[corner]) ? 1 : 0][looks[k][corner]];
            }
        std::array<const std::vector<int>*, 2> most{};
        int agree = 0;
        for (std::size_t which = 0; which < 2; ++which) {
            const auto best = std::max_element(often[which].begin(), often[which].end(),
                                               [](const auto& a, const auto& b) { return a.second < b.second; });
            if (best == often[which].end()) return {0, of};
            most[which] = &best->first;
            agree += best->second;
        }
        return {*most[0] == *most[1] ? 0 : agree, of};
    }
    void read_corners(const std::vector<std::pair<std::size_t, int>>& all, Codes& codes) const {
        codes.bit_of_corner = corner_bits(codes.bit_of_side);
        std::vector<std::array<std::vector<int>, 4>> looks(all.size());
        const double m = out_.module.width, east = 0.46 * m, south = 0.443 * m; // on no diagonal of a face
        for (std::size_t k = 0; k < all.size(); ++k) {
            const auto [i, number] = all[k];
            if (m <= 0 || out_.pieces[i].cells != Size{1, 1} || meshes_[i].triangles.size() > kMostLooked) return;
            const double middle = out_.origin == Origin::corner ? m / 2 : 0;
            for (std::size_t corner = 0; corner < 4; ++corner)
                looks[k][corner] = heights_over(i, middle + (corner < 2 ? east : -east),
                                                middle + (corner == 0 || corner == 3 ? -south : south));
        }
        std::array<int, 4> left{};
        std::size_t n = 0;
        for (int bit = 0; bit < 8; ++bit)
            if (std::find(codes.bit_of_side.begin(), codes.bit_of_side.end(), bit) == codes.bit_of_side.end() && n < 4)
                left[n++] = bit;
        if (n != 4) return;
        if (codes.bit_of_corner)
            std::tie(codes.corners_agree, codes.corners_of) =
                corners_that_agree(all, codes, *codes.bit_of_corner, looks);
        // The usual way stays where no other one is clearly better.
        for (std::size_t first = 0; first < 4; ++first)
            for (const std::size_t step : {1U, 3U}) {
                std::array<int, 4> bits{};
                for (std::size_t corner = 0; corner < 4; ++corner) bits[corner] = left[(first + step * corner) % 4];
                const auto [agree, of] = corners_that_agree(all, codes, bits, looks);
                if (agree <= codes.corners_agree) continue;
                codes.bit_of_corner = bits;
                codes.corners_agree = agree;
                codes.corners_of = of;
            }
    }

    const std::vector<Body>& bodies_;
    const std::vector<Mesh>& meshes_;
    const Told& told_;
    KitReading& out_;
};

} // namespace

// Once round from any side either way, with corners between the sides or behind them, or row by row.
std::vector<std::array<int, 4>> ways_of_counting(bool corners) {
    std::vector<std::array<int, 4>> out;
    const auto put = [&](int first, int step, int size) {
        for (const int way : {1, -1}) {
            std::array<int, 4> bits{};
            for (int side = 0; side < 4; ++side)
                bits[static_cast<std::size_t>(side)] = ((first + way * step * side) % size + size) % size;
            out.push_back(bits);
        }
    };
    for (int first = 0; first < 4; ++first) put(first, 1, 4);
    if (corners)
        for (int first = 0; first < 8; ++first) put(first, 2, 8);
    if (!corners) { // north, west, east, south, row by row
        out.push_back({0, 2, 3, 1});
        out.push_back({3, 1, 0, 2});
    } else { // row by row with the corners
        out.push_back({1, 4, 6, 3});
        out.push_back({6, 3, 1, 4});
    }
    return out;
}

std::optional<std::array<int, 4>> corner_bits(const std::array<int, 4>& sides) {
    if (sides == std::array{1, 4, 6, 3}) return std::array{2, 7, 5, 0};
    if (sides == std::array{6, 3, 1, 4}) return std::array{5, 0, 2, 7};
    const int step = ((sides[1] - sides[0]) % 8 + 8) % 8;
    // Between the sides, one by one round.
    if (step == 2 || step == 6) {
        std::array<int, 4> out{};
        for (std::size_t i = 0; i < 4; ++i) out[i] = (sides[i] + (step == 2 ? 1 : 7)) % 8;
        return out;
    }
    // Behind the four sides, each corner as the side before it, whichever way they go round.
    std::array<int, 4> out{};
    for (std::size_t i = 0; i < 4; ++i) {
        if (sides[i] > 3) return std::nullopt;
        out[i] = sides[step == 1 ? i : (i + 1) % 4] + 4;
    }
    return out;
}

void read_codes(const std::vector<Body>& bodies, const std::vector<Mesh>& meshes, const Told& told, KitReading& out) {
    CodeReader(bodies, meshes, told, out).read();
}

} // namespace vic::kit
