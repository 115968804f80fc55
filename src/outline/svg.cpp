#include "outline/svg.hpp"

#include <cmath>
#include <cstdio>

namespace vic::outline {

namespace {

std::string escaped(const std::string& text) {
    std::string out;
    for (const char c : text) {
        if (c == '<')
            out += "&lt;";
        else if (c == '>')
            out += "&gt;";
        else if (c == '&')
            out += "&amp;";
        else if (c == '"')
            out += "&quot;";
        else if (static_cast<unsigned char>(c) >= 32)
            out += c;
    }
    return out;
}

// Whole where it is, else to a thousandth.
std::string number(double v) {
    const double whole = std::round(v);
    char text[32];
    std::snprintf(text, sizeof text, std::abs(v - whole) < 5e-4 ? "%.0f" : "%.3f", v == 0 ? 0.0 : v);
    return text;
}

std::string place(const Lattice& lattice, Point units) {
    const Lattice::Pixels p = lattice.pixel_of({units.x / double(kUnit), units.y / double(kUnit)});
    return number(p.x) + " " + number(p.y);
}

} // namespace

std::string svg(const level::Level& level, const std::vector<Outline>& outlines, const std::vector<OneWayEdge>& one_way,
                const std::string& art) {
    const Lattice lattice = level.geometry();
    const Box box = level.pixels();
    const std::string size = " width=\"" + std::to_string(box.w) + "\" height=\"" + std::to_string(box.h) + "\"";
    std::string out = "<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\"" + size +
                      " viewBox=\"" + std::to_string(box.x) + " " + std::to_string(box.y) + " " +
                      std::to_string(box.w) + " " + std::to_string(box.h) + "\">\n<title>" + escaped(level.name) +
                      "</title>\n";
    if (!art.empty())
        out += "<image x=\"" + std::to_string(box.x) + "\" y=\"" + std::to_string(box.y) + "\"" + size +
               " style=\"image-rendering:pixelated\" xlink:href=\"" + escaped(art) + "\"/>\n";
    out +=
        "<path class=\"blocks\" fill=\"#22302d\" fill-opacity=\"0.25\" fill-rule=\"evenodd\" stroke=\"#22302d\" "
        "stroke-width=\"1\" d=\"";
    for (const Outline& o : outlines) {
        for (std::size_t i = 0; i < o.points.size(); ++i) out += (i == 0 ? "M" : "L") + place(lattice, o.points[i]);
        out += "Z";
    }
    out += "\"><title>What blocks</title></path>\n";
    if (!one_way.empty()) {
        out += "<path class=\"one-way\" fill=\"none\" stroke=\"#c2452d\" stroke-width=\"2\" d=\"";
        for (const OneWayEdge& e : one_way) out += "M" + place(lattice, e.from) + "L" + place(lattice, e.to);
        out += "\"><title>One-way edges</title></path>\n";
    }
    return out + "</svg>\n";
}

} // namespace vic::outline
