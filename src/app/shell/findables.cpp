#include "app/shell/findables.hpp"

#include <QString>

#include "app/session/session.hpp"
#include "app/shell/main_window.hpp"
#include "edit/notes.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

void findInProject(Session& session, std::vector<Findable>& all) {
    const level::Project& p = session.project();
    for (const auto& l : p.levels)
        all.push_back({QString::fromStdString(l->name), MainWindow::tr("level"), {}, [&session, id = l->id] {
                           session.setLevel(id);
                       }});
    for (const auto& s : p.sheets) {
        all.push_back({QString::fromStdString(s->name), MainWindow::tr("sheet"), {}, [&session, id = s->id] {
                           session.setStage(Stage::cut);
                           session.setSheet(id);
                       }});
        for (const auto& t : s->tiles)
            if (!t.name.empty() || !t.tags.empty())
                all.push_back({t.name.empty() ? MainWindow::tr("tile %1").arg(t.id) : QString::fromStdString(t.name),
                               t.tags.empty() ? MainWindow::tr("tile of %1").arg(QString::fromStdString(s->name))
                                              : MainWindow::tr("tile of %1 · %2")
                                                    .arg(QString::fromStdString(s->name),
                                                         QString::fromStdString(edit::tags_text(t.tags))),
                               {},
                               [&session, id = s->id, tile = t.id] {
                                   session.setStage(Stage::cut);
                                   session.setSheet(id);
                                   session.setTiles({tile});
                               }});
    }
    for (const auto& m : p.materials)
        all.push_back({QString::fromStdString(m->name), MainWindow::tr("material"), {}, [&session, id = m->id] {
                           edit::Hand hand{edit::held::Material{id}};
                           session.setMaterial(id);
                           session.setHand(hand);
                       }});
    for (const auto& k : p.prop_kinds)
        all.push_back({QString::fromStdString(k->name), MainWindow::tr("prop"), {}, [&session, id = k->id] {
                           session.setStage(Stage::dress);
                           edit::Hand hand{edit::held::Prop{id}};
                           session.setHand(hand);
                       }});
}

void findInLevel(Session& session, LevelView& view, std::vector<Findable>& all) {
    if (const level::Level* level = session.level()) {
        for (const level::LayerRef& l : level->layers)
            all.push_back({QString::fromStdString(l->name), MainWindow::tr("layer"), {}, [&session, id = l->id] {
                               session.setActiveLayer(id);
                           }});
        for (const auto& m : level->marks)
            all.push_back(
                {QString::fromStdString(m.name), MainWindow::tr("mark"), {}, [&session, &view, at = m.cells.corner()] {
                     if (session.stage() == Stage::cut || session.stage() == Stage::join ||
                         session.stage() == Stage::handOver)
                         session.setStage(Stage::lay);
                     view.lookAt(at);
                 }});
    }
}

} // namespace vic::app
