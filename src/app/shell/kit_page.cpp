#include "app/shell/kit_page.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QImage>
#include <QKeyEvent>
#include <QLabel>
#include <QLocale>
#include <QPainter>
#include <QPen>
#include <QPushButton>
#include <QScrollArea>
#include <QSpinBox>
#include <QStringList>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <initializer_list>
#include <utility>

#include "app/parts/card_list.hpp"
#include "app/parts/glyphs.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/picture_list.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "join/mask.hpp"
#include "join/proof.hpp"
#include "kit/draw.hpp"
#include "kit/open_kit.hpp"
#include "picture/art.hpp"
#include "picture/compose.hpp"

namespace vic::app {

namespace {

constexpr QSize kPieceGrid{152, 156}, kPieceBox{148, 152}; // of a piece in the page
constexpr QSize kPiecePicture{140, 122};                   // with the line below it that says what it is
constexpr int kPieceLetters = 12;                          // pixels
constexpr int kPieceArt = 104;                             // pixels high of the piece in it
constexpr std::size_t kPiecesAtOnce = 12;                  // pieces that one job draws
constexpr double kDoubtfulKit = 0.6;                       // of the reading: below it is asked for a look

// Metres, as short as they are told.
QString metres(double v) {
    const QLocale locale;
    return v < 0.1 ? KitPage::tr("%1 mm").arg(locale.toString(v * 1000, 'f', 0))
                   : KitPage::tr("%1 m").arg(locale.toString(std::round(v * 100) / 100));
}

} // namespace

KitPage::KitPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("kitPage");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 18, 24, 12);
    column->setSpacing(10);
    auto* head = new QHBoxLayout;
    head->setSpacing(10);
    auto* names = new QVBoxLayout;
    names->setSpacing(2);
    title_ = label({}, "title", this);
    title_->setObjectName("kitTitle");
    under_ = label({}, "quiet", this);
    under_->setObjectName("kitUnder");
    names->addWidget(title_);
    names->addWidget(under_);
    head->addLayout(names, 1);
    auto* leave = new QPushButton(tr("Leave"), this);
    leave->setObjectName("kitLeave");
    describe(leave, tr("Leave"), "Esc", tr("Nothing is taken"));
    head->addWidget(leave);
    take_ = new QPushButton(this);
    take_->setObjectName("kitTake");
    setRole(take_, "primary");
    head->addWidget(take_);
    column->addLayout(head);
    auto* row = new QHBoxLayout;
    row->setSpacing(16);
    list_ = new PictureList("kitPieces", tr("Pieces of the kit"), this);
    list_->layInBoxes(kPieceGrid, kPieceBox, kPieceLetters);
    list_->setDraw(kPiecePicture, [this](quint32 id) { return draw(id); });
    list_->setFocusPolicy(Qt::NoFocus);
    row->addWidget(list_, 1);
    row->addWidget(buildSide());
    column->addLayout(row, 1);
    connect(leave, &QPushButton::clicked, this, &KitPage::left);
    connect(take_, &QPushButton::clicked, this, &KitPage::take);
    connect(&session_.jobs(), &Jobs::stoppedNamed, this, [this] {
        if (isVisible() && next_ < tried_.read.pieces.size()) drawNext();
    });
}

void KitPage::open(const QString& path, std::optional<bool> whole) {
    session_.jobs().start<std::shared_ptr<const kit::KitFile>>(
        "kit", tr("Reading %1").arg(QFileInfo(path).fileName()),
        [path, whole](Jobs::Progress&) {
            return std::make_shared<const kit::KitFile>(kit::open_kit(path.toStdString(), whole));
        },
        [this, path](std::shared_ptr<const kit::KitFile>& file) {
            path_ = path;
            file_ = file;
            told_ = {};
            leftOut_.clear();
            pictures_.clear();
            tried_ = {};
            rows_.clear();
            next_ = 0;
            const Size cell = session_.level() ? session_.level()->cell : Size{32, 32};
            side_ = std::clamp(cell.w, 8, 128);
            const QFileInfo info(path);
            title_->setText(info.isDir() ? info.fileName() : info.completeBaseName());
            readAgain();
        },
        session_.complain());
}

// The materials as they would be, in a project of their own.
void KitPage::readAgain() {
    take_->setEnabled(false); // until what is shown is what was said
    level::KitSource had;     // of the project's own first kit
    for (const auto& sheet : session_.project().sheets)
        if (sheet->kit && had.width == 0) had = *sheet->kit;
    session_.jobs().start<Tried>(
        "kit-read", {},
        [file = file_, told = told_, side = side_, width = had.width, height = had.height](Jobs::Progress&) {
            Tried out;
            out.read = kit::read_kit(file->bodies, told);
            // Whole things tell no cells, nor does a single piece: those of the project count, else a metre.
            if ((out.read.things || file->bodies.size() == 1) && told.width == 0 &&
                (width > 0 || out.read.module.width == 0 || file->bodies.size() == 1)) {
                kit::Told as_here = told;
                as_here.width = width > 0 ? width : 1;
                if (as_here.height == 0) as_here.height = height;
                out.read = kit::read_kit(file->bodies, as_here);
            }
            out.materials = edit::kit_materials(*file, out.read);
            const kit::Drawn drawn = kit::draw_sheet(*file, out.read, side);
            out.fits = !drawn.image.empty();
            if (!out.fits) return out;
            edit::PutKit put =
                edit::put_kit({}, 0, "kit", "kit.png", "kit", *file, out.read, drawn, side, out.materials);
            out.project = std::move(put.project);
            std::size_t next = 0;
            for (const edit::KitMaterial& m : out.materials) {
                const level::Material* found =
                    next < put.materials.size() ? out.project.material(put.materials[next]) : nullptr;
                const bool same = found && (found->name == m.name || found->name.starts_with(m.name + " "));
                out.made.push_back(same ? put.materials[next] : level::MaterialId{0});
                next += same ? 1 : 0;
            }
            return out;
        },
        [this](Tried& tried) { show(std::move(tried)); }, session_.complain());
}

void KitPage::show(Tried tried) {
    const bool first = tried_.read.pieces.empty();
    const bool turned = tried_.read.z_up != tried.read.z_up || tried_.read.turn != tried.read.turn;
    tried_ = std::move(tried);
    std::vector<PictureRow> rows;
    for (std::size_t i = 0; i < file_->bodies.size(); ++i) {
        bool looks = false;
        const QString name = QString::fromStdString(file_->bodies[i].name);
        rows.push_back({static_cast<quint32>(i), name, tr("%1: %2").arg(name, wordsOf(i, looks))});
    }
    list_->setRows(std::move(rows));
    if (turned) pictures_.clear(), next_ = 0;
    list_->redraw();
    showMaterials();
    bound_.refresh();
    showProof();
    tell();
    if (next_ < tried_.read.pieces.size()) drawNext();
    if (first) emit ready();
}

// A few at a time, so that those that are drawn are seen while the rest is.
void KitPage::drawNext() {
    const std::size_t from = next_, to = std::min(tried_.read.pieces.size(), from + kPiecesAtOnce);
    if (from >= to) return;
    session_.jobs().start<std::vector<QImage>>(
        "kit-pictures", tr("Drawing the pieces"),
        [file = file_, read = tried_.read, from, to](Jobs::Progress& progress) {
            std::vector<QImage> out;
            for (std::size_t i = from; i < to && !progress.stopped(); ++i)
                out.push_back(toQImage(kit::aslant(*file, read, i, {kPiecePicture.width() - 8, kPieceArt - 8})));
            return out;
        },
        [this, from](std::vector<QImage>& all) {
            if (from != next_) return;
            for (const QImage& image : all) pictures_[static_cast<quint32>(next_++)] = QPixmap::fromImage(image);
            list_->redraw();
            drawNext();
        },
        session_.complain());
}

const KitPage::Row* KitPage::chosenRow() const {
    const QModelIndex index = materials_->currentIndex();
    const auto at = static_cast<std::size_t>(index.isValid() ? index.row() : -1);
    return at < rows_.size() ? &rows_[at] : nullptr;
}

bool KitPage::isMade(const Row& row) const {
    return row.material >= 0 && !leftOut_.contains(tried_.materials[static_cast<std::size_t>(row.material)].name);
}

void KitPage::setMade(bool on) {
    const Row* row = chosenRow();
    if (!row) return;
    if (row->material < 0) { // its numbers are taken as codes, or no longer
        const kit::Codes& c = tried_.read.codes[static_cast<std::size_t>(row->codes)];
        told_.counting[c.stem] = {c.bit_of_side, c.inverted, on};
        return readAgain();
    }
    const std::string& name = tried_.materials[static_cast<std::size_t>(row->material)].name;
    if (on)
        leftOut_.erase(name);
    else
        leftOut_.insert(name);
    showMaterials();
    bound_.refresh();
    tell();
}

void KitPage::showMaterials() {
    rows_.clear();
    std::vector<Card> cards;
    const QModelIndex index = materials_->currentIndex();
    const auto current = static_cast<quint32>(index.isValid() ? index.row() + 1 : 1);
    for (std::size_t i = 0; i < tried_.materials.size(); ++i) {
        const edit::KitMaterial& m = tried_.materials[i];
        Row row{static_cast<int>(i), -1};
        if (!m.pieces.empty()) row.codes = tried_.read.pieces[m.pieces[0].piece].codes;
        rows_.push_back(row);
        Card card;
        card.id = static_cast<quint32>(rows_.size());
        card.title = QString::fromStdString(m.name);
        const level::Material* made = i < tried_.made.size() ? tried_.project.material(tried_.made[i]) : nullptr;
        if (made) card.picture = materialThumb(tried_.project, *made, 40);
        if (m.kind == level::JoinKind::plain) {
            card.under = translated(say_count(static_cast<std::int64_t>(m.pieces.size()), "one piece", "%n pieces"));
        } else if (made) {
            const join::Coverage c = join::coverage(made->joins);
            card.under = tr("%1 of %2 cases by %3 pieces").arg(c.have).arg(c.of).arg(m.pieces.size());
        }
        card.state = !isMade(row)                       ? tr("left out")
                     : row.codes >= 0                   ? tr("by their numbers")
                     : m.kind == level::JoinKind::plain ? tr("lies anywhere")
                                                        : tr("by the sides that couple");
        cards.push_back(std::move(card));
    }
    for (std::size_t c = 0; c < tried_.read.codes.size(); ++c) {
        const kit::Codes& codes = tried_.read.codes[c];
        if (codes.taken) continue;
        rows_.push_back({-1, static_cast<int>(c)});
        Card card;
        card.id = static_cast<quint32>(rows_.size());
        card.title = QString::fromStdString(codes.stem).trimmed();
        card.under = tr("numbered, but not by what couples");
        card.state = tr("left out");
        cards.push_back(std::move(card));
    }
    materials_->setCards(cards, std::min(current, static_cast<quint32>(rows_.size())));
}

void KitPage::showProof() {
    const Row* row = chosenRow();
    const auto at = static_cast<std::size_t>(row ? row->material : -1);
    const level::Material* made = at < tried_.made.size() ? tried_.project.material(tried_.made[at]) : nullptr;
    proof_->setVisible(made != nullptr);
    if (!made) return;
    level::Level level;
    level.id = "proof";
    level.cell = {side_, side_};
    level::Layer layer;
    layer.id = 1;
    if (made->joins.kind == level::JoinKind::plain) {
        level.size = {6, 4};
        layer.grid() = join::paint_proof({level.size, std::vector<std::uint8_t>(24, 1)}, tried_.project, made->id);
    } else {
        const join::ProofPatch patch = join::make_proof(made->joins.kind, 1);
        level.size = patch.size;
        layer.grid() = join::paint_proof(patch, tried_.project, made->id);
    }
    const QColor ground = tokensOf(this).panel;
    level.ground = {static_cast<std::uint8_t>(ground.red()), static_cast<std::uint8_t>(ground.green()),
                    static_cast<std::uint8_t>(ground.blue()), 255};
    level.layers.push_back(std::make_shared<const level::Layer>(std::move(layer)));
    picture::Art art;
    art.update(tried_.project);
    picture::Canvas canvas(level.pixels());
    picture::draw(tried_.project, level, art, canvas, canvas.box);
    const QImage all(reinterpret_cast<const uchar*>(canvas.pixels.data()), canvas.box.w, canvas.box.h,
                     QImage::Format_RGB32);
    // In whole steps where it fits.
    const QSize room(kKitSideWidth - 12, kKitProofHeight);
    const int times = std::min(room.width() / all.width(), room.height() / all.height());
    proof_->setPixmap(QPixmap::fromImage(times >= 1 ? all.scaled(all.size() * times)
                                                    : all.scaled(room, Qt::KeepAspectRatio, Qt::SmoothTransformation)));
}

QString KitPage::wordsOf(std::size_t piece, bool& looks) const {
    const kit::PieceReading& p = tried_.read.pieces[piece];
    const double off = std::sqrt(kit::dot(p.shift, p.shift));
    const double out = *std::max_element(p.out.begin(), p.out.end());
    looks = false;
    if (tried_.read.things) return tr("to be stood anywhere");
    looks = true;
    if (off > 0)
        return p.shift.y != 0 ? tr("floats %1: mended").arg(metres(off)) : tr("%1 aside: mended").arg(metres(off));
    if (out > 0) return tr("sticks out %1").arg(metres(out));
    if (p.over > 0) return tr("%1 over its storey").arg(metres(p.over));
    looks = false;
    if (p.code) return p.variant > 0 ? tr("number %1, another").arg(*p.code) : tr("number %1").arg(*p.code);
    QString text = p.cells == Size{1, 1} ? tr("one cell") : tr("%1 × %2 cells").arg(p.cells.w).arg(p.cells.h);
    if (p.storeys > 1) text += tr(", %1 storeys").arg(p.storeys);
    return text;
}

void KitPage::tell() {
    const kit::KitReading& read = tried_.read;
    QString under = translated(say_count(static_cast<std::int64_t>(read.pieces.size()), "One piece", "%n pieces"));
    if (read.module.width > 0) under += tr(" · cells of %1").arg(metres(read.module.width));
    if (read.module.height > 0) under += tr(", storeys of %1").arg(metres(read.module.height));
    if (tried_.read.things)
        under += tr(" · whole things: each becomes a prop");
    else if (read.module.width > 0)
        under += read.sure < kDoubtfulKit
                     ? tr(" · doubtful: %1 % of what was measured fits").arg(std::lround(read.sure * 100))
                     : tr(" · %1 % of what was measured fits").arg(std::lround(read.sure * 100));
    under_->setText(under);
    QStringList doubts;
    for (const Text& t : file_->doubts) doubts << translated(t);
    for (const Text& t : read.reasons) doubts << translated(t);
    if (!tried_.fits) doubts.prepend(tr("Nothing tells how large a cell is: say it above."));
    doubts_->setText(doubts.join("\n"));
    doubts_->setVisible(!doubts.isEmpty());
    doubtsHead_->setVisible(!doubts.isEmpty());
    // Of things no material is made.
    for (QWidget* w : std::initializer_list<QWidget*>{materialsHead_, materials_, make_})
        w->setVisible(!read.things || !rows_.empty());
    const auto made = std::count_if(rows_.begin(), rows_.end(), [this](const Row& row) { return isMade(row); });
    take_->setEnabled(tried_.fits);
    take_->setText(
        tried_.read.things
            ? tr("Take it, with %1")
                  .arg(translated(say_count(static_cast<std::int64_t>(read.pieces.size()), "one prop", "%n props")))
        : made > 0 ? tr("Take it, with %1")
                         .arg(translated(say_count(static_cast<std::int64_t>(made), "one material", "%n materials")))
                   : tr("Take it"));
}

void KitPage::take() {
    if (!tried_.fits) return;
    ChosenKit out{path_, title_->text(), file_, tried_.read, side_, {}};
    for (const Row& row : rows_)
        if (isMade(row)) out.materials.push_back(tried_.materials[static_cast<std::size_t>(row.material)]);
    emit taken(out);
}

QPixmap KitPage::draw(quint32 id) const {
    const Tokens t = tokensOf(this);
    QPixmap out(kPiecePicture);
    out.fill(Qt::transparent);
    QPainter p(&out);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF box(0, 0, kPiecePicture.width(), kPieceArt);
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.panel);
    p.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
    const QPixmap picture = pictures_.value(id);
    p.drawPixmap((kPiecePicture.width() - picture.width()) / 2, (kPieceArt - picture.height()) / 2, picture);
    QFont font = this->font();
    font.setPixelSize(11);
    p.setFont(font);
    bool looks = false;
    const QString text = id < tried_.read.pieces.size() ? wordsOf(id, looks) : QString();
    p.setPen(looks ? t.ochre : t.quiet);
    p.drawText(QRect(0, kPieceArt + 2, kPiecePicture.width(), 16), Qt::AlignCenter, text);
    return out;
}

void KitPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) {
        emit left();
        return;
    }
    // Enter in a field is the field's.
    if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && hasFocus() && take_->isEnabled()) {
        take();
        return;
    }
    QWidget::keyPressEvent(event);
}

} // namespace vic::app
