#include <png.h>

#include <catch2/catch.hpp>

#include "base/files.hpp"
#include "sheet/png.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::sheet;

namespace {

// A PNG as libpng writes it, of any kind: an independent source of pictures.
struct PngKind {
    const char* name;
    int colour;
    int depth;
    bool interlaced;
    bool transparency;
};

void collect(png_structp png, png_bytep data, png_size_t n) {
    static_cast<std::string*>(png_get_io_ptr(png))->append(reinterpret_cast<char*>(data), n);
}

std::string written(const PngKind& kind, int width, int height) {
    std::string out;
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
    png_infop info = png_create_info_struct(png);
    png_set_write_fn(png, &out, collect, nullptr);
    png_set_IHDR(png, info, static_cast<png_uint_32>(width), static_cast<png_uint_32>(height), kind.depth, kind.colour,
                 kind.interlaced ? PNG_INTERLACE_ADAM7 : PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT,
                 PNG_FILTER_TYPE_DEFAULT);
    png_color palette[4] = {{255, 0, 0}, {0, 255, 0}, {0, 0, 255}, {10, 20, 30}};
    png_byte alphas[2] = {0, 128};
    if (kind.colour == PNG_COLOR_TYPE_PALETTE) {
        png_set_PLTE(png, info, palette, 4);
        if (kind.transparency) png_set_tRNS(png, info, alphas, 2, nullptr);
    }
    png_write_info(png, info);
    const std::size_t bytes = png_get_rowbytes(png, info);
    const int passes = kind.interlaced ? png_set_interlace_handling(png) : 1;
    for (int pass = 0; pass < passes; ++pass)
        for (int y = 0; y < height; ++y) {
            std::vector<png_byte> row(bytes);
            for (std::size_t i = 0; i < bytes; ++i)
                row[i] = static_cast<png_byte>(kind.colour == PNG_COLOR_TYPE_PALETTE
                                                   ? (kind.depth == 8 ? (i + static_cast<std::size_t>(y)) % 4 : 0x1B)
                                                   : i * 37 + static_cast<std::size_t>(y) * 11);
            png_write_row(png, row.data());
        }
    png_write_end(png, nullptr);
    png_destroy_write_struct(&png, &info);
    return out;
}

} // namespace

TEST_CASE("every kind of PNG is read", "[png]") {
    const PngKind kinds[] = {
        {"grey 1", PNG_COLOR_TYPE_GRAY, 1, false, false},
        {"grey 8", PNG_COLOR_TYPE_GRAY, 8, false, false},
        {"grey 16", PNG_COLOR_TYPE_GRAY, 16, true, false},
        {"grey alpha 8", PNG_COLOR_TYPE_GRAY_ALPHA, 8, true, false},
        {"rgb 8", PNG_COLOR_TYPE_RGB, 8, false, false},
        {"rgb 16", PNG_COLOR_TYPE_RGB, 16, false, false},
        {"rgba 8", PNG_COLOR_TYPE_RGB_ALPHA, 8, true, false},
        {"rgba 16", PNG_COLOR_TYPE_RGB_ALPHA, 16, true, false},
        {"palette 8", PNG_COLOR_TYPE_PALETTE, 8, false, true},
        {"palette 2", PNG_COLOR_TYPE_PALETTE, 2, true, false},
    };
    for (const PngKind& kind : kinds) {
        INFO(kind.name);
        const Image image = decode_png(written(kind, 19, 7), "a.png");
        CHECK(image.size() == Size{19, 7});
        // The same picture, interlaced or not.
        PngKind other = kind;
        other.interlaced = !kind.interlaced;
        CHECK(decode_png(written(other, 19, 7), "b.png") == image);
        CHECK(decode_png(encode_png(image), "c.png") == image);
    }
    const Image palette = decode_png(written(kinds[8], 4, 1), "p.png");
    CHECK(palette.at(0, 0) == Rgba{255, 0, 0, 0});
    CHECK(palette.at(1, 0) == Rgba{0, 255, 0, 128});
    CHECK(palette.at(2, 0) == Rgba{0, 0, 255, 255});
    // 16 bits are rounded, not cut: the two bytes of a sample are i * 37 and (i + 1) * 37.
    const Image deep = decode_png(written(kinds[2], 1, 1), "d.png");
    CHECK(deep.at(0, 0).r == (0 * 256 + 37 + 128) / 257);
}

TEST_CASE("a picture comes back as it was, and the same bytes each time", "[png]") {
    make::Random random(1);
    Image image({33, 17});
    for (int y = 0; y < 17; ++y)
        for (int x = 0; x < 33; ++x)
            image.set(x, y,
                      {static_cast<std::uint8_t>(random.below(256)), static_cast<std::uint8_t>(random.below(256)),
                       static_cast<std::uint8_t>(random.below(256)), static_cast<std::uint8_t>(random.below(256))});
    CHECK(decode_png(encode_png(image), "x") == image);
    CHECK(encode_png(image) == encode_png(image));
}

TEST_CASE("a PNG that is cut off anywhere is refused", "[png]") {
    const std::string whole = encode_png(make::tile(255, 32, make::Style::textured, 3));
    for (std::size_t n = 0; n < whole.size(); n += n < 60 ? 1 : 13) {
        INFO(n << " of " << whole.size());
        CHECK_THROWS_AS(decode_png(std::string_view(whole).substr(0, n), "cut.png"), InputError);
    }
}

TEST_CASE("a PNG with wrong bytes is refused or read, never worse", "[png]") {
    const std::string whole = encode_png(make::tile(255, 16, make::Style::textured, 3));
    make::Random random(5);
    int refused = 0;
    for (int i = 0; i < 400; ++i) {
        std::string bytes = whole;
        bytes[static_cast<std::size_t>(random.below(static_cast<int>(bytes.size())))] ^=
            static_cast<char>(1 + random.below(255));
        try {
            decode_png(bytes, "bad.png");
        } catch (const InputError&) {
            ++refused;
        }
    }
    CHECK(refused > 300);
}

TEST_CASE("a header that claims too much is refused before memory is taken", "[png]") {
    std::string bytes = encode_png(Image({4, 4}));
    const auto claim = [&](std::size_t at, std::uint32_t v) {
        for (std::size_t i = 0; i < 4; ++i) bytes[at + i] = static_cast<char>(v >> (24 - 8 * i));
    };
    for (const auto& [w, h] :
         {std::pair{60000U, 60000U}, {16384U, 16384U}, {0U, 5U}, {4000000000U, 1U}, {16000U, 8000U}}) {
        claim(16, w);
        claim(20, h);
        INFO(w << " x " << h);
        try {
            decode_png(bytes, "huge.png");
            FAIL("read");
        } catch (const InputError& e) {
            CHECK(e.file == "huge.png");
            CHECK_FALSE(e.remedy.empty());
        }
    }
}

TEST_CASE("what is no PNG is said to be none", "[png]") {
    for (const std::string& bytes :
         {std::string(), std::string("GIF89a and more"), std::string("\x89PNG\r\n\x1a\n"), std::string(100, '\0')}) {
        CHECK_THROWS_WITH(decode_png(bytes, "no.png"), Catch::Contains("no.png"));
    }
    CHECK(decode_png(encode_png(Image({1, 1}, {1, 2, 3, 4})), "one").at(0, 0) == Rgba{1, 2, 3, 4});
}
