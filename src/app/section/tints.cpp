#include "app/section/tints.hpp"

#include <QCoreApplication>
#include <QVariant>
#include <cstdint>

namespace vic::app {

namespace {

struct Tints {
    Q_DECLARE_TR_FUNCTIONS(Tints)
};

} // namespace

QColor colourOf(Rgba c) { return {c.r, c.g, c.b, c.a}; }

Rgba rgbaOf(const QColor& c) {
    return {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
            static_cast<std::uint8_t>(c.blue()), static_cast<std::uint8_t>(c.alpha())};
}

std::vector<Bindings::Choice> tints(bool paler, Rgba now) {
    std::vector<Bindings::Choice> out{{Tints::tr("as drawn"), QColor(255, 255, 255)}};
    if (paler) out.push_back({Tints::tr("paler"), QColor(255, 255, 255, 170)});
    out.push_back({Tints::tr("clay"), QColor(216, 210, 192)});
    out.push_back({Tints::tr("dusk"), QColor(176, 160, 190)});
    out.push_back({Tints::tr("sea"), QColor(150, 200, 205)});
    out.push_back({Tints::tr("night"), QColor(96, 110, 140)});
    for (const auto& c : out)
        if (c.data == QVariant(colourOf(now))) return out;
    out.push_back({Tints::tr("its own"), colourOf(now)});
    return out;
}

} // namespace vic::app
