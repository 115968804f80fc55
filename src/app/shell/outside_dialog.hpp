// Where others and we have changed the same: what is to stay, for each level or for everything.
#pragma once

#include <QDialog>
#include <map>
#include <string>

#include "edit/outside.hpp"

class QButtonGroup;

namespace vic::app {

class OutsideDialog : public QDialog {
    Q_OBJECT
  public:
    OutsideDialog(const edit::Outside& outside, QWidget* parent);
    [[nodiscard]] std::map<std::string, edit::Keep> choices() const;

  private:
    void ask(const std::string& id, const QString& name, bool gone);
    std::map<std::string, QButtonGroup*> groups_;
};

} // namespace vic::app
