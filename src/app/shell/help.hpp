// Help: for what is under the pointer, and the guide inside the program.
#pragma once

#include <QFrame>
#include <QString>
#include <QWidget>

#include "app/session/choice.hpp"

class QLabel;
class QPoint;
class QTextBrowser;

namespace vic::app {

// The user guide, without its pictures: the window itself is what they show.
class Guide : public QWidget {
    Q_OBJECT
  public:
    explicit Guide(QWidget* parent);
    // At that heading of the guide, or at its beginning.
    void open(const QString& heading);

  private:
    void load(const QString& file);
    QTextBrowser* text_;
};

// What a thing under the pointer is for.
struct HelpTopic {
    QString text;    // rich: its name, key and a line of help, as its tool tip has them
    QString heading; // of the guide, where more is said
};

class HelpCard : public QFrame {
    Q_OBJECT
  public:
    explicit HelpCard(QWidget* parent);
    void open(const HelpTopic& topic, QPoint at);

  signals:
    void guideAsked(const QString& heading);
    void keysAsked();

  private:
    QLabel* text_;
    QString heading_;
};

// The topic of a widget: its own tool tip, or that of the nearest around it; else what the stage is about.
HelpTopic topicOf(const QWidget* widget, bool open, Stage stage);

} // namespace vic::app
