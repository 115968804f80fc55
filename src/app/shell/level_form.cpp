#include "app/shell/level_form.hpp"

#include <QButtonGroup>
#include <QColor>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QPolygonF>
#include <QPushButton>
#include <QRectF>
#include <QRegularExpression>
#include <QSignalBlocker>
#include <QSizePolicy>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <QValidator>
#include <QWidget>
#include <algorithm>
#include <cmath>
#include <functional>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "level/grid.hpp"

namespace vic::app {

namespace {

// A few cells as they will lie, true in their proportions.
class CellDrawing : public QWidget {
  public:
    CellDrawing(const LevelForm& form, QWidget* parent) : QWidget(parent), form_(form) { setFixedHeight(112); }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const Tokens t = tokensOf(this);
        p.setPen(QPen(t.line, 1));
        p.setBrush(t.card);
        p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
        const LevelShape s = form_.shape();
        const Lattice lattice{s.lattice, s.cell};
        constexpr int kCells = 4;
        const Box all = lattice.box(Box{0, 0, kCells, kCells});
        const double scale = std::min((width() - 40.0) / all.w, (height() - 24.0) / all.h);
        const QPointF corner(width() / 2.0 - (all.x + all.w / 2.0) * scale,
                             height() / 2.0 - (all.y + all.h / 2.0) * scale);
        const auto at = [&](double x, double y) {
            const Lattice::Pixels px = lattice.pixel_of({x, y});
            const QPointF place = corner + QPointF(px.x, px.y) * scale;
            // Upright and level lines on whole pixels, so that they are as thin as they are meant.
            return lattice.square() ? QPointF(std::floor(place.x()) + 0.5, std::floor(place.y()) + 0.5) : place;
        };
        for (int y = 0; y < kCells; ++y)
            for (int x = 0; x < kCells; ++x) {
                const bool lit = x == 1 && y == 2;
                p.setPen(QPen(lit ? t.vermilion : t.quiet, lit ? 2 : 1));
                p.setBrush(lit ? QColor(t.vermilion.red(), t.vermilion.green(), t.vermilion.blue(), 36)
                               : QColor(Qt::transparent));
                p.drawPolygon(QPolygonF{{at(x, y), at(x + 1, y), at(x + 1, y + 1), at(x, y + 1)}});
            }
        p.setPen(QPen(t.vermilion, 2));
        p.setBrush(QColor(t.vermilion.red(), t.vermilion.green(), t.vermilion.blue(), 36));
        p.drawPolygon(QPolygonF{{at(1, 2), at(2, 2), at(2, 3), at(1, 3)}});
    }

  private:
    const LevelForm& form_;
};

// A number of cells that may be typed in pixels as well.
class CellsBox : public QSpinBox {
  public:
    CellsBox(std::function<int()> cell, QWidget* parent) : QSpinBox(parent), cell_(std::move(cell)) {}

  protected:
    QValidator::State validate(QString& text, int& at) const override {
        return pixels().match(typed(text)).hasMatch() ? QValidator::Acceptable : QSpinBox::validate(text, at);
    }
    int valueFromText(const QString& text) const override {
        const auto m = pixels().match(typed(text));
        if (!m.hasMatch()) return QSpinBox::valueFromText(text);
        const int cell = std::max(1, cell_());
        return m.captured(2).size() < 2 ? std::max(1, m.captured(1).toInt())
                                        : (m.captured(1).toInt() + cell - 1) / cell;
    }

  private:
    // Without what stands behind the number while one has not typed over it.
    [[nodiscard]] QString typed(QString text) const {
        if (text.endsWith(suffix())) text.chop(suffix().size());
        return text.trimmed();
    }
    // While "px" is being typed it is a number still.
    static const QRegularExpression& pixels() {
        static const QRegularExpression e("^(\\d{1,6})\\s*(p|px)$");
        return e;
    }
    std::function<int()> cell_;
};

} // namespace

LevelForm::LevelForm(const LevelShape& shape, bool fresh, std::function<QString(const LevelShape&)> says,
                     QWidget* parent, std::vector<LevelShape> likes)
    : QDialog(parent), was_(shape), fresh_(fresh), likes_(std::move(likes)), says_(std::move(says)) {
    setObjectName("levelForm");
    setWindowTitle(fresh ? tr("Add a level") : tr("Cells of the level"));
    setMinimumWidth(400);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 14, 16, 14);
    column->setSpacing(8);
    name_ = new QLineEdit(shape.name, this);
    name_->setObjectName("levelFormName");
    describe(name_, tr("Name"), {},
             tr("\"Upper pans 128x96\" sets the size as well; \"side\" and \"isometric\" do what they say"));
    if (fresh) addField(column, tr("Name"), name_, 76);
    name_->setVisible(fresh);
    buildLikes(column);
    QWidget* size = pair("levelForm", shape.size, level::kMostCells, tr(" cells"), width_, height_);
    for (QSpinBox* box : {width_, height_})
        box->setToolTip(tr("In cells, or in pixels: \"1024 px\" is as many cells as cover them"));
    if (fresh) addField(column, tr("Size"), size, 76);
    size->setVisible(fresh);
    auto* kinds = new QButtonGroup(this);
    square_ = choice("latticeSquare", tr("Square"), tr("Cells are boxes; each tile fills its box"),
                     shape.lattice == LatticeKind::square, kinds);
    isometric_ = choice("latticeIsometric", tr("Isometric"),
                        tr("Cells are diamonds, seen aslant from above; tiles are as wide as a cell and may stand up"),
                        shape.lattice == LatticeKind::isometric, kinds);
    addField(column, tr("Cells"), both(square_, isometric_), 76);
    addField(column, tr("Cell size"), pair("levelFormCell", shape.cell, 1024, tr(" px"), cellWidth_, cellHeight_), 76);
    auto* views = new QButtonGroup(this);
    above_ = choice("viewAbove", tr("From above"), tr("The walker goes every way"),
                    shape.view == level::View::from_above, views);
    side_ = choice("viewSide", tr("From the side"), tr("The walker runs, jumps and falls"),
                   shape.view == level::View::from_the_side, views);
    QWidget* view = both(above_, side_);
    if (fresh) addField(column, tr("Seen"), view, 76);
    view->setVisible(fresh);
    drawing_ = new CellDrawing(*this, this);
    column->addWidget(drawing_);
    sentence_ = label({}, "quiet", this);
    sentence_->setObjectName("levelFormSays");
    sentence_->setWordWrap(true);
    sentence_->setMinimumHeight(fresh ? 0 : 52);
    sentence_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    column->addWidget(sentence_);
    buildButtons(column);
    connect(name_, &QLineEdit::textEdited, this, &LevelForm::readName);
    connect(isometric_, &QToolButton::toggled, this, [this](bool on) {
        // A diamond twice as wide as high is what most art is drawn for.
        const QSignalBlocker quiet(cellHeight_);
        if (on && cellHeight_->value() == cellWidth_->value())
            cellHeight_->setValue(std::max(1, cellWidth_->value() / 2));
        if (!on && cellHeight_->value() == cellWidth_->value() / 2) cellHeight_->setValue(cellWidth_->value());
        refresh();
    });
    name_->selectAll();
    refresh();
}

// Levels that it can be like: what is not asked for here comes from there.
void LevelForm::buildLikes(QVBoxLayout* column) {
    if (likes_.empty()) return;
    like_ = comboBox(this, "levelFormLike");
    like_->addItem(tr("plain: ground, props, in front"));
    for (const LevelShape& l : likes_) like_->addItem(l.name);
    describe(like_, tr("Like"), {},
             tr("Its layers with what is at home on them, its walker and its frame; nothing that lies on them"));
    addField(column, tr("Like"), like_, 76);
    connect(like_, &QComboBox::activated, this, &LevelForm::takeLike);
}

void LevelForm::takeLike(int which) {
    if (which > 0) {
        const LevelShape& l = likes_[static_cast<std::size_t>(which - 1)];
        (l.lattice == LatticeKind::isometric ? isometric_ : square_)->setChecked(true);
        (l.view == level::View::from_the_side ? side_ : above_)->setChecked(true);
        width_->setValue(l.size.w);
        height_->setValue(l.size.h);
        cellWidth_->setValue(l.cell.w);
        cellHeight_->setValue(l.cell.h);
    }
    refresh();
}

// How large it is in other words.
QString LevelForm::measures() const {
    const LevelShape now = shape();
    const Box px = Lattice{now.lattice, now.cell}.box(Box{0, 0, now.size.w, now.size.h});
    const QLocale locale;
    const auto frames = [&](int pixels, int of) { return locale.toString(static_cast<double>(pixels) / of, 'f', 1); };
    return tr("%1 × %2 px: %3 × %4 frames of %5 × %6 px")
        .arg(px.w)
        .arg(px.h)
        .arg(frames(px.w, now.frame.w), frames(px.h, now.frame.h))
        .arg(now.frame.w)
        .arg(now.frame.h);
}

void LevelForm::buildButtons(QVBoxLayout* column) {
    auto* buttons = new QDialogButtonBox(this);
    ok_ = buttons->addButton(fresh_ ? tr("Add") : tr("Change"), QDialogButtonBox::AcceptRole);
    ok_->setObjectName("levelFormOk");
    ok_->setDefault(true);
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole)->setObjectName("levelFormCancel");
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    column->addWidget(buttons);
}

QWidget* LevelForm::pair(const char* id, Size now, int most, const QString& unit, QSpinBox*& w, QSpinBox*& h) {
    auto* row = new QWidget(this);
    auto* inner = new QHBoxLayout(row);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(6);
    for (QSpinBox** box : {&w, &h}) {
        const bool across = box == &w;
        *box = most == level::kMostCells
                   ? new CellsBox([this, across] { return (across ? cellWidth_ : cellHeight_)->value(); }, row)
                   : new QSpinBox(row);
        (*box)->setObjectName(QString("%1%2").arg(id, box == &w ? "W" : "H"));
        (*box)->setRange(1, most);
        (*box)->setValue(box == &w ? now.w : now.h);
        (*box)->setSuffix(unit);
        connect(*box, &QSpinBox::valueChanged, this, &LevelForm::refresh);
        if (box == &h) inner->addWidget(label("×", "quiet", row));
        inner->addWidget(*box, 1);
    }
    return row;
}

QToolButton* LevelForm::choice(const char* id, const QString& text, const QString& help, bool on, QButtonGroup* group) {
    auto* b = toolButton(this, id, {}, text, {}, "card");
    describe(b, text, {}, help);
    b->setCheckable(true);
    b->setChecked(on);
    b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    group->addButton(b);
    connect(b, &QToolButton::toggled, this, &LevelForm::refresh);
    return b;
}

QWidget* LevelForm::both(QToolButton* a, QToolButton* b) {
    auto* row = new QWidget(this);
    auto* inner = new QHBoxLayout(row);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(6);
    inner->addWidget(a);
    inner->addWidget(b);
    return row;
}

// A size and what else is said in the name goes into the fields, as one types.
void LevelForm::readName() {
    static const QRegularExpression dimensions("\\b(\\d{1,5})\\s*[x×]\\s*(\\d{1,5})\\b");
    if (const auto m = dimensions.match(name_->text()); m.hasMatch()) {
        width_->setValue(m.captured(1).toInt());
        height_->setValue(m.captured(2).toInt());
    }
    static const QRegularExpression side("\\bside\\b"), isometric("\\bisometric\\b");
    if (name_->text().contains(side)) side_->setChecked(true);
    if (name_->text().contains(isometric)) isometric_->setChecked(true);
    refresh();
}

LevelShape LevelForm::shape() const {
    LevelShape out;
    QString name = name_->text();
    name.remove(QRegularExpression("\\b\\d{1,5}\\s*[x×]\\s*\\d{1,5}\\b"));
    name.remove(QRegularExpression("\\b(side|isometric)\\b"));
    out.name = name.simplified();
    out.size = {width_->value(), height_->value()};
    out.cell = {cellWidth_->value(), cellHeight_->value()};
    out.lattice = isometric_->isChecked() ? LatticeKind::isometric : LatticeKind::square;
    out.view = side_->isChecked() ? level::View::from_the_side : level::View::from_above;
    out.frame = was_.frame;
    if (const int which = like_ ? like_->currentIndex() : 0; which > 0) {
        out.like = likes_[static_cast<std::size_t>(which - 1)].like;
        out.frame = likes_[static_cast<std::size_t>(which - 1)].frame;
    }
    return out;
}

void LevelForm::refresh() {
    // An isometric level is seen from above.
    side_->setEnabled(!isometric_->isChecked());
    if (isometric_->isChecked() && side_->isChecked()) above_->setChecked(true);
    const LevelShape now = shape();
    const bool changes = now.cell != was_.cell || now.lattice != was_.lattice;
    ok_->setEnabled(fresh_ ? !now.name.isEmpty() : changes);
    if (fresh_) sentence_->setText(measures());
    if (says_)
        sentence_->setText(changes ? says_(now) : tr("Choose another lattice or cell size: what it does is told here"));
    drawing_->update();
}

level::LayerNames layerNames() {
    return {LevelForm::tr("Ground").toStdString(), LevelForm::tr("Props").toStdString(),
            LevelForm::tr("In front").toStdString()};
}

} // namespace vic::app
