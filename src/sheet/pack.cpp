#include "sheet/pack.hpp"

#include <algorithm>
#include <map>

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

} // namespace vic::sheet
