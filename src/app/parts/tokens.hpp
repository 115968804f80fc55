// The look: colours by name, and what follows from them. A widget finds its tokens by its palette, so nothing is
// global.
#pragma once

#include <QColor>
#include <QIcon>
#include <QString>

class QApplication;
class QPalette;
class QWidget;

namespace vic::app {

struct Tokens {
    QColor window, panel, card, line, ink, quiet, faint, vermilion, brine, ochre, outside;
    bool dark = false;
};

Tokens paper();
Tokens slate();
Tokens tokensOf(const QPalette& palette);
Tokens tokensOf(const QWidget* widget);

// Palette, font and style sheet of the whole application.
void applyLook(QApplication& app, const Tokens& tokens);

QIcon applicationIcon();
// An icon of our set by file name, in the given colour.
QIcon icon(const QString& name, const QColor& colour);

} // namespace vic::app
