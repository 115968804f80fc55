// The middle of Hand over: what is wrong, and the build.
#pragma once

#include <QAbstractButton>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QWidget>
#include <map>
#include <thread>

#include "app/card_list.hpp"
#include "app/session.hpp"

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

class HandOverPage : public QWidget {
    Q_OBJECT
  public:
    HandOverPage(Session& session, QWidget* parent);
    ~HandOverPage() override;
    void follow();
    void build(); // all levels, in the background
    [[nodiscard]] bool building() const { return building_; }

  signals:
    void placeAsked(const std::string& level, vic::Point cell, vic::level::LayerId layer);
    void built(bool good);

  private:
    struct Result {
        std::string level, dir;
        QString trouble;
        int files = 0;
        std::uintmax_t bytes = 0;
    };
    void show(const std::vector<Result>& results);
    void play();
    void showLevels();
    Session& session_;
    QLabel* count_;
    QHBoxLayout* levelRow_;
    std::map<std::string, std::pair<std::shared_ptr<const level::Level>, LevelCard*>> cards_;
    CardList* findings_;
    QLabel* none_;
    QLabel* where_;
    QPushButton* build_;
    QPushButton* play_;
    QLabel* results_;
    std::thread work_;
    bool building_ = false;
};

} // namespace vic::app
