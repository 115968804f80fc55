#include "app/section/sides_card.hpp"

#include <QComboBox>
#include <QPixmap>
#include <QString>
#include <QToolButton>
#include <QVBoxLayout>
#include <QVariant>
#include <algorithm>
#include <array>
#include <string>
#include <utility>
#include <vector>

#include "app/parts/glyphs.hpp"
#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr int kSideNames = 54; // pixels of a field's name, as in the drawers of layers
// The data of a choice: a word for what the side is, or this and the level that it leads on to.
const QString kOpen = "open", kBlocks = "blocks", kLeads = "leads:";

QString codeOf(const level::LevelSide& side) {
    switch (side.kind) {
        case level::SideKind::open:
            break;
        case level::SideKind::blocks:
            return kBlocks;
        case level::SideKind::leads:
            return kLeads + QString::fromStdString(side.to);
    }
    return kOpen;
}

level::LevelSide sideOf(const QString& code) {
    if (code == kBlocks) return {level::SideKind::blocks, {}};
    if (code.startsWith(kLeads)) return {level::SideKind::leads, code.mid(kLeads.size()).toStdString()};
    return {};
}

} // namespace

SidesCard::SidesCard(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("sidesCard");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 6, 12, 0);
    column->setSpacing(6);
    head_ = toolButton(this, "sidesHead", {}, {}, {}, "link");
    describe(head_, tr("Sides"), {}, tr("Where the level ends: whether one can leave there, and to which level"));
    // At the left, as the head before it: beside nothing as large as that one's colour.
    head_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    QPixmap nothing(14, 14);
    nothing.fill(Qt::transparent);
    head_->setIcon(nothing);
    head_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed); // as wide as the panel, whatever it says
    connect(head_, &QToolButton::clicked, this, [this] {
        unfolded_ = !unfolded_;
        refresh();
    });
    column->addWidget(head_);
    inner_ = new QWidget(this);
    auto* rows = new QVBoxLayout(inner_);
    rows->setContentsMargins(2, 0, 0, 0);
    rows->setSpacing(7);
    const std::array names{tr("North"), tr("East"), tr("South"), tr("West")};
    for (std::size_t i = 0; i < names.size(); ++i) buildSide(i, names[i], inner_);
    column->addWidget(inner_);
    refresh();
}

void SidesCard::buildSide(std::size_t side, const QString& name, QWidget* inner) {
    auto* box = comboBox(inner, QString("side-%1").arg(side));
    addField(static_cast<QVBoxLayout*>(inner->layout()), name, box, kSideNames);
    fields_.bindChoice(
        box,
        [this, side] {
            std::vector<Bindings::Choice> out{
                {tr("open"), kOpen}, {tr("blocks"), kBlocks}, {tr("leads on, the game says where"), kLeads}};
            for (const auto& l : session_.project().levels)
                if (l.get() != session_.level())
                    out.push_back({tr("leads on to %1").arg(QString::fromStdString(l->name)),
                                   kLeads + QString::fromStdString(l->id)});
            // A level that is gone is still told of.
            const QString now = codeOf(session_.level()->sides[side]);
            if (std::none_of(out.begin(), out.end(), [&](const auto& c) { return c.data == QVariant(now); }))
                out.push_back({tr("leads on to %1, which is gone").arg(now.mid(kLeads.size())), now});
            return out;
        },
        [this, side] { return QVariant(codeOf(session_.level()->sides[side])); },
        [this, side, name](const QVariant& v) {
            level::Level next = *session_.level();
            next.sides[side] = sideOf(v.toString());
            session_.applyLevel(tr("The %1 side of the level").arg(name.toLower()), std::move(next));
        });
}

// Short: the head is as narrow as the Section.
QString SidesCard::words() const {
    int blocks = 0, open = 0;
    for (const level::LevelSide& side : session_.level()->sides) {
        blocks += side.kind == level::SideKind::blocks;
        open += side.kind == level::SideKind::open;
    }
    if (open == 4) return tr("all open");
    return blocks == 4 ? tr("all block") : tr("%1 not open").arg(4 - open);
}

void SidesCard::refresh() {
    const level::Level* l = session_.isOpen() ? session_.level() : nullptr;
    setVisible(l != nullptr);
    if (!l) return;
    head_->setText((unfolded_ ? tr("▾ Sides: %1") : tr("▸ Sides: %1")).arg(words()));
    inner_->setVisible(unfolded_);
    if (unfolded_) fields_.refresh();
}

} // namespace vic::app
