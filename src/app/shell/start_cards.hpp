// What the start page is made of: cards that are one button each, with a picture and two or three lines of text.
#pragma once

#include <QAbstractButton>
#include <QPixmap>
#include <QString>
#include <QWidget>

#include "edit/beginnings.hpp"

class QPaintEvent;

namespace vic::app {

// A picture beside a title and what is under it; or, `above`, over them.
class StartCard : public QAbstractButton {
    Q_OBJECT
  public:
    enum class Picture { beside, above };
    StartCard(const QString& title, const QString& under, Picture picture, QWidget* parent);
    void setPicture(const QPixmap& picture); // crisp; cut to its place
    // A second, quiet line; in ochre where something waits.
    void setWaits(const QString& text, bool waits);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    [[nodiscard]] QRect pictureBox() const;
    QString under_, line_;
    Picture where_;
    QPixmap picture_;
    bool waits_ = false;
};

// A small drawing of what a level of this kind looks like.
QPixmap drawingOf(edit::Beginning beginning, QSize size, double ratio);

// Where art is dropped: says so, and lights up while something hovers over the window.
class DropArea : public QWidget {
    Q_OBJECT
  public:
    explicit DropArea(QWidget* parent);
    void setLit(bool lit);

  signals:
    void pictureAsked();
    void projectAsked();

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    bool lit_ = false;
};

// The way through the stages, as the workline shows it once a project is open.
class StartWay : public QWidget {
    Q_OBJECT
  public:
    explicit StartWay(QWidget* parent);

  protected:
    void paintEvent(QPaintEvent*) override;
};

} // namespace vic::app
