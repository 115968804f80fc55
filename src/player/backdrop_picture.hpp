// A backdrop of a parcel, as it is seen.
#pragma once

#include <QImage>
#include <QRect>

#include "vicinum_level.hpp"

namespace vic::player {

class BackdropPicture {
  public:
    // The picture of the layer's file; the layer's colours are applied.
    BackdropPicture(const QImage& picture, const vicinum::Layer& layer);
    // What of it lies in these pixels of the layer, see-through where it is not.
    [[nodiscard]] QImage seen(const QRect& part) const;

  private:
    QImage picture_; // premultiplied
    QRect place_;    // pixels of the layer
    bool across_, down_, smooth_;
};

} // namespace vic::player
