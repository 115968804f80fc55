// One pass of a planting: folded a line, opened all that it says.
#pragma once

#include <QFrame>
#include <QString>
#include <functional>
#include <string>
#include <vector>

#include "app/parts/binding.hpp"
#include "level/planting.hpp"

class QLabel;
class QSpinBox;
class QVBoxLayout;
class QMouseEvent;

namespace vic::app {

class Session;
class TermRows;

class PassCard : public QFrame {
    Q_OBJECT
  public:
    PassCard(Session& session, level::LayerId layer, int index, QWidget* parent);
    void refresh();
    void setOpen(bool on);

  signals:
    void picked(int index);

  protected:
    void mousePressEvent(QMouseEvent* event) override;

  private:
    using What = std::function<void(level::Pass&)>;
    [[nodiscard]] const level::Pass& pass() const;
    void change(const QString& name, const What& what, const std::string& merge = {});
    void build(); // its fields, when it is opened first
    void buildKinds(QVBoxLayout* column);
    void buildMany(QVBoxLayout* column);
    void buildGroups(QVBoxLayout* column);
    void buildLook(QVBoxLayout* column);
    void buildWhere(QVBoxLayout* column);
    void buildButtons(QVBoxLayout* column);
    void showKinds();
    QWidget* kindLine(std::size_t at);
    QSpinBox* number(QWidget* parent, const char* name, int least, int most, const QString& unit, const QString& help);
    // Two numbers beside each other, the least and the most.
    void range(QVBoxLayout* column, const QString& title, const char* name, int least, int most, const QString& unit,
               int level::Pass::*from, int level::Pass::*to, int times, const QString& help);
    [[nodiscard]] QString summary() const;
    [[nodiscard]] int count() const;

    Session& session_;
    level::LayerId layer_;
    int index_;
    QLabel* title_;
    QLabel* count_;
    QLabel* under_;
    QWidget* inner_ = nullptr;
    QVBoxLayout* kinds_ = nullptr;
    TermRows* where_ = nullptr;
    std::vector<level::PropKindId> shown_;
    Bindings lines_, fields_;
};

} // namespace vic::app
