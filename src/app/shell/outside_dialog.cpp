#include "app/shell/outside_dialog.hpp"

#include <QButtonGroup>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QString>
#include <QStringList>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/parts/panel.hpp"

namespace vic::app {

using edit::Keep;

OutsideDialog::OutsideDialog(const edit::Outside& outside, QWidget* parent) : QDialog(parent) {
    setObjectName("outsideDialog");
    setWindowTitle(tr("Changed on both sides"));
    setMinimumWidth(480);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 16, 18, 16);
    column->setSpacing(10);
    auto* text = label(tr("Somebody else has changed these in the project's folder, and so have you. Nothing is lost: "
                          "taking theirs is a step that undo takes back."),
                       {}, this);
    text->setWordWrap(true);
    column->addWidget(text);
    QStringList taken;
    for (const edit::Unit& unit : outside.units) {
        const bool ask_whole = outside.whole() && unit.level.empty();
        if (ask_whole)
            ask({}, tr("The whole project: its sheets, materials and props, and the levels with them"), false);
        else if (unit.conflict() && !outside.whole())
            ask(unit.level,
                unit.gone ? tr("The level %1, which they removed").arg(QString::fromStdString(unit.name))
                          : tr("The level %1").arg(QString::fromStdString(unit.name)),
                unit.gone);
        else if (!outside.whole())
            taken << (unit.level.empty() ? tr("sheets, materials and props") : QString::fromStdString(unit.name));
    }
    if (!taken.isEmpty()) {
        auto* rest = label(tr("Changed by them alone, and taken over: %1").arg(taken.join(", ")), "quiet", this);
        rest->setWordWrap(true);
        column->addWidget(rest);
    }
    auto* buttons = new QDialogButtonBox(this);
    auto* take = buttons->addButton(tr("Go on with these"), QDialogButtonBox::AcceptRole);
    take->setObjectName("outsideTake");
    setRole(take, "primary");
    buttons->addButton(tr("Not now"), QDialogButtonBox::RejectRole)->setObjectName("outsideLater");
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    column->addWidget(buttons);
}

void OutsideDialog::ask(const std::string& id, const QString& name, bool gone) {
    auto* column = static_cast<QVBoxLayout*>(layout());
    auto* title = label(name, "heading", this);
    title->setWordWrap(true);
    column->addWidget(title);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    auto* group = new QButtonGroup(this);
    const auto choice = [&](const char* word, Keep keep, const QString& text, const QString& help) {
        auto* b =
            toolButton(this, QString("outside-%1-%2").arg(QString::fromStdString(id), word), {}, text, {}, "card");
        describe(b, text, {}, help);
        b->setCheckable(true);
        b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        group->addButton(b, static_cast<int>(keep));
        row->addWidget(b);
    };
    choice("theirs", Keep::theirs, tr("Theirs"), tr("As it is on the disk; undo brings ours back"));
    choice("ours", Keep::ours, tr("Ours"), tr("As it is here: the next save writes it over theirs"));
    if (!gone)
        choice("both", Keep::both, tr("Keep both"),
               id.empty() ? tr("Theirs here, ours as a project of its own in a folder beside this one")
                          : tr("Theirs as it is, ours as a level of its own beside it"));
    group->button(static_cast<int>(gone ? Keep::theirs : Keep::both))->setChecked(true);
    groups_[id] = group;
    column->addLayout(row);
}

std::map<std::string, Keep> OutsideDialog::choices() const {
    std::map<std::string, Keep> out;
    for (const auto& [id, group] : groups_) out[id] = static_cast<Keep>(group->checkedId());
    return out;
}

} // namespace vic::app
