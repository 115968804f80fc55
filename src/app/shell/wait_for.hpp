// Work that nothing can be done without: it runs in the background, and a window that can be stopped tells of it when
// it takes longer than a second.
#pragma once

#include <QEventLoop>
#include <QObject>
#include <QProgressDialog>
#include <QString>
#include <exception>
#include <functional>
#include <optional>
#include <utility>

#include "app/session/jobs.hpp"

namespace vic::app {

// The result; none where it was stopped. Throws what the work throws.
template <class Result>
std::optional<Result> waitFor(Jobs& jobs, QWidget* parent, const QString& text, const std::function<Result()>& work) {
    std::optional<Result> out;
    std::exception_ptr thrown;
    bool done = false;
    QEventLoop loop;
    QProgressDialog dialog(text, QObject::tr("Stop"), 0, 0, parent);
    dialog.setObjectName("waiting");
    dialog.setWindowModality(Qt::WindowModal);
    dialog.setMinimumDuration(1000);
    dialog.setValue(0);
    QObject::connect(&dialog, &QProgressDialog::canceled, &loop, &QEventLoop::quit);
    jobs.start<Result>(
        "wait", {}, [work](Jobs::Progress&) { return work(); },
        [&](Result& result) {
            out = std::move(result);
            done = true;
            loop.quit();
        },
        [&](const std::exception&) {
            thrown = std::current_exception();
            done = true;
            loop.quit();
        });
    if (!done) loop.exec();
    jobs.stop("wait");
    if (thrown) std::rethrow_exception(thrown);
    return out;
}

} // namespace vic::app
