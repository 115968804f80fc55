// Tags, allowed turns and typed notes of the chosen tiles.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>
#include <map>
#include <vector>

#include "app/session/session.hpp"
#include "level/notes.hpp"

class QComboBox;
class QLineEdit;
class QMenu;

namespace vic::level {
struct Tile;
} // namespace vic::level

namespace vic::app {

class NoteRows;
class Session;

class TileNotes : public QWidget {
    Q_OBJECT
  public:
    TileNotes(Session& session, QWidget* parent);
    // All of the same sheet, at least one.
    void refresh();

  private:
    void change(const QString& name, const std::function<void(level::Tile&)>& what);
    void addKind();
    void offerRemoval(QMenu& menu, const level::NoteKind& kind);

    Session& session_;
    QLineEdit* tags_;
    QComboBox* turns_;
    NoteRows* rows_;
};

} // namespace vic::app
