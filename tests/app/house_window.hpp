// A window on a copy of the demo's houses.
#pragma once

#include <filesystem>
#include <string>

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
    level::TileId piece(const std::string& name) {
        for (const auto& sheet : session().project().sheets)
            if (sheet->kit)
                for (const level::KitPiece& p : sheet->kit->pieces)
                    if (p.name == name && p.turn == 0) return p.tile;
        FAIL("no piece " << name);
        return 0;
    }
    SolidSwitch& solid() { return *find<SolidSwitch>("solidSwitch"); }
};

} // namespace app_test
