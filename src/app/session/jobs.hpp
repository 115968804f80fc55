// The one place where work runs in the background. A job takes a snapshot of what it needs, says how far it is, can be
// stopped, and hands its result back on the window's thread.
#pragma once

#include <QObject>
#include <QString>
#include <QThreadPool>
#include <atomic>
#include <exception>
#include <functional>
#include <memory>
#include <vector>

namespace vic::app {

class Jobs : public QObject {
    Q_OBJECT
  public:
    // What a job tells and asks while it is at work, from its own thread.
    class Progress {
      public:
        void tell(double done) { permille_ = static_cast<int>(done * 1000); } // 0 .. 1
        [[nodiscard]] bool stopped() const { return stopped_; }

      private:
        friend class Jobs;
        std::atomic<int> permille_{0};
        std::atomic<bool> stopped_{false};
    };
    using Work = std::function<void(Progress&)>;
    using Done = std::function<void()>;
    using Failed = std::function<void(const std::exception&)>;

    explicit Jobs(QObject* parent);
    ~Jobs() override; // stops and waits for all

    // Runs `work` on a thread of its own; then, on the window's thread, `done`, or `failed` with what it threw. Of one
    // `key` only one job is at work: a new one stops that before it, whose `done` is then never called. `name` is what
    // the window tells of it; nothing is told of a job without.
    void start(const QString& key, const QString& name, const Work& work, const Done& done, const Failed& failed);
    // The same for work that has a result.
    template <class Result>
    void start(const QString& key, const QString& name, const std::function<Result(Progress&)>& work,
               const std::function<void(Result&)>& done, const Failed& failed) {
        const auto result = std::make_shared<std::unique_ptr<Result>>();
        start(
            key, name, [work, result](Progress& p) { *result = std::make_unique<Result>(work(p)); },
            [done, result] { done(**result); }, failed);
    }

    void stop(const QString& key); // its `done` is not called
    void stopNamed();              // all that the window tells of; stoppedNamed() is emitted then
    void stopAll();
    [[nodiscard]] bool running(const QString& key) const;
    // Whether any is at work that the window tells of.
    [[nodiscard]] bool busy() const;

    // Of the oldest job with a name: what, how far (0 .. 1) and for how long, in milliseconds. Empty name: none.
    struct State {
        QString name;
        double done = 0;
        qint64 since = 0;
    };
    [[nodiscard]] State state() const;

  signals:
    void changed();      // one has begun or ended
    void stoppedNamed(); // what was asked for will not come, unless it is asked for again

  private:
    struct Job {
        QString key, name;
        qint64 began = 0;
        Progress progress;
        std::exception_ptr thrown;
        Done done;
        Failed failed;
    };
    void finish(const std::shared_ptr<Job>& job);
    std::vector<std::shared_ptr<Job>> jobs_;
    QThreadPool pool_;
};

} // namespace vic::app
