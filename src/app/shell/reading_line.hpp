// The line at the foot of the window: what the next click will do, what waits elsewhere, and when it was saved.
#pragma once

#include <QElapsedTimer>
#include <QString>
#include <QTimer>
#include <QWidget>
#include <optional>

#include "base/geometry.hpp"
#include "base/text.hpp"

class QLabel;

namespace vic::app {

class Session;

class ReadingLine : public QWidget {
    Q_OBJECT
  public:
    ReadingLine(Session& session, QWidget* parent);
    // Rich text; where the pointer is in the level decides when a message gives way to it.
    void read(const QString& text, bool warns, std::optional<Point> pointed);
    // What only follows from a change gives way to what is pointed at as soon as there was time to read it.
    enum class Stay { full, brief };
    void say(const QString& message, std::optional<Point> pointed, Stay stay = Stay::full);
    void setSaved();    // just now
    void forgetSaved(); // another project is open
    void setDark(bool dark);
    [[nodiscard]] QString text() const;

  signals:
    void stale(); // what it reads is to be told again

  private:
    void tellWhatWaits();
    void tellWhenSaved();
    Session& session_;
    QLabel *reading_, *waits_, *saved_;
    qint64 savedAt_ = 0; // milliseconds; 0: not since it was opened
    QTimer clock_;
    QString message_;
    std::optional<Point> messageAt_; // the cell pointed at when it was said
    QElapsedTimer messageSince_;
    bool messageLeft_ = false; // whether the pointer has been at another one since
    QTimer messageTimer_;
};

} // namespace vic::app
