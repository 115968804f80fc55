#include "app/parts/blocking_words.hpp"

#include <QCoreApplication>

namespace vic::app {

QString blockingWord(edit::Blocking blocking) {
    const auto word = [](const char* text) { return QCoreApplication::translate("Blocking", text); };
    switch (blocking) {
        case edit::Blocking::nothing:
            return word("blocks nothing");
        case edit::Blocking::full:
            return word("blocks whole cells");
        case edit::Blocking::as_drawn:
            return word("blocks as drawn");
        case edit::Blocking::one_way:
            return word("blocks from above only");
        case edit::Blocking::opens:
            return word("lets one walk, whatever lies below");
        case edit::Blocking::mixed:
            return word("blocks tile by tile");
    }
    return {};
}

} // namespace vic::app
