// Files of the window: projects, sheets and plans that come in, what is saved, and what is remembered of a project.

#include <QByteArray>
#include <QCloseEvent>
#include <QDir>
#include <QDragEnterEvent>
#include <QDragLeaveEvent>
#include <QDropEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QList>
#include <QMimeData>
#include <QSettings>
#include <QSplitter>
#include <QStackedWidget>
#include <QString>
#include <QStringList>
#include <QUrl>
#include <algorithm>

#include "app/lay/plan_panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/shell/level_form.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/projects.hpp"
#include "app/shell/start_page.hpp"
#include "app/tray/pockets.hpp"
#include "app/tray/tray.hpp"
#include "app/view/level_view.hpp"
#include "base/text.hpp"
#include "kit/open_kit.hpp"
#include "level/cell.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "store/pack_folder.hpp"
#include "store/project_files.hpp"

namespace vic::app {

namespace {

constexpr std::size_t kGlance = 40; // pictures of a folder that are taken without a look at each

} // namespace

void MainWindow::addSheets(const QStringList& files) {
    QStringList pictures;
    for (const QString& file : files)
        if (!kit::is_kit_file(file.toStdString()))
            pictures << file;
        else
            openKit(file);
    if (!pictures.isEmpty()) attempt([&] { session_.library().addPictures(pictures); });
}

void MainWindow::addFolder(const QString& dir) {
    if (kit::is_kit(dir.toStdString())) return openKit(dir);
    attempt([&] {
        // What has folders in it, or is more than one takes in at a glance, is looked through first.
        store::PackFolder pack = store::read_pack(dir.toStdString());
        if (!pack.has_folders() && pack.pictures.size() <= kGlance) return session_.library().addFolder(dir);
        pack_->open(std::move(pack));
        showPage(pack_);
    });
}

void MainWindow::listenToPages() {
    connect(pack_, &PackPage::left, this, [this] { showPage(nullptr); });
    connect(pack_, &PackPage::taken, this, &MainWindow::takePack);
    connect(kit_, &KitPage::left, this, [this] { showPage(nullptr); });
    connect(kit_, &KitPage::ready, this, [this] { showPage(kit_); });
    connect(kit_, &KitPage::taken, this, &MainWindow::takeKit);
}

void MainWindow::showPage(QWidget* page) {
    pages_->setCurrentIndex(session_.isOpen() ? 1 : 0);
    if (page) pages_->setCurrentWidget(page);
    sortActions();
    if (page)
        page->setFocus();
    else
        focusCentre();
}

void MainWindow::openKit(const QString& path) { kit_->open(path); }

void MainWindow::takeKit(const ChosenKit& kit) {
    showPage(nullptr);
    attempt([&] { session_.library().addKit(kit); });
}

void MainWindow::takePack(const QString& title, const std::vector<Chosen>& chosen) {
    showPage(nullptr);
    attempt([&] { session_.library().addChosen(title, chosen); });
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    const QList<QUrl> urls = event->mimeData()->urls();
    if (std::none_of(urls.begin(), urls.end(), [](const QUrl& url) { return url.isLocalFile(); })) return;
    start_->setLit(true);
    event->acceptProposedAction();
}

void MainWindow::dragLeaveEvent(QDragLeaveEvent*) { start_->setLit(false); }

void MainWindow::dropEvent(QDropEvent* event) {
    start_->setLit(false);
    event->acceptProposedAction();
    QStringList pictures;
    for (const QUrl& url : event->mimeData()->urls()) pictures << url.toLocalFile();
    if (!session_.isOpen()) return beginWith(pictures);
    for (const QString& path : QStringList(pictures)) {
        const QFileInfo info(path);
        if (!info.isDir() && info.fileName() != "project.json") continue;
        pictures.removeAll(path);
        if (!info.isDir())
            openProject(info.path());
        else if (isProject(path))
            openProject(path);
        else
            addFolder(path);
    }
    addSheets(pictures);
}

void MainWindow::askForSheet() {
    if (!session_.isOpen()) return;
    addSheets(
        QFileDialog::getOpenFileNames(this, tr("Add sheets"), {}, tr("Pictures and kits (*.png *.glb *.gltf *.obj)")));
}

void MainWindow::askForPlan() {
    if (!session_.isOpen() || !session_.level()) return;
    const QString file =
        QFileDialog::getOpenFileName(this, tr("A picture, one pixel a cell"), {}, tr("PNG pictures (*.png)"));
    if (file.isEmpty()) return;
    session_.setStage(Stage::lay);
    attempt([&] { plan_->begin(file); });
}

QString MainWindow::settingsGroup() const {
    return "place/" + QString::fromLatin1(QByteArray::fromStdString(session_.document().dir().string()).toHex());
}

void MainWindow::remember() {
    if (!session_.isOpen()) return;
    if (!session_.keeper().looks()) rememberProject(session_, levelView_->centre());
    QSettings s;
    s.setValue("window/geometry", saveGeometry());
    s.setValue("window/panels", split_->saveState());
    s.beginGroup(settingsGroup());
    s.setValue("stage", static_cast<int>(session_.stage()));
    if (session_.level()) s.setValue("level", QString::fromStdString(session_.level()->id));
    s.setValue("layer", session_.activeLayerId());
    s.setValue("zoom", levelView_->zoom());
    s.setValue("centre", levelView_->centre());
    s.setValue("sheet", session_.sheetId());
    s.setValue("material", session_.materialId());
    s.setValue("pockets", tray_->pockets()->packed());
    s.setValue("recents", tray_->packedRecents());
}

void MainWindow::restore() {
    QSettings s;
    if (s.contains("window/geometry")) restoreGeometry(s.value("window/geometry").toByteArray());
    if (s.contains("window/panels")) split_->restoreState(s.value("window/panels").toByteArray());
    s.beginGroup(settingsGroup());
    if (session_.project().level(s.value("level").toString().toStdString()))
        session_.setLevel(s.value("level").toString().toStdString());
    if (s.contains("layer") && session_.level() && session_.level()->layer(s.value("layer").toUInt()))
        session_.setActiveLayer(s.value("layer").toUInt());
    if (session_.project().sheet(s.value("sheet").toUInt())) session_.setSheet(s.value("sheet").toUInt());
    if (const auto id = static_cast<level::MaterialId>(s.value("material").toUInt()); session_.project().material(id))
        session_.setMaterial(id);
    tray_->pockets()->unpack(s.value("pockets").toString());
    tray_->unpackRecents(s.value("recents").toString());
    const int stage = s.value("stage", static_cast<int>(Stage::lay)).toInt();
    session_.setStage(static_cast<Stage>(std::clamp(stage, 0, kStages - 1)));
    if (s.contains("centre")) levelView_->setCamera(s.value("zoom").toDouble(), s.value("centre").toPointF());
    refreshStage();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (leaveProject())
        event->accept();
    else
        event->ignore();
}

} // namespace vic::app
