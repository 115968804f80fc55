// A pack of art as a page: all pictures of a folder with their names, sizes and what each is read as. What is chosen is
// taken, the rest is left.
#pragma once

#include <QHash>
#include <QPixmap>
#include <QString>
#include <QStringList>
#include <QWidget>
#include <cstdint>
#include <set>
#include <vector>

#include "app/session/library.hpp"
#include "base/geometry.hpp"
#include "store/pack_folder.hpp"

class QKeyEvent;
class QLabel;
class QLineEdit;
class QPushButton;

namespace vic::app {

class PictureList;
class Session;

class PackPage : public QWidget {
    Q_OBJECT
  public:
    PackPage(Session& session, QWidget* parent);
    void open(store::PackFolder pack);

  signals:
    void taken(const QString& title, const std::vector<vic::app::Chosen>& chosen);
    void left();

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    // What a picture is read as, in the background.
    struct Read {
        QString text;
        bool sheet = false; // of several tiles: a sheet of its own; others go onto one together
        QPixmap picture;
        bool done = false;
    };
    void readNext();
    void fill();
    void toggle(quint32 id);
    void tell();
    void chooseShown();
    [[nodiscard]] QPixmap draw(quint32 id) const;
    Session& session_;
    store::PackFolder pack_;
    std::vector<Read> read_; // by picture
    std::size_t next_ = 0;   // the first that was not looked at
    std::set<quint32> chosen_;
    QLabel *title_, *under_;
    QLineEdit* search_;
    PictureList* list_;
    QPushButton *take_, *all_;
};

} // namespace vic::app
