// Find: one field that knows every command, sheet, tile, material, layer, level and mark.
#pragma once

#include <QFrame>
#include <QPoint>
#include <QString>
#include <functional>
#include <vector>

class QEvent;
class QLineEdit;
class QObject;
class QWidget;

namespace vic::app {

struct Findable {
    QString name;
    QString kind; // "command", "material" …
    QString key;  // shortcut
    std::function<void()> go;
};

class PictureList;

class Finder : public QFrame {
    Q_OBJECT
  public:
    explicit Finder(QWidget* parent);
    void open(std::vector<Findable> all, QPoint topRight);

  protected:
    bool eventFilter(QObject* object, QEvent* event) override;

  private:
    void filter();
    void go(std::size_t row);
    QLineEdit* field_;
    PictureList* list_;
    std::vector<Findable> all_;
};

} // namespace vic::app
