#include "app/shell/history_panel.hpp"

#include <QAction>
#include <QDate>
#include <QDateTime>
#include <QKeySequence>
#include <QLineEdit>
#include <QLocale>
#include <QSize>
#include <QString>
#include <QVBoxLayout>
#include <QWidget>
#include <cstddef>
#include <string>

#include "app/parts/panel.hpp"
#include "app/parts/picture_list.hpp"
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
        auto* l = new PictureList(id, name, this);
        l->setIconSize(kPicture);
        column->addWidget(l);
        return l;
    };
    kept_ = list("keepPoints", tr("Keep-points"));
    kept_->setFixedHeight(116);
    kept_->setToolTip(tr("A click goes back to it, as a step that can be undone; Delete forgets it"));
    addHeading(column, tr("History"));
    steps_ = list("historySteps", tr("History"));
    steps_->setDraw(kPicture, [this](quint32 step) { return pictureOf(step); });
    connect(keep, &QLineEdit::returnPressed, this, [this, keep] {
        const QString name = keep->text().trimmed();
        if (name.isEmpty()) return;
        session_.keepPoint(name);
        keep->clear();
    });
    connect(steps_, &PictureList::picked, this, [this](quint32 step) { session_.goTo(step); });
    connect(kept_, &PictureList::picked, this, [this](quint32 point) { session_.goBack(point); });
    connect(&session_, &Session::changed, this, [this] {
        if (isVisible()) fill();
    });
    auto* forget = new QAction(this);
    forget->setShortcut(Qt::Key_Delete);
    forget->setShortcutContext(Qt::WidgetShortcut);
    kept_->addAction(forget);
    connect(forget, &QAction::triggered, this, [this] {
        const auto point = kept_->current();
        if (!point) return;
        try {
            session_.forget(*point);
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

QPixmap HistoryPanel::pictureOf(std::size_t step) const {
    const auto history = session_.document().history();
    if (step >= history.size()) return {};
    return stepThumb(step == 0 ? nullptr : history[step - 1].state.get(), *history[step].state,
                     session_.level() ? session_.level()->id : std::string(), kPicture);
}

void HistoryPanel::fill() {
    const auto history = session_.document().history();
    const std::size_t now = session_.document().now();
    std::vector<PictureRow> rows;
    for (std::size_t i = history.size(); i-- > 0;) {
        const auto& step = history[i];
        QString text = i == 0 ? tr("As opened") : QString::fromStdString(step.name);
        // Beyond what the history may hold on to.
        if (const std::size_t gone = session_.document().let_go(); i == 0 && gone > 0)
            text = gone == 1 ? tr("One earlier step was let go") : tr("%1 earlier steps were let go").arg(gone);
        if (i == now) text = tr("● %1").arg(text);
        rows.push_back({.id = static_cast<quint32>(i),
                        .text = text + "\n" + when(step.when),
                        .strong = i == now,
                        .faint = i > now});
    }
    steps_->setRows(std::move(rows));
    steps_->redraw();
    steps_->setCurrent(static_cast<quint32>(now));
    std::vector<PictureRow> kept;
    for (const edit::KeepPoint& k : session_.document().keep_points())
        kept.push_back({static_cast<quint32>(kept.size()), QString::fromStdString(k.name) + "\n" + when(k.when)});
    if (kept.empty()) kept.push_back({.text = tr("None yet: a kept state makes one bold"), .dead = true});
    kept_->setRows(std::move(kept));
}

} // namespace vic::app
