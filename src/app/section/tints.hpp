// The tints that a layer or backdrop is offered.
#pragma once

#include <QColor>
#include <vector>

#include "app/parts/binding.hpp"
#include "base/image.hpp"

namespace vic::app {

[[nodiscard]] QColor colourOf(Rgba c);
[[nodiscard]] Rgba rgbaOf(const QColor& c);
// Those offered, some of them see-through where it may be paler, and the one there is now where it is none of them.
[[nodiscard]] std::vector<Bindings::Choice> tints(bool paler, Rgba now);

} // namespace vic::app
