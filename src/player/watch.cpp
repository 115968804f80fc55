#include "player/watch.hpp"

#include <sys/stat.h>

namespace vic::player {

Watch::Watch(const QString& dir, QObject* parent) : QObject(parent), file_(dir + "/level.json"), last_(stamp()) {
    connect(&timer_, &QTimer::timeout, this, [this] {
        const QString now = stamp();
        if (now.isEmpty() || now == last_) return;
        last_ = now;
        emit rebuilt();
    });
    timer_.start(250);
}

QString Watch::stamp() const {
    struct stat s {};
    if (::stat(file_.toUtf8().constData(), &s) != 0) return {};
    return QString("%1 %2 %3 %4").arg(s.st_ino).arg(s.st_size).arg(s.st_mtim.tv_sec).arg(s.st_mtim.tv_nsec);
}

} // namespace vic::player
