// Order cards: the order of a sheet's tiles, kept for other sheets of the same layout.
#pragma once

#include "level/sheet.hpp"

class QWidget;

namespace vic::app {

class Session;

// Pops up below a widget, which lives longer: keep this sheet's order, or lay a kept one over it. Nothing happens
// without a chosen material.
void showOrderMenu(Session& session, level::SheetId sheet, QWidget* under);

} // namespace vic::app
