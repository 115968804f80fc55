#include "app/parts/facts_look.hpp"

#include <QCoreApplication>
#include <QFont>
#include <QFontMetrics>
#include <QPainter>
#include <QRect>
#include <array>
#include <cstddef>
#include <string>
#include <variant>

namespace vic::app {

namespace {

QColor between(const QColor& a, const QColor& b, double share) {
    const auto part = [share](int from, int to) { return static_cast<int>(from + (to - from) * share); };
    return {part(a.red(), b.red()), part(a.green(), b.green()), part(a.blue(), b.blue())};
}

} // namespace

QColor factColour(const level::NoteKind* kind, int value) {
    static const std::array<QColor, 8> own{QColor("#C9822B"), QColor("#2F7D74"), QColor("#8A4FA3"), QColor("#4C6FB1"),
                                           QColor("#B5473C"), QColor("#6E8B3D"), QColor("#A8578A"), QColor("#7B6A4E")};
    if (kind && kind->type != level::NoteType::number) return own[static_cast<std::size_t>(((value % 8) + 8) % 8)];
    constexpr double kHalf = 6; // the value that is seen half as dark as the darkest
    const double much = value < 0 ? -double{1} * value : double{1} * value;
    return between(QColor("#F2E3BD"), value < 0 ? QColor("#27476E") : QColor("#9C2F1B"), much / (much + kHalf));
}

QString factWord(const level::NoteKind* kind, int value) {
    const auto said = kind ? level::fact_value(*kind, value) : std::nullopt;
    if (said && kind->type == level::NoteType::choice) return QString::fromStdString(std::get<std::string>(*said));
    if (said && kind->type == level::NoteType::yes_no)
        return std::get<bool>(*said) ? QCoreApplication::translate("Facts", "yes")
                                     : QCoreApplication::translate("Facts", "no");
    return QString::number(value);
}

QPixmap factSign(const level::NoteKind* kind, int value, int side) {
    QPixmap out(side, side);
    const QColor ground = factColour(kind, value);
    out.fill(ground);
    QPainter p(&out);
    p.setPen(ground.lightness() > 140 ? QColor("#22302D") : QColor("#FBF8F1"));
    QFont font = p.font();
    const QString word = factWord(kind, value);
    for (int size = side * 3 / 5; size > 6; --size) {
        font.setPixelSize(size);
        if (QFontMetrics(font).horizontalAdvance(word) <= side - 4) break;
    }
    p.setFont(font);
    p.drawText(QRect(0, 0, side, side), Qt::AlignCenter, QFontMetrics(font).elidedText(word, Qt::ElideRight, side - 2));
    return out;
}

} // namespace vic::app
