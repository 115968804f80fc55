// Colours of the window as the renderer takes them.
#pragma once

#include <QColor>

#include "render/renderer.hpp"

namespace vic::app {

inline render::Vec3 vec3(const QColor& c) {
    return {static_cast<float>(c.redF()), static_cast<float>(c.greenF()), static_cast<float>(c.blueF())};
}
inline render::Vec4 vec4(const QColor& c) {
    return {static_cast<float>(c.redF()), static_cast<float>(c.greenF()), static_cast<float>(c.blueF()),
            static_cast<float>(c.alphaF())};
}

} // namespace vic::app
