// Loads a parcel and prints what an engine would make of it. Build: g++ -std=c++17 example.cpp -o example
#include <cstdio>

#include "vicinum_level.hpp"

int main(int argc, char** argv) {
    if (argc != 2) return std::puts("usage: example PARCEL"), 2;
    try {
        const vicinum::Level level = vicinum::load(argv[1]);
        std::printf("%s: %d x %d cells of %d x %d pixels\n", level.name.c_str(), level.size.x, level.size.y,
                    level.cell.x, level.cell.y);

        // Drawing: layers from back to front; a cell's picture is a rectangle of the atlas.
        for (const vicinum::Layer& layer : level.layers) {
            int filled = 0;
            for (int y = 0; y < level.size.y; ++y)
                for (int x = 0; x < level.size.x; ++x) {
                    const vicinum::Cell cell = layer.cell(x, y);
                    if (cell.empty()) continue;
                    const vicinum::Rect from = level.tiles[cell.tile()].atlas;
                    // draw(atlas, from.x, from.y, from.w, from.h, x * level.cell.x, y * level.cell.y, cell.quarters(),
                    //      cell.mirrored());
                    filled += from.w > 0;
                }
            std::printf("  layer %s (%s): %d cells, %zu props\n", layer.name.c_str(), layer.kind.c_str(), filled,
                        layer.props.size());
        }

        // Physics: one closed chain per outline.
        for (const vicinum::Outline& outline : level.outlines)
            std::printf("  %s of %zu corners\n", outline.hole ? "hole" : "mass", outline.points.size());

        for (const vicinum::Mark& mark : level.marks)
            std::printf("  %s \"%s\" at %d, %d\n", mark.kind.c_str(), mark.name.c_str(), mark.cells.x, mark.cells.y);
    } catch (const std::exception& e) {
        return std::fprintf(stderr, "%s\n", e.what()), 1;
    }
}
