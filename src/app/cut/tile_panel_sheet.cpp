// Of the properties of tiles: those of the sheet, when no tile is chosen.

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QString>
#include <QVBoxLayout>
#include <QWidget>
#include <algorithm>
#include <cstddef>
#include <exception>
#include <functional>
#include <string>
#include <utility>

#include "app/cut/block_editor.hpp"
#include "app/cut/frames_editor.hpp"
#include "app/cut/shape_editor.hpp"
#include "app/cut/swap_card.hpp"
#include "app/cut/tile_notes.hpp"
#include "app/cut/tile_panel.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "base/text.hpp"
#include "edit/beginnings.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

QWidget* TilePanel::buildSheetPart() {
    auto* part = new QWidget(this);
    auto* inner = new QVBoxLayout(part);
    inner->setContentsMargins(0, 4, 0, 0);
    inner->setSpacing(8);
    fit_ = label({}, "warning", part);
    fit_->setObjectName("sheetFit");
    fit_->setWordWrap(true);
    inner->addWidget(fit_);
    buildUses(inner);
    buildMending(inner);
    inner->addSpacing(4);
    buildScale(inner);
    buildCredits(inner);
    return part;
}

void TilePanel::buildUses(QVBoxLayout* inner) {
    unused_ = new QPushButton(tr("Choose the unused tiles"), this);
    unused_->setObjectName("chooseUnused");
    describe(unused_, tr("Choose the unused tiles"), {}, tr("Those that lie in no level and serve no material"));
    connect(unused_, &QPushButton::clicked, this, [this] {
        const level::Sheet* s = session_.sheet();
        if (!s) return;
        auto tiles = edit::unused_tiles(session_.project(), *s);
        if (tiles.empty())
            emit session_.said(tr("Every tile of %1 is in use").arg(QString::fromStdString(s->name)), false);
        else
            session_.setTiles(std::move(tiles));
    });
    inner->addWidget(unused_);
    whole_ = new QPushButton(tr("Use it as one large picture"), this);
    whole_->setObjectName("wholePicture");
    describe(whole_, tr("Use it as one large picture"), {},
             tr("A prop of the whole picture, placed in Dress; the build cuts it into equal pieces"));
    connect(whole_, &QPushButton::clicked, this, [this] {
        const edit::LargePicture made = edit::add_large_picture(session_.project(), session_.sheetId());
        session_.apply(tr("A large picture"), made.project);
        edit::Hand hand{edit::held::Prop{made.kind}};
        session_.setHand(hand);
        emit session_.said(tr("In the Hand: place it in Dress. Its pieces are set among the islands of the sheet"),
                           false);
    });
    inner->addWidget(whole_);
}

void TilePanel::buildMending(QVBoxLayout* inner) {
    replace_ = new QPushButton(tr("Replace the picture…"), this);
    replace_->setObjectName("replacePicture");
    describe(
        replace_, tr("Replace the picture"), {},
        tr("Tiles, placements and joins are kept by their place in the picture. A file that changes on the disk is "
           "read again by itself"));
    connect(replace_, &QPushButton::clicked, this, [this] {
        const QString file =
            QFileDialog::getOpenFileName(this, tr("Replace the picture"), {}, tr("PNG pictures (*.png)"));
        if (!file.isEmpty()) attempt([&] { session_.library().replacePicture(session_.sheetId(), file); });
    });
    findAgain_ = new QPushButton(tr("Find it again…"), this);
    findAgain_->setObjectName("findAgain");
    describe(findAgain_, tr("Find it again"), {}, tr("Mends all sheets whose pictures lie in the same folder"));
    connect(findAgain_, &QPushButton::clicked, this, [this] {
        const QString file =
            QFileDialog::getOpenFileName(this, tr("Where is the picture now?"), {}, tr("PNG pictures (*.png)"));
        if (!file.isEmpty()) attempt([&] { session_.library().findAgain(session_.sheetId(), file); });
    });
    putBack_ = new QPushButton(tr("Write it back to the disk"), this);
    putBack_->setObjectName("putBack");
    describe(putBack_, tr("Write it back to the disk"), {}, tr("The picture is still in memory"));
    connect(putBack_, &QPushButton::clicked, this,
            [this] { attempt([&] { session_.library().putBack(session_.sheetId()); }); });
    inner->addWidget(replace_);
    swap_ = new QPushButton(tr("Swap it for another sheet…"), this);
    swap_->setObjectName("swapSheet");
    describe(swap_, tr("Swap it for another sheet"), {},
             tr("One of the same layout takes its place in a level or all of them: another season, another look"));
    swapCard_ = new SwapCard(session_, this);
    connect(swap_, &QPushButton::clicked, this, [this] {
        swapCard_->open(session_.sheetId(), swap_->mapToGlobal(QPoint(swap_->width(), swap_->height() + 4)));
    });
    inner->addWidget(swap_);
    inner->insertWidget(0, findAgain_); // what mends comes first
    inner->insertWidget(1, putBack_);
}

void TilePanel::buildScale(QVBoxLayout* inner) {
    addHeading(inner, tr("Scale"), &scale_);
    smooth_ = new QComboBox(this);
    smooth_->setObjectName("sheetSampling");
    smooth_->addItems({tr("crisp, pixel by pixel"), tr("smooth")});
    smooth_->setToolTip(tr("How its art is drawn at another size than its own"));
    addField(inner, tr("Art is"), smooth_, 54);
    connect(smooth_, &QComboBox::activated, this, [this](int i) {
        const level::Sheet* s = session_.sheet();
        if (!s || s->smooth == (i == 1)) return;
        level::Sheet changed = *s;
        changed.smooth = i == 1;
        level::Project p = session_.project();
        p.put(std::move(changed));
        session_.apply(tr("Sampling of %1").arg(QString::fromStdString(s->name)), std::move(p));
    });
    anySize_ = new QCheckBox(tr("May be drawn at any size"), this);
    anySize_->setObjectName("sheetAnySize");
    describe(
        anySize_, tr("May be drawn at any size"), {},
        tr("Where cells are of another size than its tiles nothing is asked: they are drawn as large as the cells"));
    inner->addWidget(anySize_);
    connect(anySize_, &QCheckBox::clicked, this, [this](bool on) {
        const level::Sheet* s = session_.sheet();
        if (!s) return;
        level::Sheet changed = *s;
        changed.any_size = on;
        level::Project p = session_.project();
        p.put(std::move(changed));
        session_.apply(tr("Size of %1").arg(QString::fromStdString(s->name)), std::move(p));
    });
    unit_ = new QSpinBox(this);
    unit_->setObjectName("engineUnit");
    unit_->setRange(1, 4096);
    unit_->setSuffix(tr(" px"));
    unit_->setKeyboardTracking(false);
    unit_->setToolTip(tr("Pixels of a level that are one unit of the engine, in the whole project"));
    addField(inner, tr("1 unit"), unit_, 54);
    connect(unit_, &QSpinBox::valueChanged, this, [this](int v) {
        level::Project p = session_.project();
        p.unit = v;
        session_.apply(tr("How large the engine's unit is"), std::move(p), "unit");
    });
}

void TilePanel::buildCredits(QVBoxLayout* inner) {
    QLabel* aside = nullptr;
    addHeading(inner, tr("Credits"), &aside);
    aside->setText(tr("go with the build"));
    const QString names[4] = {tr("Author"), tr("Licence"), tr("Source"), tr("Note")};
    static const char* ids[4] = {"creditAuthor", "creditLicence", "creditSource", "creditNote"};
    static std::string level::Credits::*const fields[4] = {&level::Credits::author, &level::Credits::licence,
                                                           &level::Credits::source, &level::Credits::note};
    for (int i = 0; i < 4; ++i) {
        auto* edit = new QLineEdit(this);
        edit->setObjectName(ids[i]);
        addField(inner, names[i], edit, 54);
        connect(edit, &QLineEdit::editingFinished, this, [this, edit, i] {
            const level::Sheet* s = session_.sheet();
            const std::string text = edit->text().trimmed().toStdString();
            if (!s || s->credits.*fields[i] == text) return;
            level::Project p = session_.project();
            level::Sheet changed = *s;
            changed.credits.*fields[i] = text;
            p.put(std::move(changed));
            session_.apply(tr("Credits of %1").arg(QString::fromStdString(s->name)), std::move(p));
        });
        credits_[static_cast<std::size_t>(i)] = edit;
    }
}

void TilePanel::attempt(const std::function<void()>& what) {
    try {
        what();
    } catch (const std::exception& e) {
        emit session_.said(translated(e), true);
    }
}

void TilePanel::refreshSheet() {
    const level::Sheet* s = session_.sheet();
    const bool gone = session_.library().fileGone(s->id);
    replace_->setVisible(s->image != nullptr);
    swap_->setVisible(s->accepted && s->tiles.size() > 1 && session_.project().sheets.size() > 1);
    whole_->setVisible(s->image && s->tiles.size() <= 1);
    unused_->setVisible(s->tiles.size() > 1);
    findAgain_->setVisible(!s->image || gone);
    putBack_->setVisible(s->image && gone);
    const std::string* texts[4] = {&s->credits.author, &s->credits.licence, &s->credits.source, &s->credits.note};
    for (std::size_t i = 0; i < 4; ++i)
        if (!credits_[i]->hasFocus()) {
            credits_[i]->setText(QString::fromStdString(*texts[i]));
            credits_[i]->setCursorPosition(0);
            credits_[i]->setToolTip(QString::fromStdString(*texts[i]).toHtmlEscaped());
        }
    const level::Level* level = session_.level();
    QString fit;
    if (const Size cell = s->accepted ? Size() : edit::cell_of_first_art(session_.project(), s->id); !cell.empty())
        fit = tr("The first art: with this cut the level gets cells of %1 × %2 px").arg(cell.w).arg(cell.h);
    else if (level && s->image && s->tiles.size() > 1) {
        const Size drawn = sheet::drawn_size(s->cut);
        const sheet::Fit how = sheet::fit_of(drawn, level->cell);
        if (how.kind == sheet::Fit::Kind::enlarged)
            fit = tr("Drawn at %1 px: ×%2 fits the level's %3 px cells, and is shown so")
                      .arg(drawn.w)
                      .arg(how.by.w)
                      .arg(level->cell.w);
        else if (how.kind == sheet::Fit::Kind::cells)
            fit = tr("A tile is %1 × %2 cells of the level large; in a cell it is shown shrunk")
                      .arg(how.by.w)
                      .arg(how.by.h);
        else if (how.kind == sheet::Fit::Kind::uneven)
            fit = unevenFit(how, drawn, level->cell);
    }
    smooth_->setCurrentIndex(s->smooth ? 1 : 0);
    anySize_->setChecked(s->any_size);
    anySize_->setVisible(s->tiles.size() > 1);
    const QSignalBlocker quietUnit(unit_);
    const int unit = session_.project().unit;
    unit_->setValue(unit);
    scale_->setText(!level || level->cell.w % unit == 0 || unit % level->cell.w == 0
                        ? tr("a cell is %1 px").arg(level ? level->cell.w : unit)
                        : tr("a cell of %1 px is no whole number of units").arg(level->cell.w));
    fit_->setText(fit);
    fit_->setVisible(!fit.isEmpty());
}

// What it takes to make a tile fill its cell, and what would keep the pixels even.
QString TilePanel::unevenFit(const sheet::Fit& how, Size drawn, Size cell) {
    const auto factor = [](int up, int down) {
        const int whole = up / down;
        if (up % down == 0) return QString("×%1").arg(whole);
        return whole > 0 ? QString("×%1 %2/%3").arg(whole).arg(up % down).arg(down)
                         : QString("×%1/%2").arg(up).arg(down);
    };
    const QString across = factor(how.up.w, how.down.w);
    const QString along = factor(how.up.h, how.down.h);
    const QString by = across == along ? across : tr("%1 across and %2 down").arg(across, along);
    const QString need = tr("%1 × %2 px fill the level's %3 × %4 px cells at %5, which makes pixels uneven")
                             .arg(drawn.w)
                             .arg(drawn.h)
                             .arg(cell.w)
                             .arg(cell.h)
                             .arg(by);
    const int even = std::max(how.within, 1);
    return tr("%1. At ×%2 they would fit cells of %3 × %4 px")
        .arg(need)
        .arg(even)
        .arg(drawn.w * even)
        .arg(drawn.h * even);
}

} // namespace vic::app
