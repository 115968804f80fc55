#include "kit/picture.hpp"

#include <turbojpeg.h>

#include <memory>
#include <vector>

#include "base/error.hpp"
#include "sheet/png.hpp"

namespace vic::kit {

namespace {

bool is_jpeg(std::string_view bytes) { return bytes.size() > 3 && bytes.substr(0, 3) == "\xFF\xD8\xFF"; }

Image decode_jpeg(std::string_view bytes, const std::string& file) {
    const std::unique_ptr<void, int (*)(tjhandle)> reader(tjInitDecompress(), tjDestroy);
    const auto* const data = reinterpret_cast<const unsigned char*>(bytes.data());
    int w = 0, h = 0, sampling = 0, space = 0;
    const auto refuse = [&](const char* what) -> InputError {
        return InputError("The picture cannot be read as JPEG", file, Text::verbatim(what),
                          "Export it again, as PNG or JPEG");
    };
    if (!reader || tjDecompressHeader3(reader.get(), data, bytes.size(), &w, &h, &sampling, &space) != 0)
        throw refuse(reader ? tjGetErrorStr2(reader.get()) : "no memory");
    if (w < 1 || h < 1 || w > sheet::kMostSide || h > sheet::kMostSide || std::int64_t{w} * h > sheet::kMostPixels)
        throw InputError("The picture is too large", file, say("%1 by %2 pixels", w, h), "Scale it down");
    std::vector<unsigned char> rgba(static_cast<std::size_t>(w) * static_cast<std::size_t>(h) * 4);
    if (tjDecompress2(reader.get(), data, bytes.size(), rgba.data(), w, 0, h, TJPF_RGBA, 0) != 0 &&
        tjGetErrorCode(reader.get()) == TJERR_FATAL)
        throw refuse(tjGetErrorStr2(reader.get()));
    Image out({w, h});
    std::size_t i = 0;
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x, i += 4) out.set(x, y, {rgba[i], rgba[i + 1], rgba[i + 2], 255});
    return out;
}

} // namespace

Image decode_picture(std::string_view bytes, const std::string& file) {
    return is_jpeg(bytes) ? decode_jpeg(bytes, file) : sheet::decode_png(bytes, file);
}

} // namespace vic::kit
