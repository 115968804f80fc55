#include "app/section/backdrop_drawer.hpp"

#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QSizePolicy>
#include <QSlider>
#include <QSpinBox>
#include <QStringList>
#include <QToolButton>
#include <QVBoxLayout>
#include <QVariant>
#include <utility>
#include <vector>

#include "app/parts/panel.hpp"
#include "app/parts/tints.hpp"
#include "app/session/session.hpp"
#include "level/backdrop.hpp"
#include "level/project.hpp"
#include "sheet/seam.hpp"

namespace vic::app {

BackdropDrawer::BackdropDrawer(Session& session, level::LayerId layer, QWidget* parent)
    : QWidget(parent), session_(session), id_(layer), column_(new QVBoxLayout(this)) {
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(7);
    buildPicture();
    buildRepeats();
    buildPlace();
    buildFit();
}

void BackdropDrawer::refresh() { fields_.refresh(); }

const level::Layer& BackdropDrawer::layer() const { return *session_.level()->layer(id_); }

const level::Sheet* BackdropDrawer::sheet() const {
    const level::Sheet* s = session_.project().sheet(backdrop().sheet);
    return s && s->image ? s : nullptr;
}

void BackdropDrawer::change(const QString& name, const What& what, const std::string& merge) {
    if (!session_.level() || !session_.level()->layer(id_)) return;
    level::Level next = *session_.level();
    what(*next.edit(id_).backdrop());
    session_.applyLevel(name, std::move(next), merge.empty() ? merge : merge + std::to_string(id_));
}

void BackdropDrawer::buildPicture() {
    auto* picture = comboBox(this, "backdropPicture");
    addField(column_, tr("Picture"), picture, kDrawerNames);
    fields_.bindChoice(
        picture,
        [this] {
            std::vector<Bindings::Choice> out{{tr("no picture"), 0U}};
            for (const auto& s : session_.project().sheets) out.push_back({QString::fromStdString(s->name), s->id});
            return out;
        },
        [this] { return QVariant(backdrop().sheet); },
        [this](const QVariant& v) {
            change(tr("Picture of a backdrop"), [&](level::Backdrop& b) { b.sheet = v.toUInt(); });
        });
    auto* tint = comboBox(this, "backdropTint");
    addField(column_, tr("Tint"), tint, kDrawerNames);
    bindTint(
        fields_, tint, true, [this] { return backdrop().tint; },
        [this](Rgba c) { change(tr("Tint of a backdrop"), [c](level::Backdrop& b) { b.tint = c; }); });
    auto* back = new QSlider(Qt::Horizontal, this);
    back->setObjectName("backdropStepsBack");
    back->setRange(0, 100);
    describe(back, tr("Steps back"), {},
             tr("How far its colours go towards the level's background, so that what one plays on stays the "
                "brightest"));
    addField(column_, tr("Back"), back, kDrawerNames);
    fields_.bindInt(
        back, [this] { return backdrop().steps_back; },
        [this](int v) {
            change(
                tr("How far a backdrop steps back"), [v](level::Backdrop& b) { b.steps_back = v; }, "steps-back-");
        });
}

void BackdropDrawer::buildRepeats() {
    auto* both = new QWidget(this);
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    for (const bool across : {true, false}) {
        auto* b = toolButton(both, across ? "backdropAcross" : "backdropDown", {}, across ? tr("across") : tr("down"),
                             {}, "card");
        b->setCheckable(true);
        b->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        b->setMinimumWidth(40);
        b->setStyleSheet("padding: 5px 4px;");
        describe(b, across ? tr("Repeated across") : tr("Repeated down"), {},
                 across ? tr("To the left and right, without end") : tr("Upwards and downwards, without end"));
        row->addWidget(b);
        fields_.bindCheck(
            b, [this, across] { return across ? backdrop().across : backdrop().down; },
            [this, across](bool on) {
                change(tr("How a backdrop repeats"), [&](level::Backdrop& d) { (across ? d.across : d.down) = on; });
            });
    }
    addField(column_, tr("Repeats"), both, kDrawerNames);
    auto* says = label({}, "warning", this);
    says->setObjectName("backdropSays");
    says->setWordWrap(true);
    column_->addWidget(says);
    fields_.bindLabel(says, [this] { return trouble(); });
    fields_.bindShown(says, [this] { return !trouble().isEmpty(); });
}

void BackdropDrawer::buildPlace() {
    auto* both = new QWidget(this);
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    for (const bool across : {true, false}) {
        auto* at = new QSpinBox(both);
        at->setObjectName(across ? "backdropX" : "backdropY");
        at->setRange(-level::kMostBackdropPixels, level::kMostBackdropPixels);
        at->setMinimumWidth(40);
        at->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        describe(at, tr("Where it begins"), {},
                 tr("Pixels of the level, of its picture's upper left corner; with Choose in Dress one drags it"));
        row->addWidget(at);
        fields_.bindInt(
            at, [this, across] { return across ? backdrop().at.x : backdrop().at.y; },
            [this, across](int v) {
                change(
                    tr("Move a backdrop"), [&](level::Backdrop& b) { (across ? b.at.x : b.at.y) = v; }, "backdrop-at-");
            });
    }
    addField(column_, tr("At"), both, kDrawerNames);
    auto* scale = new QDoubleSpinBox(this);
    scale->setObjectName("backdropScale");
    scale->setRange(1, 6400);
    scale->setDecimals(1);
    scale->setSingleStep(100);
    scale->setSuffix(tr(" %"));
    scale->setMinimumWidth(40);
    scale->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    describe(scale, tr("Scale"), {}, tr("Of the picture's own size; whole hundreds keep its pixels even"));
    addField(column_, tr("Scale"), scale, kDrawerNames);
    fields_.bindNumber(
        scale, [this] { return sheet() ? edit::scale_of(backdrop(), sheet()->image->size()) * 100 : 100.0; },
        [this](double v) {
            if (!sheet()) return;
            change(
                tr("Scale a backdrop"),
                [&](level::Backdrop& b) { b = edit::drawn_at_scale(b, sheet()->image->size(), v / 100, b.at); },
                "backdrop-scale-");
        });
    fields_.bindEnabled(scale, [this] { return sheet() != nullptr; });
    auto* smooth = new QCheckBox(tr("Smooth, not crisp"), this);
    smooth->setObjectName("backdropSmooth");
    describe(smooth, tr("Smooth"), {}, tr("How it is scaled: crisp shows whole pixels, smooth lies between them"));
    column_->addWidget(smooth);
    fields_.bindCheck(
        smooth, [this] { return backdrop().smooth; },
        [this](bool on) { change(tr("How a backdrop is scaled"), [on](level::Backdrop& b) { b.smooth = on; }); });
}

void BackdropDrawer::buildFit() {
    auto* fit = toolButton(this, "backdropFit", {}, tr("Fit to …"), {}, "card");
    fit->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    describe(fit, tr("Fit"), {}, tr("As large as the frame, or as what is ever seen of its layer; or onto the floor"));
    column_->addWidget(fit);
    auto* menu = new QMenu(fit);
    const std::pair<edit::Fit, QString> ways[] = {{edit::Fit::frame, tr("the frame")},
                                                  {edit::Fit::height, tr("the level's height")},
                                                  {edit::Fit::width, tr("the level's width")},
                                                  {edit::Fit::floor, tr("the floor")}};
    const char* names[] = {"fitFrame", "fitHeight", "fitWidth", "fitFloor"};
    for (std::size_t i = 0; i < std::size(ways); ++i) {
        QAction* a = menu->addAction(ways[i].second);
        a->setObjectName(names[i]);
        connect(a, &QAction::triggered, this, [this, to = ways[i].first] {
            if (!sheet()) return;
            const level::Backdrop next = edit::fitted(*session_.level(), layer(), sheet()->image->size(), to);
            change(tr("Fit a backdrop"), [&](level::Backdrop& b) { b = next; });
        });
    }
    connect(fit, &QToolButton::clicked, this, [fit, menu] { menu->popup(fit->mapToGlobal(QPoint(0, fit->height()))); });
    fields_.bindEnabled(fit, [this] { return sheet() != nullptr; });
}

QString BackdropDrawer::trouble() const {
    if (!sheet()) return {};
    QStringList out;
    for (const bool across : {true, false}) {
        if (!(across ? backdrop().across : backdrop().down)) continue;
        const sheet::Seam& seam = session_.derived().seam(sheet()->image, across);
        if (seam.closes) continue;
        const auto [from, to] = seam.open.front();
        out << (across ? tr("Left and right do not meet: %n of its pixels, from row %1 on", nullptr, seam.length())
                             .arg(from)
                       : tr("Top and bottom do not meet: %n of its pixels, from column %1 on", nullptr, seam.length())
                             .arg(from));
    }
    const level::Gaps gaps = level::gaps_of(*session_.level(), layer(), sheet()->image->size());
    const std::pair<int, QString> sides[] = {{gaps.left, tr("on the left")},
                                             {gaps.right, tr("on the right")},
                                             {gaps.above, tr("above")},
                                             {gaps.below, tr("below")}};
    QStringList open;
    for (const auto& [pixels, side] : sides)
        if (pixels > 0) open << tr("%1 px %2").arg(pixels).arg(side);
    if (!open.isEmpty()) out << tr("Ends before what is seen does: %1").arg(open.join(", "));
    return out.join("\n");
}

} // namespace vic::app
