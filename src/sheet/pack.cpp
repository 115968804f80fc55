#include "sheet/pack.hpp"

#include <algorithm>
#include <map>

#include "sheet/png.hpp"

namespace vic::sheet {

namespace {

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
    std::int64_t area = 1;
    int widest = 1;
    for (const auto& [name, image] : art) {
        area += Size{image.width() + 1, image.height() + 1}.area();
        widest = std::max(widest, image.width());
    }
    int width = std::max(before_image.width(), 64);
    while (width < widest || (before.empty() && std::int64_t{width} * width < area)) width *= 2;
    int top = 0;
    for (const auto& [name, box] : place) top = std::max(top, box.bottom() + 1);
    std::stable_sort(fresh.begin(), fresh.end(), [](const NamedPicture* a, const NamedPicture* b) {
        return a->image.height() > b->image.height();
    });
    Point at{0, top};
    int shelf = 0;
    for (const NamedPicture* p : fresh) {
        if (at.x > 0 && at.x + p->image.width() > width) {
            at = {0, at.y + shelf + 1};
            shelf = 0;
        }
        place[p->name] = {at.x, at.y, p->image.width(), p->image.height()};
        at.x += p->image.width() + 1;
        shelf = std::max(shelf, p->image.height());
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
