#include "app/session/keeper.hpp"

#include <QByteArray>
#include <QDateTime>
#include <QDir>
#include <QLocale>
#include <QMetaObject>
#include <QStringList>
#include <atomic>
#include <exception>
#include <mutex>
#include <utility>

#include "app/parts/translated.hpp"
#include "app/parts/watch_paths.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "base/hash.hpp"
#include "base/text.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr std::uintmax_t kMostWritten = 128U << 20; // a journal that is longer begins anew with what there is now

// Whether it takes well under a millisecond to tell what a step changes: a few chunks of cells, no long list of props.
bool is_small(const store::JournalStep& step) {
    constexpr std::size_t kMostChunks = 24, kMostProps = 1000;
    if (step.kind == store::JournalStep::Kind::go) return true;
    const level::Project &a = *step.before, &b = *step.after;
    if (a.sheets != b.sheets || a.materials != b.materials || a.prop_kinds != b.prop_kinds || a.stamps != b.stamps)
        return false;
    std::size_t chunks = 0, props = 0;
    for (const auto& level : b.levels) {
        const level::Level* before = a.level(level->id);
        if (before == level.get()) continue;
        if (!before || before->size != level->size) return false;
        for (const level::LayerRef& layer : level->layers) {
            props += layer->props().size();
            const level::Layer* old = before->layer(layer->id);
            if (!layer->has_cells() || old == layer.get()) continue;
            chunks += level::unshared(layer->grid(), old && old->has_cells() ? old->grid() : level::Grid());
        }
    }
    return chunks <= kMostChunks && props <= kMostProps;
}

} // namespace

struct Keeper::Pen {
    void remove() {
        close();
        std::error_code trouble;
        for (const fs::path& file : {place, other}) fs::remove(file, trouble);
        fs::remove(place.parent_path(), trouble); // only where it is empty
    }
    void close() {
        const std::lock_guard lock(guard);
        writer.reset();
    }
    void flush() {
        const std::lock_guard lock(guard);
        flushing = false;
        if (writer) writer->flush();
    }
    fs::path place, other; // in the project, and where that cannot be written
    std::uint64_t mark = 0;
    std::mutex guard;                             // of the writer's coming and going
    std::unique_ptr<store::JournalWriter> writer; // the worker's; the flusher flushes it
    std::atomic<std::uintmax_t> size{0};
    std::atomic<bool> flushing{false};
    bool failed = false;

    void open() {
        if (writer || failed) return;
        const std::lock_guard lock(guard);
        try {
            writer = std::make_unique<store::JournalWriter>(place, mark);
        } catch (const InputError&) {
            writer = std::make_unique<store::JournalWriter>(other, mark);
        }
    }
};

Keeper::Keeper(Session& session) : session_(session) {
    for (QThreadPool* pool : {&worker_, &flusher_}) {
        pool->setMaxThreadCount(1);
        pool->setExpiryTimeout(-1);
    }
    lookTimer_.setSingleShot(true);
    lookTimer_.setInterval(300);
    connect(&lookTimer_, &QTimer::timeout, this, &Keeper::lookOutside);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, &lookTimer_, qOverload<>(&QTimer::start));
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, &lookTimer_, qOverload<>(&QTimer::start));
}

Keeper::~Keeper() { flush(); }

fs::path Keeper::elsewhere(const fs::path& dir) {
    const QByteArray state = qgetenv("XDG_STATE_HOME");
    const fs::path home =
        state.isEmpty() ? fs::path(QDir::homePath().toStdString()) / ".local" / "state" : fs::path(state.toStdString());
    std::error_code trouble;
    const std::string whole = fs::weakly_canonical(dir, trouble).string();
    return home / "vicinum" / ("journal-" + std::to_string(hash_of(whole)));
}

void Keeper::opened(std::optional<Presence> presence, bool looks) {
    flush();
    pen_.reset();
    presence_ = std::move(presence);
    looks_ = looks;
    left_.reset();
    base_ = session_.document().state();
    watch();
    if (looks_) return session_.document().set_listener({});
    const fs::path dir = session_.document().dir();
    std::vector<fs::path> places;
    try {
        places.push_back(store::journal_place(dir));
    } catch (const InputError&) {
        // A link in its place is not followed; saving tells of it.
    }
    places.push_back(elsewhere(dir));
    for (const fs::path& place : places) {
        try {
            const auto head = store::journal_head(place);
            if (head && head->steps > 0 && (!left_ || head->last > left_->head.last))
                left_ = Left{place, *head, head->mark == session_.document().seen().mark()};
        } catch (const InputError& e) {
            emit session_.said(translated(e), true);
        }
    }
    session_.document().set_listener([this](const edit::Document::Told& t) { told(t); });
    if (!left_) begin();
}

void Keeper::closed() {
    flush();
    pen_.reset();
    presence_.reset();
    left_.reset();
    base_.reset();
    looks_ = false;
    lookTimer_.stop();
    const QStringList watched = watcher_.files() + watcher_.directories();
    if (!watched.isEmpty()) watcher_.removePaths(watched);
}

void Keeper::begin(bool whole, const edit::Document::Told* in_short) {
    const fs::path dir = session_.document().dir();
    pen_ = std::make_shared<Pen>();
    pen_->other = elsewhere(dir);
    try {
        pen_->place = store::journal_place(dir);
    } catch (const InputError&) {
        pen_->place = pen_->other;
    }
    pen_->mark = session_.document().seen().mark();
    const edit::Document& document = session_.document();
    const std::string way = tr("Earlier strokes").toStdString();
    std::vector<store::JournalStep> steps = in_short ? trail_.begin_short(*in_short, document.state(), base_, way)
                                                     : trail_.begin(document, base_, whole, way);
    if (steps.empty())
        worker_.start([pen = pen_] { pen->remove(); });
    else
        write(std::move(steps));
}

void Keeper::told(const edit::Document::Told& told) {
    if (!pen_ || looks_) return;
    if (pen_->size > kMostWritten) return begin(false, &told);
    write({trail_.record(told, session_.document().state(), tr("Back or forth").toStdString())});
}

void Keeper::write(std::vector<store::JournalStep> steps) {
    for (store::JournalStep& step : steps)
        if (step.when == 0) step.when = QDateTime::currentSecsSinceEpoch();
    const bool at_once = steps.size() == 1 && is_small(steps.front()) && worker_.waitForDone(0);
    const auto pen_it = [this, pen = pen_, steps = std::move(steps)] {
        try {
            pen->open();
            if (pen->writer) {
                pen->writer->write(steps);
                pen->size = pen->writer->size();
                if (!pen->flushing.exchange(true)) flusher_.start([pen] { pen->flush(); });
            }
        } catch (const std::exception& e) {
            pen->failed = true;
            pen->close();
            const QString text = translated(e);
            QMetaObject::invokeMethod(
                this, [this, text] { trouble(text); }, Qt::QueuedConnection);
        }
    };
    // A small step is in the file, safe from a kill, before the window goes on; a large one goes there meanwhile.
    if (at_once)
        pen_it();
    else
        worker_.start(pen_it);
}

void Keeper::trouble(const QString& text) {
    if (std::exchange(told_, true)) return;
    emit session_.said(text, true);
}

void Keeper::flush() {
    worker_.waitForDone();
    flusher_.waitForDone();
}

void Keeper::saved() {
    if (looks_ || !session_.isOpen()) return;
    base_ = session_.document().disk();
    if (const auto old = std::exchange(pen_, nullptr)) worker_.start([old] { old->remove(); });
    told_ = false;
    begin();
    watch();
}

void Keeper::discard() {
    if (looks_ || !session_.isOpen()) return;
    session_.document().set_listener({});
    if (const auto old = std::exchange(pen_, nullptr)) worker_.start([old] { old->remove(); });
    flush();
}

void Keeper::bringBack() {
    if (!left_ || !left_->fits) return;
    const Left left = *std::exchange(left_, std::nullopt);
    int count = 0;
    bool torn = left.head.torn;
    edit::Document& document = session_.document();
    try {
        store::JournalReader reader(left.file, document.state(), document.dir());
        count = document.replay(reader);
        torn = torn || reader.torn();
    } catch (const InputError& e) {
        emit session_.said(translated(e), true);
    }
    begin(true);
    emit session_.said(torn ? tr("Brought back %1 steps; what stood behind them could not be read").arg(count)
                            : translated(say_count(count, "Brought back one step", "Brought back %n steps")),
                       torn);
}

void Keeper::keepAside() {
    if (!left_) return;
    const Left left = *std::exchange(left_, std::nullopt);
    edit::Document& document = session_.document();
    try {
        edit::ProjectState last;
        if (left.fits) {
            store::JournalReader reader(left.file, document.state(), document.dir());
            edit::Document again(*document.state(), document.dir());
            again.replay(reader);
            last = again.state();
        }
        const QString when = QLocale().toString(QDateTime::fromSecsSinceEpoch(left.head.last), "d MMM, HH:mm");
        if (last) {
            document.kept(
                edit::Document::write_kept(last, document.dir(), tr("Not saved, of %1").arg(when).toStdString()));
            emit session_.said(tr("Kept under History as \"Not saved, of %1\"").arg(when), false);
        } else {
            std::error_code trouble;
            const fs::path aside = left.file.string() + "-" + std::to_string(left.head.last);
            fs::rename(left.file, aside, trouble);
            emit session_.said(tr("The strokes go on from other files than there are now: they stay in %1")
                                   .arg(QString::fromStdString(aside.string())),
                               true);
        }
    } catch (const InputError& e) {
        emit session_.said(translated(e), true);
    }
    begin();
}

void Keeper::watch() {
    QStringList now;
    const fs::path dir = session_.document().dir();
    for (const std::string& name : session_.document().seen().names())
        now << QString::fromStdString((dir / name).string());
    now << QString::fromStdString(dir.string()) << QString::fromStdString((dir / "levels").string());
    watchOnly(watcher_, now);
}

void Keeper::lookOutside() {
    if (!session_.isOpen()) return;
    if (session_.jobs().running("save")) return lookTimer_.start();
    const edit::Document::Saving now = session_.document().saving();
    session_.jobs().start<edit::Outside>(
        "outside", {}, [now](Jobs::Progress&) { return edit::read_outside(now); },
        [this, now](edit::Outside& outside) {
            if (session_.document().state() != now.state || session_.jobs().running("save"))
                return lookTimer_.start(); // one has gone on working meanwhile
            watch();
            if (!outside.seen) return;
            if (outside.conflict())
                emit conflict(outside);
            else
                settle(outside, {});
        },
        [this](const std::exception&) { watch(); }); // half written, perhaps: the next change tells, or the next save
}

void Keeper::settle(const edit::Outside& outside, const std::map<std::string, edit::Keep>& choices) {
    try {
        edit::Document& document = session_.document();
        const edit::ProjectState next = edit::settled(document.state(), outside, choices, [](const std::string& name) {
            return tr("%1 (ours)").arg(QString::fromStdString(name)).toStdString();
        });
        document.set_listener({});
        document.take_over(outside, next, tr("Taken over from the disk").toStdString());
        document.set_listener([this](const edit::Document::Told& t) { told(t); });
        saved();
        if (!outside.units.empty())
            emit session_.said(
                tr("Others changed the project on the disk: it was taken over; undo brings back what was"), false);
        session_.tookOver();
    } catch (const InputError& e) {
        emit session_.said(translated(e), true);
    }
}

} // namespace vic::app
