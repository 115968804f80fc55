#include <QSettings>
#include <QTemporaryDir>

#include "app/session/session.hpp"
#include "app/shell/application.hpp"
#include "support/run.hpp"

int main(int argc, char** argv) {
    QTemporaryDir settings;
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
    qputenv("XDG_CACHE_HOME", settings.path().toUtf8());
    vic::app::Application app(argc, argv);
    QApplication::setOrganizationName("vicinum");
    QApplication::setApplicationName("vicinum-tests");
    return run_tests(argc, argv);
}
