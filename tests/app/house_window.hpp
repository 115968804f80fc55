// A window on a copy of the demo's houses.
#pragma once

#include <filesystem>

#include "app/solid/solid_switch.hpp"
#include "app/solid/solid_view.hpp"
#include "app/window.hpp"
#include "base/files.hpp"

namespace app_test {

struct HouseWindow : Window {
    HouseWindow() : Window(false) {
        fs::copy(fs::path(SOURCE_DIR) / "demo/pump-house", folder / "pump-house", fs::copy_options::recursive);
        window->openProject(QString::fromStdString((folder / "pump-house").string()));
        settle();
        REQUIRE(session().isOpen());
    }
    SolidSwitch& solid() { return *find<SolidSwitch>("solidSwitch"); }
};

} // namespace app_test
