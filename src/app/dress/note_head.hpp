// The head of the notes of what is chosen in Dress.
#pragma once

class QVBoxLayout;
class QWidget;

namespace vic::app {

class Session;

// "Notes", and a link that adds a kind of note to the project; `id` names it.
void addNoteHead(QVBoxLayout* column, QWidget* panel, Session& session, const char* id);

} // namespace vic::app
