#include "player/backdrop_picture.hpp"

#include <algorithm>
#include <vector>

#include "base/geometry.hpp"

namespace vic::player {

namespace {

// The colours of the layer: times the tint, and then as much of the other as the picture is opaque.
QImage coloured(const QImage& picture, const vicinum::Layer& layer) {
    QImage out = picture.convertToFormat(QImage::Format_ARGB32);
    const auto part = [](int v, int times, int plus) { return std::min(255, (v * times + 127) / 255 + plus); };
    for (int y = 0; y < out.height(); ++y) {
        auto* line = reinterpret_cast<QRgb*>(out.scanLine(y));
        for (int x = 0; x < out.width(); ++x)
            line[x] = qRgba(part(qRed(line[x]), layer.tint.r, layer.plus.r),
                            part(qGreen(line[x]), layer.tint.g, layer.plus.g),
                            part(qBlue(line[x]), layer.tint.b, layer.plus.b), qAlpha(line[x]) * layer.tint.a / 255);
    }
    return out.convertToFormat(QImage::Format_ARGB32_Premultiplied);
}

// Which pixels are seen along one axis; -1 where there is none.
std::vector<int> seen_along(int from, int count, int at, int drawn, int picture, bool repeats) {
    std::vector<int> out(static_cast<std::size_t>(count), -1);
    for (int i = 0; i < count; ++i) {
        int t = from + i - at;
        if (repeats) t -= floor_div(t, drawn) * drawn;
        if (t >= 0 && t < drawn) out[static_cast<std::size_t>(i)] = static_cast<int>(qint64{t} * picture / drawn);
    }
    return out;
}

} // namespace

BackdropPicture::BackdropPicture(const QImage& picture, const vicinum::Layer& layer)
    : picture_(coloured(picture, layer)),
      place_(layer.place.x, layer.place.y, layer.place.w, layer.place.h),
      across_(layer.repeats_across),
      down_(layer.repeats_down),
      smooth_(layer.smooth) {
    if (place_.isEmpty()) place_ = picture_.rect();
    constexpr qint64 kMost = 16 << 20; // pixels: larger ones are sampled crisply where they are seen
    if (smooth_ && place_.size() != picture_.size() && qint64{place_.width()} * place_.height() <= kMost)
        picture_ = picture_.scaled(place_.size(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation)
                       .convertToFormat(QImage::Format_ARGB32_Premultiplied);
}

QImage BackdropPicture::seen(const QRect& part) const {
    QImage out(part.size(), QImage::Format_ARGB32_Premultiplied);
    out.fill(Qt::transparent);
    const auto across = seen_along(part.x(), part.width(), place_.x(), place_.width(), picture_.width(), across_);
    const auto down = seen_along(part.y(), part.height(), place_.y(), place_.height(), picture_.height(), down_);
    for (int y = 0; y < part.height(); ++y) {
        const int row = down[static_cast<std::size_t>(y)];
        if (row < 0) continue;
        const auto* from = reinterpret_cast<const QRgb*>(picture_.constScanLine(row));
        auto* to = reinterpret_cast<QRgb*>(out.scanLine(y));
        for (int x = 0; x < part.width(); ++x)
            if (const int column = across[static_cast<std::size_t>(x)]; column >= 0) to[x] = from[column];
    }
    return out;
}

} // namespace vic::player
