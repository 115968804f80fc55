#include "sheet/pack.hpp"

#include <algorithm>
#include <cassert>
#include <cstddef>
#include <map>
#include <string>
#include <string_view>
#include <utility>

#include "base/shelves.hpp"
#include "sheet/png.hpp"

namespace vic::sheet {

namespace {

constexpr int kLeastSide = 64;

void paste(Image& onto, const Image& what, Point at) {
    for (int y = 0; y < what.height(); ++y)
        for (int x = 0; x < what.width(); ++x) onto.put(at.x + x, at.y + y, what.at(x, y));
}

} // namespace

std::optional<Packed> pack_pictures(std::vector<NamedPicture> pictures, const std::vector<level::Part>& before,
                                    const Image& before_image) {
    std::sort(pictures.begin(), pictures.end(),
              [](const NamedPicture& a, const NamedPicture& b) { return a.name < b.name; });
    std::map<std::string, Box> old;
    for (const level::Part& part : before) old[part.name] = part.box;
    std::map<std::string, Box> place;
    std::map<std::string, Image> art;
    std::vector<const NamedPicture*> fresh;
    for (const NamedPicture& p : pictures) {
        const auto known = old.find(p.name);
        if (known != old.end() && known->second.size() == p.image.size())
            place[p.name] = known->second;
        else
            fresh.push_back(&p);
        art[p.name] = p.image;
    }
    for (const auto& [name, box] : old)
        if (!art.contains(name)) {
            place[name] = box;
            art[name] = cropped(before_image, box);
        }

    // New ones go onto shelves below all that have a place, tallest first.
    std::vector<Size> all, fresh_sizes;
    for (const auto& [name, image] : art) all.push_back(image.size());
    for (const NamedPicture* p : fresh) fresh_sizes.push_back(p->image.size());
    int width = std::max(before_image.width(), kLeastSide);
    if (before.empty()) width = shelf_width(all, width, 1);
    for (const Size s : all)
        while (width < s.w) width *= 2;
    int top = 0;
    for (const auto& [name, box] : place) top = std::max(top, box.bottom() + 1);
    const Shelves shelves = on_shelves(fresh_sizes, width, 1, top);
    for (std::size_t i = 0; i < fresh.size(); ++i) {
        const Point at = shelves.corners[i];
        place[fresh[i]->name] = {at.x, at.y, fresh_sizes[i].w, fresh_sizes[i].h};
    }
    int height = std::max(1, before_image.height());
    for (const auto& [name, box] : place) height = std::max(height, box.bottom());
    if (width > kMostSide || height > kMostSide) return std::nullopt;
    Packed out;
    out.image = Image({width, height});
    for (const auto& [name, box] : place) {
        paste(out.image, art.at(name), box.corner());
        out.parts.push_back({name, box});
    }
    return out;
}

namespace {

constexpr int kEvenColumns = 8;

// Numbers in names count as numbers.
bool natural_less(const std::string& a, const std::string& b) {
    const auto digit = [](char c) { return c >= '0' && c <= '9'; };
    const auto number = [&](const std::string& s, std::size_t& i) {
        while (i < s.size() && s[i] == '0') ++i;
        const std::size_t from = i;
        while (i < s.size() && digit(s[i])) ++i;
        return std::string_view(s).substr(from, i - from);
    };
    std::size_t i = 0, k = 0;
    while (i < a.size() && k < b.size()) {
        if (digit(a[i]) && digit(b[k])) {
            const std::string_view left = number(a, i), right = number(b, k);
            if (left.size() != right.size()) return left.size() < right.size();
            if (left != right) return left < right;
        } else {
            if (a[i] != b[k]) return a[i] < b[k];
            ++i;
            ++k;
        }
    }
    if (a.size() - i != b.size() - k) return a.size() - i < b.size() - k;
    return a < b;
}

} // namespace

bool are_even(const std::vector<NamedPicture>& pictures) {
    if (pictures.size() < 2) return false;
    const Size size = pictures.front().image.size();
    return size.w == size.h && size.w <= kMostEven &&
           std::all_of(pictures.begin(), pictures.end(), [&](const auto& p) { return p.image.size() == size; });
}

bool are_even(const std::vector<level::Part>& parts) {
    if (parts.size() < 2) return false;
    const Size size = parts.front().box.size();
    return size.w == size.h && size.w <= kMostEven && std::all_of(parts.begin(), parts.end(), [&](const auto& p) {
               return p.box.size() == size && p.box.x % size.w == 0 && p.box.y % size.h == 0;
           });
}

std::optional<Packed> pack_even(std::vector<NamedPicture> pictures, const std::vector<level::Part>& before,
                                const Image& before_image) {
    assert(are_even(pictures));
    std::sort(pictures.begin(), pictures.end(),
              [](const NamedPicture& a, const NamedPicture& b) { return natural_less(a.name, b.name); });
    const int side = pictures.front().image.width();
    std::map<std::string, Box> place;
    int taken = 0; // places, counted row by row
    for (const level::Part& part : before) {
        place[part.name] = part.box;
        taken = std::max(taken, part.box.y / side * kEvenColumns + part.box.x / side + 1);
    }
    const int columns = before.empty() ? std::min<int>(kEvenColumns, static_cast<int>(pictures.size())) : kEvenColumns;
    for (const NamedPicture& p : pictures)
        if (!place.contains(p.name)) {
            place[p.name] = {taken % kEvenColumns * side, taken / kEvenColumns * side, side, side};
            ++taken;
        }
    const Size size{std::max(before_image.width(), std::min(taken, columns) * side),
                    std::max(before_image.height(), (taken + kEvenColumns - 1) / kEvenColumns * side)};
    if (size.h > kMostSide) return std::nullopt;
    Packed out;
    out.image = Image(size);
    for (const level::Part& part : before) paste(out.image, cropped(before_image, part.box), part.box.corner());
    for (const NamedPicture& p : pictures) paste(out.image, p.image, place.at(p.name).corner());
    for (const auto& [name, box] : place) out.parts.push_back({name, box});
    return out;
}

} // namespace vic::sheet
