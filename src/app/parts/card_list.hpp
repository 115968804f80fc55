// A list of cards: a picture, a title and one or two lines below it.
#pragma once

#include <QListWidget>
#include <QPixmap>
#include <QPoint>
#include <QString>
#include <vector>

class QWidget;

namespace vic::app {

struct Card {
    quint32 id = 0;
    QPixmap picture;
    QString title;
    QString under;
    QString state; // a third line; ochre where it asks for a look
    bool looks = false;
    double ring = -1; // 0 .. 1 draws the picture round with a ring so far closed
};

class CardList : public QListWidget {
    Q_OBJECT
  public:
    explicit CardList(QWidget* parent);
    // Keeps the choice where the id is still there. Does not emit chosen().
    void setCards(const std::vector<Card>& cards, quint32 current);
    [[nodiscard]] QPoint cardCentre(quint32 id) const; // in the viewport

  signals:
    void chosen(quint32 id);
    void renamed(quint32 id, const QString& name);

  private:
    bool filling_ = false;
};

} // namespace vic::app
