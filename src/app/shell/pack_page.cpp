#include "app/shell/pack_page.hpp"

#include <QHBoxLayout>
#include <QImage>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPen>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <exception>
#include <utility>

#include "app/parts/glyphs.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/picture_list.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/text.hpp"
#include "join/read_sheet.hpp"
#include "sheet/png.hpp"
#include "sheet/read_cut.hpp"
#include "sheet/what.hpp"

namespace vic::app {

namespace {

constexpr QSize kPart{152, 156}, kBox{148, 152}; // of a picture in the page
constexpr QSize kPicture{140, 122};              // with the line below it that says what it is
constexpr int kLetters = 12;                     // pixels
constexpr int kArt = 104;                        // pixels high of the art in it
constexpr std::size_t kAtOnce = 6;               // pictures that one job reads
constexpr double kDoubtful = 0.5;

// What came of one picture, on the job's thread.
struct Looked {
    QString text;
    bool sheet = false;
    QImage small;
};

QString wordsOf(const sheet::SheetReading& reading, const Image& image, bool& sheet) {
    using sheet::What;
    const Size tile = reading.best ? reading.best->cut.tile : Size{};
    const int count = reading.best ? reading.best->columns * reading.best->rows : 0;
    switch (reading.what.best.what) {
        case What::tiles:
            sheet = count > 1;
            if (count <= 1) return PackPage::tr("one tile of %1 px").arg(image.width());
            return (reading.best->confidence < kDoubtful ? PackPage::tr("%1 tiles of %2 × %3?")
                                                         : PackPage::tr("%1 tiles of %2 × %3"))
                .arg(count)
                .arg(tile.w)
                .arg(tile.h);
        case What::things:
            sheet = true;
            return PackPage::tr("%1 things").arg(std::max(2, reading.what.things));
        case What::prop:
            return PackPage::tr("one thing");
        case What::backdrop:
            sheet = true;
            return PackPage::tr("a backdrop");
    }
    return {};
}

Looked look(const fs::path& file) {
    Looked out;
    try {
        const Image image = sheet::read_png(file);
        out.text = wordsOf(join::read_sheet(image), image, out.sheet);
        const QImage whole = toQImage(image);
        const QSize room(kPicture.width() - 8, kArt - 8);
        // Small art is enlarged by whole steps, large art made to fit.
        const int times =
            std::min({8, room.width() / std::max(1, whole.width()), room.height() / std::max(1, whole.height())});
        out.small = times >= 1 ? whole.scaled(whole.size() * times)
                               : whole.scaled(room, Qt::KeepAspectRatio, Qt::SmoothTransformation);
    } catch (const std::exception&) {
        out.text = PackPage::tr("cannot be read");
    }
    return out;
}

} // namespace

PackPage::PackPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("packPage");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 18, 24, 12);
    column->setSpacing(10);
    auto* head = new QHBoxLayout;
    head->setSpacing(10);
    auto* names = new QVBoxLayout;
    names->setSpacing(2);
    title_ = label({}, "title", this);
    title_->setObjectName("packTitle");
    under_ = label({}, "quiet", this);
    under_->setObjectName("packUnder");
    names->addWidget(title_);
    names->addWidget(under_);
    head->addLayout(names, 1);
    search_ = new QLineEdit(this);
    search_->setObjectName("packSearch");
    search_->setPlaceholderText(tr("Search names and folders"));
    search_->setClearButtonEnabled(true);
    search_->setFixedWidth(240);
    head->addWidget(search_);
    all_ = new QPushButton(tr("Choose what is shown"), this);
    all_->setObjectName("packAll");
    describe(all_, tr("Choose what is shown"), "Ctrl+A", tr("Again: none of it"));
    head->addWidget(all_);
    auto* leave = new QPushButton(tr("Leave"), this);
    leave->setObjectName("packLeave");
    describe(leave, tr("Leave"), "Esc", tr("Nothing is taken"));
    head->addWidget(leave);
    take_ = new QPushButton(this);
    take_->setObjectName("packTake");
    setRole(take_, "primary");
    head->addWidget(take_);
    column->addLayout(head);
    list_ = new PictureList("packList", tr("Pictures of the pack"), this);
    list_->layInBoxes(kPart, kBox, kLetters);
    list_->setDraw(kPicture, [this](quint32 id) { return draw(id); });
    list_->setFocusPolicy(Qt::NoFocus);
    column->addWidget(list_, 1);
    connect(list_, &PictureList::picked, this, &PackPage::toggle);
    connect(search_, &QLineEdit::textChanged, this, &PackPage::fill);
    connect(all_, &QPushButton::clicked, this, &PackPage::chooseShown);
    connect(leave, &QPushButton::clicked, this, &PackPage::left);
    connect(take_, &QPushButton::clicked, this, [this] {
        std::vector<Chosen> chosen;
        for (const quint32 id : chosen_) {
            const store::PackPicture& p = pack_.pictures[id];
            chosen.push_back({QString::fromStdString(p.file.string()), read_[id].sheet, p.credits});
        }
        emit taken(QString::fromStdString(pack_.name), chosen);
    });
}

void PackPage::open(store::PackFolder pack) {
    session_.jobs().stop("pack");
    pack_ = std::move(pack);
    read_.assign(pack_.pictures.size(), {});
    next_ = 0;
    chosen_.clear();
    search_->clear();
    title_->setText(QString::fromStdString(pack_.name));
    fill();
    setFocus();
    readNext();
}

// A few at a time, so that what was read is seen while the rest is.
void PackPage::readNext() {
    if (next_ >= read_.size()) return;
    std::vector<fs::path> files;
    for (std::size_t i = next_; i < std::min(read_.size(), next_ + kAtOnce); ++i)
        files.push_back(pack_.pictures[i].file);
    session_.jobs().start<std::vector<Looked>>(
        "pack", tr("Reading the pack"),
        [files](Jobs::Progress& progress) {
            std::vector<Looked> out;
            for (const fs::path& file : files) {
                if (progress.stopped()) break;
                out.push_back(look(file));
            }
            return out;
        },
        [this](std::vector<Looked>& looked) {
            for (Looked& l : looked) {
                if (next_ >= read_.size()) return;
                read_[next_++] = {l.text, l.sheet, QPixmap::fromImage(l.small), true};
            }
            list_->redraw();
            tell();
            readNext();
        },
        session_.complain());
}

void PackPage::fill() {
    const QStringList words = search_->text().split(' ', Qt::SkipEmptyParts);
    std::vector<PictureRow> rows;
    for (std::size_t i = 0; i < pack_.pictures.size(); ++i) {
        const store::PackPicture& p = pack_.pictures[i];
        const QString name = QString::fromStdString(p.name), folder = QString::fromStdString(p.folder);
        if (!std::all_of(words.begin(), words.end(),
                         [&](const QString& w) { return (folder + "/" + name).contains(w, Qt::CaseInsensitive); }))
            continue;
        const QString where = folder.isEmpty() ? name : folder + "/" + name;
        rows.push_back({static_cast<quint32>(i), name, tr("%1, %2 × %3 px").arg(where).arg(p.size.w).arg(p.size.h)});
    }
    list_->setRows(std::move(rows));
    tell();
}

void PackPage::toggle(quint32 id) {
    if (!chosen_.erase(id)) chosen_.insert(id);
    list_->setCurrent(std::nullopt);
    list_->redraw();
    tell();
}

void PackPage::chooseShown() {
    std::set<quint32> shown;
    const QStringList words = search_->text().split(' ', Qt::SkipEmptyParts);
    for (std::size_t i = 0; i < pack_.pictures.size(); ++i) {
        const QString where = QString::fromStdString(pack_.pictures[i].folder + "/" + pack_.pictures[i].name);
        if (std::all_of(words.begin(), words.end(),
                        [&](const QString& w) { return where.contains(w, Qt::CaseInsensitive); }))
            shown.insert(static_cast<quint32>(i));
    }
    const bool all = std::includes(chosen_.begin(), chosen_.end(), shown.begin(), shown.end());
    for (const quint32 id : shown)
        if (all)
            chosen_.erase(id);
        else
            chosen_.insert(id);
    list_->redraw();
    tell();
}

void PackPage::tell() {
    QString under =
        translated(say_count(static_cast<std::int64_t>(pack_.pictures.size()), "One picture", "%n pictures"));
    if (pack_.more) under += tr(", the first that are taken at once");
    std::set<std::string> licences;
    for (const store::PackPicture& p : pack_.pictures)
        if (!p.credits.licence.empty()) licences.insert(p.credits.licence);
    if (!licences.empty()) {
        QStringList names;
        for (const std::string& l : licences) names << QString::fromStdString(l);
        under += tr(" · licence: %1, by the files beside them").arg(names.join(", "));
    }
    if (next_ < read_.size()) under += tr(" · %1 of %2 read").arg(next_).arg(read_.size());
    under_->setText(under);
    take_->setText(chosen_.empty() ? tr("Click what you want")
                                   : tr("Take %1 of %2").arg(chosen_.size()).arg(pack_.pictures.size()));
    take_->setEnabled(!chosen_.empty());
}

QPixmap PackPage::draw(quint32 id) const {
    const Tokens t = tokensOf(this);
    const bool chosen = chosen_.contains(id);
    QPixmap out(kPicture);
    out.fill(Qt::transparent);
    QPainter p(&out);
    p.setRenderHint(QPainter::Antialiasing);
    const QRect box(0, 0, kPicture.width(), kArt);
    paintChequer(p, box, t.window, t.panel);
    const Read& read = read_[id];
    const QSize size = read.picture.size();
    p.drawPixmap((kPicture.width() - size.width()) / 2, (kArt - size.height()) / 2, read.picture);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(chosen ? t.vermilion : t.line, chosen ? 3 : 1));
    p.drawRoundedRect(QRectF(box).adjusted(1.5, 1.5, -1.5, -1.5), 6, 6);
    if (chosen) { // colour is not the only sign
        p.setPen(Qt::NoPen);
        p.setBrush(t.vermilion);
        p.drawEllipse(QPointF(kPicture.width() - 16, 16), 9, 9);
        p.setPen(QPen(Qt::white, 2));
        p.drawPolyline(
            QPolygonF{{kPicture.width() - 20.0, 16}, {kPicture.width() - 17.0, 19}, {kPicture.width() - 12.0, 12}});
    }
    QFont font = this->font();
    font.setPixelSize(11);
    p.setFont(font);
    p.setPen(t.quiet);
    const store::PackPicture& picture = pack_.pictures[id];
    const QString text = read.done ? read.text : tr("%1 × %2 px").arg(picture.size.w).arg(picture.size.h);
    p.drawText(QRect(0, kArt + 2, kPicture.width(), 16), Qt::AlignCenter, text);
    return out;
}

void PackPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) {
        emit left();
        return;
    }
    if (event->matches(QKeySequence::SelectAll)) return chooseShown();
    if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && take_->isEnabled()) {
        take_->click();
        return;
    }
    QWidget::keyPressEvent(event);
}

} // namespace vic::app
