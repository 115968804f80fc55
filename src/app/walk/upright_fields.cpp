#include "app/walk/upright_fields.hpp"

#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "level/level.hpp"

namespace vic::app {

namespace {

constexpr int kUprightNames = 82; // pixels of the fields' names

}

UprightFields::UprightFields(Session& session, const char* prefix, QWidget* parent)
    : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(label(tr("Among pieces of kits"), "quiet", this));
    struct Field {
        const char* id;
        QString name;
        int level::Upright::*field;
        int least, most, step;
        QString unit, help;
    };
    using U = level::Upright;
    const QString long_ = tr(" cm");
    const Field all[] = {
        {"Wide", tr("Wide"), &U::wide, 10, 1000, 5, long_, tr("What he needs on both sides together")},
        {"Tall", tr("Tall"), &U::tall, 10, 2000, 5, long_, tr("What he needs above the ground")},
        {"Eyes", tr("Eyes"), &U::eyes, 0, 2000, 5, long_, tr("How high he sees from")},
        {"Step", tr("Steps up"), &U::step, 0, 500, 5, long_, tr("Without a jump")},
        {"Slope", tr("Slopes"), &U::slope, 0, 80, 5, tr("°"), tr("That he walks up")},
        {"Pace", tr("Walks"), &U::pace, 10, 5000, 25, tr(" cm/s"), {}},
        {"Jump", tr("Jumps"), &U::jump, 0, 2000, 10, long_, tr("So high; 0: he does not")},
        {"Drop", tr("Falls"), &U::drop, 0, 10000, 50, long_, tr("What is lower is no way down for him")}};
    for (const Field& f : all) {
        auto* box = new QSpinBox(this);
        box->setObjectName(QString(prefix) + f.id);
        box->setRange(f.least, f.most);
        box->setSingleStep(f.step);
        box->setSuffix(f.unit);
        describe(box, f.name, {}, f.help);
        addField(column, f.name, box, kUprightNames);
        fields_.bindInt(
            box, [this, field = f.field] { return session_.level()->walker.upright.*field; },
            [this, field = f.field](int v) {
                if (!session_.level()) return;
                level::Level next = *session_.level();
                next.walker.upright.*field = v;
                session_.applyLevel(tr("The walker and its frame"), std::move(next), "walker");
            });
    }
}

void UprightFields::refresh() {
    if (session_.level()) fields_.refresh();
}

HeightPanel::HeightPanel(Session& session, QWidget* parent) : QWidget(parent) {
    setObjectName("heightPanel");
    auto* column = panelColumn(this);
    QLabel* aside = nullptr;
    addHeading(column, tr("Walker"), &aside);
    aside->setText(tr("of this level"));
    fields_ = new UprightFields(session, "stroll", this);
    column->addWidget(fields_);
    auto* again = new QPushButton(tr("Start again"), this);
    again->setObjectName("strollAgain");
    describe(again, tr("Start again"), {}, tr("Puts the walker back to the start"));
    connect(again, &QPushButton::clicked, this, &HeightPanel::againAsked);
    column->addWidget(again);
    column->addStretch();
}

} // namespace vic::app
