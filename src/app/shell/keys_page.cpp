#include "app/shell/keys_page.hpp"

#include <QEvent>
#include <QFrame>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

#include "app/parts/panel.hpp"

namespace vic::app {

namespace {

constexpr QSize kSize{940, 640};
constexpr int kKeyWidth = 126; // room for "Ctrl+Backspace"
constexpr int kColumns = 2;

bool onlyModifier(int key) {
    return key == Qt::Key_Shift || key == Qt::Key_Control || key == Qt::Key_Alt || key == Qt::Key_Meta ||
           key == Qt::Key_AltGr || key == Qt::Key_unknown;
}

// What is told of but cannot be changed: a row of commands that are alike, and a key that comes and goes.
bool hasFixedKey(const QAction* a) { return a->objectName().startsWith("pocket-") || a->objectName() == "newProject"; }

} // namespace

KeysPage::KeysPage(Keys& keys, QWidget* parent) : QFrame(parent, Qt::Popup), keys_(keys) {
    setObjectName("keyList");
    setStyleSheet("#keyList { background: palette(base); border: 1px solid palette(mid); }");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 14, 18, 12);
    column->setSpacing(8);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("All keys"), "title", this));
    field_ = new QLineEdit(this);
    field_->setObjectName("keysSearch");
    field_->setPlaceholderText(tr("Search commands and keys"));
    field_->setClearButtonEnabled(true);
    field_->installEventFilter(this);
    head->addWidget(field_, 1);
    auto* back = new QPushButton(tr("All as they came"), this);
    back->setObjectName("keysReset");
    describe(back, tr("All as they came"), {}, tr("Every command gets its first key again"));
    head->addWidget(back);
    column->addLayout(head);
    scroll_ = new QScrollArea(this);
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    column->addWidget(scroll_, 1);
    said_ = label({}, "quiet", this);
    said_->setObjectName("keysSaid");
    said_->setWordWrap(true);
    column->addWidget(said_);
    connect(field_, &QLineEdit::textChanged, this, &KeysPage::filter);
    connect(back, &QPushButton::clicked, this, [this] {
        keys_.resetAll();
        wait(nullptr);
    });
}

void KeysPage::open(Where here, const QString& stage) {
    here_ = here;
    stage_ = stage;
    fill();
    field_->clear();
    wait(nullptr);
    const QSize size = kSize.boundedTo(parentWidget()->size() - QSize(40, 40));
    setFixedSize(size);
    move(parentWidget()->mapToGlobal(
        QPoint((parentWidget()->width() - size.width()) / 2, (parentWidget()->height() - size.height()) / 2)));
    QFrame::show();
    field_->setFocus();
}

void KeysPage::fill() {
    groups_.clear();
    auto* inside = new QWidget(scroll_);
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(0, 0, 8, 0);
    column->setSpacing(10);
    std::vector<std::pair<Where, QString>> order{{Where::level, tr("On the level: Lay, Dress, Bound")},
                                                 {Where::lay, tr("Where cells are laid: Lay, Bound")},
                                                 {Where::dress, tr("Dress")},
                                                 {Where::bound, tr("Bound")},
                                                 {Where::cut, tr("Cut")},
                                                 {Where::join, tr("Join")},
                                                 {Where::everywhere, tr("Everywhere")}};
    // This stage comes first.
    std::stable_sort(order.begin(), order.end(),
                     [this](const auto& a, const auto& b) { return (a.first == here_) > (b.first == here_); });
    for (const auto& [where, name] : order) {
        std::vector<QAction*> of;
        for (QAction* a : keys_.actions()) {
            const Where w = Keys::where(a) == Where::always ? Where::everywhere : Keys::where(a);
            if (w == where && !hasFixedKey(a)) of.push_back(a);
        }
        addGroup(column, name, of);
        if (where == Where::level) addMouse(column);
    }
    column->addStretch();
    scroll_->setWidget(inside); // what was in it before goes
}

QWidget* KeysPage::addRow(Group& group, QWidget* parent, const QString& name, const QString& help) {
    auto* whole = new QWidget(parent);
    auto* row = new QHBoxLayout(whole);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    auto* text = label(name, "quiet", whole);
    text->setToolTip(help.isEmpty() ? name : help);
    text->setMinimumWidth(40);
    row->addWidget(text, 1);
    group.rows.push_back({nullptr, whole, nullptr, name});
    return whole;
}

void KeysPage::addGroup(QVBoxLayout* column, const QString& name, const std::vector<QAction*>& actions) {
    Group group;
    group.whole = new QWidget(scroll_);
    auto* inner = new QVBoxLayout(group.whole);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(4);
    inner->addWidget(label(name, "heading", group.whole));
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(28);
    grid->setVerticalSpacing(2);
    inner->addLayout(grid);
    const int lines = (static_cast<int>(actions.size()) + kColumns - 1) / kColumns;
    for (int i = 0; i < static_cast<int>(actions.size()); ++i) {
        QAction* a = actions[static_cast<std::size_t>(i)];
        QWidget* whole = addRow(group, group.whole, a->text().remove("…"), a->statusTip());
        Row& row = group.rows.back();
        row.action = a;
        row.key = toolButton(whole, "keyOf-" + a->objectName(), {}, {}, {}, "pill");
        row.key->setFixedWidth(kKeyWidth);
        row.key->setCheckable(true);
        whole->layout()->addWidget(row.key);
        connect(row.key, &QToolButton::clicked, this, [this, a] { wait(waiting_ == a ? nullptr : a); });
        grid->addWidget(whole, i % lines, i / lines);
        show(row);
    }
    for (int i = 0; i < kColumns; ++i) grid->setColumnStretch(i, 1);
    column->addWidget(group.whole);
    groups_.push_back(std::move(group));
}

void KeysPage::addMouse(QVBoxLayout* column) {
    const std::pair<QString, QString> rows[] = {
        {tr("Removes what the active layer has there"), tr("Right button")},
        {tr("Picks up, from any layer"), tr("Alt+click")},
        {tr("Lays on the active layer, not at home"), tr("Ctrl+click")},
        {tr("Moves the view"), tr("Middle button, Space")},
        {tr("Zooms at the pointer"), tr("Wheel")},
        {tr("Size of the Hand; of the Tray's tiles over it"), tr("Ctrl+wheel")},
        {tr("Adds to the Hand: a spread"), tr("Shift+click in the Tray")},
        {tr("Takes tiles as they are arranged"), tr("Drag in the Tray")},
        {tr("Pockets"), "1 – 9"},
        {tr("Empties the Hand; leaves Walk"), "Esc"},
    };
    Group group;
    group.whole = new QWidget(scroll_);
    auto* inner = new QVBoxLayout(group.whole);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(4);
    inner->addWidget(label(tr("With the mouse, and keys that stay"), "heading", group.whole));
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(28);
    grid->setVerticalSpacing(2);
    inner->addLayout(grid);
    constexpr int kLines = static_cast<int>(std::size(rows)) / kColumns;
    int i = 0;
    for (const auto& [what, how] : rows) {
        QWidget* whole = addRow(group, group.whole, what, {});
        group.rows.back().text += " " + how;
        whole->layout()->addWidget(label(how, "heading", whole));
        grid->addWidget(whole, i % kLines, i / kLines);
        ++i;
    }
    for (int k = 0; k < kColumns; ++k) grid->setColumnStretch(k, 1);
    column->addWidget(group.whole);
    groups_.push_back(std::move(group));
}

void KeysPage::show(const Row& row) {
    if (!row.action) return;
    const QString key = row.action->shortcut().toString(QKeySequence::NativeText);
    row.key->setChecked(row.action == waiting_);
    row.key->setText(row.action == waiting_ ? tr("press a key") : key.isEmpty() ? QString("–") : key);
    const QString usual = keys_.usual(row.action).toString(QKeySequence::NativeText);
    const QString name = row.action->text().remove("…");
    describe(row.key, tr("Key of %1").arg(name), key,
             keys_.changed(row.action) ? tr("It came as %1. Click to change it").arg(usual.isEmpty() ? "–" : usual)
                                       : tr("Click to change it"));
    setRole(row.key, keys_.changed(row.action) ? "changed" : "pill");
}

void KeysPage::filter() {
    const QStringList words = field_->text().split(' ', Qt::SkipEmptyParts);
    for (const Group& g : groups_) {
        bool any = false;
        for (const Row& r : g.rows) {
            const QString text =
                r.action ? r.text + " " + r.action->shortcut().toString(QKeySequence::NativeText) : r.text;
            const bool seen = std::all_of(words.begin(), words.end(),
                                          [&](const QString& w) { return text.contains(w, Qt::CaseInsensitive); });
            r.whole->setVisible(seen);
            any = any || seen;
        }
        g.whole->setVisible(any);
    }
}

void KeysPage::wait(QAction* action) {
    waiting_ = action;
    asked_ = {};
    for (const Group& g : groups_)
        for (const Row& r : g.rows) show(r);
    if (action) setFocus();
    tell();
}

void KeysPage::tell() {
    if (!waiting_)
        return said_->setText(
            tr("Click a key to change it. Free %1: %2").arg(stage_, keys_.freeLetters(here_).join(", ")));
    if (asked_.isEmpty())
        return said_->setText(
            tr("Press the new key of \"%1\" · Backspace: none · Esc: leave it").arg(waiting_->text().remove("…")));
    const QAction* other = keys_.holder(asked_, waiting_);
    said_->setText(tr("%1 is the key of \"%2\": press it again to take it from there, or another one")
                       .arg(asked_.toString(QKeySequence::NativeText), other ? other->text().remove("…") : QString()));
}

void KeysPage::take(const QKeySequence& key) {
    if (keys_.holder(key, waiting_) && asked_ != key) {
        asked_ = key;
        return tell();
    }
    keys_.set(waiting_, key);
    wait(nullptr);
}

void KeysPage::keyPressEvent(QKeyEvent* event) {
    if (!waiting_) return QFrame::keyPressEvent(event);
    if (onlyModifier(event->key())) return;
    if (event->key() == Qt::Key_Escape) return wait(nullptr);
    if (event->key() == Qt::Key_Backspace && event->modifiers() == Qt::NoModifier) return take({});
    take(QKeySequence(static_cast<int>(event->modifiers() & ~Qt::KeypadModifier) | event->key()));
}

// Esc in the field empties it first; it closes the page when it is empty.
bool KeysPage::eventFilter(QObject* object, QEvent* event) {
    if (object == field_ && event->type() == QEvent::KeyPress &&
        static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
        if (field_->text().isEmpty())
            close();
        else
            field_->clear();
        return true;
    }
    return QFrame::eventFilter(object, event);
}

} // namespace vic::app
