// Milliseconds for animated tiles and props: they go by while there is something to play and it is let play.
#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <memory>
#include <vector>

#include "app/session/memo.hpp"

namespace vic::level {
struct PropKind;
struct Sheet;
} // namespace vic::level

namespace vic::app {

class PlayClock : public QObject {
    Q_OBJECT
  public:
    PlayClock();
    [[nodiscard]] qint64 now() const { return now_; }
    [[nodiscard]] bool playing() const { return playing_; }
    void setPlaying(bool on);
    // What there is to play.
    void follow(const std::vector<std::shared_ptr<const level::Sheet>>& sheets,
                const std::vector<std::shared_ptr<const level::PropKind>>& kinds);

  signals:
    void ticked(); // another time

  private:
    void run();
    QTimer timer_;
    QElapsedTimer since_;
    qint64 now_ = 0, before_ = 0;
    bool playing_ = true;
    bool any_ = false;
    Memo<std::vector<std::shared_ptr<const level::PropKind>>, bool> kindsMove_;
    Memo<std::vector<std::shared_ptr<const level::Sheet>>, bool> moves_;
};

} // namespace vic::app
