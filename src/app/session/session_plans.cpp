// Levels that follow a picture.

#include <QFileInfo>
#include <QString>
#include <cstddef>
#include <string>
#include <utility>
#include <vector>

#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "base/files.hpp"
#include "base/image.hpp"
#include "edit/document.hpp"
#include "edit/plans.hpp"
#include "join/resolve.hpp"
#include "level/plan.hpp"
#include "plan/read_plan.hpp"

namespace vic::app {

namespace {

Image pictureOf(const edit::Document& document, const std::string& file) {
    const fs::path path = inside(document.dir(), file, (document.dir() / "project.json").string(), "plan");
    return plan::read_picture(read_file(path), path.string());
}

} // namespace

QString Session::adoptPlan(const QString& file) {
    const std::string bytes = read_file(file.toStdString());
    plan::read_picture(bytes, file.toStdString());
    const fs::path folder = document_->dir() / "plans";
    std::error_code trouble;
    // A picture that lies in the project already is followed where it is.
    const fs::path relative = fs::relative(file.toStdString(), document_->dir(), trouble);
    if (!trouble && !relative.empty() && *relative.begin() != "..")
        return QString::fromStdString(relative.generic_string());
    fs::create_directories(folder, trouble);
    const std::string stem = slug(QFileInfo(file).completeBaseName().toStdString(), "plan");
    for (int n = 1;; ++n) {
        const std::string name = "plans/" + stem + (n == 1 ? "" : "-" + std::to_string(n)) + ".png";
        const fs::path target = document_->dir() / name;
        if (fs::exists(target, trouble)) {
            if (read_file(target) == bytes) return QString::fromStdString(name);
            continue;
        }
        write_file(target, bytes);
        return QString::fromStdString(name);
    }
}

edit::Followed Session::planned(const level::Plan& plan) const {
    const join::Rules rules(project());
    return edit::follow_plan(project(), rules, *level(), plan, pictureOf(*document_, plan.file));
}

void Session::layPlan(const level::Plan& plan) {
    edit::Followed f = planned(plan);
    planKept_ = f.by_hand;
    applyLevel(tr("Lay after a plan"), std::move(f.level), f.next_id);
    watchPictures();
    QString text = tr("Laid after the plan: %1 cells").arg(f.laid);
    if (!f.by_hand.empty()) text += tr(" · %1 were changed by hand and stay").arg(f.by_hand.size());
    if (f.unknown > 0) text += tr(" · %1 pixels have no meaning").arg(f.unknown);
    emit said(text, false);
}

void Session::followPlans() {
    for (const auto& l : std::vector(project().levels)) {
        if (!l->plan) continue;
        std::error_code trouble;
        if (!fs::exists(document_->dir() / l->plan->file, trouble)) continue;
        try {
            const Image picture = pictureOf(*document_, l->plan->file);
            // Colours that are new mean nothing until they are given a meaning, but they are listed.
            level::Plan plan =
                edit::proposed_plan(project(), l.get(), picture, l->plan->file, l->plan->gather, l->plan->bottom_up);
            for (std::size_t i = l->plan->keys.size(); i < plan.keys.size(); ++i) {
                plan.keys[i].kind = level::PlanKey::Kind::nothing;
                plan.keys[i].id = 0;
            }
            edit::Followed f = edit::follow_plan(project(), rules(), *l, plan, picture);
            if (f.laid == 0 && f.by_hand.empty()) continue;
            if (l->id == levelId_) planKept_ = f.by_hand;
            const QString name = QString::fromStdString(l->name);
            applyLevel(tr("%1 follows its plan").arg(name), std::move(f.level), f.next_id);
            QString text = tr("%1 follows its plan: %2 cells").arg(name).arg(f.laid);
            if (!f.by_hand.empty()) text += tr(" · %1 were changed by hand and stay").arg(f.by_hand.size());
            emit said(text, false);
        } catch (const InputError& e) {
            emit said(translated(e), true); // half written, perhaps: the next change tells
        }
    }
}

} // namespace vic::app
