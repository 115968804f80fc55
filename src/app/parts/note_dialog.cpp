#include "app/parts/note_dialog.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QCoreApplication>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QString>
#include <algorithm>
#include <string>

#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "base/text.hpp"
#include "edit/notes.hpp"
#include "level/facts.hpp"
#include "level/notes.hpp"

namespace vic::app {

namespace {

QString tr(const char* text) { return QCoreApplication::translate("NoteDialog", text); }

std::vector<std::string> choicesOf(const QString& text) {
    std::vector<std::string> out;
    for (const QString& part : text.split(',', Qt::SkipEmptyParts))
        if (std::string word = part.trimmed().toStdString();
            !word.empty() && std::find(out.begin(), out.end(), word) == out.end())
            out.push_back(std::move(word));
    return out;
}

} // namespace

std::optional<level::NoteKind> askNoteKind(QWidget* parent, const level::Project& project, bool ofCells) {
    QDialog dialog(parent);
    dialog.setObjectName("noteDialog");
    dialog.setWindowTitle(tr("Add a note"));
    auto* form = new QFormLayout(&dialog);
    auto* name = new QLineEdit(&dialog);
    name->setObjectName("noteName");
    form->addRow(tr("Name"), name);
    auto* type = new QComboBox(&dialog);
    type->setObjectName("noteType");
    const QString words[] = {tr("text"),   tr("number"), tr("yes or no"),
                             tr("colour"), tr("choice"), tr("side of the tile")};
    for (int i = 0; i < 6; ++i) {
        level::NoteKind kind;
        kind.type = static_cast<level::NoteType>(i);
        if (!ofCells || level::may_be_fact(kind)) type->addItem(words[i], i);
    }
    form->addRow(tr("Holds"), type);
    auto* choices = new QLineEdit(&dialog);
    choices->setObjectName("noteChoices");
    choices->setPlaceholderText(tr("stone, wood, wet"));
    choices->setEnabled(false);
    form->addRow(tr("Choices"), choices);
    const auto typeNow = [type] { return static_cast<level::NoteType>(type->currentData().toInt()); };
    QObject::connect(type, &QComboBox::currentIndexChanged, choices,
                     [choices, typeNow] { choices->setEnabled(typeNow() == level::NoteType::choice); });
    auto* surface = new QCheckBox(tr("Of surfaces: outlines are told apart by it"), &dialog);
    surface->setObjectName("noteSurface");
    describe(surface, tr("Of surfaces"), {},
             tr("Slippery, loud, soft: the engine is told along the edges that one walks on"));
    surface->setVisible(!ofCells);
    form->addRow(QString(), surface);
    auto* trouble = label({}, "warning", &dialog);
    form->addRow(trouble);
    auto* buttons = new QDialogButtonBox(&dialog);
    auto* ok = buttons->addButton(tr("Add"), QDialogButtonBox::AcceptRole);
    ok->setObjectName("noteAdd");
    setRole(ok, "primary");
    dialog.setMinimumWidth(320);
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    form->addRow(buttons);
    level::NoteKind kind;
    QObject::connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    QObject::connect(buttons, &QDialogButtonBox::accepted, &dialog, [&] {
        kind.name = name->text().trimmed().toStdString();
        kind.type = typeNow();
        kind.choices = kind.type == level::NoteType::choice ? choicesOf(choices->text()) : std::vector<std::string>();
        kind.surface = surface->isChecked();
        const Text wrong = edit::note_trouble(project, kind);
        trouble->setText(translated(wrong));
        if (wrong.empty()) dialog.accept();
    });
    if (dialog.exec() != QDialog::Accepted) return std::nullopt;
    return kind;
}

} // namespace vic::app
