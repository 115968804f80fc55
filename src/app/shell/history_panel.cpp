#include "app/shell/history_panel.hpp"

#include <QAction>
#include <QDate>
#include <QDateTime>
#include <QFont>
#include <QLineEdit>
#include <QListWidget>
#include <QListWidgetItem>
#include <QLocale>
#include <QSize>
#include <QString>
#include <QVBoxLayout>
#include <QWidget>
#include <cstddef>
#include <string>

#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "edit/document.hpp"

namespace vic::app {

namespace {

QString when(edit::Moment moment) {
    const auto seconds = std::chrono::duration_cast<std::chrono::seconds>(moment.time_since_epoch()).count();
    const QDateTime time = QDateTime::fromSecsSinceEpoch(seconds);
    return time.date() == QDate::currentDate() ? QLocale().toString(time.time(), "HH:mm:ss")
                                               : QLocale().toString(time, "d MMM, HH:mm");
}

constexpr QSize kPicture{44, 28};
constexpr int kPictured = 60; // steps that get a picture; older ones are listed without

} // namespace

HistoryPanel::HistoryPanel(Session& session, QWidget* parent) : QFrame(parent, Qt::Popup), session_(session) {
    setObjectName("historyPanel");
    setStyleSheet("#historyPanel { background: palette(base); border: 1px solid palette(mid); }");
    setFixedSize(340, 520);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(6);
    addHeading(column, tr("Keep-points"));
    auto* keep = new QLineEdit(this);
    keep->setObjectName("keepName");
    keep->setPlaceholderText(tr("Keep the project as it is now, under a name"));
    keep->setAccessibleName(tr("Name of a keep-point"));
    column->addWidget(keep);
    const auto list = [&](const char* id, const QString& name) {
        auto* l = new QListWidget(this);
        l->setObjectName(id);
        l->setAccessibleName(name);
        l->setIconSize(kPicture);
        l->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        l->setTextElideMode(Qt::ElideRight);
        column->addWidget(l);
        return l;
    };
    kept_ = list("keepPoints", tr("Keep-points"));
    kept_->setFixedHeight(116);
    kept_->setToolTip(tr("A click goes back to it, as a step that can be undone; Delete forgets it"));
    addHeading(column, tr("History"));
    steps_ = list("historySteps", tr("History"));
    connect(keep, &QLineEdit::returnPressed, this, [this, keep] {
        const QString name = keep->text().trimmed();
        if (name.isEmpty()) return;
        try {
            session_.keepPoint(name);
            keep->clear();
            fill();
        } catch (const InputError& e) {
            emit session_.said(translated(e), true);
        }
    });
    connect(steps_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        session_.goTo(static_cast<std::size_t>(item->data(Qt::UserRole).toUInt()));
        fill();
    });
    connect(kept_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        try {
            session_.goBack(static_cast<std::size_t>(kept_->row(item)));
            fill();
        } catch (const InputError& e) {
            emit session_.said(translated(e), true);
        }
    });
    auto* forget = new QAction(this);
    forget->setShortcut(Qt::Key_Delete);
    forget->setShortcutContext(Qt::WidgetShortcut);
    kept_->addAction(forget);
    connect(forget, &QAction::triggered, this, [this] {
        if (kept_->currentRow() < 0) return;
        try {
            session_.forget(static_cast<std::size_t>(kept_->currentRow()));
            fill();
        } catch (const InputError& e) {
            emit session_.said(translated(e), true);
        }
    });
}

void HistoryPanel::open(QPoint upperRight) {
    if (!session_.isOpen()) return;
    fill();
    move(upperRight - QPoint(width(), 0));
    show();
}

void HistoryPanel::fill() {
    const auto history = session_.document().history();
    const std::size_t now = session_.document().now();
    steps_->clear();
    for (std::size_t i = history.size(); i-- > 0;) {
        const auto& step = history[i];
        QString text = i == 0 ? tr("As opened") : QString::fromStdString(step.name);
        // Beyond what the history may hold on to.
        if (const std::size_t gone = session_.document().let_go(); i == 0 && gone > 0)
            text = gone == 1 ? tr("One earlier step was let go") : tr("%1 earlier steps were let go").arg(gone);
        if (i == now) text = tr("● %1").arg(text);
        auto* item = new QListWidgetItem(text + "\n" + when(step.when), steps_);
        item->setData(Qt::UserRole, static_cast<quint32>(i));
        const std::size_t age = i > now ? i - now : now - i;
        if (age < kPictured)
            item->setIcon(stepThumb(i == 0 ? nullptr : history[i - 1].state.get(), *step.state,
                                    session_.level() ? session_.level()->id : std::string(), kPicture));
        if (i > now) item->setForeground(palette().placeholderText());
        if (i == now) {
            QFont font = steps_->font();
            font.setWeight(QFont::DemiBold);
            item->setFont(font);
            steps_->setCurrentItem(item);
        }
    }
    kept_->clear();
    for (const edit::KeepPoint& k : session_.document().keep_points())
        new QListWidgetItem(QString::fromStdString(k.name) + "\n" + when(k.when), kept_);
    if (kept_->count() == 0) {
        auto* none = new QListWidgetItem(tr("None yet: a kept state makes one bold"), kept_);
        none->setFlags(Qt::NoItemFlags);
    }
}

} // namespace vic::app
