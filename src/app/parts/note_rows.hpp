// A field for each note of the project, of one thing or of several at once.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>
#include <map>
#include <vector>

#include "level/notes.hpp"

class QMenu;
class QVBoxLayout;

namespace vic::app {

inline constexpr int kNoteNames = 78; // pixels of the fields' names

class NoteRows : public QWidget {
    Q_OBJECT
  public:
    // What is done to the notes of all that is chosen, as one step of this name.
    using Change = std::function<void(const QString& name, const std::function<void(level::Notes&)>& what)>;
    // Adds to the menu of a note's name; may be empty.
    using More = std::function<void(QMenu& menu, const level::NoteKind& kind)>;
    NoteRows(Change change, More more, QWidget* parent);
    // `chosen`: at least one.
    void refresh(const std::vector<level::NoteKind>& kinds, const std::vector<const level::Notes*>& chosen);

  private:
    void rebuild(const std::vector<level::NoteKind>& kinds);
    QWidget* editorOf(const level::NoteKind& kind);
    void show(const level::NoteKind& kind, QWidget* editor, const std::vector<const level::Notes*>& chosen);

    Change change_;
    More more_;
    QVBoxLayout* rows_;
    std::vector<level::NoteKind> builtFor_;
    std::map<level::NoteId, QWidget*> editors_;
};

} // namespace vic::app
