// What will be laid, drawn as it would look.
#pragma once

#include <QPixmap>
#include <QSize>
#include <QString>
#include <QWidget>

#include "app/session/session.hpp"

class QPaintEvent;

namespace vic::edit {
struct Hand;
} // namespace vic::edit

namespace vic::level {
struct Project;
} // namespace vic::level

namespace vic::app {

class Session;

QPixmap handPicture(const level::Project& project, const edit::Hand& hand, int side);
QString handName(const level::Project& project, const edit::Hand& hand);

// What will be laid, drawn as it would look.
class HandCard : public QWidget {
    Q_OBJECT
  public:
    HandCard(Session& session, QWidget* parent);
    void refresh();
    [[nodiscard]] QSize sizeHint() const override { return {240, 132}; }

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    Session& session_;
};

} // namespace vic::app
