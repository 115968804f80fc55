#include "app/shell/application.hpp"

#include <QEvent>
#include <QObject>
#include <exception>

#include "app/parts/translated.hpp"

namespace vic::app {

bool Application::notify(QObject* receiver, QEvent* event) {
    try {
        return QApplication::notify(receiver, event);
    } catch (const std::exception& e) {
        emit trouble(translated(e));
        return true;
    }
}

} // namespace vic::app
