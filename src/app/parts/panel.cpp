#include "app/parts/panel.hpp"

#include <QComboBox>
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QLayout>
#include <QLayoutItem>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>

#include "app/parts/tokens.hpp"

namespace vic::app {

QVBoxLayout* panelColumn(QWidget* panel) {
    auto* column = new QVBoxLayout(panel);
    column->setContentsMargins(12, 12, 12, 12);
    column->setSpacing(8);
    return column;
}

QLabel* label(const QString& text, const char* role, QWidget* parent) {
    auto* l = new QLabel(text, parent);
    l->setProperty("role", role);
    return l;
}

QLabel* addHeading(QVBoxLayout* column, const QString& title, QLabel** aside) {
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 0, 0, 0);
    auto* heading = label(title, "heading");
    row->addWidget(heading);
    row->addStretch();
    if (aside) {
        *aside = label({}, "aside");
        row->addWidget(*aside);
    }
    column->addLayout(row);
    return heading;
}

PictureHead addPictureHead(QVBoxLayout* column, QWidget* parent, int side) {
    auto* card = new QWidget(parent);
    card->setFixedHeight(side + 4);
    auto* row = new QHBoxLayout(card);
    row->setContentsMargins(0, 0, 0, 0);
    const PictureHead out{new QLabel(card), label({}, "title", card), label({}, "quiet", card)};
    out.picture->setFixedSize(side, side);
    out.picture->setAlignment(Qt::AlignCenter);
    row->addWidget(out.picture);
    auto* texts = new QVBoxLayout;
    texts->addStretch();
    for (QLabel* l : {out.title, out.under}) {
        l->setWordWrap(true);
        texts->addWidget(l);
    }
    texts->addStretch();
    row->addLayout(texts, 1);
    column->addWidget(card);
    return out;
}

QComboBox* comboBox(QWidget* parent, const QString& objectName) {
    auto* box = new QComboBox(parent);
    box->setObjectName(objectName);
    box->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    return box;
}

void addField(QVBoxLayout* column, const QString& name, QWidget* control, int nameWidth) {
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 0, 0, 0);
    auto* l = label(name, "quiet");
    l->setFixedWidth(nameWidth);
    l->setBuddy(control);
    row->addWidget(l);
    row->addWidget(control, 1);
    if (control->accessibleName().isEmpty()) control->setAccessibleName(name);
    column->addLayout(row);
}

QLabel* addFigure(QVBoxLayout* column, const QString& name, const QString& objectName) {
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(label(name, "quiet"));
    row->addStretch();
    auto* figure = label({}, "title");
    figure->setObjectName(objectName);
    figure->setAccessibleName(name);
    row->addWidget(figure);
    column->addLayout(row);
    return figure;
}

QFrame* uprightLine(QWidget* parent) {
    auto* line = new QFrame(parent);
    line->setProperty("role", "upright");
    return line;
}

QFrame* rule(QWidget* parent) {
    auto* frame = new QFrame(parent);
    frame->setProperty("role", "rule");
    return frame;
}

void describe(QWidget* widget, const QString& name, const QString& shortcut, const QString& help) {
    QString text = "<b>" + name.toHtmlEscaped() + "</b>";
    if (!shortcut.isEmpty()) text += "&nbsp;&nbsp;" + shortcut.toHtmlEscaped();
    if (!help.isEmpty()) text += "<br>" + help.toHtmlEscaped();
    widget->setToolTip(text);
    widget->setProperty("key", shortcut); // as the program has it; see Keys
    widget->setAccessibleName(name);
    widget->setAccessibleDescription(help);
}

QToolButton* toolButton(QWidget* parent, const QString& objectName, const QString& iconName, const QString& text,
                        const QString& toolTip, const char* role) {
    auto* button = new QToolButton(parent);
    button->setObjectName(objectName);
    button->setProperty("role", role);
    button->setFocusPolicy(Qt::TabFocus);
    if (!iconName.isEmpty()) {
        button->setIcon(icon(iconName, tokensOf(parent).ink));
        button->setIconSize({18, 18});
    }
    if (!text.isEmpty()) {
        button->setText(text);
        button->setToolButtonStyle(iconName.isEmpty() ? Qt::ToolButtonTextOnly : Qt::ToolButtonTextBesideIcon);
    }
    button->setAccessibleName(text.isEmpty() ? toolTip : text);
    button->setToolTip(toolTip);
    return button;
}

void setRole(QWidget* widget, const char* role) {
    widget->setProperty("role", role);
    widget->style()->unpolish(widget);
    widget->style()->polish(widget);
}

void clearLayout(QLayout* layout) {
    QLayoutItem* item = nullptr;
    while ((item = layout->takeAt(0))) {
        if (QWidget* w = item->widget()) {
            // It may be just now that it is telling of a click: it goes later, and is not found any more.
            w->setObjectName({});
            w->hide();
            w->deleteLater();
        }
        delete item;
    }
}

} // namespace vic::app
