#include "app/shell/notice.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <utility>

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
    offer_ = new QPushButton(this);
    offer_->setObjectName("noticeOffer");
    setRole(offer_, "primary");
    connect(offer_, &QPushButton::clicked, this, [this] {
        hide();
        if (const auto go = std::exchange(go_, nullptr)) go();
    });
    row->addWidget(offer_);
    auto* close = toolButton(this, "noticeClose", "remove", {}, tr("Close"), "link");
    connect(close, &QToolButton::clicked, this, &QWidget::hide);
    row->addWidget(close);
    hide();
}

void Notice::say(const QString& text) {
    go_ = nullptr;
    offer_->hide();
    text_->setText(text);
    show();
}

void Notice::offer(const QString& text, const QString& what, std::function<void()> go) {
    say(text);
    go_ = std::move(go);
    offer_->setText(what);
    offer_->show();
}

void Notice::setLook(const Tokens& t) {
    setStyleSheet(
        QString("#notice { background: %1; border-top: 2px solid %2; }").arg(t.card.name(), t.vermilion.name()));
}

} // namespace vic::app
