#include "app/shell/application.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/signals.hpp"

int main(int argc, char** argv) {
    vic::app::Application app(argc, argv);
    QApplication::setOrganizationName("vicinum");
    QApplication::setApplicationName("vicinum");
    QApplication::setApplicationVersion("0.1.0");
    vic::app::MainWindow window;
    const QStringList arguments = QApplication::arguments();
    const QString project = arguments.size() > 1 ? arguments[1] : QString();
    vic::app::Signals signals_to_end;
    QObject::connect(&signals_to_end, &vic::app::Signals::asked, &window, &vic::app::MainWindow::endNow);
    window.show();
    if (!project.isEmpty()) window.openProject(project);
    return QApplication::exec();
}
