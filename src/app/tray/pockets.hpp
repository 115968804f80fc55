// Nine numbered slots that keep a Hand.
#pragma once

#include <QSize>
#include <QString>
#include <QWidget>
#include <array>

#include "app/session/session.hpp"
#include "edit/stroke.hpp"

class QMouseEvent;
class QPaintEvent;

namespace vic::app {

class Session;

// Nine numbered slots that keep a Hand.
class Pockets : public QWidget {
    Q_OBJECT
  public:
    Pockets(Session& session, QWidget* parent);
    void use(int index);  // 0 .. 8: takes what it holds, or keeps the present Hand where it is empty
    void keep(int index); // puts the present Hand into it
    [[nodiscard]] QSize sizeHint() const override { return {240, 34}; }
    [[nodiscard]] QString packed() const; // for the settings
    void unpack(const QString& text);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;

  private:
    Session& session_;
    std::array<edit::Hand, 9> hands_{};
};

} // namespace vic::app
