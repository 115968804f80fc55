// What blocks, the art, or both, as a file for other hands.
#pragma once

#include <QString>

#include "app/view/level_view.hpp"

namespace vic::app {

class Session;

// Writes the open level as it is seen in Bound to a file whose name ends in .svg or .png; errors are thrown
// (InputError). Larger levels than 16,384 pixels a side are drawn as SVG alone.
void saveDrawing(Session& session, LevelView::Bounds shown, const QString& file);

} // namespace vic::app
