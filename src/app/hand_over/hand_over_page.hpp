// The middle of Hand over: what is wrong, and the build.
#pragma once

#include <QString>
#include <QWidget>
#include <cstdint>
#include <map>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "app/hand_over/level_card.hpp"
#include "app/parts/card_list.hpp"
#include "level/sheet.hpp"

#include "base/files.hpp"

class QHBoxLayout;
class QComboBox;
class QLabel;
class QPushButton;
class QSpinBox;
class QVBoxLayout;

namespace vic::level {
struct Level;
struct Project;
} // namespace vic::level

namespace vic::app {

class CardList;
class LevelCard;
class Session;

class HandOverPage : public QWidget {
    Q_OBJECT
  public:
    HandOverPage(Session& session, QWidget* parent);
    void refresh();
    void build(); // all levels, in the background
    [[nodiscard]] bool building() const;

  signals:
    void placeAsked(const std::string& level, vic::Point cell, vic::level::LayerId layer);
    void wasBuilt(bool good);

  private:
    void buildBlocking(QVBoxLayout* right);
    void showDeviation();
    struct Result {
        std::string level;
        QString trouble;
        int files = 0;
        std::uintmax_t bytes = 0;
    };
    static Result built(const level::Project& project, const level::Level& level, const fs::path& dir,
                        const fs::path& to);
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
    QComboBox* shapes_;
    QSpinBox* deviation_;
    QSpinBox* thinnest_;
    QLabel* corners_;
    QPushButton* build_;
    QPushButton* play_;
    QLabel* results_;
};

} // namespace vic::app
