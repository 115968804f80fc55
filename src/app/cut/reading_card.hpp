// A proposal of a cut as a card.
#pragma once

#include <QAbstractButton>
#include <QSize>
#include <QString>

class QEnterEvent;
class QEvent;
class QPaintEvent;
class QWidget;

namespace vic::app {

// A proposal as a card: the numbers above, the reason below.
class ReadingCard : public QAbstractButton {
    Q_OBJECT
  public:
    ReadingCard(const QString& title, const QString& reason, bool first, QWidget* parent);
    [[nodiscard]] QSize sizeHint() const override;

  signals:
    void hovered(bool on);

  protected:
    void paintEvent(QPaintEvent*) override;
    void enterEvent(QEnterEvent*) override { emit hovered(true); }
    void leaveEvent(QEvent*) override { emit hovered(false); }

  private:
    QString reason_;
    bool first_;
};

} // namespace vic::app
