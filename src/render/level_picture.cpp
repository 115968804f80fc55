#include "render/level_picture.hpp"

#include <epoxy/egl.h>

#include <algorithm>
#include <cmath>

#include "base/error.hpp"
#include "picture/compose.hpp"
#include "picture/flat_image.hpp"

namespace vic::render {

namespace {

constexpr int kMostGround = 4096; // pixels a side of what lies flat
constexpr Vec3 kAround{0.79F, 0.78F, 0.75F};

[[noreturn]] void no_opengl(const Text& why) {
    throw InputError(say("There is no OpenGL 3.3 to draw it with: %1", why.english()), {}, {},
                     "Install Mesa's software renderer (libgl1-mesa-dri, libegl1), or draw the plan");
}

} // namespace

Headless::Headless() {
    EGLDisplay display = EGL_NO_DISPLAY;
    if (epoxy_has_egl_extension(EGL_NO_DISPLAY, "EGL_EXT_platform_base"))
        display = eglGetPlatformDisplayEXT(EGL_PLATFORM_SURFACELESS_MESA, EGL_DEFAULT_DISPLAY, nullptr);
    if (display == EGL_NO_DISPLAY) display = eglGetDisplay(EGL_DEFAULT_DISPLAY);
    if (display == EGL_NO_DISPLAY || eglInitialize(display, nullptr, nullptr) == EGL_FALSE)
        no_opengl("no display of EGL");
    display_ = display;
    constexpr EGLint kWanted[] = {
        EGL_CONTEXT_MAJOR_VERSION,           3,       EGL_CONTEXT_MINOR_VERSION, 3, EGL_CONTEXT_OPENGL_PROFILE_MASK,
        EGL_CONTEXT_OPENGL_CORE_PROFILE_BIT, EGL_NONE};
    constexpr EGLint kConfig[] = {EGL_SURFACE_TYPE, 0, EGL_RENDERABLE_TYPE, EGL_OPENGL_BIT, EGL_NONE};
    EGLConfig config = nullptr;
    EGLint count = 0;
    EGLContext context = EGL_NO_CONTEXT;
    if (eglBindAPI(EGL_OPENGL_API) != EGL_FALSE && eglChooseConfig(display, kConfig, &config, 1, &count) != EGL_FALSE)
        context = eglCreateContext(display, count > 0 ? config : nullptr, EGL_NO_CONTEXT, kWanted);
    if (context == EGL_NO_CONTEXT || eglMakeCurrent(display, EGL_NO_SURFACE, EGL_NO_SURFACE, context) == EGL_FALSE) {
        eglTerminate(display);
        no_opengl("no context without a window");
    }
    context_ = context;
}

Headless::~Headless() {
    eglMakeCurrent(display_, EGL_NO_SURFACE, EGL_NO_SURFACE, EGL_NO_CONTEXT);
    eglDestroyContext(display_, context_);
    eglTerminate(display_);
}

Image card_picture(picture::Art& art, const level::PropKind& kind) {
    const picture::Art::Picture* const picture = art.prop(kind, false);
    if (!picture) return {};
    Image out(picture->size);
    for (int y = 0; y < out.height(); ++y)
        for (int x = 0; x < out.width(); ++x) {
            const std::uint32_t p =
                picture->pixels[static_cast<std::size_t>(y) * static_cast<std::size_t>(out.width()) +
                                static_cast<std::size_t>(x)];
            const std::uint32_t a = p >> 24;
            const auto plain = [&](std::uint32_t v) {
                return static_cast<std::uint8_t>(a == 0 ? 0 : std::min<std::uint32_t>(255, (v & 255) * 255 / a));
            };
            out.set(x, y, {plain(p >> 16), plain(p >> 8), plain(p), static_cast<std::uint8_t>(a)});
        }
    return out;
}

Image ground_of(const level::Project& project, const level::Level& level, const Kits& kits, picture::Art& art) {
    const level::Level flat = scene::flat_of(project, level, kits);
    const Box all = flat.pixels();
    if (all.size().area() > kMostGround * kMostGround || std::max(all.w, all.h) > 2 * kMostGround)
        return Image({1, 1}, {level.ground.r, level.ground.g, level.ground.b, 255});
    picture::Canvas canvas(all);
    picture::draw(project, flat, art, canvas, canvas.box);
    return picture::flat_image(canvas);
}

void take_level(Renderer& renderer, const level::Project& project, const level::Level& level, const Kits& kits,
                int highest, picture::Art& art) {
    const scene::Storeys storeys(kits, level.storey_heights);
    const level::PropKinds kinds(project);
    renderer.set_kits(kits);
    renderer.set_pieces(scene::placed_in(project, level, kits, highest), storeys);
    renderer.set_cards(cards_of(scene::cards_in(kinds, level, storeys, highest),
                                [&](const level::PropKind& kind) { return card_picture(art, kind); }));
    renderer.set_ground(ground_of(project, level, kits, art), level.size);
}

namespace {

Vec3 frame_middle(const level::Level& level) {
    const level::Mark* const start = level.first_mark(level::MarkKind::start);
    if (!start) return {static_cast<float>(level.size.w) / 2, 0, static_cast<float>(level.size.h) / 2};
    const Box c = start->cells;
    return {static_cast<float>(c.x) + static_cast<float>(c.w) / 2, 0,
            static_cast<float>(c.y) + static_cast<float>(c.h) / 2};
}

} // namespace

Image level_picture(const level::Project& project, const level::Level& level, const Kits& kits, const PictureOf& how) {
    const Headless context;
    Renderer renderer;
    if (const std::string why = renderer.initialize(); !why.empty()) no_opengl(say("%1", why));
    picture::Art art;
    art.update(project);
    const int highest = how.highest < 0 ? level::kMostStorey : how.highest;
    take_level(renderer, project, level, kits, highest, art);
    Matrix view{};
    float round = 0;
    if (how.look == Look::game) {
        const double scale = std::min(how.pixels.w / double(std::max(1, level.frame.w)),
                                      how.pixels.h / double(std::max(1, level.frame.h)));
        view = game_matrix(level, frame_middle(level), scale, how.pixels);
        round = -static_cast<float>(level.sight.turn);
    } else {
        Box stands;
        for (const scene::Placed& p : scene::placed_in(project, level, kits, highest)) stands = united(stands, p.cells);
        Camera camera = camera_at(how.look, stands.empty() ? level.cells() : stands);
        camera.round += how.turn;
        round = camera.round;
        view = matrix_of(camera, how.pixels);
    }
    const float radians = round * 3.14159265F / 180;
    renderer.set_eye({std::sin(radians), 0, std::cos(radians)});
    renderer.draw(view, level.light, kAround, how.pixels, false);
    return renderer.picture();
}

} // namespace vic::render
