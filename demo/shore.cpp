// What grows, lies and is left behind along the marsh, and who works there.
#include <cmath>
#include <map>

#include "sheets.hpp"

namespace pell {

namespace {

using Shades = std::array<Rgba, 5>; // dark to light

namespace leaf {
constexpr Shades alder{rgb(0x1F3022), rgb(0x2C4429), rgb(0x3F5F31), rgb(0x587C3D), rgb(0x789A4E)};
constexpr Shades willow{rgb(0x37503F), rgb(0x4F6E52), rgb(0x6F8F68), rgb(0x93AE80), rgb(0xBCCB9E)};
constexpr Shades sedge{rgb(0x33492B), rgb(0x4C6835), rgb(0x6F8A42), rgb(0x98A955), rgb(0xC4C478)};
} // namespace leaf
constexpr Shades kDrift{rgb(0x4E463C), rgb(0x756B5C), rgb(0x9A8F7D), rgb(0xBDB29D), rgb(0xDAD1BC)};
constexpr Shades kRock{rgb(0x45443F), rgb(0x6B6A62), rgb(0x87857B), rgb(0xA6A396), rgb(0xC6C2B3)};

Rgba shade(const Shades& of, double light) {
    return of[static_cast<std::size_t>(std::clamp(static_cast<int>(light * 5), 0, 4))];
}

// A lump of leaves or stone, lit from above on the left. Its rim is `rough` by that share of its radius.
void lump(Image& image, Point middle, int rx, int ry, const Shades& colours, double rough, int grain, int seed) {
    for (int y = middle.y - ry - 2; y <= middle.y + ry + 2; ++y)
        for (int x = middle.x - rx - 2; x <= middle.x + rx + 2; ++x) {
            const double dx = (x - middle.x) / double(rx), dy = (y - middle.y) / double(ry);
            const double angle = std::atan2(dy, dx);
            const int spoke = static_cast<int>(std::floor((angle + M_PI) * 11 / M_PI));
            const double rim = 1 - rough * chance(spoke, middle.x + middle.y, seed);
            const double r = std::hypot(dx, dy);
            if (r > rim) continue;
            const double tuft = chance(x / grain, (y + x / grain % 2) / grain, seed + 1);
            double light = 0.52 - 0.30 * dx * 0.6 - 0.42 * dy + (tuft - 0.5) * 0.5;
            if (r > rim - 0.18 && dy > 0) light -= 0.25;
            image.put(x, y, shade(colours, light));
        }
}

void trunk(Image& image, int x, int top, int bottom, int wide) {
    for (int y = top; y <= bottom; ++y) {
        const int spread = y > bottom - 3 ? y - bottom + 3 : 0;
        for (int i = -wide / 2 - spread; i <= (wide - 1) / 2 + spread; ++i)
            image.put(x + i, y,
                      i < 0   ? ink::oak
                      : i > 0 ? ink::umber
                              : (chance(x, y, 61) < 0.3 ? ink::dark : ink::peat));
    }
}

Image alder(bool tall, int seed) {
    Image image(tall ? Size{44, 64} : Size{38, 50});
    const int w = image.width(), h = image.height();
    trunk(image, w / 2, h - 20, h - 3, tall ? 4 : 3);
    // From the back to the front and from the skirt to the top.
    const auto part = [&](double x, double y, double rx, double ry, int i) {
        lump(image, {static_cast<int>(w * x), static_cast<int>(h * y)}, static_cast<int>(w * rx),
             static_cast<int>(h * ry), leaf::alder, 0.28, 2, seed * 31 + i);
    };
    part(0.50, 0.24, 0.24, 0.19, 0);
    part(0.28, 0.44, 0.23, 0.18, 1);
    part(0.71, 0.42, 0.24, 0.18, 2);
    part(0.36, 0.64, 0.25, 0.15, 3);
    part(0.66, 0.62, 0.26, 0.16, 4);
    part(0.49, 0.46, 0.26, 0.21, 5);
    outline(image, rgb(0x18231A));
    return image;
}

Image willow(bool old, int seed) {
    Image image(old ? Size{62, 62} : Size{48, 50});
    const int w = image.width(), h = image.height();
    trunk(image, w / 2, h / 2, h - 3, old ? 6 : 4);
    lump(image, {w / 2, h * 30 / 100}, w * 34 / 100, h * 24 / 100, leaf::willow, 0.2, 2, seed);
    // Strands that hang from the crown, longer at its rim.
    for (int x = 3; x < w - 3; ++x) {
        const double at = (x - w / 2.0) / (w / 2.0 - 2);
        const double top = h * (0.12 + 0.32 * at * at);
        const double end =
            h * (0.60 + 0.20 * chance(x / 2, 1, seed) - 0.10 * at * at + (std::abs(at) < 0.2 ? -0.12 : 0));
        const double own = chance(x, 2, seed);
        for (int y = static_cast<int>(top); y < static_cast<int>(end); ++y) {
            const double down = (y - top) / (end - top);
            if (chance(x, y / 3, seed + 7) < 0.10 + 0.25 * down) continue;
            image.put(x, y, shade(leaf::willow, 0.86 - 0.55 * down - 0.18 * at + (own - 0.5) * 0.55));
        }
    }
    outline(image, rgb(0x27382B));
    return image;
}

Image sedge(int blades, int wide, int seed) {
    Image image({wide, 15});
    for (int i = 0; i < blades; ++i) {
        const double lean = (i + 0.5) / blades * 2 - 1 + (chance(i, 1, seed) - 0.5) * 0.3;
        const double length = 8 + 4 * chance(i, 2, seed) - 2 * std::abs(lean);
        for (int k = 0; k <= static_cast<int>(length); ++k) {
            const double t = k / length;
            const int x = static_cast<int>(std::lround(wide / 2.0 - 0.5 + lean * (1.2 + (wide / 2.0 - 2) * t * t)));
            image.put(x, 13 - k + static_cast<int>(t * t * std::abs(lean) * 3),
                      shade(leaf::sedge, 0.15 + 0.7 * t + (chance(i, 3, seed) - 0.5) * 0.3));
        }
    }
    return image;
}

Image driftwood(int length, bool forked, int seed) {
    Image image({length, forked ? 16 : 11});
    const int base = image.height() - 4;
    for (int x = 2; x < length - 2; ++x) {
        const double at = (x - 2.0) / (length - 5);
        const int middle = base - static_cast<int>(std::lround(2.5 * std::sin(at * 2.6 + seed)));
        const int thick = 2 + static_cast<int>(2.2 * std::sin(M_PI * std::min(1.0, at * 0.8 + 0.2)));
        for (int i = 0; i < thick; ++i)
            image.put(x, middle - thick / 2 + i,
                      shade(kDrift, 0.95 - 0.75 * i / thick - (chance(x / 3, i, seed) < 0.25 ? 0.25 : 0)));
    }
    if (forked) {
        line(image, {length / 2, base - 2}, {length / 2 + 6, 2}, kDrift[3], 2);
        line(image, {length / 2 + 3, base - 6}, {length / 2 + 9, base - 8}, kDrift[2]);
    }
    outline(image, rgb(0x3A332B));
    return image;
}

Image stone(int w, int h, int seed) {
    Image image({w, h});
    lump(image, {w / 2, h / 2}, w / 2 - 2, h / 2 - 2, kRock, 0.16, 3, seed);
    if (w > 12)
        for (int i = 0; i < w / 3; ++i) // lichen and moss at the foot
            image.put(3 + static_cast<int>(chance(i, 5, seed) * (w - 6)),
                      h - 4 - static_cast<int>(chance(i, 6, seed) * 3), ink::moss);
    outline(image, rgb(0x2F2E2A));
    return image;
}

// Stems with heads; `heads` has the colours of a flower, dark to light.
Image flowers(int stems, const std::array<Rgba, 3>& heads, bool spikes, int seed) {
    Image image({14, 13});
    for (int i = 0; i < stems; ++i) {
        const int x = 2 + i * 9 / std::max(1, stems - 1);
        const int top = 3 + static_cast<int>(chance(i, 1, seed) * 4);
        const int lean = static_cast<int>(chance(i, 2, seed) * 3) - 1;
        line(image, {x + lean, top + 1}, {x, 11}, i % 2 ? ink::moss : ink::moss_deep);
        const Point head{x + lean, top};
        if (spikes) {
            fill(image, {head.x, head.y - 1, 1, 4}, heads[0]);
            fill(image, {head.x + (i % 2 ? 1 : -1), head.y, 1, 2}, heads[1]);
            image.put(head.x, head.y - 1, heads[2]);
        } else {
            fill(image, {head.x - 1, head.y, 3, 1}, heads[1]);
            fill(image, {head.x, head.y - 1, 1, 3}, heads[1]);
            image.put(head.x, head.y - 1, heads[2]);
            image.put(head.x, head.y + 1, heads[0]);
        }
    }
    for (int i = 0; i < 5; ++i)
        image.put(2 + static_cast<int>(chance(i, 3, seed) * 10), 10 + static_cast<int>(chance(i, 4, seed) * 2),
                  ink::reed);
    return image;
}

Image twigs(int count, int seed) {
    Image image({20, 11});
    for (int i = 0; i < count; ++i) {
        const Point a{2 + static_cast<int>(chance(i, 1, seed) * 15), 2 + static_cast<int>(chance(i, 2, seed) * 7)};
        const Point b{std::clamp(a.x + static_cast<int>(chance(i, 3, seed) * 14) - 7, 1, 18),
                      std::clamp(a.y + static_cast<int>(chance(i, 4, seed) * 6) - 3, 1, 9)};
        line(image, a, b, i % 3 == 0 ? ink::oak : i % 3 == 1 ? ink::peat : ink::umber);
    }
    return image;
}

// Wet, worn ground: darker towards the middle, with a rim that frays.
Image stain(int w, int h, Rgba colour, int seed) {
    Image image({w, h});
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            const double r = std::hypot((x + 0.5 - w / 2.0) / (w / 2.0), (y + 0.5 - h / 2.0) / (h / 2.0));
            const double at = r + (chance(x / 2, y / 2, seed) - 0.5) * 0.35;
            if (at > 0.95) continue;
            Rgba c = colour;
            c.a = at < 0.45 ? 150 : at < 0.7 ? 110 : 70;
            image.set(x, y, c);
        }
    return image;
}

// On her side in the mud since the great tide: tarred strakes, a stump of a mast, ribs where the planks are gone.
Image barge() {
    Image image({124, 56});
    const auto deck = [](double t) { return 14 + 9 * std::pow(std::abs(t - 0.52) * 2, 2.4); };  // upper edge
    const auto keel = [](double t) { return 46 - 11 * std::pow(std::abs(t - 0.48) * 2, 3.0); }; // lower edge
    for (int x = 4; x < 120; ++x) {
        const double t = (x - 4) / 116.0;
        const int top = static_cast<int>(deck(t)), low = static_cast<int>(keel(t));
        const int rail = top + (low - top) * 42 / 100;
        for (int y = top; y <= low; ++y) {
            Rgba c;
            if (y < rail) { // the deck, seen from above
                c = (x + y / 5) % 17 == 0            ? ink::umber
                    : (y - top) % 5 == 4             ? ink::peat
                    : chance(x / 9, y / 5, 71) < 0.5 ? ink::oak
                                                     : rgb(0x7A5A39);
            } else { // the side
                const int strake = (y - rail) / 4;
                c = (y - rail) % 4 == 3                ? rgb(0x1E1A18)
                    : chance(x / 7, strake, 72) < 0.35 ? rgb(0x4A4038)
                                                       : rgb(0x3A322C);
                if (chance(x, y, 73) < 0.03) c = ink::salt_deep;
            }
            image.set(x, y, c);
        }
        image.set(x, top, ink::straw);
        image.set(x, rail, ink::plank);
        image.set(x, rail + 1, ink::umber);
    }
    // A hole in her side with ribs, and one in the deck: the hatch.
    polygon(image, {{70, 33}, {92, 31}, {97, 40}, {74, 43}},
            [](int x, int) { return x % 6 < 2 ? ink::peat : rgb(0x15120F); });
    polygon(image, {{46, 19}, {70, 18}, {71, 25}, {45, 26}},
            [](int, int y) { return y < 20 ? ink::umber : rgb(0x1B1714); });
    fill(image, {44, 18, 28, 1}, ink::straw);
    fill(image, {30, 3, 5, 20}, ink::oak); // the stump
    fill(image, {30, 3, 1, 20}, ink::straw);
    fill(image, {34, 3, 1, 20}, ink::umber);
    line(image, {30, 3}, {33, 1}, ink::plank);
    outline(image, ink::dark);
    // The mud that holds her.
    for (int x = 2; x < 122; ++x) {
        const double t = (x - 4) / 116.0;
        const int low = static_cast<int>(keel(std::clamp(t, 0.0, 1.0)));
        const int high = 2 + static_cast<int>(chance(x / 5, 1, 74) * 4);
        for (int y = low + 1 - high; y <= low + 3; ++y)
            image.put(x, y, chance(x, y, 75) < 0.25 ? ink::clay_deep : ink::peat);
    }
    return image;
}

Image rake() {
    Image image({34, 16});
    line(image, {3, 12}, {27, 4}, ink::plank, 2);
    line(image, {3, 13}, {27, 5}, ink::umber);
    line(image, {25, 1}, {30, 9}, ink::oak, 2);
    for (int i = 0; i < 5; ++i) fill(image, {26 + i, 2 + i * 2, 3, 1}, ink::iron_light);
    outline(image, ink::dark);
    return image;
}

Image broken_sluice() {
    Image image({36, 28});
    line(image, {6, 4}, {3, 25}, ink::oak, 4);
    line(image, {5, 4}, {2, 25}, ink::straw);
    line(image, {30, 2}, {31, 25}, ink::oak, 4);
    line(image, {29, 2}, {30, 25}, ink::straw);
    line(image, {6, 7}, {22, 13}, ink::plank, 3); // the beam, down on one side
    line(image, {6, 6}, {22, 12}, ink::straw);
    for (int y = 14; y < 25; ++y)
        for (int x = 7; x < 28; ++x) {
            const int board = (y - 14) / 4;
            if (x > 26 - board * 3 - static_cast<int>(chance(board, y, 81) * 4)) continue;
            image.put(x, y, (y - 14) % 4 == 3 ? ink::umber : chance(0, board, 82) < 0.5 ? ink::oak : ink::peat);
        }
    line(image, {24, 24}, {33, 26}, ink::peat, 2);
    fill(image, {8, 12, 2, 3}, ink::rust);
    outline(image, ink::dark);
    return image;
}

// A figure from rows of letters.
Image figure(const std::vector<std::string>& rows, const std::map<char, Rgba>& colours) {
    Image image({static_cast<int>(rows.front().size()) + 2, static_cast<int>(rows.size()) + 2});
    for (int y = 0; y < static_cast<int>(rows.size()); ++y)
        for (int x = 0; x < static_cast<int>(rows[static_cast<std::size_t>(y)].size()); ++x)
            if (const auto c = colours.find(rows[static_cast<std::size_t>(y)][static_cast<std::size_t>(x)]);
                c != colours.end())
                image.set(x + 1, y + 1, c->second);
    outline(image, ink::dark);
    return image;
}

// A stride: with the legs together at 0 and 2, apart at 1 and 3; the trunk a pixel lower there.
std::vector<std::string> strode(std::vector<std::string> rows, std::size_t hips, int step) {
    if (step % 2 == 0) return rows;
    const bool right = step == 1;
    for (std::size_t y = hips; y < rows.size(); ++y) {
        // The legs are the left and the right half: one goes ahead, one behind.
        std::string row(rows[y].size(), '.');
        const int by = static_cast<int>(y - hips + 2) / 3;
        for (int x = 0; x < static_cast<int>(row.size()); ++x) {
            const char c = rows[y][static_cast<std::size_t>(x)];
            if (c == '.' || (c == 'p')) continue;
            const bool left_leg = x < 6;
            const int to = x + (left_leg == right ? -by : by) / (left_leg ? 1 : 2);
            if (to >= 0 && to < static_cast<int>(row.size())) row[static_cast<std::size_t>(to)] = c;
        }
        for (std::size_t x = 0; x < row.size(); ++x)
            if (rows[y][x] == 'p') row[x] = 'p';
        rows[y] = row;
    }
    return rows;
}

// Frames beside each other.
Image strip(const std::vector<Image>& frames) {
    Image out({frames.front().width() * static_cast<int>(frames.size()), frames.front().height()});
    for (std::size_t i = 0; i < frames.size(); ++i) paste(out, frames[i], {static_cast<int>(i) * frames[i].width(), 0});
    return out;
}

// A broad hat, a shirt and its shade, trousers, boots. One with a rake draws it to and fro.
Image salter(Rgba hat, Rgba shirt, Rgba shirt_shade, Rgba scarf, bool with_rake) {
    const std::map<char, Rgba> colours{
        {'h', hat},         {'H', ink::umber},      {'f', rgb(0xD7A27A)}, {'F', rgb(0xB07F5C)}, {'s', shirt},
        {'S', shirt_shade}, {'c', scarf},           {'t', rgb(0x5A5248)}, {'T', rgb(0x453E37)}, {'b', ink::dark},
        {'p', ink::plank},  {'i', ink::iron_light}, {'e', ink::dark}};
    const std::vector<std::string> rows{
        "....hhhh......", "...hhhhhh.....", "..hhhhhhhh....", ".HHHHHHHHHH...", "...fffffF.....", "...feffeF.....",
        "...fffffF.....", "....cccc......", "...scccsS.....", "..ssssssSS....", "..ssssssSS....", "..sssssssS....",
        "..fsssssSf....", "..fssssSSf....", "...ssssSS.....", "...ttttTT.....", "...ttttTT.....", "...ttt.TT.....",
        "...tt..TT.....", "...tt..TT.....", "...bb..bb.....", "..bbb..bbb....",
    };
    std::vector<Image> frames;
    for (int frame = 0; frame < 2; ++frame) {
        std::vector<std::string> now = rows;
        // Breathing: head and shoulders a pixel lower, the belt stays.
        if (frame == 1) {
            now.erase(now.begin() + 11);
            now.insert(now.begin(), std::string(rows.front().size(), '.'));
        }
        if (with_rake)
            for (std::size_t y = 0; y < now.size(); ++y) {
                const std::size_t at = frame == 0 ? 11 : 12;
                now[y][at] = 'p';
                if (y == 0) now[y].replace(at - 2, 4, "iipi");
                if (y == 1) now[y].replace(at - 2, 4, "i.pi");
                if (y == 12 + static_cast<std::size_t>(frame)) now[y][10] = 'f';
            }
        frames.push_back(figure(now, colours));
    }
    return strip(frames);
}

Image hero() {
    const std::map<char, Rgba> colours{
        {'h', rgb(0x3A2A22)}, {'H', rgb(0x5C4230)}, {'f', rgb(0xE0B08A)}, {'F', rgb(0xB98863)}, {'c', ink::vermilion},
        {'C', rgb(0x8F2F20)}, {'s', rgb(0x2F6E78)}, {'S', rgb(0x214E58)}, {'l', ink::lamp},     {'t', rgb(0xC8B68C)},
        {'T', rgb(0x9E8C66)}, {'b', rgb(0x4A3428)}, {'e', ink::dark},     {'k', ink::oak}};
    const std::vector<std::string> rows{
        "....hhhhh.....", "...hHHhhhh....", "...hHhhhhh....", "...hffffFh....", "...feffeF.....", "...fffffF.....",
        "....fffF......", "..cccccccC....", "..cCcccccCC...", "..sscccsSS.CC.", ".sssssssSSS.C.", "...ssssssSS...",
        ".ssksssssSS...", ".sskssssSSS...", ".fsssslsSSf...", "...kkkkkk.....", "...ttttTT.....", "...ttttTT.....",
        "...ttt.TT.....", "...tt..TT.....", "...tt..TT.....", "...bb..bb.....", "...bb..bb.....", "..bbb..bbb....",
    };
    std::vector<Image> frames;
    for (int step = 0; step < 4; ++step) frames.push_back(figure(strode(rows, 18, step), colours));
    return strip(frames);
}

struct Piece {
    const char* name;
    Image art;
    PropArt is{};
};

// Shelves of pictures with room between them.
Image shelves(const std::vector<Piece>& all, Size size, std::vector<PropArt>& props) {
    Image sheet(size);
    Point at{2, 2};
    int shelf = 0;
    for (const Piece& piece : all) {
        if (at.x + piece.art.width() + 2 > sheet.width()) at = {2, at.y + shelf + 2}, shelf = 0;
        paste(sheet, piece.art, at);
        PropArt art = piece.is;
        art.name = piece.name;
        art.box = {at.x, at.y, piece.art.width() / art.frames, piece.art.height()};
        props.push_back(art);
        at.x += piece.art.width() + 2;
        shelf = std::max(shelf, piece.art.height());
    }
    return sheet;
}

// A foot in the middle of the lower edge.
PropArt stands(const Image& art, int wide, int deep, bool blocks) {
    PropArt out;
    out.blocks = blocks;
    out.foot = Box{(art.width() - wide) / 2, art.height() - 1 - deep, wide, deep};
    out.height = art.height() - 2;
    return out;
}

PropArt lies() {
    PropArt out;
    out.flat = true;
    return out;
}

} // namespace

Image shore_sheet(std::vector<PropArt>& props) {
    std::vector<Piece> all;
    const auto put = [&](const char* name, Image art, int wide, int deep, bool blocks) {
        const PropArt is = stands(art, wide, deep, blocks);
        all.push_back({name, std::move(art), is});
    };
    put("Alder", alder(true, 3), 12, 6, true);
    put("Young alder", alder(false, 5), 10, 5, true);
    put("Willow", willow(true, 8), 14, 7, true);
    put("Young willow", willow(false, 9), 10, 5, true);
    put("Sedge", sedge(13, 19, 11), 11, 4, false);
    put("Low sedge", sedge(8, 15, 12), 8, 3, false);
    put("Thin sedge", sedge(6, 12, 13), 6, 3, false);
    put("Driftwood", driftwood(38, true, 1), 32, 5, true);
    put("Drift log", driftwood(30, false, 2), 26, 5, true);
    put("Drift branch", driftwood(20, false, 4), 14, 4, false);
    put("Boulder", stone(26, 20, 21), 22, 9, true);
    put("Stone", stone(18, 14, 22), 14, 6, true);
    put("Small stone", stone(11, 9, 23), 8, 4, false);
    const std::array<Rgba, 3> violet{rgb(0x5E4A86), rgb(0x8A6FB0), rgb(0xB9A0D6)};
    const std::array<Rgba, 3> pink{rgb(0xB0526C), rgb(0xDB8496), rgb(0xF4BCC2)};
    const std::array<Rgba, 3> yellow{rgb(0xB88420), rgb(0xE8BE3E), rgb(0xF8E28A)};
    put("Sea lavender", flowers(6, violet, true, 31), 8, 4, false);
    put("Thrift", flowers(5, pink, false, 32), 8, 4, false);
    put("Marsh marigold", flowers(4, yellow, false, 33), 8, 4, false);
    all.push_back({"Twigs", twigs(6, 41), lies()});
    all.push_back({"Few twigs", twigs(3, 42), lies()});
    all.push_back({"Stain", stain(46, 24, rgb(0x2A2E1C), 51), lies()});
    all.push_back({"Small stain", stain(30, 16, rgb(0x32331F), 52), lies()});
    put("Stranded barge", barge(), 112, 22, true);
    all.push_back({"Rake", rake(), lies()});
    put("Broken sluice", broken_sluice(), 32, 8, true);
    return shelves(all, {256, 224}, props);
}

Image figures_sheet(std::vector<PropArt>& props) {
    std::vector<Piece> all;
    const auto put = [&](const char* name, Image art, int frames, int ms) {
        const Image first({art.width() / frames, art.height()});
        PropArt is = stands(first, 8, 4, false);
        is.frames = frames;
        is.frame_ms = ms;
        all.push_back({name, std::move(art), is});
    };
    put("Salt raker", hero(), 4, 110);
    put("Salter with rake", salter(ink::straw, rgb(0xE4DCC8), rgb(0xB9AE96), rgb(0x8A5A44), true), 2, 480);
    put("Salter in blue", salter(rgb(0x8C7A5C), rgb(0x4F6F8C), rgb(0x3A536B), ink::salt_shade, false), 2, 720);
    put("Pump keeper", salter(rgb(0x4A4A4C), rgb(0x7A4A3C), rgb(0x5A352C), ink::lamp, false), 2, 620);
    return shelves(all, {128, 64}, props);
}

// Masonry in three tones, larger than that of the wall in front of it.
namespace {

Rgba masonry(int x, int y, const Shades& colours, int seed) {
    const int course = y / 10;
    const int along = x + (course % 2 ? 9 : 0);
    if (y % 10 == 9 || along % 18 == 17) return colours[0];
    const double c = chance(along / 18, course, seed);
    if (y % 10 == 0) return colours[c < 0.5 ? 2 : 3];
    return chance(x, y, seed + 1) < 0.04 ? colours[1] : colours[c < 0.6 ? 1 : 2];
}

constexpr Shades kVault{rgb(0x262E33), rgb(0x333E45), rgb(0x3D4A52), rgb(0x4C5B63), rgb(0x5E6F76)};

} // namespace

Image arch_prop() {
    constexpr int wide = 96, high = 108, inner = 36; // half of what is open
    const Shades stones{rgb(0x3B3F3E), rgb(0x5B5F5B), rgb(0x74786F), rgb(0x8D9085), rgb(0xA9AB9E)};
    Image image({wide, high});
    for (int y = 0; y < high; ++y)
        for (int x = 0; x < wide; ++x) {
            const double dx = x + 0.5 - wide / 2.0, dy = std::min(0.0, y + 0.5 - 46);
            const double r = std::hypot(dx, dy);
            if (y >= high - 6) { // the sill
                image.set(x, y,
                          y == high - 6  ? stones[4]
                          : x % 16 == 15 ? stones[0]
                          : y > high - 3 ? stones[1]
                                         : stones[2]);
                continue;
            }
            if (r < inner) continue;
            if (r > 47.5) {
                if (y < 46)
                    image.set(x, y, brick_at(x, y, 700, {ink::wall_deep, ink::wall, ink::wall}, ink::wall_deep));
                continue;
            }
            // Voussoirs around the head, quoins down the sides.
            const double angle = std::atan2(-dy, dx);
            const bool joint = y < 46 ? std::fmod(angle * 14 / M_PI + 0.5, 1.0) < 0.14 : y % 11 == 10;
            Rgba c = joint             ? stones[0]
                     : r < inner + 1.5 ? stones[4]
                     : r > 46          ? stones[0]
                     : dx < 0          ? stones[3]
                                       : stones[2];
            if (!joint && chance(x, y, 91) < 0.05) c = stones[1];
            image.set(x, y, c);
        }
    return image;
}

Image vaults_backdrop() {
    constexpr int wide = 192, high = 224;
    Image image({wide, high});
    for (int y = 0; y < high; ++y)
        for (int x = 0; x < wide; ++x) {
            const double dx = x + 0.5 - wide / 2.0, dy = std::min(0.0, y + 0.5 - 104);
            const double r = std::hypot(dx, dy * 1.05);
            if (r < 70 && y < 196) continue; // open towards what lies behind
            Rgba c = masonry(x, y, kVault, 95);
            if (r < 78 && y < 196)
                c = r < 72                                                             ? kVault[4]
                    : std::fmod(std::atan2(-dy, dx) * 18 / M_PI, 1.0) < 0.12 && dy < 0 ? kVault[0]
                                                                                       : kVault[3];
            if (y >= 196 && y < 200) c = y == 196 ? kVault[4] : kVault[1];
            if (x < 3 || x >= wide - 3) c = kVault[0]; // a pilaster's shade
            image.set(x, y, c);
        }
    return image;
}

Image depths_backdrop() {
    constexpr int wide = 256, high = 448;
    Image image({wide, high});
    const Shades far{rgb(0x10191E), rgb(0x16232A), rgb(0x1D2F38), rgb(0x273F49), rgb(0x34535D)};
    for (int y = 0; y < high; ++y)
        for (int x = 0; x < wide; ++x) {
            // Mist that is brighter lower down, in bands that waver.
            const double wave = 6 * std::sin(2 * M_PI * x / wide * 2) + 3 * std::sin(2 * M_PI * x / wide * 5 + 1);
            const double up = (y + wave) / high;
            Rgba c = up < 0.30 ? far[0] : up < 0.52 ? far[1] : up < 0.72 ? far[2] : up < 0.88 ? far[3] : far[4];
            // Piers in two rows, the further ones slimmer and paler.
            const int near = (x + 20) % 128, behind = (x + 92) % 64;
            if (behind < 9 && y < high * 88 / 100) c = behind < 3 ? far[2] : far[1];
            if (near < 22 && y < high * 94 / 100) c = near < 5 ? far[3] : near > 17 ? far[0] : far[1];
            if (near < 30 && near + 4 >= 0 && y % 128 < 8 && y < high * 94 / 100) c = y % 128 == 0 ? far[3] : far[1];
            image.set(x, y, c);
        }
    // A few lamps, far off.
    for (const Point p : {Point{52, 290}, Point{150, 198}, Point{214, 328}, Point{96, 382}}) {
        disc(image, p, 5, [&](int x, int y) { return image.at(x, y).g < 60 ? rgb(0x3B4A42) : image.at(x, y); });
        disc(image, p, 2, [](int, int) { return rgb(0x8A7A3E); });
        image.set(p.x, p.y, ink::lamp);
    }
    return image;
}

} // namespace pell
