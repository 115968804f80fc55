#include "app/shell/job_strip.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>

#include "app/parts/panel.hpp"

namespace vic::app {

namespace {
constexpr int kPatience = 1000; // milliseconds after which one wants to know
}

JobStrip::JobStrip(Jobs& jobs, QWidget* parent) : QWidget(parent), jobs_(jobs) {
    setObjectName("jobStrip");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    text_ = new QLabel(this);
    text_->setObjectName("jobText");
    row->addWidget(text_);
    auto* stop = toolButton(this, "jobStop", {}, tr("Stop"), {}, "link");
    stop->setStyleSheet("color: #F2A48F;");
    describe(stop, tr("Stop"), {}, tr("What is not done yet is left as it was"));
    connect(stop, &QToolButton::clicked, this, [this] { jobs_.stopNamed(); });
    row->addWidget(stop);
    timer_.setInterval(100);
    connect(&timer_, &QTimer::timeout, this, &JobStrip::refresh);
    connect(&jobs_, &Jobs::changed, this, &JobStrip::refresh);
    hide();
}

void JobStrip::refresh() {
    const Jobs::State state = jobs_.state();
    const bool any = !state.name.isEmpty();
    if (any != timer_.isActive()) any ? timer_.start() : timer_.stop();
    setVisible(any && state.since >= kPatience);
    text_->setText(state.done > 0 ? tr("%1 · %2 %").arg(state.name).arg(static_cast<int>(state.done * 100))
                                  : state.name);
}

} // namespace vic::app
