#include "app/shell/reading_line.hpp"

#include <QDateTime>
#include <QHBoxLayout>
#include <QLabel>
#include <QSizePolicy>

#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/choice.hpp"
#include "app/session/session.hpp"
#include "app/shell/job_strip.hpp"
#include "findings/check.hpp"

namespace vic::app {

namespace {

constexpr int kMessage = 5000; // milliseconds that a message stays
constexpr int kMessageAtLeast = 1200;
constexpr int kWaitsWidth = 330; // pixels of what waits elsewhere

} // namespace

ReadingLine::ReadingLine(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("readingLine");
    setAttribute(Qt::WA_StyledBackground);
    setFixedHeight(30);
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(14, 0, 14, 0);
    line->setSpacing(24);
    reading_ = new QLabel(this);
    reading_->setObjectName("reading");
    reading_->setTextFormat(Qt::RichText);
    reading_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    waits_ = new QLabel(this);
    waits_->setObjectName("waits");
    saved_ = new QLabel(this);
    saved_->setObjectName("saved");
    line->addWidget(reading_, 1);
    line->addWidget(new JobStrip(session_.jobs(), this));
    line->addWidget(waits_);
    line->addWidget(saved_);
    clock_.setInterval(5000);
    connect(&clock_, &QTimer::timeout, this, &ReadingLine::stale);
    clock_.start();
    messageTimer_.setSingleShot(true);
    connect(&messageTimer_, &QTimer::timeout, this, [this] {
        message_.clear();
        emit stale();
    });
}

QString ReadingLine::text() const { return reading_->text(); }

void ReadingLine::setSaved() { savedAt_ = QDateTime::currentMSecsSinceEpoch(); }

void ReadingLine::forgetSaved() { savedAt_ = 0; }

// It is dark in both looks.
void ReadingLine::setDark(bool dark) {
    setStyleSheet(
        QString("#readingLine { background: %1; } QLabel { color: %2; font-size: 12px; } #waits, #saved { color: %3; }")
            .arg(dark ? "#121816" : "#22302D", "#FBF8F1", "#A5B2AB"));
}

void ReadingLine::say(const QString& message, std::optional<Point> pointed, Stay stay) {
    message_ = message.toHtmlEscaped();
    messageAt_ = pointed;
    messageLeft_ = false;
    messageSince_.start();
    messageTimer_.start(stay == Stay::full ? kMessage : kMessageAtLeast);
    // The pointer may have gone on before it had been there long enough, and rest by then.
    QTimer::singleShot(kMessageAtLeast + 20, Qt::PreciseTimer, this, &ReadingLine::stale);
    emit stale();
}

void ReadingLine::read(const QString& reading, bool warns, std::optional<Point> pointed) {
    // A message gives way to what a click would do where the pointer has gone since, once there was time to read it.
    messageLeft_ = messageLeft_ || (pointed && pointed != messageAt_);
    if (messageLeft_ && messageSince_.hasExpired(kMessageAtLeast)) message_.clear();
    QString text = !message_.isEmpty() && !warns ? message_ : reading;
    // On the dark line the tool's colour is the lighter vermilion, warnings ochre.
    const QString strong = warns ? slate().ochre.name() : "#F2A48F";
    text.replace("<b>", QString("<b style='color:%1'>").arg(strong));
    reading_->setText(warns ? QString("<span style='color:%1'>⚠ %2</span>").arg(slate().ochre.name(), text) : text);
    tellWhatWaits();
    tellWhenSaved();
}

void ReadingLine::tellWhatWaits() {
    QString waits;
    int more = 0;
    for (const auto& f : session_.findings()) {
        if (f.severity == findings::Severity::hint) continue;
        if (waits.isEmpty())
            waits = translated(f.what);
        else
            ++more;
    }
    if (!waits.isEmpty()) {
        waits = fontMetrics().elidedText(waits, Qt::ElideRight, kWaitsWidth);
        if (more) waits += tr(" · %1 more").arg(more);
    }
    waits_->setText(waits);
    waits_->setVisible(session_.isOpen() && session_.stage() != Stage::handOver);
}

void ReadingLine::tellWhenSaved() {
    if (!session_.isOpen()) return saved_->clear();
    if (session_.document().unsaved()) return saved_->setText(tr("not saved · Ctrl+S"));
    if (savedAt_ == 0) return saved_->setText(tr("as saved"));
    const qint64 seconds = (QDateTime::currentMSecsSinceEpoch() - savedAt_) / 1000;
    saved_->setText(seconds < 5    ? tr("saved just now")
                    : seconds < 90 ? tr("saved %1 s ago").arg(seconds / 5 * 5)
                                   : tr("saved %1 min ago").arg(seconds / 60));
}

} // namespace vic::app
