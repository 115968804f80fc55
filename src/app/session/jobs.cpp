#include "app/session/jobs.hpp"

#include <QDateTime>
#include <QMetaObject>
#include <algorithm>

namespace vic::app {

namespace {
constexpr int kThreads = 2;
}

Jobs::Jobs(QObject* parent) : QObject(parent) { pool_.setMaxThreadCount(kThreads); }

Jobs::~Jobs() {
    for (const auto& job : jobs_) job->progress.stopped_ = true;
    jobs_.clear();
    pool_.waitForDone();
}

void Jobs::start(const QString& key, const QString& name, const Work& work, const Done& done, const Failed& failed) {
    stop(key);
    const auto job = std::make_shared<Job>();
    job->key = key;
    job->name = name;
    job->began = QDateTime::currentMSecsSinceEpoch();
    job->done = done;
    job->failed = failed;
    jobs_.push_back(job);
    pool_.start([this, job, work] {
        try {
            if (!job->progress.stopped()) work(job->progress);
        } catch (...) {
            job->thrown = std::current_exception();
        }
        QMetaObject::invokeMethod(
            this, [this, job] { finish(job); }, Qt::QueuedConnection);
    });
    emit changed();
}

void Jobs::finish(const std::shared_ptr<Job>& job) {
    if (std::erase(jobs_, job) == 0) return; // stopped meanwhile
    emit changed();
    if (!job->thrown) return job->done();
    try {
        std::rethrow_exception(job->thrown);
    } catch (const std::exception& e) {
        job->failed(e);
    }
}

void Jobs::stop(const QString& key) {
    const bool any = std::erase_if(jobs_, [&](const auto& job) {
                         if (job->key != key) return false;
                         job->progress.stopped_ = true;
                         return true;
                     }) != 0;
    if (any) emit changed();
}

void Jobs::stopNamed() {
    for (const auto& job : std::vector(jobs_))
        if (!job->name.isEmpty()) stop(job->key);
    emit stoppedNamed();
}

void Jobs::stopAll() {
    for (const auto& job : std::vector(jobs_)) stop(job->key);
}

bool Jobs::running(const QString& key) const {
    return std::any_of(jobs_.begin(), jobs_.end(), [&](const auto& job) { return job->key == key; });
}

bool Jobs::busy() const {
    return std::any_of(jobs_.begin(), jobs_.end(), [](const auto& job) { return !job->name.isEmpty(); });
}

Jobs::State Jobs::state() const {
    for (const auto& job : jobs_)
        if (!job->name.isEmpty())
            return {job->name, job->progress.permille_ / 1000.0, QDateTime::currentMSecsSinceEpoch() - job->began};
    return {};
}

} // namespace vic::app
