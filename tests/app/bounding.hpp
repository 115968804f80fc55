// The window in Bound.
#pragma once

#include <algorithm>

#include "app/parts/card_list.hpp"
#include "app/window.hpp"

namespace app_test {

struct Bound : Window {
    CardList* list = nullptr; // what is used
    Bound() {
        stage("stage-bound");
        list = find<CardList>("usedList");
    }
    const Card& card(const char* title) {
        const auto& all = list->cards();
        const auto found = std::find_if(all.begin(), all.end(), [&](const Card& c) { return c.title == title; });
        REQUIRE(found != all.end());
        return *found;
    }
    void pick(const char* title, Qt::KeyboardModifiers modifiers = {}) {
        list->scrollTo(list->indexAt(list->cardCentre(card(title).id)));
        clickAt(list->viewport(), list->cardCentre(card(title).id), Qt::LeftButton, modifiers);
    }
    const level::Material& material(const char* name) {
        for (const auto& m : session().project().materials)
            if (m->name == name) return *m;
        FAIL("no such material");
        return *session().project().materials.front();
    }
};

} // namespace app_test
