// What the Hand holds, in other colours: as a copy, or, where it is one already, from now on.
#pragma once

#include <QDialog>
#include <QPixmap>
#include <vector>

#include "base/image.hpp"
#include "level/sheet.hpp"

class QFormLayout;
class QLabel;
class QLineEdit;
class QPushButton;
class QToolButton;

namespace vic::app {

class Session;

class RecolourDialog : public QDialog {
    Q_OBJECT
  public:
    RecolourDialog(Session& session, QWidget* parent);

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void buildPictures(QFormLayout* form);
    void buildSliders(QFormLayout* form);
    void buildSwaps(QFormLayout* form);
    void chooseFor(Rgba colour);
    void show();
    void take();
    [[nodiscard]] QPixmap picture(const Image& image) const;

    Session& session_;
    bool again_; // it is a copy already
    level::Recolour by_;
    Image sample_;
    std::vector<Rgba> colours_;
    std::vector<QToolButton*> swatches_; // one a colour
    QLabel *before_ = nullptr, *after_ = nullptr, *trouble_ = nullptr;
    QLineEdit* name_ = nullptr;
};

} // namespace vic::app
