// A list of cards: a picture, a title and one or two lines below it.
#pragma once

#include <QListView>
#include <QPixmap>
#include <QPoint>
#include <QString>
#include <vector>

class QFocusEvent;
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
    [[nodiscard]] bool operator==(const Card& o) const {
        return id == o.id && picture.cacheKey() == o.picture.cacheKey() && title == o.title && under == o.under &&
               state == o.state && looks == o.looks && ring == o.ring;
    }
};

class CardModel;

class CardList : public QListView {
    Q_OBJECT
  public:
    explicit CardList(QWidget* parent);
    // Keeps the choice where the id is still there. Does not emit chosen().
    void setCards(const std::vector<Card>& cards, quint32 current);
    [[nodiscard]] QPoint cardCentre(quint32 id) const; // in the viewport
    [[nodiscard]] const std::vector<Card>& cards() const;

  signals:
    void chosen(quint32 id);
    void renamed(quint32 id, const QString& name);

  protected:
    void focusInEvent(QFocusEvent* event) override;

  private:
    CardModel* model_;
    bool filling_ = false;
};

} // namespace vic::app
