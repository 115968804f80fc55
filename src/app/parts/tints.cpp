#include "app/parts/tints.hpp"

#include <QColorDialog>
#include <QComboBox>
#include <QCoreApplication>
#include <QIcon>
#include <QPixmap>
#include <QVariant>
#include <algorithm>
#include <cstdint>
#include <utility>
#include <vector>

namespace vic::app {

namespace {

struct Tints {
    Q_DECLARE_TR_FUNCTIONS(Tints)
};

QIcon swatch(const QColor& c) {
    QPixmap out(12, 12);
    out.fill(c);
    return out;
}

// Those offered, and the one there is now where it is none of them.
std::vector<Bindings::Choice> offered(bool paler, Rgba now) {
    std::vector<Bindings::Choice> out;
    const auto add = [&](const QString& text, const QColor& c) { out.push_back({text, c, swatch(c)}); };
    add(Tints::tr("as drawn"), QColor(255, 255, 255));
    if (paler) add(Tints::tr("paler"), QColor(255, 255, 255, 170));
    add(Tints::tr("clay"), QColor(216, 210, 192));
    add(Tints::tr("dusk"), QColor(176, 160, 190));
    add(Tints::tr("sea"), QColor(150, 200, 205));
    add(Tints::tr("night"), QColor(96, 110, 140));
    const bool known =
        std::any_of(out.begin(), out.end(), [&](const auto& c) { return c.data == QVariant(colourOf(now)); });
    if (!known) add(Tints::tr("its own"), colourOf(now));
    out.push_back({Tints::tr("another …"), QVariant(), {}});
    return out;
}

} // namespace

QColor colourOf(Rgba c) { return {c.r, c.g, c.b, c.a}; }

Rgba rgbaOf(const QColor& c) {
    return {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
            static_cast<std::uint8_t>(c.blue()), static_cast<std::uint8_t>(c.alpha())};
}

void bindTint(Bindings& fields, QComboBox* field, bool paler, const Bindings::Get<Rgba>& get, Bindings::Set<Rgba> set) {
    fields.bindChoice(
        field, [paler, get] { return offered(paler, get()); }, [get] { return QVariant(colourOf(get())); },
        [field, paler, get, set = std::move(set)](const QVariant& v) {
            if (v.isValid()) return set(rgbaOf(v.value<QColor>()));
            const QColor now = colourOf(get());
            const QColor c =
                QColorDialog::getColor(now, field, Tints::tr("Tint"),
                                       paler ? QColorDialog::ShowAlphaChannel : QColorDialog::ColorDialogOptions());
            if (c.isValid()) return set(rgbaOf(c));
            field->setCurrentIndex(field->findData(now));
        });
}

} // namespace vic::app
