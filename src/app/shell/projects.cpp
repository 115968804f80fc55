#include "app/shell/projects.hpp"

#include <QByteArray>
#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QImage>
#include <QRegularExpression>
#include <QSettings>
#include <QStandardPaths>
#include <QStringList>
#include <algorithm>
#include <cmath>

#include "app/session/session.hpp"
#include "base/error.hpp"
#include "findings/check.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "picture/art.hpp"
#include "picture/compose.hpp"
#include "store/journal.hpp"

namespace vic::app {

namespace {

constexpr int kMostRecent = 12;

QString keyOf(const QString& dir) { return QString::fromLatin1(dir.toUtf8().toHex()); }

QString pictureOf(const QString& dir) {
    const auto number = QString::number(qHash(dir, 0), 16);
    return QStandardPaths::writableLocation(QStandardPaths::CacheLocation) + "/recent-" + number + ".png";
}

int stepsLeft(const QString& dir) {
    try {
        const auto head = store::journal_head(store::journal_place(dir.toStdString()));
        return head ? head->steps : 0;
    } catch (const InputError&) {
        return 0; // opening the project tells what is wrong with it
    }
}

} // namespace

QString projectsFolder() {
    QString chosen = QSettings().value("projects/folder").toString();
    if (!chosen.isEmpty()) return chosen;
    const QString documents = QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation);
    return (documents.isEmpty() ? QDir::homePath() : documents) + "/Vicinum";
}

QString freeProjectFolder(const QString& name) {
    QString plain = name;
    plain.replace(QRegularExpression("[/\\\\:\\x00-\\x1F]"), " ");
    plain = plain.simplified().left(60);
    while (plain.startsWith('.')) plain.remove(0, 1);
    if (plain.isEmpty()) plain = QCoreApplication::translate("Projects", "New project");
    const QDir all(projectsFolder());
    QString dir = all.filePath(plain);
    for (int i = 2; QFileInfo::exists(dir) || QFileInfo(dir).isSymLink(); ++i)
        dir = all.filePath(QString("%1 %2").arg(plain).arg(i));
    return dir;
}

bool isProject(const QString& dir) { return QFileInfo::exists(dir + "/project.json"); }

QString demoFolder() {
    // Installed it lies in share/ beside bin/; in a clone somewhere above where the program was built.
    constexpr int kMostAbove = 5;
    QDir above(QCoreApplication::applicationDirPath());
    for (int i = 0; i < kMostAbove && above.cdUp(); ++i)
        for (const char* place : {"share/vicinum/pell-saltern", "demo/pell-saltern"})
            if (QString dir = above.filePath(place); isProject(dir)) return dir;
    return {};
}

QPixmap levelPiece(const level::Project& project, const level::Level& level, QPointF centre, QSize card) {
    // Larger cells are shown smaller, so that a card shows about as many.
    const int by = std::max(1, static_cast<int>(std::lround(level.cell.w / 16.0)));
    const Box all = picture::extent(project, level);
    const Size size{std::min(card.width() * by, all.w), std::min(card.height() * by, all.h)};
    Box box{static_cast<int>(centre.x()) - size.w / 2, static_cast<int>(centre.y()) - size.h / 2, size.w, size.h};
    box.x = std::clamp(box.x, all.x, all.right() - box.w);
    box.y = std::clamp(box.y, all.y, all.bottom() - box.h);
    picture::Canvas canvas(box);
    picture::Art art;
    picture::draw(project, level, art, canvas, box);
    const QImage image(reinterpret_cast<const uchar*>(canvas.pixels.data()), box.w, box.h, box.w * 4,
                       QImage::Format_RGB32);
    const QImage small =
        by == 1 ? image.copy() : image.scaled(box.w / by, box.h / by, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    return QPixmap::fromImage(small);
}

std::vector<Recent> recentProjects(std::size_t most) {
    QSettings s;
    std::vector<Recent> out;
    for (const QString& dir : s.value("recent/list").toStringList()) {
        if (out.size() == most) break;
        if (!isProject(dir)) continue;
        s.beginGroup("recent/" + keyOf(dir));
        Recent r;
        r.dir = dir;
        r.project = s.value("project").toString();
        r.level = s.value("level").toString();
        r.when = s.value("when").toDateTime();
        r.findings = s.value("findings").toInt();
        s.endGroup();
        r.left = stepsLeft(dir);
        r.picture.load(pictureOf(dir));
        out.push_back(std::move(r));
    }
    return out;
}

void rememberProject(Session& session, QPointF centre) {
    QSettings s;
    const QString dir = QString::fromStdString(session.document().dir().lexically_normal().string());
    QStringList list = s.value("recent/list").toStringList();
    list.removeAll(dir);
    list.prepend(dir);
    while (list.size() > kMostRecent) {
        QFile::remove(pictureOf(list.last()));
        s.remove("recent/" + keyOf(list.takeLast()));
    }
    s.setValue("recent/list", list);
    s.beginGroup("recent/" + keyOf(dir));
    s.setValue("project", QString::fromStdString(session.project().name));
    s.setValue("level", session.level() ? QString::fromStdString(session.level()->name) : QString());
    s.setValue("when", QDateTime::currentDateTime());
    s.setValue("findings",
               static_cast<int>(std::count_if(session.findings().begin(), session.findings().end(),
                                              [](const auto& f) { return f.severity != findings::Severity::hint; })));
    s.endGroup();
    if (!session.level()) return;
    const QString file = pictureOf(dir);
    QDir().mkpath(QFileInfo(file).path());
    levelPiece(session.project(), *session.level(), centre, kRecentPicture).save(file);
}

void forgetProject(const QString& dir) {
    QSettings s;
    QStringList list = s.value("recent/list").toStringList();
    list.removeAll(dir);
    s.setValue("recent/list", list);
    s.remove("recent/" + keyOf(dir));
    QFile::remove(pictureOf(dir));
}

} // namespace vic::app
