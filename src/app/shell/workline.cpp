#include "app/shell/workline.hpp"

#include <QColor>
#include <QFont>
#include <QFontMetrics>
#include <QHBoxLayout>
#include <QLabel>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QRect>
#include <QRectF>
#include <QSizePolicy>
#include <QToolButton>
#include <QVBoxLayout>
#include <cstddef>

#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "edit/levels.hpp"
#include "findings/check.hpp"
#include "join/mask.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

// Whether any cell holds something: told by the first chunk that is there.
bool anything(const level::Grid& grid) {
    for (int y = 0; y < grid.chunks().h; ++y)
        for (int x = 0; x < grid.chunks().w; ++x)
            if (grid.chunk({x, y})) return true;
    return false;
}

} // namespace

namespace {
constexpr int kDotAt = 18; // pixels from the top
}

StageButton::StageButton(Stage stage, const QString& name, QWidget* parent) : QAbstractButton(parent), stage_(stage) {
    setText(name);
    setAccessibleName(name);
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
}

void StageButton::setState(const QString& state, StageMark mark, bool current) {
    state_ = state;
    mark_ = mark;
    current_ = current;
    setAccessibleDescription(state);
    update();
}

void StageButton::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    const double middle = width() / 2.0;
    // The line through all stages runs behind the dots.
    p.setPen(QPen(t.line, 2));
    p.drawLine(QPointF(stage_ == Stage::cut ? middle : 0, kDotAt),
               QPointF(stage_ == Stage::handOver ? middle : width(), kDotAt));
    const QPointF dot(middle, kDotAt);
    if (current_) {
        p.setPen(Qt::NoPen);
        QColor halo = t.vermilion;
        halo.setAlpha(70);
        p.setBrush(halo);
        p.drawEllipse(dot, 12, 12);
        p.setBrush(t.vermilion);
        p.drawEllipse(dot, 9, 9);
    } else if (mark_ == StageMark::none) {
        p.setPen(QPen(t.faint, 2));
        p.setBrush(t.panel);
        p.drawEllipse(dot, 6.5, 6.5);
    } else {
        p.setPen(Qt::NoPen);
        p.setBrush(mark_ == StageMark::look ? t.ochre : t.brine);
        p.drawEllipse(dot, 7.5, 7.5);
        if (mark_ == StageMark::look) { // colour is never the only sign
            p.setPen(QPen(t.panel, 2, Qt::SolidLine, Qt::RoundCap));
            p.drawLine(dot - QPointF(0, 3.5), dot + QPointF(0, 0.5));
            p.drawPoint(dot + QPointF(0, 3.5));
        }
    }
    QFont font = this->font();
    font.setPixelSize(13);
    font.setWeight(QFont::DemiBold);
    p.setFont(font);
    p.setPen(current_ ? t.vermilion : t.ink);
    p.drawText(QRect(0, 29, width(), 17), Qt::AlignCenter, text());
    font.setPixelSize(11);
    font.setWeight(QFont::Normal);
    p.setFont(font);
    p.setPen(mark_ == StageMark::look && !current_ ? t.ochre : t.quiet);
    p.drawText(QRect(0, 45, width(), 15), Qt::AlignCenter,
               QFontMetrics(font).elidedText(state_, Qt::ElideRight, width() - 4));
    if (hasFocus()) {
        p.setPen(QPen(t.brine, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(QRectF(rect()).adjusted(2.5, 2.5, -2.5, -2.5), 6, 6);
    }
}

Workline::Workline(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("workline");
    setFixedHeight(64);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(6, 0, 12, 0);
    row->setSpacing(6);
    place_ = new QToolButton(this);
    place_->setObjectName("place");
    place_->setFixedSize(202, 52);
    place_->setFocusPolicy(Qt::TabFocus);
    describe(place_, tr("Project and level"), {}, tr("Switch, add, duplicate or rename levels; open another project"));
    auto* texts = new QVBoxLayout(place_);
    texts->setContentsMargins(8, 4, 4, 4);
    texts->setSpacing(1);
    auto* levelName = label(tr("No project"), "title", place_);
    levelName->setObjectName("levelName");
    auto* projectName = label(tr("click to open or make one"), "quiet", place_);
    projectName->setObjectName("projectName");
    for (auto* l : {levelName, projectName}) {
        l->setAttribute(Qt::WA_TransparentForMouseEvents);
        texts->addWidget(l);
    }
    connect(place_, &QToolButton::clicked, this, &Workline::placeAsked);
    row->addWidget(place_);
    row->addStretch(1);
    const QString names[kStages] = {tr("Cut"),   tr("Join"), tr("Lay"),      tr("Dress"),
                                    tr("Bound"), tr("Walk"), tr("Hand over")};
    static const char* ids[kStages] = {"stage-cut",   "stage-join", "stage-lay",      "stage-dress",
                                       "stage-bound", "stage-walk", "stage-hand-over"};
    const QString helps[kStages] = {tr("Turn pictures into tiles and props"),
                                    tr("Say how tiles meet their neighbours"),
                                    tr("Paint the level"),
                                    tr("Backdrops, props and marks"),
                                    tr("What blocks the walker"),
                                    tr("Try the level with a walker"),
                                    tr("Findings, and the build for the engine")};
    auto* line = new QHBoxLayout;
    line->setSpacing(0);
    for (int i = 0; i < kStages; ++i) {
        auto* button = new StageButton(static_cast<Stage>(i), names[i], this);
        button->setObjectName(ids[i]);
        describe(button, names[i], QString("Ctrl+%1").arg(i + 1), helps[i]);
        button->setMinimumWidth(84);
        button->setMaximumWidth(126);
        button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        connect(button, &StageButton::clicked, this, [this, i] { session_.setStage(static_cast<Stage>(i)); });
        line->addWidget(button);
        stages_[static_cast<std::size_t>(i)] = button;
    }
    row->addLayout(line, 20);
    row->addStretch(1);
    undo_ = toolButton(this, "undo", "undo", {}, {}, "card");
    redo_ = toolButton(this, "redo", "redo", {}, {}, "card");
    find_ = toolButton(this, "find", {}, tr("Find…"), {}, "card");
    describe(find_, tr("Find"), "Ctrl+K", tr("Any command, sheet, tile, material, layer or mark"));
    connect(undo_, &QToolButton::clicked, &session_, &Session::undo);
    connect(redo_, &QToolButton::clicked, &session_, &Session::redo);
    connect(find_, &QToolButton::clicked, this, &Workline::findAsked);
    for (auto* b : {undo_, redo_, find_}) row->addWidget(b);
    connect(&session_, &Session::changed, this, &Workline::refresh);
}

std::pair<QString, StageMark> Workline::stateOf(Stage stage) const {
    const level::Project& p = session_.project();
    const level::Level* level = session_.level();
    switch (stage) {
        case Stage::cut: {
            int open = 0;
            for (const auto& s : p.sheets) open += !s->accepted || !s->image;
            if (p.sheets.empty()) return {tr("no sheets"), StageMark::none};
            const int n = static_cast<int>(p.sheets.size());
            const QString sheets = n == 1 ? tr("1 sheet") : tr("%1 sheets").arg(n);
            if (open > 0) return {tr("%1, %2 new").arg(sheets).arg(open), StageMark::look};
            return {sheets, StageMark::complete};
        }
        case Stage::join: {
            if (p.materials.empty()) return {tr("no materials"), StageMark::none};
            int short_of = 0;
            join::Coverage worst;
            for (const auto& m : p.materials) {
                const auto c = join::coverage(m->joins);
                if (c.have < c.of) {
                    ++short_of;
                    worst = c;
                }
            }
            if (short_of == 1) return {tr("%1 of %2").arg(worst.have).arg(worst.of), StageMark::look};
            if (short_of > 1) return {tr("%1 with gaps").arg(short_of), StageMark::look};
            return {tr("all joined"), StageMark::complete};
        }
        case Stage::lay: {
            if (!level) return {tr("no level"), StageMark::none};
            const int n = static_cast<int>(level->layers.size());
            bool laid = false;
            for (const level::LayerRef& l : level->layers) laid = laid || anything(l->grid());
            return {n == 1 ? tr("1 layer") : tr("%1 layers").arg(n), laid ? StageMark::complete : StageMark::none};
        }
        case Stage::dress: {
            const int n = level ? edit::prop_count(*level) : 0;
            if (n == 0) return {tr("no props"), StageMark::none};
            return {n == 1 ? tr("1 prop") : tr("%1 props").arg(n), StageMark::complete};
        }
        case Stage::bound: {
            if (!level) return {tr("nothing blocks"), StageMark::none};
            const int n = session_.derived().outlineCount(*level);
            if (n == 0) return {tr("nothing blocks"), StageMark::none};
            if (n < 0)
                return {tr("%1 corners").arg(session_.derived().trace(*level).corner_count()), StageMark::complete};
            return {n == 1 ? tr("1 outline") : tr("%1 outlines").arg(n), StageMark::complete};
        }
        case Stage::walk:
            switch (session_.tried()) {
                case Session::Tried::no:
                    return {tr("not tried"), StageMark::none};
                case Session::Tried::walked:
                    return {tr("tried"), StageMark::complete};
                case Session::Tried::exit:
                    return {tr("exit reached"), StageMark::complete};
                case Session::Tried::fell:
                    return {tr("fell out"), StageMark::look};
            }
            break;
        case Stage::handOver: {
            int n = 0;
            for (const auto& f : session_.findings()) n += f.severity != findings::Severity::hint;
            if (n == 0) return {tr("no findings"), p.levels.empty() ? StageMark::none : StageMark::complete};
            return {n == 1 ? tr("1 finding") : tr("%1 findings").arg(n), StageMark::look};
        }
    }
    return {};
}

void Workline::setLook(const Tokens& t) {
    for (auto* b : {undo_, redo_}) b->setIcon(icon(b->objectName(), t.ink));
}

void Workline::refresh() {
    if (!session_.isOpen()) return;
    const level::Level* level = session_.level();
    auto* levelName = findChild<QLabel*>("levelName");
    auto* projectName = findChild<QLabel*>("projectName");
    const QString name = level ? QString::fromStdString(level->name) : tr("No level yet");
    levelName->setText(levelName->fontMetrics().elidedText(name, Qt::ElideRight, 184));
    QString under = QString::fromStdString(session_.project().name);
    if (level) under += tr(" · %1 × %2 cells").arg(level->size.w).arg(level->size.h);
    projectName->setText(projectName->fontMetrics().elidedText(under, Qt::ElideRight, 184));
    for (int i = 0; i < kStages; ++i) {
        const auto [state, mark] = stateOf(static_cast<Stage>(i));
        stages_[static_cast<std::size_t>(i)]->setState(state, mark, session_.stage() == static_cast<Stage>(i));
    }
    const auto& doc = session_.document();
    undo_->setEnabled(doc.can_undo());
    redo_->setEnabled(doc.can_redo());
    describe(undo_, tr("Undo"), "Ctrl+Z", QString::fromStdString(doc.undo_name()));
    describe(redo_, tr("Redo"), "Ctrl+Shift+Z", QString::fromStdString(doc.redo_name()));
}

void Workline::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Tokens t = tokensOf(this);
    p.fillRect(rect(), t.panel);
    p.fillRect(0, height() - 1, width(), 1, t.line);
}

} // namespace vic::app
