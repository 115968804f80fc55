// A picture of a level in three dimensions, drawn without a display.
#pragma once

#include "base/image.hpp"
#include "picture/art.hpp"
#include "render/renderer.hpp"

namespace vic::render {

// A context of OpenGL without a window, current from its beginning to its end on the thread that made it.
class Headless {
  public:
    Headless(); // throws InputError where there is no OpenGL 3.3
    ~Headless();
    Headless(const Headless&) = delete;
    Headless& operator=(const Headless&) = delete;

  private:
    void* display_ = nullptr;
    void* context_ = nullptr;
};

// All that is seen of a level, up to a storey, into the renderer. `art` is to know the project.
void take_level(Renderer& renderer, const level::Project& project, const level::Level& level, const Kits& kits,
                int highest, picture::Art& art);
// What lies flat, as it is given to the renderer: one pixel where it would be too large.
Image ground_of(const level::Project& project, const level::Level& level, const Kits& kits, picture::Art& art);
// The picture of a prop that stands; empty where there is none.
Image card_picture(picture::Art& art, const level::PropKind& kind);

// The level by its light on a plain ground. Look::game shows the frame where the level begins: about the start mark.
// `highest`: the storey above which nothing is seen; below 0 all are. Throws InputError as Headless does.
struct PictureOf {
    Look look = Look::aslant;
    Size pixels{1280, 800};
    int highest = -1;
    float turn = 0; // degrees by which one goes round it to the right
};
Image level_picture(const level::Project& project, const level::Level& level, const Kits& kits, const PictureOf& how);

} // namespace vic::render
