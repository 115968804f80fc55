// Levels that follow a picture.

#include <QFileInfo>
#include <QString>
#include <cstddef>
#include <exception>
#include <string>
#include <utility>
#include <vector>

#include "app/parts/translated.hpp"
#include "app/session/library.hpp"
#include "app/session/session.hpp"
#include "base/files.hpp"
#include "base/image.hpp"
#include "edit/document.hpp"
#include "edit/plans.hpp"
#include "level/plan.hpp"
#include "plan/read_plan.hpp"

namespace vic::app {

namespace {

Image pictureOf(const edit::Document& document, const std::string& file) {
    const fs::path path = inside(document.dir(), file, (document.dir() / "project.json").string(), "plan");
    return plan::read_picture(read_file(path), path.string());
}

// What came of following a plan, in words; `text` says what was laid.
QString withKept(QString text, const edit::Followed& f) {
    if (!f.by_hand.empty()) text += Library::tr(" · %1 were changed by hand and stay").arg(f.by_hand.size());
    return text;
}

} // namespace

QString Library::adoptPlan(const QString& file) {
    const std::string bytes = read_file(file.toStdString());
    plan::read_picture(bytes, file.toStdString());
    std::error_code trouble;
    // A picture that lies in the project already is followed where it is.
    const fs::path relative = fs::relative(file.toStdString(), session_.document().dir(), trouble);
    if (!trouble && !relative.empty() && *relative.begin() != "..")
        return QString::fromStdString(relative.generic_string());
    fs::create_directories(ownPath("plans"), trouble);
    const std::string stem = slug(QFileInfo(file).completeBaseName().toStdString(), "plan");
    for (int n = 1;; ++n) {
        const std::string name = "plans/" + stem + (n == 1 ? "" : "-" + std::to_string(n)) + ".png";
        if (fs::exists(fs::symlink_status(pathOf(name), trouble))) {
            if (fs::is_regular_file(fs::symlink_status(pathOf(name), trouble)) && read_file(pathOf(name)) == bytes)
                return QString::fromStdString(name);
            continue;
        }
        write_file(ownPath(name), bytes);
        return QString::fromStdString(name);
    }
}

edit::Followed Library::planned(const level::Plan& plan) const {
    return edit::follow_plan(session_.project(), session_.derived().rules(), *session_.level(), plan,
                             pictureOf(session_.document(), plan.file));
}

void Library::layPlan(const level::Plan& plan) {
    edit::Followed f = planned(plan);
    planKept_ = f.by_hand;
    session_.applyLevel(tr("Lay after a plan"), std::move(f.level), f.next_id);
    watch();
    QString text = withKept(tr("Laid after the plan: %1 cells").arg(f.laid), f);
    if (f.unknown > 0) text += tr(" · %1 pixels have no meaning").arg(f.unknown);
    emit session_.said(text, false);
}

void Library::followPlans() {
    for (const auto& l : std::vector(session_.project().levels)) {
        std::error_code trouble;
        if (!l->plan || !fs::exists(pathOf(l->plan->file), trouble)) continue;
        try {
            const Image picture = pictureOf(session_.document(), l->plan->file);
            // Colours that are new mean nothing until they are given a meaning, but they are listed.
            level::Plan plan = edit::proposed_plan(session_.project(), l.get(), picture, l->plan->file, l->plan->gather,
                                                   l->plan->bottom_up);
            for (std::size_t i = l->plan->keys.size(); i < plan.keys.size(); ++i) {
                plan.keys[i].kind = level::PlanKey::Kind::nothing;
                plan.keys[i].id = 0;
            }
            edit::Followed f = edit::follow_plan(session_.project(), session_.derived().rules(), *l, plan, picture);
            if (f.laid == 0 && f.by_hand.empty()) continue;
            if (l.get() == session_.level()) planKept_ = f.by_hand;
            const QString name = QString::fromStdString(l->name);
            session_.applyLevel(tr("%1 follows its plan").arg(name), std::move(f.level), f.next_id);
            emit session_.said(withKept(tr("%1 follows its plan: %2 cells").arg(name).arg(f.laid), f), false);
        } catch (const std::exception& e) {
            emit session_.said(translated(e), true); // half written, perhaps: the next change tells
        }
    }
}

} // namespace vic::app
