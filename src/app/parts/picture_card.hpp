// A choice as a card that is one button: a picture on the left, a title and a few words beside it.
#pragma once

#include <QAbstractButton>
#include <QPixmap>
#include <QSize>
#include <QString>

class QPaintEvent;
class QWidget;

namespace vic::app {

class PictureCard : public QAbstractButton {
    Q_OBJECT
  public:
    // `first`: the one that is proposed, drawn in the tool's colour.
    PictureCard(const QString& title, const QString& under, bool first, QWidget* parent);
    void setPicture(const QPixmap& picture); // square
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    QString under_;
    QPixmap picture_;
    bool first_;
};

} // namespace vic::app
