// A level with its picture, its size, and what is built of it.
#pragma once

#include <QAbstractButton>
#include <QPixmap>
#include <QSize>
#include <QString>

class QPaintEvent;
class QWidget;

namespace vic::app {

// A level with its picture, its size, and what is built of it.
class LevelCard : public QAbstractButton {
    Q_OBJECT
  public:
    LevelCard(const QPixmap& picture, const QString& name, QWidget* parent);
    void setUnder(const QString& text, bool looks);
    [[nodiscard]] QSize sizeHint() const override { return {232, 196}; }

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    QPixmap picture_;
    QString under_;
    bool looks_ = false;
};

} // namespace vic::app
