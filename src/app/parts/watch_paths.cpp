#include "app/parts/watch_paths.hpp"

namespace vic::app {

void watchOnly(QFileSystemWatcher& watcher, const QStringList& wanted) {
    const QStringList now = watcher.files() + watcher.directories();
    QStringList stale, fresh;
    for (const QString& path : now)
        if (!wanted.contains(path)) stale << path;
    for (const QString& path : wanted)
        if (!now.contains(path)) fresh << path;
    if (!stale.isEmpty()) watcher.removePaths(stale);
    if (!fresh.isEmpty()) watcher.addPaths(fresh);
}

} // namespace vic::app
