// Watching files and folders that come and go.
#pragma once

#include <QFileSystemWatcher>
#include <QStringList>

namespace vic::app {

// Watches these and nothing else. What is watched already stays so: to give it up and take it anew would lose what
// happens in between, and what has happened but was not told yet.
void watchOnly(QFileSystemWatcher& watcher, const QStringList& wanted);

} // namespace vic::app
