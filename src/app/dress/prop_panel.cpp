#include "app/dress/prop_panel.hpp"

#include <QCheckBox>
#include <QLabel>
#include <QLineEdit>
#include <QString>
#include <QVBoxLayout>
#include <QWidget>
#include <string>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/text.hpp"
#include "edit/levels.hpp"
#include "edit/replace.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

PropPanel::PropPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 0, 12, 12);
    column->setSpacing(8);
    addHeading(column, tr("Prop"));
    name_ = new QLineEdit(this);
    name_->setObjectName("propName");
    addField(column, tr("Name"), name_, 54);
    blocks_ = new QCheckBox(tr("Its foot blocks the walker"), this);
    blocks_->setObjectName("propBlocks");
    column->addWidget(blocks_);
    foot_ = label({}, "quiet", this);
    column->addWidget(foot_);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        const level::PropKind* k = kind();
        const std::string text = name_->text().trimmed().toStdString();
        if (!k || text.empty() || text == k->name) return;
        level::Project p = session_.project();
        if (const Text taken = edit::name_taken_by_prop(p, text, k->id); !taken.empty()) {
            emit session_.said(translated(taken), true);
            return refresh();
        }
        level::PropKind changed = *k;
        changed.name = text;
        p.put(std::move(changed));
        session_.apply(tr("Rename a prop"), std::move(p));
    });
    connect(blocks_, &QCheckBox::clicked, this, [this](bool on) {
        const level::PropKind* k = kind();
        if (!k) return;
        level::Project p = session_.project();
        level::PropKind changed = *k;
        changed.blocks = on;
        p.put(std::move(changed));
        session_.apply(tr("Whether a prop blocks"), std::move(p));
    });
}

const level::PropKind* PropPanel::kind() const {
    if (session_.hand().is<edit::held::Prop>()) return session_.project().prop_kind(session_.hand().prop());
    const level::Level* level = session_.level();
    const level::Prop* prop = level ? edit::find_prop(*level, session_.prop()) : nullptr;
    return prop ? session_.project().prop_kind(prop->kind) : nullptr;
}

void PropPanel::refresh() {
    if (!session_.isOpen()) return;
    const level::PropKind* k = kind();
    setVisible(k && session_.stage() == Stage::dress);
    if (!k) return;
    if (!name_->hasFocus()) name_->setText(QString::fromStdString(k->name));
    blocks_->setChecked(k->blocks);
    foot_->setText(tr("%1 × %2 px · foot %3 × %4 px").arg(k->box.w).arg(k->box.h).arg(k->foot.w).arg(k->foot.h));
}

} // namespace vic::app
