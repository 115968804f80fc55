// Of the Tray: searching, what was used lately, and trays of one's own.

#include <QAction>
#include <QApplication>
#include <QColor>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFontMetrics>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QIcon>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QListWidgetItem>
#include <QMenu>
#include <QPainter>
#include <QPen>
#include <QPixmap>
#include <QPoint>
#include <QPushButton>
#include <QRectF>
#include <QRgb>
#include <QSignalBlocker>
#include <QString>
#include <QStringList>
#include <QToolButton>
#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <map>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "app/gesture/tools.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/picture_list.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/choice.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "app/tray/hand_card.hpp"
#include "app/tray/hand_options.hpp"
#include "app/tray/tray.hpp"
#include "base/image.hpp"
#include "base/text.hpp"
#include "edit/notes.hpp"
#include "edit/stroke.hpp"
#include "edit/trays.hpp"
#include "level/cell.hpp"
#include "level/own_tray.hpp"
#include "level/project.hpp"

namespace vic::app {

using Kind = level::TrayItem::Kind;

namespace {

constexpr std::size_t kMostGathered = 8192;

// Marks that keep apart on paper and on slate.
const QRgb kMarks[8] = {0xFFC2452D, 0xFFC9861A, 0xFF8A8F2A, 0xFF3F8F5B, 0xFF18766F, 0xFF3C6FA8, 0xFF7D5BA6, 0xFF8A6A52};

QIcon markIcon(Rgba colour) {
    QPixmap pixmap(14, 14);
    pixmap.fill(Qt::transparent);
    if (colour.a != 0) {
        QPainter p(&pixmap);
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(QPen(QColor("#FBF8F1"), 1));
        p.setBrush(QColor(colour.r, colour.g, colour.b));
        p.drawEllipse(QRectF(1.5, 1.5, 11, 11));
    }
    return pixmap;
}

// The marks that a tray may have, as buttons that change it.
QHBoxLayout* markButtons(level::OwnTray& tray, QDialog* dialog) {
    auto* marks = new QHBoxLayout;
    marks->setSpacing(4);
    for (int i = 0; i <= 8; ++i) {
        const QRgb c = i == 0 ? 0 : kMarks[i - 1];
        const Rgba colour{static_cast<std::uint8_t>(qRed(c)), static_cast<std::uint8_t>(qGreen(c)),
                          static_cast<std::uint8_t>(qBlue(c)), static_cast<std::uint8_t>(qAlpha(c))};
        auto* b =
            toolButton(dialog, QString("trayMark-%1").arg(i), {}, i == 0 ? Tray::tr("none") : QString(), {}, "tool");
        if (i > 0) b->setIcon(markIcon(colour));
        b->setAccessibleName(i == 0 ? Tray::tr("No mark") : Tray::tr("Mark %1").arg(i));
        b->setIconSize({18, 18});
        if (i > 0) b->setStyleSheet("padding: 0");
        if (i > 0) b->setFixedSize(28, 28);
        b->setCheckable(true);
        b->setAutoExclusive(true);
        b->setChecked(tray.colour == colour || (i == 0 && tray.colour.a == 0));
        QObject::connect(b, &QToolButton::clicked, dialog, [&tray, colour] { tray.colour = colour; });
        marks->addWidget(b);
    }
    marks->addStretch();
    return marks;
}

// The sheets of the project, those of the tray ticked.
QListWidget* sheetChoice(const level::Project& project, const level::OwnTray& tray, QDialog* dialog) {
    auto* sheets = new QListWidget(dialog);
    sheets->setObjectName("traySheetChoice");
    sheets->setAccessibleName(Tray::tr("Sheets"));
    for (const auto& s : project.sheets) {
        if (s->tiles.size() < 2) continue;
        auto* item = new QListWidgetItem(QString::fromStdString(s->name), sheets);
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable);
        item->setData(Qt::UserRole, s->id);
        item->setCheckState(std::find(tray.sheets.begin(), tray.sheets.end(), s->id) != tray.sheets.end()
                                ? Qt::Checked
                                : Qt::Unchecked);
    }
    return sheets;
}

} // namespace

const level::OwnTray* Tray::own() const {
    for (const level::OwnTray& t : session_.project().trays)
        if (t.id == own_) return &t;
    return nullptr;
}

std::optional<level::TrayItem> Tray::inHand() const {
    const edit::Hand& hand = session_.hand();
    if (hand.is<edit::held::Material>()) return level::TrayItem{Kind::material, hand.material()};
    if (hand.is<edit::held::Tile>()) return level::TrayItem{Kind::tile, hand.tile()};
    if (hand.is<edit::held::Prop>()) return level::TrayItem{Kind::prop, hand.prop()};
    return std::nullopt;
}

void Tray::take(const level::TrayItem& item) {
    edit::Hand hand;
    if (item.kind == Kind::prop) {
        hand.holds = edit::held::Prop{item.id};
        session_.setStage(Stage::dress);
        session_.setTool(Tool::props);
        return session_.setHand(hand);
    }
    if (item.kind == Kind::material)
        hand.holds = edit::held::Material{static_cast<level::MaterialId>(item.id)};
    else
        hand.holds = edit::held::Tile{item.id};
    // With Shift it comes to what the Hand holds already: a spread chooses among them.
    if (QApplication::keyboardModifiers() & Qt::ShiftModifier)
        hand = with_more(session_.hand(), {hand.material(), hand.tile(), {}, 100});
    if (const auto* spread = hand.as<edit::held::Spread>(); spread && spread->items.empty()) hand = {};
    hand.size = session_.hand().size;
    hand.round = session_.hand().round;
    if (session_.stage() == Stage::dress) session_.setStage(Stage::lay);
    if (!kindOf(session_.tool()).lays || session_.tool() == Tool::eraser) session_.setTool(Tool::pencil);
    session_.setHand(hand);
}

void Tray::search() {
    search_->setFocus();
    search_->selectAll();
}

void Tray::setSource(Source source, level::OwnTrayId id) {
    if (source != Source::search && !search_->text().isEmpty()) {
        const QSignalBlocker quiet(search_);
        search_->clear();
    }
    source_ = source;
    own_ = id;
    if (source == Source::tabs)
        setTab(session_.stage() == Stage::dress ? Props : Materials);
    else
        setTab(Gathered);
}

void Tray::gather() {
    const level::Project& p = session_.project();
    if (source_ == Source::own && !own()) return setSource(Source::tabs);
    std::vector<level::TrayItem> items;
    if (source_ == Source::own) {
        items = edit::tray_content(p, *own());
    } else if (source_ == Source::recent) {
        for (const level::TrayItem& item : recents_)
            if (edit::exists(p, item)) items.push_back(item);
    } else {
        const QStringList words = search_->text().split(' ', Qt::SkipEmptyParts);
        items = edit::find_things(
            p,
            [&](const std::string& text) {
                const QString all = QString::fromStdString(text);
                return std::all_of(words.begin(), words.end(),
                                   [&](const QString& w) { return all.contains(w, Qt::CaseInsensitive); });
            },
            kMostGathered);
    }
    if (items.size() > kMostGathered) items.resize(kMostGathered);
    if (items != gathered_ || gatheredOf_ != session_.document().state()) {
        gathered_ = std::move(items);
        gatheredOf_ = session_.document().state();
        std::vector<PictureRow> rows;
        for (const level::TrayItem& item : gathered_) {
            const QString name = translated(edit::name_of(p, item));
            rows.push_back({static_cast<quint32>(rows.size()), name, name.toHtmlEscaped()});
        }
        found_->setRows(std::move(rows));
        found_->redraw();
    }
    const auto item = inHand();
    const auto at = item ? std::find(gathered_.begin(), gathered_.end(), *item) : gathered_.end();
    found_->setCurrent(at == gathered_.end() ? std::nullopt
                                             : std::optional(static_cast<quint32>(at - gathered_.begin())));
}

QPixmap Tray::gatheredPicture(std::size_t row) const {
    const level::Project& p = session_.project();
    if (row >= gathered_.size() || !edit::exists(p, gathered_[row])) return {};
    const level::TrayItem& item = gathered_[row];
    switch (item.kind) {
        case Kind::material:
            return materialThumb(p, *p.material(static_cast<level::MaterialId>(item.id)), 48);
        case Kind::prop:
            return propThumb(p, *p.prop_kind(item.id), 48);
        case Kind::tile:
            return tileThumb(p, item.id, 48);
    }
    return {};
}

void Tray::refreshWhich() {
    const level::OwnTray* tray = source_ == Source::own ? own() : nullptr;
    const QString name = tray                        ? QString::fromStdString(tray->name)
                         : source_ == Source::recent ? tr("Used lately")
                                                     : tr("Trays");
    which_->setText(QFontMetrics(which_->font()).elidedText(name, Qt::ElideRight, 90) + " ▾");
    which_->setIcon(tray && tray->colour.a != 0 ? markIcon(tray->colour) : QIcon());
}

void Tray::buildMenu() {
    menu_->clear();
    const auto add = [this](QMenu* menu, const QString& id, const QString& text, const std::function<void()>& go) {
        QAction* action = menu->addAction(text);
        action->setObjectName(id);
        connect(action, &QAction::triggered, this, go);
        return action;
    };
    add(menu_, "trayAll", tr("Everything"), [this] { setSource(Source::tabs); });
    add(menu_, "trayRecent", tr("Used lately"), [this] { setSource(Source::recent); });
    menu_->addSeparator();
    std::map<std::string, QMenu*> folders{{"", menu_}};
    std::vector<const level::OwnTray*> sorted;
    for (const level::OwnTray& t : session_.project().trays) sorted.push_back(&t);
    std::sort(sorted.begin(), sorted.end(),
              [](const auto* a, const auto* b) { return std::tie(a->folder, a->name) < std::tie(b->folder, b->name); });
    const std::function<QMenu*(const std::string&)> folder = [&](const std::string& path) {
        auto& menu = folders[path];
        if (!menu) {
            const auto slash = path.rfind('/');
            QMenu* above = slash == std::string::npos ? menu_ : folder(path.substr(0, slash));
            folders[path] = above->addMenu(
                QString::fromStdString(slash == std::string::npos ? path : path.substr(slash + 1)).replace("&", "&&"));
        }
        return folders[path];
    };
    for (const level::OwnTray* t : sorted) {
        QAction* action =
            add(folder(t->folder), QString("tray-%1").arg(t->id), QString::fromStdString(t->name).replace("&", "&&"),
                [this, id = t->id] { setSource(Source::own, id); });
        action->setIcon(markIcon(t->colour));
    }
    if (!sorted.empty()) menu_->addSeparator();
    add(menu_, "trayNew", tr("New tray…"), [this] { editTray(0); });
    const level::OwnTray* tray = source_ == Source::own ? own() : nullptr;
    if (!tray) return;
    if (const auto item = inHand()) {
        const bool in = std::find(tray->items.begin(), tray->items.end(), *item) != tray->items.end();
        add(menu_, "trayPut", in ? tr("Take the Hand's out of it") : tr("Put the Hand's into it"), [this, item, in] {
            level::OwnTray changed = *own();
            if (in)
                std::erase(changed.items, *item);
            else
                changed.items.push_back(*item);
            session_.apply(tr("What is in a tray"), edit::put_tray(session_.project(), std::move(changed)));
        });
    }
    add(menu_, "trayChange", tr("Change this tray…"), [this] { editTray(own_); });
    add(menu_, "trayRemove", tr("Remove this tray"), [this] {
        const auto id = own_;
        setSource(Source::tabs);
        session_.apply(tr("Remove a tray"), edit::remove_tray(session_.project(), id));
    });
}

void Tray::editTray(level::OwnTrayId id) {
    level::OwnTray tray;
    if (id != 0 && own()) tray = *own();
    if (id == 0)
        if (const auto item = inHand()) tray.items.push_back(*item);
    QDialog dialog(this);
    dialog.setObjectName("trayDialog");
    dialog.setWindowTitle(id == 0 ? tr("New tray") : tr("Change the tray"));
    dialog.setMinimumWidth(360);
    auto* form = new QFormLayout(&dialog);
    const auto line = [&](const char* name, const QString& title, const std::string& text, const QString& hint) {
        auto* edit = new QLineEdit(QString::fromStdString(text), &dialog);
        edit->setObjectName(name);
        edit->setPlaceholderText(hint);
        form->addRow(title, edit);
        return edit;
    };
    auto* name = line("trayName", tr("Name"), tray.name, {});
    auto* folder = line("trayFolder", tr("Folder"), tray.folder, tr("Shore/Plants"));
    auto* tags = line("trayTags", tr("Tiles tagged"), edit::tags_text(tray.tags), tr("shore, wet"));
    form->addRow(tr("Mark"), markButtons(tray, &dialog));
    auto* sheets = sheetChoice(session_.project(), tray, &dialog);
    sheets->setFixedHeight(150);
    form->addRow(tr("Whole sheets"), sheets);
    auto* trouble = label({}, "warning", &dialog);
    trouble->setObjectName("trayTrouble");
    form->addRow(trouble);
    auto* buttons = new QDialogButtonBox(&dialog);
    auto* ok = buttons->addButton(id == 0 ? tr("Make the tray") : tr("Change it"), QDialogButtonBox::AcceptRole);
    ok->setObjectName("trayOk");
    setRole(ok, "primary");
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    form->addRow(buttons);
    connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    connect(buttons, &QDialogButtonBox::accepted, &dialog, [&] {
        tray.name = name->text().trimmed().toStdString();
        tray.folder = folder->text().toStdString();
        tray.tags = edit::parse_tags(tags->text().toStdString());
        tray.sheets.clear();
        for (int i = 0; i < sheets->count(); ++i)
            if (sheets->item(i)->checkState() == Qt::Checked)
                tray.sheets.push_back(sheets->item(i)->data(Qt::UserRole).toUInt());
        const Text wrong = edit::tray_trouble(session_.project(), tray);
        trouble->setText(translated(wrong));
        if (wrong.empty()) dialog.accept();
    });
    if (dialog.exec() != QDialog::Accepted) return;
    level::Project next = edit::put_tray(session_.project(), tray);
    const level::OwnTrayId made = id != 0 ? id : next.trays.back().id;
    session_.apply(id == 0 ? tr("New tray %1").arg(name->text()) : tr("Change the tray %1").arg(name->text()),
                   std::move(next));
    setSource(Source::own, made);
}

QString Tray::packedRecents() const {
    QStringList all;
    for (const level::TrayItem& item : recents_) all << QString("%1:%2").arg(int(item.kind)).arg(item.id);
    return all.join(' ');
}

void Tray::unpackRecents(const QString& text) {
    recents_.clear();
    for (const QString& one : text.split(' ', Qt::SkipEmptyParts)) {
        const QStringList parts = one.split(':');
        if (parts.size() == 2)
            recents_.push_back({static_cast<Kind>(std::clamp(parts[0].toInt(), 0, 2)), parts[1].toUInt()});
    }
}

void Tray::showLastHands() {
    auto* menu = new QMenu(this);
    menu->setObjectName("lastHands");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const edit::Hand& hand : session_.lastHands())
        connect(menu->addAction(QIcon(handPicture(session_.project(), hand, 24)), handName(session_.project(), hand)),
                &QAction::triggered, this, [this, hand] {
                    if (hand.is<edit::held::Prop>()) session_.setStage(Stage::dress);
                    session_.setHand(hand);
                });
    if (menu->isEmpty()) menu->addAction(tr("Nothing was in the Hand yet"))->setEnabled(false);
    menu->popup(card_->mapToGlobal(QPoint(12, 24)));
}

} // namespace vic::app
