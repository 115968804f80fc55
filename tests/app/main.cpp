#define CATCH_CONFIG_RUNNER
#include <QApplication>

#include <QSettings>
#include <QTemporaryDir>
#include <catch2/catch.hpp>

#include "app/shell/application.hpp"

#include "app/session/session.hpp"

int main(int argc, char** argv) {
    QTemporaryDir settings;
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
    vic::app::Application app(argc, argv);
    QApplication::setOrganizationName("vicinum");
    QApplication::setApplicationName("vicinum-tests");
    return Catch::Session().run(argc, argv);
}
