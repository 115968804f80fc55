// The tints that a layer or backdrop is offered.
#pragma once

#include <QColor>

#include "app/parts/binding.hpp"
#include "base/image.hpp"

class QComboBox;

namespace vic::app {

[[nodiscard]] QColor colourOf(Rgba c);
[[nodiscard]] Rgba rgbaOf(const QColor& c);
// A field that offers some, see-through ones as well where it may be paler, and any other by a dialog.
void bindTint(Bindings& fields, QComboBox* field, bool paler, const Bindings::Get<Rgba>& get, Bindings::Set<Rgba> set);

} // namespace vic::app
