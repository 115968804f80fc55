#include "app/parts/tokens.hpp"

#include <QApplication>
#include <QByteArray>
#include <QFile>
#include <QFont>
#include <QFontDatabase>
#include <QIODevice>
#include <QLatin1String>
#include <QPainter>
#include <QPalette>
#include <QPixmap>
#include <QSvgRenderer>
#include <QWidget>
#include <initializer_list>
#include <utility>

// A static library's resources have to be asked for, outside any namespace.
static void readyResources() { Q_INIT_RESOURCE(app); }

namespace vic::app {

Tokens paper() {
    return {"#E4DDCE", "#F1ECE0", "#FBF8F1", "#CFC6B3", "#22302D", "#5B6A65",
            "#93A09A", "#C2452D", "#17756E", "#B5780F", "#3A4542", false};
}

Tokens slate() {
    return {"#1B2321", "#242D2A", "#2D3834", "#3C4945", "#EAE4D6", "#A5B2AB",
            "#6E7C76", "#EC7254", "#56B8AE", "#E0A640", "#121816", true};
}

Tokens tokensOf(const QPalette& palette) {
    return palette.color(QPalette::Window).lightness() < 128 ? slate() : paper();
}

// The application's palette, not the widget's: a style sheet changes the latter's colours on the way.
Tokens tokensOf(const QWidget*) { return tokensOf(QApplication::palette()); }

void applyLook(QApplication& app, const Tokens& t) {
    QFont font("Inter");
    font.setPixelSize(13);
    font.setStyleHint(QFont::SansSerif);
    app.setFont(font);

    QPalette p;
    p.setColor(QPalette::Window, t.panel);
    p.setColor(QPalette::WindowText, t.ink);
    p.setColor(QPalette::Base, t.card);
    p.setColor(QPalette::AlternateBase, t.panel);
    p.setColor(QPalette::Text, t.ink);
    p.setColor(QPalette::Button, t.card);
    p.setColor(QPalette::ButtonText, t.ink);
    p.setColor(QPalette::Highlight, t.brine);
    p.setColor(QPalette::HighlightedText, t.dark ? t.window : QColor("#FFFFFF"));
    p.setColor(QPalette::PlaceholderText, t.quiet);
    p.setColor(QPalette::ToolTipBase, t.ink);
    p.setColor(QPalette::ToolTipText, t.card);
    p.setColor(QPalette::Mid, t.line);
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
        p.setColor(QPalette::Disabled, role, t.faint);
    app.setPalette(p);

    QString sheet = QFontDatabase::families().contains("Inter") ? "* { font-family: \"Inter\"; }\n" : QString();
    sheet += R"(
QToolTip { background: @ink; color: @card; border: 0; padding: 5px 8px; }
QLabel[role="heading"] { color: @quiet; font-weight: 600; font-size: 12px; }
QLabel[role="quiet"] { color: @quiet; font-size: 12px; }
QLabel[role="aside"] { color: @quiet; font-size: 12px; }
QLabel[role="title"] { color: @ink; font-weight: 600; font-size: 14px; }
QLabel[role="figure"] { color: @ink; font-weight: 600; font-size: 18px; }
QLabel[role="warning"] { color: @ochre; font-size: 12px; font-weight: 600; }
QPushButton, QToolButton[role="card"] { background: @card; color: @ink; border: 1px solid @line; border-radius: 6px; padding: 5px 10px; min-height: 18px; }
QPushButton:hover, QToolButton[role="card"]:hover { border-color: @quiet; }
QToolButton[role="card"]:checked { background: @ink; color: @panel; border-color: @ink; }
QPushButton:pressed { background: @window; }
QPushButton:focus, QToolButton:focus { border: 1px solid @brine; }
QPushButton:disabled, QToolButton:disabled { color: @faint; }
QPushButton[role="primary"] { background: @vermilion; color: @onVermilion; border: 1px solid @vermilion; font-weight: 600; }
QPushButton[role="primary"]:hover { background: @vermilionDeep; }
QPushButton[role="primary"]:disabled { background: @line; border-color: @line; color: @quiet; }
QToolButton { background: transparent; color: @ink; border: 1px solid transparent; border-radius: 6px; padding: 4px 8px; }
QToolButton:hover { background: @card; border-color: @line; }
QToolButton[role="tool"], QToolButton[role="toggle"] { padding: 4px 5px; }
QToolButton[role="tool"]:checked { background: @vermilion; color: @onVermilion; font-weight: 600; border-color: @vermilion; }
QToolButton[role="toggle"]:checked { background: @ink; color: @panel; border-color: @ink; }
QToolButton[role="link"] { color: @quiet; font-size: 12px; padding: 2px 6px; }
QToolButton[role="link"]:hover { color: @ink; }
QToolButton[role="pill"] { background: @card; border: 1px solid @line; border-radius: 11px; padding: 2px 10px; font-size: 12px; }
QToolButton[role="changed"] { background: @card; color: @vermilion; border: 1px solid @vermilion; border-radius: 11px; padding: 2px 10px; font-size: 12px; }
QToolButton[role="changed"]:checked, QToolButton[role="pill"]:checked { background: @ink; color: @panel; border-color: @ink; }
QLineEdit, QSpinBox, QDoubleSpinBox, QComboBox { background: @card; color: @ink; border: 1px solid @line; border-radius: 6px; padding: 3px 7px; min-height: 20px; selection-background-color: @brine; }
QLineEdit:focus, QSpinBox:focus, QDoubleSpinBox:focus, QComboBox:focus { border-color: @brine; }
QSpinBox::up-button, QSpinBox::down-button, QDoubleSpinBox::up-button, QDoubleSpinBox::down-button { width: 0; border: 0; }
QComboBox::drop-down { border: 0; width: 18px; }
QComboBox::down-arrow { image: url(:/icons/down.svg); width: 10px; height: 10px; margin-right: 6px; }
QComboBox QAbstractItemView { background: @card; color: @ink; border: 1px solid @line; selection-background-color: @brine; selection-color: @onBrine; outline: 0; }
QCheckBox { spacing: 7px; color: @ink; }
QCheckBox::indicator, QListWidget::indicator { width: 14px; height: 14px; border: 1px solid @quiet; border-radius: 4px; background: @card; }
QCheckBox::indicator:checked, QListWidget::indicator:checked { background: @brine; border-color: @brine; }
QSlider::groove:horizontal { height: 3px; background: @line; border-radius: 1px; }
QSlider::sub-page:horizontal { background: @brine; border-radius: 1px; }
QSlider::handle:horizontal { width: 12px; height: 12px; margin: -5px 0; border-radius: 6px; background: @card; border: 1px solid @quiet; }
QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: 0; }
QScrollBar:vertical { background: transparent; width: 9px; margin: 0; }
QScrollBar::handle:vertical { background: @line; border-radius: 3px; min-height: 24px; margin: 1px 2px; }
QScrollBar:horizontal { background: transparent; height: 9px; }
QScrollBar::handle:horizontal { background: @line; border-radius: 3px; min-width: 24px; margin: 2px 1px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QListWidget, vic--app--PictureList, vic--app--CardList, vic--app--PlanKeys { background: transparent; border: 0; outline: 0; }
QListView#materialTray::item, QListView#propTray::item, QListView#stampTray::item, QListView#trayFlow::item, QListView#foundTray::item, QListView#frames::item { border: 2px solid transparent; border-radius: 7px; padding: 1px; color: @ink; }
QListView#materialTray::item:hover, QListView#propTray::item:hover, QListView#stampTray::item:hover, QListView#trayFlow::item:hover, QListView#foundTray::item:hover, QListView#frames::item:hover { background: @card; }
QListView#materialTray::item:selected, QListView#propTray::item:selected, QListView#stampTray::item:selected, QListView#trayFlow::item:selected, QListView#foundTray::item:selected, QListView#frames::item:selected { background: @card; border-color: @vermilion; color: @ink; }
QDialogButtonBox { dialogbuttonbox-buttons-have-icons: 0; }
QMenu { background: @card; color: @ink; border: 1px solid @line; padding: 4px; }
QMenu::item { padding: 5px 22px 5px 12px; border-radius: 4px; }
QMenu::item:selected { background: @brine; color: @onBrine; }
QMenu::item:disabled { color: @faint; }
QMenu::separator { height: 1px; background: @line; margin: 4px 8px; }
QSplitter#panels::handle { background: @line; }
QSplitter#panels::handle:hover { background: @brine; }
QFrame#whyCard { background: @card; border: 1px solid @quiet; }
#steps { background: @card; border: 2px solid @vermilion; border-radius: 8px; }
QFrame[role="card"] { background: @card; border: 1px solid @line; border-radius: 8px; }
QFrame[role="card"]:hover { border-color: @quiet; }
QFrame[role="cardChosen"] { background: @card; border: 1px solid @vermilion; border-radius: 8px; }
QFrame[role="rule"] { background: @line; border: 0; max-height: 1px; min-height: 1px; }
QFrame[role="upright"] { background: @line; border: 0; max-width: 1px; min-width: 1px; }
)";
    const std::initializer_list<std::pair<const char*, QColor>> names{
        {"@onVermilion", t.dark ? t.window : QColor("#FFFFFF")},
        {"@onBrine", t.dark ? t.window : QColor("#FFFFFF")},
        {"@vermilionDeep", t.vermilion.darker(112)},
        {"@vermilion", t.vermilion},
        {"@window", t.window},
        {"@panel", t.panel},
        {"@card", t.card},
        {"@line", t.line},
        {"@ink", t.ink},
        {"@quiet", t.quiet},
        {"@faint", t.faint},
        {"@brine", t.brine},
        {"@ochre", t.ochre},
    };
    for (const auto& [name, colour] : names) sheet.replace(QLatin1String(name), colour.name());
    app.setStyleSheet(sheet);
}

QIcon applicationIcon() {
    readyResources();
    return QIcon(":/vicinum.svg");
}

QIcon icon(const QString& name, const QColor& colour) {
    readyResources();
    QFile file(":/icons/" + name + ".svg");
    if (!file.open(QIODevice::ReadOnly)) return {};
    QByteArray svg = file.readAll();
    svg.replace("#22302D", colour.name().toLatin1());
    QSvgRenderer renderer(svg);
    QIcon out;
    for (const int side : {20, 40}) {
        QPixmap pixmap(side, side);
        pixmap.fill(Qt::transparent);
        QPainter painter(&pixmap);
        renderer.render(&painter);
        painter.end();
        pixmap.setDevicePixelRatio(side / 20.0);
        out.addPixmap(pixmap);
    }
    return out;
}

} // namespace vic::app
