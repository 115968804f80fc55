// The window in Dress.
#pragma once

#include <QListView>
#include <vector>

#include "app/window.hpp"

namespace app_test {

// The demo in Dress, nothing standing but what a test places.
struct Dressing : Window {
    Dressing() {
        stage("stage-dress");
        level::Level bare = level();
        for (const level::LayerRef& l : level().layers)
            if (l->has_props()) bare.edit(l->id).props() = level::Props();
        session().applyLevel("bare", bare);
        activate("Props");
        view()->setCamera(2, {30.0 * 16, 16.0 * 16});
        (*this)->activateWindow();
    }
    MainWindow* operator->() { return window.get(); }

    void take(const char* prop) {
        click("trayProps");
        clickRow(find<QListView>("propTray"), prop);
        (*this)->activateWindow();
    }
    std::vector<level::Prop> placed() { return layer("Props").props().all(); }
    level::Prop only() {
        const auto all = placed();
        REQUIRE(all.size() == 1);
        return all.front();
    }
    void emptyHand() {
        view()->setFocus();
        while (!session().hand().empty()) key(Qt::Key_Escape);
    }
    void menuEntry(const char* button, const char* menu, const QString& text) {
        click(button);
        clickEntry(shownMenu(menu), text);
        (*this)->activateWindow();
    }
};

} // namespace app_test
