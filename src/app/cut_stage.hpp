// The Cut stage: sheets on the left, the sheet with its proposals in the middle, the chosen tiles on the right.
#pragma once

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QToolButton>
#include <array>

#include "app/card_list.hpp"
#include "app/sheet_view.hpp"

namespace vic::app {

class SheetList : public QWidget {
    Q_OBJECT
  public:
    SheetList(Session& session, QWidget* parent);
    void follow();

  signals:
    void addAsked();

  private:
    Session& session_;
    CardList* list_;
};

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

class CutCentre : public QWidget {
    Q_OBJECT
  public:
    CutCentre(Session& session, QWidget* parent);
    void follow();
    [[nodiscard]] SheetView* view() const { return view_; }
    [[nodiscard]] QString reading() const { return reading_; }
    void takeBest(); // Enter

  signals:
    void readingChanged();

  private:
    void take(const level::Cut& cut);
    void byHand();
    void hover(level::TileId tile);
    void rebuildCards();
    void addProp(const Box& box);
    Session& session_;
    SheetView* view_;
    QWidget* cards_;
    QHBoxLayout* cardRow_;
    std::array<QSpinBox*, 7> numbers_{};
    QPushButton* takeButton_;
    QLabel* trouble_;
    QString reading_;
    std::string cardsOf_;
    level::TileId hovered_ = 0;
};

class TilePanel : public QWidget {
    Q_OBJECT
  public:
    TilePanel(Session& session, QWidget* parent);
    void follow();

  private:
    void change(const QString& name, const std::function<void(level::Tile&)>& what, const std::string& merge = {});
    Session& session_;
    QLabel* count_;
    QLabel* picture_;
    QLabel* title_;
    QLabel* under_;
    QWidget* properties_;
    QLineEdit* name_;
    QSpinBox* chance_;
    QComboBox* home_;
    std::array<QToolButton*, 7> shapes_{};
    QWidget* next_;
    QPushButton* joins_;
    QPushButton* plain_;
    QLabel* hint_;
};

} // namespace vic::app
