// The side of the kit's page: fields of what was read, and materials.

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QScrollArea>
#include <QSpinBox>
#include <QVBoxLayout>
#include <algorithm>

#include "app/parts/card_list.hpp"
#include "app/parts/panel.hpp"
#include "app/shell/kit_page.hpp"

namespace vic::app {

namespace {

constexpr int kKitNames = 84; // pixels of the fields' names

} // namespace

QWidget* KitPage::buildSide() {
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFixedWidth(kKitSideWidth);
    auto* side = new QWidget(scroll);
    scroll->setWidget(side);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 8, 0);
    column->setSpacing(6);
    buildFields(column);
    column->addSpacing(8);
    buildMaterials(column);
    column->addSpacing(8);
    doubtsHead_ = addHeading(column, tr("To look at"));
    doubts_ = label({}, "quiet", side);
    doubts_->setObjectName("kitDoubts");
    doubts_->setWordWrap(true);
    column->addWidget(doubts_);
    column->addStretch();
    return scroll;
}

void KitPage::buildFields(QVBoxLayout* column) {
    QWidget* side = column->parentWidget();
    addHeading(column, tr("As it is read"));
    const auto length = [&](const char* id, const QString& name, const QString& help, double kit::Told::*field,
                            const std::function<double()>& get) {
        auto* box = new QDoubleSpinBox(side);
        box->setObjectName(id);
        box->setRange(0, 1000);
        box->setDecimals(3);
        box->setSingleStep(0.5);
        box->setSuffix(tr(" m"));
        box->setKeyboardTracking(false);
        describe(box, name, {}, help);
        addField(column, name, box, kKitNames);
        bound_.bindNumber(box, get, [this, field](double v) {
            told_.*field = v;
            readAgain();
        });
    };
    length("kitWidth", tr("Cell"), tr("How wide and deep a cell of the kit is; 0: as it is read"), &kit::Told::width,
           [this] { return tried_.read.module.width; });
    length("kitHeight", tr("Storey"), tr("How high a storey is; 0: as it is read"), &kit::Told::height,
           [this] { return tried_.read.module.height; });
    auto* up = comboBox(side, "kitUp");
    addField(column, tr("Up is"), up, kKitNames);
    bound_.bindChoice(
        up,
        [] {
            return std::vector<Bindings::Choice>{{tr("y, as in the file"), false}, {tr("z: it is turned up"), true}};
        },
        [this] { return QVariant(tried_.read.z_up); },
        [this](const QVariant& v) {
            told_.z_up = v.toBool();
            readAgain();
        });
    auto* front = comboBox(side, "kitFront");
    describe(front, tr("Front"), {},
             tr("Where the front of the pieces looks in the file; they are turned so that it looks to the south"));
    addField(column, tr("Front"), front, kKitNames);
    bound_.bindChoice(
        front,
        [] {
            return std::vector<Bindings::Choice>{
                {tr("looks south"), 0}, {tr("looks east"), 1}, {tr("looks north"), 2}, {tr("looks west"), 3}};
        },
        [this] { return QVariant(tried_.read.turn); },
        [this](const QVariant& v) {
            told_.turn = v.toInt();
            readAgain();
        });
    auto* origin = comboBox(side, "kitOrigin");
    addField(column, tr("Origin"), origin, kKitNames);
    bound_.bindChoice(
        origin,
        [] {
            return std::vector<Bindings::Choice>{{tr("the middle of the cells"), 0}, {tr("a corner of the cells"), 1}};
        },
        [this] { return QVariant(static_cast<int>(tried_.read.origin)); },
        [this](const QVariant& v) {
            told_.origin = static_cast<kit::Origin>(v.toInt());
            readAgain();
        });
    buildParts(column);
    auto* pixels = new QSpinBox(side);
    pixels->setObjectName("kitPixels");
    pixels->setRange(8, 128);
    pixels->setSuffix(tr(" px a cell"));
    pixels->setKeyboardTracking(false);
    describe(pixels, tr("Pictures"), {},
             tr("The pieces are drawn from above with so many pixels a cell, to be painted with"));
    addField(column, tr("Pictures"), pixels, kKitNames);
    bound_.bindInt(
        pixels, [this] { return side_; },
        [this](int v) {
            side_ = v;
            readAgain();
        });
}

// What its files hold.
void KitPage::buildParts(QVBoxLayout* column) {
    QWidget* side = column->parentWidget();
    auto* nodes = comboBox(side, "kitNodes");
    describe(nodes, tr("Each file"), {}, tr("Whether a file's nodes are pieces of the kit, or parts of one thing"));
    addField(column, tr("Each file"), nodes, kKitNames);
    bound_.bindChoice(
        nodes,
        [] {
            return std::vector<Bindings::Choice>{{tr("holds a piece a node"), false}, {tr("is one thing"), true}};
        },
        [this] { return QVariant(file_ && file_->whole); }, [this](const QVariant& v) { open(path_, v.toBool()); });
    bound_.bindEnabled(nodes, [this] { return file_ && file_->parts; });
}

void KitPage::buildMaterials(QVBoxLayout* column) {
    QWidget* side = column->parentWidget();
    materialsHead_ = addHeading(column, tr("Materials"));
    materials_ = new CardList(side);
    materials_->setObjectName("kitMaterials");
    materials_->setAccessibleName(tr("Materials that are made of the kit"));
    materials_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    materials_->setMinimumHeight(140);
    column->addWidget(materials_);
    connect(materials_, &CardList::chosen, this, [this] {
        bound_.refresh();
        showProof();
    });
    make_ = new QCheckBox(tr("Make this material"), side);
    make_->setObjectName("kitMake");
    column->addWidget(make_, 0, Qt::AlignLeft);
    bound_.bindCheck(
        make_, [this] { return chosenRow() && isMade(*chosenRow()); }, [this](bool on) { setMade(on); });
    bound_.bindEnabled(make_, [this] { return chosenRow() != nullptr; });
    buildCounting(column);
    proof_ = new QLabel(side);
    proof_->setObjectName("kitProof");
    proof_->setAlignment(Qt::AlignCenter);
    proof_->setFixedHeight(kKitProofHeight);
    column->addWidget(proof_);
}

// What the numbers of pieces mean.
void KitPage::buildCounting(QVBoxLayout* column) {
    QWidget* side = column->parentWidget();
    codes_ = new QWidget(side);
    auto* inner = new QVBoxLayout(codes_);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(6);
    counting_ = comboBox(codes_, "kitCounting");
    describe(counting_, tr("Counting"), {},
             tr("Which number each side is; the sum says which neighbours a piece is for"));
    addField(inner, tr("Counting"), counting_, kKitNames);
    open_ = new QCheckBox(tr("A number says that a side is open"), codes_);
    open_->setObjectName("kitInverted");
    inner->addWidget(open_, 0, Qt::AlignLeft);
    column->addWidget(codes_);
    const auto codes = [this]() -> const kit::Codes* {
        const Row* row = chosenRow();
        return row && row->codes >= 0 ? &tried_.read.codes[static_cast<std::size_t>(row->codes)] : nullptr;
    };
    const auto say_so = [this, codes](const std::function<void(kit::Told::Counting&)>& what) {
        const kit::Codes* c = codes();
        if (!c) return;
        kit::Told::Counting counting{c->bit_of_side, c->inverted, c->taken};
        what(counting);
        told_.counting[c->stem] = counting;
        readAgain();
    };
    bound_.bindChoice(
        counting_,
        [codes] {
            std::vector<Bindings::Choice> out;
            const kit::Codes* c = codes();
            if (!c) return out;
            int at = 0;
            for (const auto& way : kit::ways_of_counting(c->corners))
                out.push_back({tr("N %1 · E %2 · S %3 · W %4")
                                   .arg(1 << way[0])
                                   .arg(1 << way[1])
                                   .arg(1 << way[2])
                                   .arg(1 << way[3]),
                               at++});
            return out;
        },
        [codes] {
            const kit::Codes* c = codes();
            if (!c) return QVariant();
            const auto all = kit::ways_of_counting(c->corners);
            return QVariant(static_cast<int>(std::find(all.begin(), all.end(), c->bit_of_side) - all.begin()));
        },
        [codes, say_so](const QVariant& v) {
            say_so([&](kit::Told::Counting& counting) {
                counting.bit_of_side = kit::ways_of_counting(codes()->corners)[static_cast<std::size_t>(v.toInt())];
            });
        });
    bound_.bindCheck(
        open_, [codes] { return codes() && codes()->inverted; },
        [say_so](bool on) { say_so([on](kit::Told::Counting& counting) { counting.inverted = on; }); });
    bound_.bindShown(codes_, [codes] { return codes() && codes()->taken; });
}

} // namespace vic::app
