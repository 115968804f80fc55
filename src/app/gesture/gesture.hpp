// What the pointer does in the level: one object for each way of doing something there, with what it shows before the
// press, what it does from press to release, what it draws, and the sentence that says so. A new tool is one new file
// and one line in tools.cpp.
#pragma once

#include <QCoreApplication>
#include <QPointF>
#include <QRect>
#include <QString>
#include <optional>

#include "app/parts/camera.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "level/prop.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"

class QKeyEvent;
class QPainter;

namespace vic::level {
struct Level;
} // namespace vic::level

namespace vic::app {

class Camera;
class Session;

// A prop that something is in the way of: another one, or 0.
struct Hindered {
    level::PropId prop = 0, other = 0;
};

// The view that gestures work in. It outlives them.
class Board {
  public:
    [[nodiscard]] virtual Session& session() const = 0;
    [[nodiscard]] virtual const Camera& camera() const = 0;
    // The level as it is drawn now.
    [[nodiscard]] virtual const level::Level& shown() const = 0;
    // Draws another level in the place of the document's, until the gesture ends or shows another.
    virtual void show(const level::Level& level) = 0;
    // Of what is shown, that a prop runs into something: until another level is shown.
    virtual void hinder(const Hindered& hindered) = 0;
    // The level has come to have more at its left and upper side: what is seen stays where it is.
    virtual void shift(QPointF pixels) = 0;
    virtual void centreOn(QPointF pixel) = 0; // at the same zoom
    virtual void setPointerShape(Qt::CursorShape shape) = 0;
    virtual void drawAgain() = 0; // what gestures draw over the level

    // The small map; empty where there is none. The rulers' thickness, 0 in a quiet view.
    [[nodiscard]] virtual QRect mapPlace() const = 0;
    [[nodiscard]] virtual Box mapPixels() const = 0; // of the level, that the map shows
    [[nodiscard]] virtual int ruler() const = 0;
    // The tag by which the frame is dragged, empty where it is not seen; and where the frame stands.
    [[nodiscard]] virtual QRect frameTag() const = 0;
    [[nodiscard]] virtual Box framePixels() const = 0;
    [[nodiscard]] virtual bool spaceHeld() const = 0;

  protected:
    ~Board() = default;
};

// Where the pointer is in the board, and what is held down with it.
struct Pointer {
    QPointF place;
    Qt::KeyboardModifiers modifiers;
    Qt::MouseButton button = Qt::NoButton; // that was pressed or let go
    bool twice = false;                    // the second press of a double click
    [[nodiscard]] bool shift() const { return (modifiers & Qt::ShiftModifier) != 0; }
    [[nodiscard]] bool control() const { return (modifiers & Qt::ControlModifier) != 0; }
    [[nodiscard]] bool alt() const { return (modifiers & Qt::AltModifier) != 0; }
    [[nodiscard]] bool left() const { return button == Qt::LeftButton; }
};

// For the reading line: rich text.
struct Sentence {
    QString text;
    bool warns = false;
};

class Gesture {
    Q_DECLARE_TR_FUNCTIONS(Gesture)
  public:
    explicit Gesture(Board& board) : board_(board) {}
    virtual ~Gesture();
    Gesture(const Gesture&) = delete;
    Gesture& operator=(const Gesture&) = delete;

    // Whether a press here would be this gesture's.
    [[nodiscard]] virtual bool takes(const Pointer& at) const = 0;
    // Whether it goes by what lies beside the level on the screen, as rulers do: nothing for another view that covers
    // it.
    [[nodiscard]] virtual bool besideLevel() const { return false; }
    // Begins. False where that was all: no move or release will follow.
    virtual bool press(const Pointer& at) = 0;
    virtual void move(const Pointer& at);
    virtual void release(const Pointer& at); // ends; the board shows the document's level again
    virtual void cancel();                   // ends with nothing done
    // Whether, while it is under way, it shows a level, or a choice, of its own.
    [[nodiscard]] virtual bool holds() const { return true; }

    // Shows what a press here would make, and keeps for sentence() what it found. False where that is nothing.
    virtual bool preview(const Pointer& at);
    virtual void forget(); // what it kept is no longer true: another level is shown, or the pointer is gone
    // What is drawn over the level; `at` is none where the pointer is elsewhere.
    virtual void paint(QPainter& painter, const std::optional<Pointer>& at) const;
    [[nodiscard]] virtual Sentence sentence(const Pointer& at) const = 0;
    // The layer that a press would lay on; 0 for none.
    [[nodiscard]] virtual level::LayerId target() const { return 0; }
    // The cells that are chosen while it is under way; none where those of the session are.
    [[nodiscard]] virtual std::optional<level::Region> chosen() const { return std::nullopt; }
    // Esc while it is not under way: whether there was something of its own to put away.
    virtual bool putAway() { return false; }
    virtual bool key(const QKeyEvent&) { return false; }

  protected:
    [[nodiscard]] Session& session() const;
    [[nodiscard]] const Camera& camera() const;
    [[nodiscard]] Lattice grain() const; // of the cells one works on
    [[nodiscard]] Point cellAt(const Pointer& at) const;
    [[nodiscard]] Point pixelAt(const Pointer& at) const;
    // "cell 3, 4"
    [[nodiscard]] QString placeName(const Pointer& at) const;
    // What is said where no cell is; none where one is.
    [[nodiscard]] std::optional<Sentence> beyond(const Pointer& at) const;

    Board& board_;
};

[[nodiscard]] QString bold(const QString& text); // escaped

} // namespace vic::app
