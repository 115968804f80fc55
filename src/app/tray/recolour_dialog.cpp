#include "app/tray/recolour_dialog.hpp"

#include <QColor>
#include <QColorDialog>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QImage>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QSize>
#include <QSlider>
#include <QSpinBox>
#include <QString>
#include <QToolButton>
#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <utility>

#include "app/parts/glyphs.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/tray/hand_card.hpp"
#include "edit/recolour.hpp"
#include "sheet/recolour.hpp"

namespace vic::app {

namespace {

constexpr int kPictureSide = 160;        // pixels at most
constexpr std::size_t kMostColours = 16; // that are offered to be exchanged

QColor colourOf(Rgba c) { return {c.r, c.g, c.b}; }

} // namespace

RecolourDialog::RecolourDialog(Session& session, QWidget* parent)
    : QDialog(parent),
      session_(session),
      again_(edit::recolour_of(session.project(), session.hand()) != nullptr),
      sample_(edit::colour_sample(session.project(), session.hand())),
      colours_(sheet::common_colours(sample_, {box_of(sample_.size())}, kMostColours)) {
    setObjectName("recolourDialog");
    const QString thing = handName(session_.project(), session_.hand());
    setWindowTitle(again_ ? tr("The colours of %1").arg(thing) : tr("%1 in other colours").arg(thing));
    if (again_) by_ = *edit::recolour_of(session_.project(), session_.hand());
    auto* form = new QFormLayout(this);
    buildPictures(form);
    if (!again_) {
        name_ = new QLineEdit(tr("%1, other colours").arg(thing), this);
        name_->setObjectName("recolourName");
        name_->selectAll();
        form->addRow(tr("Name"), name_);
    }
    buildSliders(form);
    buildSwaps(form);
    trouble_ = label({}, "warning", this);
    form->addRow(trouble_);
    auto* buttons = new QDialogButtonBox(this);
    auto* ok = buttons->addButton(again_ ? tr("Take these colours") : tr("Make it"), QDialogButtonBox::AcceptRole);
    ok->setObjectName("recolourMake");
    setRole(ok, "primary");
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    if (name_) connect(name_, &QLineEdit::returnPressed, this, &RecolourDialog::take);
    form->addRow(buttons);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(buttons, &QDialogButtonBox::accepted, this, &RecolourDialog::take);
    show();
}

void RecolourDialog::buildPictures(QFormLayout* form) {
    auto* row = new QHBoxLayout;
    before_ = new QLabel(this);
    after_ = new QLabel(this);
    after_->setObjectName("recolourAfter");
    auto* arrow = label(QStringLiteral("→"), "heading", this);
    row->addWidget(before_);
    row->addWidget(arrow);
    row->addWidget(after_);
    row->addStretch();
    form->addRow(row);
}

void RecolourDialog::buildSliders(QFormLayout* form) {
    const auto add = [&](const char* id, const QString& name, int most, const QString& unit,
                         int level::Recolour::*part) {
        auto* row = new QHBoxLayout;
        auto* slider = new QSlider(Qt::Horizontal, this);
        slider->setObjectName(id);
        slider->setRange(-most, most);
        slider->setValue(by_.*part);
        auto* number = new QSpinBox(this);
        number->setObjectName(QString("%1Number").arg(id));
        number->setRange(-most, most);
        number->setSuffix(unit);
        number->setValue(by_.*part);
        number->setFixedWidth(76);
        row->addWidget(slider, 1);
        row->addWidget(number);
        connect(slider, &QSlider::valueChanged, number, &QSpinBox::setValue);
        connect(number, &QSpinBox::valueChanged, slider, &QSlider::setValue);
        connect(number, &QSpinBox::valueChanged, this, [this, part](int v) {
            by_.*part = v;
            show();
        });
        form->addRow(name, row);
    };
    add("recolourHue", tr("Hue"), 180, tr("°"), &level::Recolour::hue);
    add("recolourSaturation", tr("Strength"), 100, tr(" %"), &level::Recolour::saturation);
    add("recolourLightness", tr("Lightness"), 100, tr(" %"), &level::Recolour::lightness);
}

// The commonest colours: a click exchanges one for another.
void RecolourDialog::buildSwaps(QFormLayout* form) {
    auto* grid = new QGridLayout;
    grid->setSpacing(3);
    for (std::size_t i = 0; i < colours_.size(); ++i) {
        auto* button = toolButton(this, QString("recolourSwap-%1").arg(i), {}, {}, {}, "tool");
        button->setIconSize(QSize(28, 22));
        describe(button, colourOf(colours_[i]).name(), {},
                 tr("Exchange this colour for another one; what is exchanged keeps hue, strength and lightness"));
        connect(button, &QToolButton::clicked, this, [this, c = colours_[i]] { chooseFor(c); });
        grid->addWidget(button, static_cast<int>(i) / 8, static_cast<int>(i) % 8);
        swatches_.push_back(button);
    }
    grid->setColumnStretch(8, 1);
    form->addRow(tr("Colours"), grid);
    auto* none = toolButton(this, "recolourAsItWas", {}, tr("as it was"), {}, "link");
    describe(none, tr("As it was"), {}, tr("No change of colour at all"));
    connect(none, &QToolButton::clicked, this, [this] {
        by_.swaps.clear();
        for (const char* id : {"recolourHueNumber", "recolourSaturationNumber", "recolourLightnessNumber"})
            findChild<QSpinBox*>(id)->setValue(0);
        show();
    });
    form->addRow(QString(), none);
}

void RecolourDialog::chooseFor(Rgba colour) {
    const auto known =
        std::find_if(by_.swaps.begin(), by_.swaps.end(), [&](const auto& s) { return s.first == colour; });
    const Rgba now = sheet::recoloured(colour, by_);
    const QColor c = QColorDialog::getColor(colourOf(now), this, tr("In the place of %1").arg(colourOf(colour).name()));
    if (!c.isValid()) return;
    const auto part = [](int v) { return static_cast<std::uint8_t>(v); };
    const Rgba to{part(c.red()), part(c.green()), part(c.blue()), 255};
    if (known != by_.swaps.end())
        known->second = to;
    else
        by_.swaps.emplace_back(colour, to);
    show();
}

QPixmap RecolourDialog::picture(const Image& image) const {
    if (image.empty()) return {};
    const int factor = std::max(1, kPictureSide / std::max(image.width(), image.height()));
    QPixmap out(image.width() * factor, image.height() * factor);
    out.fill(QColor("#D9D2C3"));
    QPainter p(&out);
    p.drawImage(out.rect(), toQImage(image));
    if (std::max(out.width(), out.height()) <= kPictureSide * 2) return out;
    return out.scaled(kPictureSide * 2, kPictureSide * 2, Qt::KeepAspectRatio);
}

// Enter in a number takes the number, not the whole.
void RecolourDialog::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Return && event->key() != Qt::Key_Enter) QDialog::keyPressEvent(event);
}

void RecolourDialog::show() {
    before_->setPixmap(picture(sample_));
    after_->setPixmap(picture(sheet::recoloured(sample_, by_)));
    for (std::size_t i = 0; i < swatches_.size(); ++i) {
        QPixmap both(28, 22);
        QPainter p(&both);
        p.fillRect(0, 0, 14, 22, colourOf(colours_[i]));
        p.fillRect(14, 0, 14, 22, colourOf(sheet::recoloured(colours_[i], by_)));
        p.end();
        swatches_[i]->setIcon(both);
    }
}

void RecolourDialog::take() {
    const edit::Hand hand = session_.hand();
    if (again_) {
        session_.apply(tr("Colours of %1").arg(handName(session_.project(), hand)),
                       edit::recolour_again(session_.project(), hand, by_));
        return accept();
    }
    const std::string name = name_->text().trimmed().toStdString();
    if (const Text wrong = edit::recolour_trouble(session_.project(), hand, name); !wrong.empty())
        return trouble_->setText(translated(wrong));
    edit::Recoloured made = edit::recoloured(session_.project(), hand, name, by_);
    session_.apply(tr("%1 in other colours").arg(handName(session_.project(), hand)), std::move(made.project));
    session_.setHand(made.hand);
    accept();
}

} // namespace vic::app
