// Where projects lie on this machine, and which were open last.
#pragma once

#include <QDateTime>
#include <QPixmap>
#include <QPointF>
#include <QSize>
#include <QString>
#include <vector>

namespace vic::level {
struct Level;
struct Project;
} // namespace vic::level

namespace vic::app {

class Session;

// Where new projects go: "Vicinum" in the user's documents, or what the setting "projects/folder" says.
QString projectsFolder();
// A folder in it that is not there yet, named after the project as far as a file can be.
QString freeProjectFolder(const QString& name);
bool isProject(const QString& dir);
// The demo project as it was installed or checked out; empty where it is not there.
QString demoFolder();

// A piece of a level around a point of it, in its pixels, as a card shows it.
QPixmap levelPiece(const level::Project& project, const level::Level& level, QPointF centre, QSize card);
inline constexpr QSize kRecentPicture{264, 112};

struct Recent {
    QString dir, project, level;
    QDateTime when;
    int findings = 0; // that are more than hints
    int left = 0;     // steps that the journal kept and nobody saved
    QPixmap picture;  // may be null
};
// The latest first; those whose folder is gone are passed over.
std::vector<Recent> recentProjects(std::size_t most);
// The open project as it is being left, with what was in view around `centre`.
void rememberProject(Session& session, QPointF centre);
void forgetProject(const QString& dir);

} // namespace vic::app
