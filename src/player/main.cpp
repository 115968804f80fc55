// vicinum-player PARCEL: shows and plays a parcel, and takes over a rebuilt one by itself.
#include <QApplication>
#include <QFileInfo>
#include <QTimer>
#include <cstdio>

#include "player/parcel_view.hpp"
#include "player/watch.hpp"

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    QApplication::setApplicationName("vicinum-player");
    const QStringList arguments = QApplication::arguments();
    if (arguments.size() != 2 || arguments[1].startsWith('-')) {
        std::fputs("usage: vicinum-player PARCEL\n", stderr);
        return 2;
    }
    vic::player::ParcelView view;
    vic::player::Watch watch(arguments[1]);
    const auto load = [&](bool keep) {
        view.load(arguments[1], keep);
        view.setWindowTitle(QObject::tr("%1 – Vicinum player").arg(QString::fromStdString(view.level().name)));
    };
    try {
        load(false);
    } catch (const std::exception& e) {
        std::fprintf(stderr, "%s\n", e.what());
        return 3;
    }
    QObject::connect(&watch, &vic::player::Watch::rebuilt, &view, [&] {
        try {
            load(true);
        } catch (const std::exception& e) {
            // Between two builds, or a broken one: what is shown stays.
            std::fprintf(stderr, "%s\n", e.what());
        }
    });
    QObject::connect(&view, &vic::player::ParcelView::leaveAsked, &app, &QApplication::quit);
    view.resize(view.level().frame.x * 3, view.level().frame.y * 3);
    view.show();
    view.setRunning(true);
    return QApplication::exec();
}
