// What went wrong and what to do, above the reading line until it is closed.
#pragma once

#include <QString>
#include <QWidget>

#include "app/parts/tokens.hpp"
#include "base/text.hpp"

class QLabel;

namespace vic::app {

struct Tokens;

class Notice : public QWidget {
    Q_OBJECT
  public:
    explicit Notice(QWidget* parent);
    void say(const QString& text);
    void setLook(const Tokens& tokens);

  private:
    QLabel* text_;
};

} // namespace vic::app
