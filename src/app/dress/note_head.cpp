#include "app/dress/note_head.hpp"

#include <QCoreApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QString>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/parts/note_dialog.hpp"
#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "edit/notes.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

struct NoteHead {
    Q_DECLARE_TR_FUNCTIONS(NoteHead)
};

} // namespace

void addNoteHead(QVBoxLayout* column, QWidget* panel, Session& session, const char* id) {
    auto* head = new QHBoxLayout;
    head->addWidget(label(NoteHead::tr("Notes"), "heading"));
    head->addStretch();
    auto* add = toolButton(panel, id, {}, NoteHead::tr("+ note"), {}, "link");
    describe(add, NoteHead::tr("Add a note"), {},
             NoteHead::tr("A value for the game, of one type in the whole project"));
    QObject::connect(add, &QToolButton::clicked, panel, [panel, &session] {
        const auto kind = askNoteKind(panel, session.project());
        if (!kind) return;
        session.apply(NoteHead::tr("Add the note %1").arg(QString::fromStdString(kind->name)),
                      edit::add_note_kind(session.project(), *kind));
    });
    head->addWidget(add);
    column->addLayout(head);
}

} // namespace vic::app
