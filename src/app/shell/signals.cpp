#include "app/shell/signals.hpp"

#include <fcntl.h>
#include <signal.h>
#include <unistd.h>

#include <QSocketNotifier>

namespace vic::app {

namespace {

int pipe_ends[2] = {-1, -1};

void handle(int) {
    const char one = 1;
    [[maybe_unused]] const ssize_t n = ::write(pipe_ends[1], &one, 1);
}

} // namespace

Signals::Signals(QObject* parent) : QObject(parent) {
    if (::pipe2(pipe_ends, O_CLOEXEC | O_NONBLOCK) != 0) return;
    auto* notifier = new QSocketNotifier(pipe_ends[0], QSocketNotifier::Read, this);
    connect(notifier, &QSocketNotifier::activated, this, [this] {
        char bytes[16];
        while (::read(pipe_ends[0], bytes, sizeof bytes) > 0) {
        }
        emit asked();
    });
    struct sigaction action {};
    action.sa_handler = handle;
    action.sa_flags = SA_RESTART;
    for (const int number : {SIGTERM, SIGINT, SIGHUP}) ::sigaction(number, &action, nullptr);
}

Signals::~Signals() {
    for (const int number : {SIGTERM, SIGINT, SIGHUP}) ::signal(number, SIG_DFL);
    for (int& end : pipe_ends) {
        if (end >= 0) ::close(end);
        end = -1;
    }
}

} // namespace vic::app
