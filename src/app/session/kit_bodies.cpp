#include "app/session/kit_bodies.hpp"

#include <QString>
#include <utility>

#include "app/session/session.hpp"
#include "base/files.hpp"

namespace vic::app {

KitBodies::KitBodies(Session& session) : session_(session) {
    connect(&session_, &Session::opened, this, [this] { known_.clear(); });
}

std::vector<std::shared_ptr<const scene::LoadedKit>> KitBodies::all() {
    std::vector<std::shared_ptr<const scene::LoadedKit>> out;
    if (!session_.isOpen()) return out;
    for (const auto& sheet : session_.project().sheets) {
        if (!sheet->kit) continue;
        Known& known = known_[sheet->id];
        if (known.asked && known.source == *sheet->kit && known.picture == sheet->image) {
            if (known.kit) out.push_back(known.kit);
            continue;
        }
        known = {*sheet->kit, sheet->image, known.kit, true};
        if (known.kit) out.push_back(known.kit); // as it was, until it is read
        const fs::path dir = session_.document().dir();
        session_.jobs().start<std::shared_ptr<const scene::LoadedKit>>(
            "bodies-" + QString::number(sheet->id),
            tr("Reading the bodies of %1").arg(QString::fromStdString(sheet->name)),
            [sheet, dir](Jobs::Progress&) {
                const fs::path file = inside(dir, sheet->kit->file, dir.string(), {});
                return std::make_shared<const scene::LoadedKit>(scene::load_kit(*sheet, file));
            },
            [this, id = sheet->id](std::shared_ptr<const scene::LoadedKit>& kit) {
                known_[id].kit = kit;
                emit changed();
            },
            session_.complain());
    }
    return out;
}

scene::Models& KitBodies::models() {
    const auto kits = all();
    if (!models_ || models_->kits() != kits) models_ = std::make_unique<scene::Models>(kits);
    return *models_;
}

} // namespace vic::app
