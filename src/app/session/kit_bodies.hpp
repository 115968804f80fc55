// The bodies of the project's kits, read in the background when they are asked for, and kept while their files are as
// they were.
#pragma once

#include <QObject>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "scene/hit.hpp"

namespace vic::app {

class Session;

class KitBodies : public QObject {
    Q_OBJECT
  public:
    explicit KitBodies(Session& session);
    // Those that are there already, in the order of the project's sheets; the others come, and changed() is emitted.
    std::vector<std::shared_ptr<const scene::LoadedKit>> all();

    // Of those; until it is asked again.
    scene::Models& models();

  signals:
    void changed();

  private:
    struct Known {
        level::KitSource source;
        std::shared_ptr<const Image> picture; // is another when the kit was read again
        std::shared_ptr<const scene::LoadedKit> kit;
        bool asked = false;
    };
    Session& session_;
    std::map<level::SheetId, Known> known_;
    std::unique_ptr<scene::Models> models_;
};

} // namespace vic::app
