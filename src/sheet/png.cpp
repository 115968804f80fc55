#include "sheet/png.hpp"

#include <png.h>

#include <cassert>
#include <cstring>

#include "base/error.hpp"

namespace vic::sheet {

namespace {

struct Source {
    std::string_view bytes;
    std::size_t at = 0;
};

// libpng reports errors by calling back and must not return; the message is kept in a plain buffer because the way out
// is longjmp, which runs no destructors.
struct Trouble {
    char message[160] = {};
};

void on_error(png_structp png, png_const_charp message) {
    auto* trouble = static_cast<Trouble*>(png_get_error_ptr(png));
    std::strncpy(trouble->message, message, sizeof(trouble->message) - 1);
    longjmp(png_jmpbuf(png), 1);
}

void on_warning(png_structp, png_const_charp) {}

void feed(png_structp png, png_bytep out, png_size_t count) {
    auto* source = static_cast<Source*>(png_get_io_ptr(png));
    if (source->bytes.size() - source->at < count) png_error(png, "the file ends too early");
    std::memcpy(out, source->bytes.data() + source->at, count);
    source->at += count;
}

void collect(png_structp png, png_bytep data, png_size_t count) {
    static_cast<std::string*>(png_get_io_ptr(png))->append(reinterpret_cast<const char*>(data), count);
}

void no_flush(png_structp) {}

// Width and height from the header, or nothing where the bytes are no PNG. Read by hand because libpng's own check of
// limits gives no numbers for the message.
bool header_size(std::string_view bytes, std::uint32_t& width, std::uint32_t& height) {
    static const unsigned char magic[8] = {0x89, 'P', 'N', 'G', 0x0D, 0x0A, 0x1A, 0x0A};
    if (bytes.size() < 24 || std::memcmp(bytes.data(), magic, 8) != 0) return false;
    // libpng passes over other chunks and takes the size from a later one.
    if (std::memcmp(bytes.data() + 12, "IHDR", 4) != 0) return false;
    const auto number = [&](std::size_t at) {
        std::uint32_t v = 0;
        for (std::size_t i = 0; i < 4; ++i) v = (v << 8) | static_cast<unsigned char>(bytes[at + i]);
        return v;
    };
    width = number(16);
    height = number(20);
    return true;
}

// Everything that lives across setjmp is behind pointers, so that nothing is left in a register.
bool decode(Source* source, Trouble* trouble, Image* image) {
    png_structp png = png_create_read_struct(PNG_LIBPNG_VER_STRING, trouble, on_error, on_warning);
    if (!png) return false;
    png_infop info = png_create_info_struct(png);
    auto** rows = new std::vector<png_bytep>*(new std::vector<png_bytep>());
    bool good = false;
    if (info && setjmp(png_jmpbuf(png)) == 0) {
        png_set_user_limits(png, kMostSide, kMostSide);
        png_set_read_fn(png, source, feed);
        png_read_info(png, info);
        png_set_scale_16(png);
        png_set_expand(png);
        png_set_gray_to_rgb(png);
        png_set_add_alpha(png, 0xFF, PNG_FILLER_AFTER);
        png_set_interlace_handling(png);
        png_read_update_info(png, info);
        if (png_get_rowbytes(png, info) != static_cast<png_size_t>(image->width()) * 4)
            png_error(png, "the rows have an unexpected length");
        if (png_get_image_height(png, info) != static_cast<png_uint_32>(image->height()))
            png_error(png, "it has another height than its header says");
        (*rows)->resize(static_cast<std::size_t>(image->height()));
        for (int y = 0; y < image->height(); ++y)
            (**rows)[static_cast<std::size_t>(y)] = reinterpret_cast<png_bytep>(image->row(y));
        png_read_image(png, (*rows)->data());
        png_read_end(png, nullptr);
        good = true;
    }
    delete *rows;
    delete rows;
    png_destroy_read_struct(&png, &info, nullptr);
    return good;
}

} // namespace

Image decode_png(std::string_view bytes, const std::string& file) {
    std::uint32_t width = 0;
    std::uint32_t height = 0;
    if (!header_size(bytes, width, height))
        throw InputError("This is not a PNG picture", file, "header", "Save the picture as PNG and add that file");
    if (width == 0 || height == 0 || width > kMostSide || height > kMostSide ||
        std::int64_t{width} * height > kMostPixels)
        throw InputError(
            say("The picture claims to be %1 × %2 pixels", width, height), file, "header",
            say("Pictures of 1 to %1 pixels a side and at most %2 pixels are read; cut it into smaller ones", kMostSide,
                kMostPixels));
    // A small file cannot hold a huge picture: deflate shrinks at most about 1032 to 1, and a pixel has at least one
    // bit.
    if (std::int64_t{width} * height / 8 / 1100 > static_cast<std::int64_t>(bytes.size()))
        throw InputError(
            say("The picture is cut off: %1 bytes cannot hold %2 × %3 pixels", bytes.size(), width, height), file,
            "data", "Export it again from where it was drawn");
    Image image(Size{static_cast<int>(width), static_cast<int>(height)});
    Source source{bytes};
    Trouble trouble;
    if (!decode(&source, &trouble, &image))
        throw InputError(say("The picture is damaged: %1", trouble.message), file, say("byte %1", source.at),
                         "Export it again from where it was drawn");
    return image;
}

Image read_png(const fs::path& file) { return decode_png(read_file(file, 1ULL << 29), file.string()); }

std::string encode_png(const Image& image) {
    assert(!image.empty());
    std::string out;
    Trouble trouble;
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, &trouble, on_error, on_warning);
    png_infop info = png ? png_create_info_struct(png) : nullptr;
    if (!info) throw InputError("Out of memory while a picture was encoded", "", "", "Close something and try again");
    if (setjmp(png_jmpbuf(png)) == 0) {
        png_set_write_fn(png, &out, collect, no_flush);
        png_set_IHDR(png, info, static_cast<png_uint_32>(image.width()), static_cast<png_uint_32>(image.height()), 8,
                     PNG_COLOR_TYPE_RGBA, PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
        png_write_info(png, info);
        for (int y = 0; y < image.height(); ++y) png_write_row(png, reinterpret_cast<png_const_bytep>(image.row(y)));
        png_write_end(png, nullptr);
    }
    png_destroy_write_struct(&png, &info);
    return out;
}

} // namespace vic::sheet
