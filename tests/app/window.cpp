#include "app/window.hpp"

#include <QAction>
#include <QColor>
#include <QColorDialog>
#include <QDialog>
#include <QEvent>
#include <QLabel>
#include <QMenu>
#include <QModelIndex>
#include <QMouseEvent>
#include <QPainter>
#include <QPixmap>
#include <QPointF>
#include <QPointer>
#include <QRect>
#include <QStyle>
#include <QTimer>
#include <vector>

#include "app/lay/plan_keys.hpp"
#include "base/files.hpp"
#include "edit/stroke.hpp"
#include "sheet/png.hpp"

namespace app_test {

const std::filesystem::path& demo() {
    static const make::Folder folder;
    static const bool drawn = std::system((std::string(DRAW) + " " + folder.path().string()).c_str()) == 0;
    REQUIRE(drawn);
    return folder.path();
}

void answerNext(const std::function<bool(QWidget*)>& answer) {
    auto* timer = new QTimer(qApp);
    QObject::connect(timer, &QTimer::timeout, timer, [timer, answer, tries = 0]() mutable {
        QWidget* top = QApplication::activeModalWidget();
        timer->stop(); // answering may run the event loop again
        if (top && answer(top)) return timer->deleteLater();
        if (++tries < 500) return timer->start();
        if (auto* dialog = qobject_cast<QDialog*>(top)) dialog->reject();
        timer->deleteLater();
    });
    timer->start(20);
}

void answerColour(const QColor& colour) {
    answerNext([colour](QWidget* top) {
        auto* dialog = qobject_cast<QColorDialog*>(top);
        if (!dialog) return false;
        dialog->setCurrentColor(colour);
        dialog->accept();
        return true;
    });
}

Window::Window(bool withDemo, QSize size) {
    QSettings().clear();
    QSettings().setValue("look/dark", qEnvironmentVariable("VICINUM_LOOK") == "slate");
    QSettings().setValue("projects/folder", QString::fromStdString((folder.path() / "documents").string()));
    if (withDemo) std::filesystem::copy(demo(), folder.path() / "pell", std::filesystem::copy_options::recursive);
    show(size);
    if (withDemo) {
        REQUIRE(window->openProject(QString::fromStdString((folder.path() / "pell").string())));
        settle();
    }
}

Window::~Window() = default;

void Window::show(QSize size) {
    window = std::make_unique<MainWindow>();
    // Figures of the demo move: pictures are compared.
    window->session().playClock().setPlaying(false);
    window->resize(size);
    window->show();
    REQUIRE(QTest::qWaitForWindowExposed(window.get()));
    window->activateWindow();
    QApplication::setActiveWindow(window.get());
    settle();
}

void Window::reopen() {
    show({1280, 800});
    REQUIRE(window->openProject(QString::fromStdString((folder.path() / "pell").string())));
    settle();
}

void Window::restart() {
    const QString dir = QString::fromStdString((folder.path() / "pell").string());
    window->close();
    const QSize size = window->size();
    window.reset();
    show(size);
    REQUIRE(window->openProject(dir));
    settle();
}

void Window::click(const char* name, Qt::MouseButton button) {
    auto* widget = find<QWidget>(name);
    INFO(name);
    REQUIRE(widget->isVisible());
    REQUIRE(widget->isEnabled());
    clickAt(widget, widget->rect().center(), button);
}

void Window::clickAt(QWidget* widget, QPoint at, Qt::MouseButton button, Qt::KeyboardModifiers modifiers) {
    QTest::mouseClick(widget, button, modifiers, at);
    settle();
}

void Window::hover(Point cell) {
    const QPoint at = view()->cellCentre(cell);
    REQUIRE(view()->rect().contains(at));
    // QTest's own move does not tell widgets without a window manager; the event itself does.
    QMouseEvent move(QEvent::MouseMove, QPointF(at), view()->mapToGlobal(QPointF(at)), Qt::NoButton, Qt::NoButton,
                     QApplication::keyboardModifiers());
    QApplication::sendEvent(view(), &move);
}

void Window::clickCell(Point cell, Qt::MouseButton button, Qt::KeyboardModifiers modifiers) {
    hover(cell);
    clickAt(view(), view()->cellCentre(cell), button, modifiers);
}

void Window::dragCells(const std::vector<Point>& cells, Qt::MouseButton button) {
    hover(cells.front());
    QTest::mousePress(view(), button, {}, view()->cellCentre(cells.front()));
    for (const Point cell : cells) {
        const QPoint at = view()->cellCentre(cell);
        QMouseEvent move(QEvent::MouseMove, QPointF(at), view()->mapToGlobal(QPointF(at)), Qt::NoButton, button, {});
        QApplication::sendEvent(view(), &move);
    }
    QTest::mouseRelease(view(), button, {}, view()->cellCentre(cells.back()));
    settle();
}

void Window::drag(Point from, Point to, Qt::KeyboardModifiers modifiers, Qt::MouseButton button) {
    hover(from);
    const QPointF begin = view()->cellCentre(from);
    const QPointF way = view()->cellCentre(to) - begin;
    QTest::mousePress(view(), button, modifiers, begin.toPoint());
    for (int i = 1; i <= 4; ++i) {
        const QPointF at = begin + way * i / 4;
        QMouseEvent move(QEvent::MouseMove, at, view()->mapToGlobal(at), Qt::NoButton, button, modifiers);
        QApplication::sendEvent(view(), &move);
    }
    QTest::mouseRelease(view(), button, modifiers, (begin + way).toPoint());
    settle();
}

void Window::slide(const char* name, int value) {
    auto* slider = find<QSlider>(name);
    REQUIRE(slider->isVisible());
    QStyleOptionSlider option;
    option.initFrom(slider);
    option.minimum = slider->minimum();
    option.maximum = slider->maximum();
    option.sliderPosition = option.sliderValue = slider->value();
    option.orientation = slider->orientation();
    option.subControls = QStyle::SC_SliderHandle | QStyle::SC_SliderGroove;
    const QRect handle = slider->style()->subControlRect(QStyle::CC_Slider, &option, QStyle::SC_SliderHandle, slider);
    QTest::mousePress(slider, Qt::LeftButton, {}, handle.center());
    const QRect groove = slider->style()->subControlRect(QStyle::CC_Slider, &option, QStyle::SC_SliderGroove, slider);
    const int span = groove.width() - handle.width();
    const int to = groove.x() + QStyle::sliderPositionFromValue(option.minimum, option.maximum, value, span);
    QMouseEvent move(QEvent::MouseMove, QPointF(to + handle.width() / 2, handle.center().y()),
                     slider->mapToGlobal(QPointF(to + handle.width() / 2, handle.center().y())), Qt::NoButton,
                     Qt::LeftButton, {});
    QApplication::sendEvent(slider, &move);
    QTest::mouseRelease(slider, Qt::LeftButton, {}, QPoint(to + handle.width() / 2, handle.center().y()));
    // A pixel of the mouse is more than a step of the slider; the keys do the rest.
    slider->setFocus();
    while (slider->value() != value) {
        const int before = slider->value();
        QTest::keyClick(slider, before < value ? Qt::Key_Right : Qt::Key_Left);
        REQUIRE(slider->value() != before);
    }
    settle();
}

void Window::choose(const char* name, const QString& text) {
    auto* box = find<QComboBox>(name);
    const int to = box->findText(text);
    INFO(text.toStdString());
    REQUIRE(to >= 0);
    REQUIRE(box->isVisible());
    // Without a window manager the display now and then gives the focus away late, and that closes what just opened:
    // whoever sits before it clicks once more.
    constexpr int kTries = 3, kOpens = 1000; // ms
    for (int i = 0; i < kTries; ++i) {
        clickAt(box, box->rect().center());
        if (QTest::qWaitFor([&] { return box->view()->isVisible(); }, kOpens)) break;
        WARN(name << ": the list did not stay open");
    }
    chooseOpened(box, to);
}

void Window::chooseOpened(QComboBox* box, int to) {
    QAbstractItemView* list = box->view();
    REQUIRE(QTest::qWaitFor([&] { return list->isVisible(); }, 2000));
    const QModelIndex index = box->model()->index(to, 0);
    list->scrollTo(index);
    QTest::qWait(QApplication::doubleClickInterval() + 20); // until then a release only ends the opening click
    QTest::mouseMove(list->viewport(), list->visualRect(index).center());
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualRect(index).center());
    REQUIRE(QTest::qWaitFor([&] { return !list->isVisible(); }, 2000));
    settle();
}

void Window::picture(const char* name) {
    const QString folder = qEnvironmentVariable("VICINUM_PICTURES");
    if (folder.isEmpty()) return;
    QTest::qWait(350);
    QPixmap whole = window->grab();
    if (QWidget* popup = QApplication::activePopupWidget()) {
        QPainter p(&whole);
        p.drawPixmap(popup->pos() - window->pos(), popup->grab());
    }
    REQUIRE(whole.save(folder + "/" + name + ".png"));
}

void Window::key(int key, Qt::KeyboardModifiers modifiers) {
    // Keys of the menus go to the window that the display holds for active; a dialog that went leaves none for a
    // moment.
    if (!QApplication::activeWindow() && window->isVisible()) {
        window->activateWindow();
        REQUIRE(QTest::qWaitForWindowActive(window.get(), 5000));
    }
    QWidget* target = QApplication::focusWidget();
    if (!target || target->window() != window.get()) target = window.get();
    QTest::keyClick(target, static_cast<Qt::Key>(key), modifiers);
    settle();
}

void Window::drop(const QString& file) { drop(std::vector{file}); }

void Window::drop(const std::vector<QString>& files) {
    QMimeData data;
    QList<QUrl> urls;
    for (const QString& file : files) urls << QUrl::fromLocalFile(file);
    data.setUrls(urls);
    const QPoint at = window->rect().center();
    QDragEnterEvent enter(at, Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(window.get(), &enter);
    REQUIRE(enter.isAccepted());
    QDropEvent drop(QPointF(at), Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(window.get(), &drop);
    settle();
}

void Window::mean(int key, const QString& text) {
    auto* keys = find<PlanKeys>("planKeys");
    clickAt(keys->viewport(), keys->field(static_cast<std::size_t>(key)).center());
    auto* box = keys->findChild<QComboBox*>(QString("planKey-%1").arg(key));
    REQUIRE(box);
    INFO(text.toStdString());
    REQUIRE(box->findText(text) >= 0);
    chooseOpened(box, box->findText(text));
}

void Window::clickRow(QListView* list, const QString& text, Qt::KeyboardModifiers modifiers) {
    INFO(text.toStdString());
    const auto rows = list->model()->match(list->model()->index(0, 0), Qt::DisplayRole, text, 2, Qt::MatchExactly);
    REQUIRE(rows.size() == 1);
    list->scrollTo(rows.front());
    clickAt(list->viewport(), list->visualRect(rows.front()).center(), Qt::LeftButton, modifiers);
}

void Window::clickRow(QListView* list, int row) {
    const QModelIndex index = list->model()->index(row, 0);
    REQUIRE(index.isValid());
    list->scrollTo(index);
    clickAt(list->viewport(), list->visualRect(index).center());
}

QString Window::rowText(const QListView* list, int row) const { return list->model()->index(row, 0).data().toString(); }

void Window::pickMaterial(const char* name) {
    click("trayMaterials");
    clickRow(find<QListView>("materialTray"), name);
    REQUIRE(session().hand().is<edit::held::Material>());
}

void Window::activate(const char* name) {
    auto* slab = find<QWidget>(("slab-" + std::to_string(layer(name).id)).c_str());
    clickAt(slab, {30, 20});
    REQUIRE(session().activeLayer()->name == name);
}

const level::Layer& Window::layer(const char* name) {
    for (const level::LayerRef& l : level().layers)
        if (l->name == name) return *l;
    FAIL("no layer " << name);
    throw 0;
}

QString Window::reading() { return window->readingText(); }

QString Window::notice() {
    auto* notice = find<QWidget>("notice");
    return notice->isVisible() ? find<QLabel>("noticeText")->text() : QString();
}

void settle() {
    const auto deal = [] {
        QCoreApplication::processEvents();
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    };
    deal();
    std::vector<QPointer<MainWindow>> windows; // menus, which also are at the top, go while one waits
    for (QWidget* top : QApplication::topLevelWidgets())
        if (auto* window = qobject_cast<MainWindow*>(top)) windows.emplace_back(window);
    for (const auto& window : windows) {
        if (window) REQUIRE(QTest::qWaitFor([&] { return !window->session().jobs().busy(); }, 30000));
    }
    deal();
}

QString put(Window& w, const std::string& name, const Image& image) {
    std::filesystem::create_directories((w.folder / name).parent_path());
    write_file(w.folder / name, sheet::encode_png(image));
    return QString::fromStdString((w.folder / name).string());
}

void type(QSpinBox* box, const char* text) {
    box->setFocus();
    box->selectAll();
    QTest::keyClicks(box, text);
    QTest::keyClick(box, Qt::Key_Return);
}

QMenu* shownMenu(const QString& name) {
    QMenu* menu = nullptr;
    REQUIRE_SOON([&] {
        for (QWidget* top : QApplication::topLevelWidgets())
            if (top->objectName() == name && top->isVisible()) menu = static_cast<QMenu*>(top);
        return menu != nullptr;
    }());
    return menu;
}

void clickEntry(QMenu* menu, const QString& text) {
    for (QAction* a : menu->actions())
        if (a->text() == text) return QTest::mouseClick(menu, Qt::LeftButton, {}, menu->actionGeometry(a).center());
    FAIL("no entry " << text.toStdString());
}

} // namespace app_test
