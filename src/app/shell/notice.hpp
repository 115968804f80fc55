// What went wrong and what to do, above the reading line until it is closed.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>

#include "app/parts/tokens.hpp"
#include "base/text.hpp"

class QLabel;
class QPushButton;

namespace vic::app {

struct Tokens;

class Notice : public QWidget {
    Q_OBJECT
  public:
    explicit Notice(QWidget* parent);
    void say(const QString& text);
    // With what mends it as a button.
    void offer(const QString& text, const QString& what, std::function<void()> go);
    void setLook(const Tokens& tokens);

  private:
    QLabel* text_;
    QPushButton* offer_;
    std::function<void()> go_;
};

} // namespace vic::app
