// The right side of Dress, below the Tray: the prop in the Hand, or the chosen one.
#pragma once

#include <QWidget>

class QCheckBox;
class QLabel;
class QLineEdit;

namespace vic::level {
struct PropKind;
} // namespace vic::level

namespace vic::app {

class Session;

// What the prop in the Hand, or the chosen one, is.
class PropPanel : public QWidget {
    Q_OBJECT
  public:
    PropPanel(Session& session, QWidget* parent);
    void refresh();

  private:
    [[nodiscard]] const level::PropKind* kind() const;
    Session& session_;
    QLineEdit* name_;
    QCheckBox* blocks_;
    QLabel* foot_;
};

} // namespace vic::app
