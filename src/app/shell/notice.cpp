#include "app/shell/notice.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>

#include "app/parts/panel.hpp"

namespace vic::app {

Notice::Notice(QWidget* parent) : QWidget(parent) {
    setObjectName("notice");
    setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 6, 8, 6);
    text_ = new QLabel(this);
    text_->setObjectName("noticeText");
    text_->setWordWrap(true);
    text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    row->addWidget(text_, 1);
    auto* close = toolButton(this, "noticeClose", "remove", {}, tr("Close"), "link");
    connect(close, &QToolButton::clicked, this, &QWidget::hide);
    row->addWidget(close);
    hide();
}

void Notice::say(const QString& text) {
    text_->setText(text);
    show();
}

void Notice::setLook(const Tokens& t) {
    setStyleSheet(
        QString("#notice { background: %1; border-top: 2px solid %2; }").arg(t.card.name(), t.vermilion.name()));
}

} // namespace vic::app
