// Levels that follow a picture.

#include <QFileInfo>
#include <QString>
#include <cstddef>
#include <exception>
#include <memory>
#include <optional>
#include <string>
#include <tuple>
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

void Library::plan(const level::Plan& plan, std::shared_ptr<const Image> picture, PlanDone done) {
    const auto key = std::tuple(session_.document().state(), session_.level()->id, plan);
    if (planned_.has(key)) return done(planned_.get(key, [] { return edit::Followed(); }));
    session_.jobs().start<edit::Followed>(
        "plan", tr("Following the plan"),
        [key, picture](Jobs::Progress&) {
            const auto& [state, level, wanted] = key;
            return edit::follow_plan(*state, join::Rules(*state), *state->level(level), wanted, *picture);
        },
        [this, key, done](edit::Followed& f) {
            // Where something has changed meanwhile, another trial is under way.
            if (session_.document().state() != std::get<0>(key)) return;
            planned_.put(key, f);
            done(f);
        },
        session_.complain());
}

void Library::layPlan(const level::Plan& plan, std::shared_ptr<const Image> picture) {
    this->plan(plan, std::move(picture), [this](const edit::Followed& f) {
        planKept_ = f.by_hand;
        QString text = withKept(tr("Laid after the plan: %1 cells").arg(f.laid), f);
        if (f.unknown > 0) text += tr(" · %1 pixels have no meaning").arg(f.unknown);
        session_.applyLevel(tr("Lay after a plan"), level::Level(f.level), f.next_id);
        planned_.forget();
        watch();
        emit session_.said(text, false);
    });
}

namespace {

// The level after its plan as that is on the disk now; nothing where it says what it said.
std::optional<edit::Followed> followed(const level::Project& project, const join::Rules& rules,
                                       const level::Level& level, const Image& picture) {
    // Colours that are new mean nothing until they are given a meaning, but they are listed.
    level::Plan plan =
        edit::proposed_plan(project, &level, picture, level.plan->file, level.plan->gather, level.plan->bottom_up);
    for (std::size_t i = level.plan->keys.size(); i < plan.keys.size(); ++i) {
        plan.keys[i].kind = level::PlanKey::Kind::nothing;
        plan.keys[i].id = 0;
    }
    edit::Followed f = edit::follow_plan(project, rules, level, plan, picture);
    if (f.laid == 0 && f.by_hand.empty()) return std::nullopt;
    return f;
}

} // namespace

void Library::followPlans() {
    std::vector<std::pair<std::string, fs::path>> plans;
    for (const auto& l : session_.project().levels) {
        std::error_code trouble;
        if (!l->plan || !fs::exists(pathOf(l->plan->file), trouble)) continue;
        try {
            plans.emplace_back(l->id, ownPath(l->plan->file));
        } catch (const InputError& e) {
            emit session_.said(translated(e), true);
        }
    }
    if (plans.empty()) return;
    struct All {
        std::vector<std::pair<std::string, edit::Followed>> levels;
        QString trouble;
    };
    const edit::ProjectState state = session_.document().state();
    session_.jobs().start<All>(
        "plans", tr("Following plans"),
        [state, plans](Jobs::Progress& progress) {
            All all;
            const join::Rules rules(*state);
            for (const auto& [id, file] : plans) {
                if (progress.stopped()) break;
                try {
                    const Image picture = plan::read_picture(read_file(file), file.string());
                    if (auto f = followed(*state, rules, *state->level(id), picture))
                        all.levels.emplace_back(id, std::move(*f));
                } catch (const std::exception& e) {
                    all.trouble = translated(e); // half written, perhaps: the next change tells
                }
            }
            return all;
        },
        [this, state](All& all) {
            if (session_.document().state() != state) return followPlans();
            if (!all.trouble.isEmpty()) emit session_.said(all.trouble, true);
            for (auto& [id, f] : all.levels) {
                if (session_.level() && id == session_.level()->id) planKept_ = f.by_hand;
                const QString name = QString::fromStdString(f.level.name);
                const QString said = withKept(tr("%1 follows its plan: %2 cells").arg(name).arg(f.laid), f);
                session_.applyLevel(tr("%1 follows its plan").arg(name), std::move(f.level), f.next_id);
                emit session_.said(said, false);
            }
        },
        session_.complain());
}

} // namespace vic::app
