// A list of things with a picture and a name each: in a row below one another, or side by side. A picture is drawn when
// it comes into view for the first time, so that many things cost no more than the few that are seen.
#pragma once

#include <QHash>
#include <QListView>
#include <QPixmap>
#include <QSize>
#include <QString>
#include <functional>
#include <optional>
#include <vector>

class QModelIndex;

namespace vic::app {

struct PictureRow {
    quint32 id = 0;
    QString text;
    QString help = {};
    bool strong = false; // in bold: where one is
    bool faint = false;
    bool dead = false; // says something, but cannot be picked
    bool operator==(const PictureRow&) const = default;
};

class PictureModel;

class PictureList : public QListView {
    Q_OBJECT
  public:
    PictureList(const char* name, const QString& title, QWidget* parent);

    // Side by side, each in a box of this size.
    void layInBoxes(QSize grid, QSize item, int letters);
    // What is drawn for an id; a list without it has no pictures. Drawn once until redraw() is called.
    void setDraw(QSize size, std::function<QPixmap(quint32 id)> draw);

    void setRows(std::vector<PictureRow> rows);
    void redraw(); // what is shown may look different now: draws anew what comes into view
    void setCurrent(std::optional<quint32> id);
    [[nodiscard]] std::optional<quint32> current() const;
    void step(int by); // the current one is so many further on, within the rows
    [[nodiscard]] std::optional<quint32> at(QPoint place) const; // in the viewport
    [[nodiscard]] int count() const;

  signals:
    void picked(quint32 id); // by a click, not by setCurrent()

  private:
    PictureModel* model_;
};

} // namespace vic::app
