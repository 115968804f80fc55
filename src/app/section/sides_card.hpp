// What each side of the level is to whoever comes there, under the Section.
#pragma once

#include <QWidget>

#include "app/parts/binding.hpp"

class QToolButton;

namespace vic::app {

class Session;

class SidesCard : public QWidget {
    Q_OBJECT
  public:
    SidesCard(Session& session, QWidget* parent);
    void refresh();

  private:
    void buildSide(std::size_t side, const QString& name, QWidget* inner);
    [[nodiscard]] QString words() const;
    Session& session_;
    QToolButton* head_;
    QWidget* inner_;
    Bindings fields_;
    bool unfolded_ = false;
};

} // namespace vic::app
