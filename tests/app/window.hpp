// A real window on a copy of the demo project, driven by events.
#pragma once

#include <QAbstractItemView>
#include <QApplication>
#include <QComboBox>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QListView>
#include <QMimeData>
#include <QPoint>
#include <QSettings>
#include <QSize>
#include <QSlider>
#include <QSpinBox>
#include <QString>
#include <QStyleOptionSlider>
#include <QTest>
#include <QUrl>
#include <QWidget>
#include <catch2/catch.hpp>
#include <functional>
#include <memory>

#include "app/session/session.hpp"
#include "app/shell/main_window.hpp"
#include "app/view/level_view.hpp"
#include "level/level.hpp"
#include "support/make.hpp"

class QMenu;

namespace Catch {
template <>
struct StringMaker<QString> {
    static std::string convert(const QString& text) { return text.toStdString(); }
};
template <>
struct StringMaker<QSize> {
    static std::string convert(QSize s) { return std::to_string(s.width()) + " x " + std::to_string(s.height()); }
};
} // namespace Catch

// Waits until it is so, five seconds at most, and fails the case where it is not. (Qt's own of this kind return
// instead, and Catch lets the case pass.)
#define REQUIRE_SOON(condition)                                                    \
    do {                                                                           \
        (void)QTest::qWaitFor([&] { return static_cast<bool>(condition); }, 5000); \
        REQUIRE((condition));                                                      \
    } while (false)

class QColor;

namespace app_test {

using namespace vic;
using namespace vic::app;

// Shows `answer` the dialog that comes up next, and again until it says that it was answered. One that nobody answers
// for ten seconds is closed, so that the test goes on and fails by what it checks.
void answerNext(const std::function<bool(QWidget* dialog)>& answer);
// Gives the next dialog that asks for a colour that one.
void answerColour(const QColor& colour);

// The demo project, drawn once for all tests; each test works on its own copy.
const std::filesystem::path& demo();

class Window {
  public:
    explicit Window(bool withDemo = true, QSize size = {1280, 800});
    ~Window();

    MainWindow& operator*() { return *window; }
    Session& session() { return window->session(); }
    const level::Level& level() { return *session().level(); }
    LevelView* view() { return window->levelView(); }

    template <class T>
    T* find(const char* name) {
        T* found = window->findChild<T*>(name);
        INFO("looking for " << name);
        REQUIRE(found != nullptr);
        return found;
    }

    void click(const char* name, Qt::MouseButton button = Qt::LeftButton); // the middle of a widget by object name
    void clickAt(QWidget* widget, QPoint at, Qt::MouseButton button = Qt::LeftButton,
                 Qt::KeyboardModifiers modifiers = {});
    void hover(Point cell);
    void clickCell(Point cell, Qt::MouseButton button = Qt::LeftButton, Qt::KeyboardModifiers modifiers = {});
    void dragCells(const std::vector<Point>& cells, Qt::MouseButton button = Qt::LeftButton);
    void drag(Point from, Point to, Qt::KeyboardModifiers modifiers = {}, Qt::MouseButton button = Qt::LeftButton);
    void slide(const char* slider, int value);           // its handle, with the mouse, then to the very value with keys
    void choose(const char* combo, const QString& text); // an entry of a list that opens, with the mouse
    void mean(int key, const QString& text);             // what a colour of the plan means
    void clickRow(QListView* list, const QString& text, Qt::KeyboardModifiers modifiers = {});
    void clickRow(QListView* list, int row);
    QString rowText(const QListView* list, int row) const;
    void key(int key, Qt::KeyboardModifiers modifiers = {});
    void drop(const QString& file);
    void drop(const std::vector<QString>& files); // at once
    void stage(const char* name) { click(name); }
    void pickMaterial(const char* name); // from the Tray, with the mouse
    void activate(const char* layer);    // its slab, with the mouse
    void picture(const char* name);      // to be looked at: only where VICINUM_PICTURES names a folder; in Slate with
                                         // VICINUM_LOOK=slate
    void reopen();                       // the project in a new window, after the old one went
    void restart();                      // closes the window and opens another on the same project

    [[nodiscard]] const level::Layer& layer(const char* name);
    [[nodiscard]] QString reading();
    [[nodiscard]] QString notice();

    make::Folder folder;
    std::unique_ptr<MainWindow> window;

  private:
    void chooseOpened(QComboBox* box, int to);
    void show(QSize size);
};

// Until all that was done has been dealt with: events, widgets that go, and work in the background that the window
// tells of.
void settle();

// Writes a picture into the test's folder; where it is then.
QString put(Window& w, const std::string& name, const Image& image);

// The menu of that name, as soon as it is open; and an entry of it, with the mouse.
QMenu* shownMenu(const QString& name);
void clickEntry(QMenu* menu, const QString& text);

// Puts a number into a field as one types it.
void type(QSpinBox* box, const char* text);

} // namespace app_test
