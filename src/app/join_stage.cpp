#include "app/join_stage.hpp"

#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QTimer>
#include <cmath>

#include "app/panel.hpp"
#include "app/signs.hpp"
#include "app/spoken.hpp"
#include "app/thumbs.hpp"
#include "app/tokens.hpp"
#include "edit/replace.hpp"
#include "edit/sheets.hpp"

namespace vic::app {

MaterialList::MaterialList(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 12, 0, 12);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(12, 0, 8, 0);
    head->addWidget(label(tr("Materials"), "heading"));
    head->addStretch();
    auto* add = toolButton(this, "addMaterial", {}, tr("+ new"), {}, "link");
    describe(add, tr("New material"), {}, tr("From the tiles of a sheet; its joins are read from the art"));
    connect(add, &QToolButton::clicked, this, [this, add] {
        auto* menu = new QMenu(this);
        menu->setAttribute(Qt::WA_DeleteOnClose);
        for (const auto& s : session_.project().sheets) {
            if (!s->image || s->tiles.size() < 2) continue;
            auto* sub = menu->addMenu(QString::fromStdString(s->name));
            connect(sub->addAction(tr("Edges + corners, read from the art")), &QAction::triggered, this,
                    [this, id = s->id] { session_.makeMaterial(id, level::JoinKind::full); });
            connect(sub->addAction(tr("Edges, read from the art")), &QAction::triggered, this,
                    [this, id = s->id] { session_.makeMaterial(id, level::JoinKind::edges); });
            connect(sub->addAction(tr("Corners, read from the art")), &QAction::triggered, this,
                    [this, id = s->id] { session_.makeMaterial(id, level::JoinKind::corners); });
            connect(sub->addAction(tr("Plain, its tiles as variants")), &QAction::triggered, this,
                    [this, id = s->id] { session_.makeMaterial(id, level::JoinKind::plain); });
        }
        if (menu->isEmpty()) menu->addAction(tr("First add a sheet in Cut"))->setEnabled(false);
        menu->popup(add->mapToGlobal(QPoint(0, add->height())));
    });
    head->addWidget(add);
    column->addLayout(head);
    list_ = new CardList(this);
    list_->setObjectName("materialList");
    list_->setAccessibleName(tr("Materials"));
    column->addWidget(list_, 1);
    auto* foot = new QVBoxLayout;
    foot->setContentsMargins(12, 0, 12, 0);
    addHeading(foot, tr("Beyond the level's edge"));
    beyond_ = new QCheckBox(tr("counts as the same"), this);
    beyond_->setObjectName("beyondIsSame");
    foot->addWidget(beyond_);
    column->addLayout(foot);
    connect(beyond_, &QCheckBox::clicked, this, [this](bool on) {
        const level::Material* m = session_.material();
        if (!m) return;
        level::Project p = session_.project();
        level::Material changed = *m;
        changed.joins.beyond_is_same = on;
        p.put(std::move(changed));
        session_.apply(tr("What lies beyond the edge"), edit::rejoin(std::move(p)));
    });
    connect(list_, &CardList::chosen, this,
            [this](quint32 id) { session_.setMaterial(static_cast<level::MaterialId>(id)); });
    connect(list_, &CardList::renamed, this, [this](quint32 id, const QString& name) {
        const level::Material* m = session_.project().material(static_cast<level::MaterialId>(id));
        if (!m || name.isEmpty() || name.toStdString() == m->name) return follow();
        QTimer::singleShot(0, &session_, [this, id, name] {
            level::Project p = session_.project();
            if (const Text taken =
                    edit::name_taken_by_material(p, name.toStdString(), static_cast<level::MaterialId>(id));
                !taken.empty()) {
                emit session_.said(spoken(taken), true);
                return follow();
            }
            level::Material changed = *p.material(static_cast<level::MaterialId>(id));
            changed.name = name.toStdString();
            p.put(std::move(changed));
            session_.apply(tr("Rename a material"), std::move(p));
        });
    });
}

void MaterialList::follow() {
    std::vector<Card> cards;
    for (const auto& m : session_.project().materials) {
        const auto cover = join::coverage(m->joins);
        Card card;
        card.id = m->id;
        card.picture = materialThumb(session_.project(), *m, 32);
        card.title = QString::fromStdString(m->name);
        if (m->joins.kind == level::JoinKind::plain) {
            const auto it = m->joins.cases.find(255);
            card.under =
                tr("plain · %1 variants").arg(it == m->joins.cases.end() ? 0 : static_cast<int>(it->second.size()));
        } else {
            const QString kind = m->joins.kind == level::JoinKind::edges     ? tr("edges")
                                 : m->joins.kind == level::JoinKind::corners ? tr("corners")
                                                                             : tr("edges + corners");
            card.under = tr("%1 · %2 / %3").arg(kind).arg(cover.have).arg(cover.of);
        }
        card.ring = cover.of ? double(cover.have) / cover.of : 0;
        cards.push_back(card);
    }
    list_->setCards(cards, session_.materialId());
    const level::Material* m = session_.material();
    beyond_->setEnabled(m && m->joins.kind != level::JoinKind::plain);
    beyond_->setChecked(m && m->joins.beyond_is_same);
}

// Whole multiples of the art's pixels where that does not waste much room.
int ProofView::cellSide(int width, int columns) const {
    const int room = std::max(1, width / columns);
    const int cell = session_.isOpen() && session_.level() ? session_.level()->cell.w : 16;
    const int whole = room / cell * cell;
    return whole * 4 >= room * 3 ? whole : room;
}

ProofView::ProofView(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("proof");
    setAccessibleName(tr("Proof"));
    setMouseTracking(true);
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

int ProofView::heightForWidth(int width) const {
    const Size s = patch_.size.empty() ? Size{24, 10} : patch_.size;
    return cellSide(width, s.w) * s.h;
}

int ProofView::side() const { return patch_.size.empty() ? 1 : cellSide(width(), patch_.size.w); }

void ProofView::newPatch() {
    ++seed_;
    madeFor_.reset();
    patch_ = {};
    follow();
}

void ProofView::follow() {
    const level::Material* m = session_.material();
    if (!m) {
        picture_ = {};
        update();
        return;
    }
    if (madeFor_ && madeOf_ == m->id && madeFor_->sheets == session_.project().sheets &&
        madeFor_->material(m->id) == m) {
        update();
        return;
    }
    if (patch_.cells.empty() || kind_ != m->joins.kind) {
        kind_ = m->joins.kind;
        patch_ = join::make_proof(kind_, seed_);
        updateGeometry();
    }
    madeFor_ = session_.document().state();
    madeOf_ = m->id;
    grid_ = join::paint_proof(patch_, session_.project(), m->id);
    // Drawn by the same code as any level, over what lies under the material in the level.
    level::Level level;
    level.id = "proof";
    level.size = patch_.size;
    level.cell = session_.level() ? session_.level()->cell : Size{16, 16};
    level.ground = {203, 176, 131, 255};
    level::Layer layer;
    layer.id = 1;
    layer.grid = grid_;
    level.layers.push_back(std::make_shared<const level::Layer>(std::move(layer)));
    picture::Canvas canvas(box_of(level.pixels()));
    picture::draw(session_.project(), level, session_.art(), canvas, canvas.box);
    picture_ =
        QImage(reinterpret_cast<const uchar*>(canvas.pixels.data()), canvas.box.w, canvas.box.h, QImage::Format_RGB32)
            .copy();
    update();
}

join::Mask ProofView::maskAt(Point cell) const {
    return join::canonical(join::neighbourhood(grid_, cell, false), kind_);
}

int ProofView::cellsOfCase(join::Mask mask) const {
    int n = 0;
    for (int y = 0; y < patch_.size.h; ++y)
        for (int x = 0; x < patch_.size.w; ++x) n += grid_.material({x, y}) != 0 && maskAt({x, y}) == mask;
    return n;
}

Point ProofView::firstCell(join::Mask mask) const {
    for (int y = 0; y < patch_.size.h; ++y)
        for (int x = 0; x < patch_.size.w; ++x)
            if (grid_.material({x, y}) != 0 && maskAt({x, y}) == mask) return {x, y};
    return {-1, -1};
}

QPoint ProofView::cellCentre(Point cell) const { return {cell.x * side() + side() / 2, cell.y * side() + side() / 2}; }

void ProofView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Tokens t = tokensOf(this);
    if (picture_.isNull()) {
        p.setPen(t.quiet);
        p.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap,
                   tr("No material yet.\nCut a sheet, then read its joins: the button waits there on the right."));
        return;
    }
    const int s = side();
    p.drawImage(QRect(0, 0, patch_.size.w * s, patch_.size.h * s), picture_);
    const level::Material* m = session_.material();
    if (!m || kind_ == level::JoinKind::plain) return;
    p.setRenderHint(QPainter::Antialiasing);
    for (int y = 0; y < patch_.size.h; ++y)
        for (int x = 0; x < patch_.size.w; ++x) {
            if (grid_.material({x, y}) == 0) continue;
            const join::Mask mask = maskAt({x, y});
            const QRectF r(x * s, y * s, s, s);
            if (session_.rules().missing(m->id, mask)) {
                QColor wash = t.vermilion;
                wash.setAlpha(110);
                p.fillRect(r, wash);
                p.setPen(QPen(paper().vermilion, 2));
                p.setBrush(Qt::NoBrush);
                p.drawRect(r.adjusted(1, 1, -1, -1));
                const QRectF c = r.adjusted(s * 0.33, s * 0.33, -s * 0.33, -s * 0.33);
                p.drawLine(c.topLeft(), c.bottomRight());
                p.drawLine(c.topRight(), c.bottomLeft());
            }
            if (mask == session_.joinCase()) {
                p.setBrush(Qt::NoBrush);
                p.setPen(QPen(QColor("#FBF8F1"), 4));
                p.drawRect(r.adjusted(1, 1, -1, -1));
                p.setPen(QPen(paper().vermilion, 2));
                p.drawRect(r.adjusted(1, 1, -1, -1));
            }
        }
    if (hover_.x >= 0 && grid_.material(hover_)) {
        p.setPen(QPen(QColor("#FBF8F1"), 2));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(hover_.x * s + 1, hover_.y * s + 1, s - 2, s - 2));
    }
}

void ProofView::mousePressEvent(QMouseEvent* event) {
    const Point cell{event->pos().x() / side(), event->pos().y() / side()};
    if (box_of(patch_.size).contains(cell) && grid_.material(cell)) session_.setCase(maskAt(cell));
}

void ProofView::mouseMoveEvent(QMouseEvent* event) {
    const Point cell{event->pos().x() / side(), event->pos().y() / side()};
    if (cell == hover_) return;
    hover_ = cell;
    const bool on = box_of(patch_.size).contains(cell) && grid_.material(cell) != 0;
    emit cellHovered(cell, on ? maskAt(cell) : -1);
    update();
}

void ProofView::leaveEvent(QEvent*) {
    hover_ = {-1, -1};
    emit cellHovered(hover_, -1);
    update();
}

CaseList::CaseList(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("cases");
    setAccessibleName(tr("Cases"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
}

void CaseList::layOut() {
    constexpr int kStep = 42, kTile = 36, kLeft = 74;
    places_.clear();
    titles_.clear();
    const level::Material* m = session_.material();
    height_ = 0;
    if (m && m->joins.kind != level::JoinKind::plain) {
        const bool corners = m->joins.kind == level::JoinKind::corners;
        const auto joined = [corners](join::Mask mask) {
            return corners ? join::joined_corners(mask) : join::joined_sides(mask);
        };
        const QString titles[3] = {corners ? tr("none, one or\ntwo corners") : tr("alone, one\nor two sides"),
                                   corners ? tr("three\ncorners") : tr("three\nsides"),
                                   corners ? tr("four\ncorners") : tr("four\nsides")};
        const int columns = std::max(1, (width() - kLeft) / kStep);
        int y = 0;
        for (int group = 0; group < 3; ++group) {
            std::vector<join::Mask> masks;
            for (const join::Mask mask : join::cases(m->joins.kind)) {
                const int sides = joined(mask);
                if ((group == 0 && sides <= 2) || (group == 1 && sides == 3) || (group == 2 && sides == 4))
                    masks.push_back(mask);
            }
            std::stable_sort(masks.begin(), masks.end(),
                             [&](join::Mask a, join::Mask b) { return joined(a) < joined(b); });
            titles_.emplace_back(titles[group], QRect(0, y, kLeft - 6, kTile));
            for (std::size_t i = 0; i < masks.size(); ++i)
                places_.emplace_back(masks[i], QRect(kLeft + static_cast<int>(i) % columns * kStep,
                                                     y + static_cast<int>(i) / columns * kStep, kTile, kTile));
            y += (static_cast<int>(masks.size()) + columns - 1) / columns * kStep + 6;
        }
        height_ = y;
    }
    setMinimumHeight(height_);
    updateGeometry();
}

QSize CaseList::sizeHint() const { return {700, height_}; }

void CaseList::follow() {
    layOut();
    update();
}

void CaseList::resizeEvent(QResizeEvent*) { layOut(); }

QPoint CaseList::caseCentre(join::Mask mask) const {
    for (const auto& [m, r] : places_)
        if (m == mask) return r.center();
    return {};
}

void CaseList::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Tokens t = tokensOf(this);
    const level::Material* m = session_.material();
    if (!m) return;
    QFont font = this->font();
    font.setPixelSize(11);
    p.setFont(font);
    p.setPen(t.quiet);
    for (const auto& [text, r] : titles_) p.drawText(r, Qt::AlignLeft | Qt::AlignVCenter, text);
    for (const auto& [mask, r] : places_) {
        const auto found = m->joins.cases.find(mask);
        const bool have = found != m->joins.cases.end() && !found->second.empty();
        if (have) {
            p.setPen(QPen(t.brine, 2));
            p.setBrush(t.window);
            p.drawRect(QRectF(r).adjusted(1, 1, -1, -1));
            p.drawPixmap(r.adjusted(2, 2, -2, -2), tileThumb(session_.project(), found->second.front().tile, 32));
            if (found->second.size() > 1) {
                p.setPen(Qt::NoPen);
                p.setBrush(QColor("#22302D"));
                p.drawEllipse(QPointF(r.right() - 6, r.bottom() - 6), 7, 7);
                p.setPen(QColor("#FBF8F1"));
                QFont tiny = font;
                tiny.setPixelSize(9);
                p.setFont(tiny);
                p.drawText(QRectF(r.right() - 13, r.bottom() - 13, 14, 14), Qt::AlignCenter,
                           QString::number(found->second.size()));
                p.setFont(font);
            }
        } else {
            QPen dash(t.vermilion, 2, Qt::CustomDashLine);
            dash.setDashPattern({2, 2});
            p.setPen(dash);
            p.setBrush(t.card);
            p.drawRect(QRectF(r).adjusted(1, 1, -1, -1));
            // Where the case joins, as a key: what is missing should be readable.
            p.setPen(Qt::NoPen);
            p.setBrush(t.faint);
            for (unsigned i = 0; i < 8; ++i)
                if (mask & (1U << i))
                    p.drawEllipse(
                        QPointF(r.center()) + QPointF(join::kNeighbour[i].x * 9.0, join::kNeighbour[i].y * 9.0), 2.4,
                        2.4);
        }
        if (mask == session_.joinCase()) {
            p.setBrush(Qt::NoBrush);
            p.setPen(QPen(t.vermilion, 2));
            p.drawRect(QRectF(r).adjusted(-2, -2, 2, 2));
        }
    }
}

void CaseList::mousePressEvent(QMouseEvent* event) {
    for (const auto& [mask, r] : places_)
        if (r.contains(event->pos())) return session_.setCase(mask);
}

void CaseList::mouseMoveEvent(QMouseEvent* event) {
    for (const auto& [mask, r] : places_)
        if (r.contains(event->pos())) return setToolTip(spoken(join::describe(mask)));
    setToolTip({});
}

void CaseList::keyPressEvent(QKeyEvent* event) {
    const int by = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
    if (by == 0) return QWidget::keyPressEvent(event);
    for (std::size_t i = 0; i < places_.size(); ++i)
        if (places_[i].first == session_.joinCase())
            return session_.setCase(
                places_[(i + places_.size() + static_cast<std::size_t>(by)) % places_.size()].first);
}

JoinCentre::JoinCentre(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(8);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Proof · every neighbourhood at least once"), "heading"));
    head->addStretch();
    proofAside_ = label({}, "aside");
    head->addWidget(proofAside_);
    auto* fresh = toolButton(this, "newPatch", {}, tr("new patch"), {}, "link");
    describe(fresh, tr("Another patch"), {}, tr("The same cases in another arrangement"));
    head->addWidget(fresh);
    column->addLayout(head);
    proof_ = new ProofView(session_, this);
    connect(fresh, &QToolButton::clicked, proof_, &ProofView::newPatch);
    column->addWidget(proof_);
    addHeading(column, tr("Cases"), &casesAside_);
    cases_ = new CaseList(session_, this);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidget(cases_);
    column->addWidget(scroll, 1);
    connect(proof_, &ProofView::cellHovered, this, [this](Point cell, int mask) {
        const level::Material* m = session_.material();
        if (!m || mask < 0) {
            follow();
            return;
        }
        const bool missing = session_.rules().missing(m->id, static_cast<join::Mask>(mask));
        reading_ = tr("The proof's cell %1, %2 is <b>%3</b>")
                       .arg(cell.x)
                       .arg(cell.y)
                       .arg(spoken(join::describe(static_cast<join::Mask>(mask))));
        reading_ += missing ? tr(" · no tile of %1 has it, the nearest stands in")
                                  .arg(QString::fromStdString(m->name).toHtmlEscaped())
                            : tr(" · click chooses the case");
        emit readingChanged();
    });
}

void JoinCentre::follow() {
    proof_->follow();
    cases_->follow();
    const level::Material* m = session_.material();
    if (!m) {
        casesAside_->clear();
        proofAside_->clear();
        reading_ = tr("No material yet");
    } else if (m->joins.kind == level::JoinKind::plain) {
        casesAside_->setText(tr("a plain material has one case: its variants are on the right"));
        proofAside_->setText(QString::fromStdString(m->name));
        reading_ =
            tr("%1 looks at no neighbours: its variants are chosen by chance").arg(QString::fromStdString(m->name));
    } else {
        const auto c = join::coverage(m->joins);
        casesAside_->setText(tr("%1 have a tile · %2 missing").arg(c.have).arg(c.of - c.have));
        proofAside_->setText(QString::fromStdString(m->name));
        const auto found = m->joins.cases.find(session_.joinCase());
        const bool have = found != m->joins.cases.end();
        reading_ = tr("Case <b>%1</b>").arg(spoken(join::describe(session_.joinCase())));
        reading_ +=
            have ? tr(" · served by %1 · click a tile of the sheet to change it, Ctrl+click adds a variant")
                       .arg(found->second.size() == 1 ? tr("1 tile") : tr("%1 variants").arg(found->second.size()))
                 : tr(" · missing: click a tile of the sheet to serve it");
    }
    emit readingChanged();
}

void JoinCentre::nextMissing() {
    const level::Material* m = session_.material();
    if (!m) return;
    const auto& masks = join::cases(m->joins.kind);
    const auto at = std::find(masks.begin(), masks.end(), session_.joinCase());
    const auto from = static_cast<std::size_t>(at - masks.begin());
    for (std::size_t i = 1; i <= masks.size(); ++i) {
        const join::Mask mask = masks[(from + i) % masks.size()];
        if (!m->joins.cases.contains(mask)) return session_.setCase(mask);
    }
    emit session_.said(tr("%1 has a tile for every case").arg(QString::fromStdString(m->name)), false);
}

} // namespace vic::app
