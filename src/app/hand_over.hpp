// The middle of Hand over: what is wrong, and the build.
#pragma once

#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QWidget>
#include <thread>

#include "app/card_list.hpp"
#include "app/session.hpp"

namespace vic::app {

class HandOverPage : public QWidget {
    Q_OBJECT
  public:
    HandOverPage(Session& session, QWidget* parent);
    ~HandOverPage() override;
    void follow();
    void build();  // all levels, in the background
    [[nodiscard]] bool building() const { return building_; }

  signals:
    void placeAsked(const std::string& level, vic::Point cell, vic::level::LayerId layer);
    void built(bool good);

  private:
    struct Result {
        std::string level, dir, trouble;
        int files = 0;
        std::uintmax_t bytes = 0;
    };
    void show(const std::vector<Result>& results);
    void play();
    Session& session_;
    QLabel* count_;
    CardList* findings_;
    QLabel* none_;
    QLabel* where_;
    QPushButton* build_;
    QPushButton* play_;
    QLabel* results_;
    std::thread work_;
    bool building_ = false;
};

}  // namespace vic::app
