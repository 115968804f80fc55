#include "upright/stroll.hpp"

#include <BulletCollision/CollisionDispatch/btGhostObject.h>
#include <BulletDynamics/Character/btKinematicCharacterController.h>
#include <btBulletDynamicsCommon.h>

#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

namespace vic::upright {

namespace {

constexpr double kTick = 1.0 / 60;
constexpr double kGravity = 9.81;     // metres a second squared
constexpr double kFastest = 30;       // metres a second that it falls at most
constexpr double kMostPressed = 0.12; // metres that it may be pressed into something
constexpr double kSkin = 0.02;        // metres by which a body floats

btVector3 vector(const std::array<double, 3>& v) {
    return {static_cast<btScalar>(v[0]), static_cast<btScalar>(v[1]), static_cast<btScalar>(v[2])};
}

} // namespace

// In metres, as Bullet likes it.
struct Terrain::Inside {
    double metres; // of a cell
    explicit Inside(double of_cell) : metres(of_cell) {}
    btDefaultCollisionConfiguration configuration;
    btCollisionDispatcher dispatcher{&configuration};
    btDbvtBroadphase broadphase;
    btSequentialImpulseConstraintSolver solver;
    btDiscreteDynamicsWorld world{&dispatcher, &broadphase, &solver, &configuration};
    btGhostPairCallback ghosts;
    std::vector<btScalar> corners;
    std::vector<int> order;
    std::unique_ptr<btTriangleIndexVertexArray> mesh;
    std::unique_ptr<btBvhTriangleMeshShape> shape;
    std::unique_ptr<btCollisionObject> object;
    btStaticPlaneShape ground{btVector3(0, 1, 0), 0};
    btCollisionObject groundObject;

    void put(const std::array<double, 3>& at) {
        for (const double v : at) corners.push_back(static_cast<btScalar>(v * metres));
    }
    // A wall from one place to another, seen from both sides; 1/64 cells.
    void wall(Point from, Point to, int low, int high) {
        const auto first = static_cast<int>(corners.size() / 3);
        const double x0 = from.x / 64.0, z0 = from.y / 64.0, x1 = to.x / 64.0, z1 = to.y / 64.0;
        put({x0, low / 64.0, z0});
        put({x1, low / 64.0, z1});
        put({x1, high / 64.0, z1});
        put({x0, high / 64.0, z0});
        for (const int i : {0, 1, 2, 0, 2, 3}) order.push_back(first + i);
    }
};

Terrain::Terrain(const mass::Shell& shell, const mass::Plain& plain, double metres)
    : in_(std::make_unique<Inside>(metres)) {
    Inside& in = *in_;
    in.broadphase.getOverlappingPairCache()->setInternalGhostPairCallback(&in.ghosts);
    for (const std::array<int, 3>& p : shell.points) in.put({p[0] / 64.0, p[1] / 64.0, p[2] / 64.0});
    for (const mass::Shell::Triangle& t : shell.triangles)
        for (const std::uint32_t corner : t.corners) in.order.push_back(static_cast<int>(corner));
    for (const mass::Slab& slab : plain.blocked)
        for (const outline::Outline& o : *slab.outlines)
            for (std::size_t i = 0; i < o.points.size(); ++i)
                in.wall(o.points[i], o.points[(i + 1) % o.points.size()], slab.from, slab.to);
    // The level's rim holds.
    const int w = plain.cells.w * 64, h = plain.cells.h * 64;
    const Point rim[] = {{0, 0}, {w, 0}, {w, h}, {0, h}};
    for (std::size_t i = 0; i < 4; ++i) in.wall(rim[i], rim[(i + 1) % 4], 0, mass::kFlatHigh);
    in.mesh = std::make_unique<btTriangleIndexVertexArray>(
        static_cast<int>(in.order.size() / 3), in.order.data(), static_cast<int>(3 * sizeof(int)),
        static_cast<int>(in.corners.size() / 3), in.corners.data(), static_cast<int>(3 * sizeof(btScalar)));
    in.shape = std::make_unique<btBvhTriangleMeshShape>(in.mesh.get(), true);
    in.shape->setMargin(static_cast<btScalar>(kSkin / 2));
    in.object = std::make_unique<btCollisionObject>();
    in.object->setCollisionShape(in.shape.get());
    in.world.addCollisionObject(in.object.get());
    in.groundObject.setCollisionShape(&in.ground);
    in.world.addCollisionObject(&in.groundObject);
}

Terrain::~Terrain() {
    in_->world.removeCollisionObject(in_->object.get());
    in_->world.removeCollisionObject(&in_->groundObject);
}

struct Stroll::Inside {
    Terrain::Inside& terrain;
    double half; // metres from its foot to its middle
    double pace; // metres a tick
    btScalar step;
    btCapsuleShape shape;
    btPairCachingGhostObject ghost;
    std::unique_ptr<btKinematicCharacterController> controller;

    double was_pressed = 0;
    bool held = false; // put back where it was

    // By how much it lies in what blocks, in metres.
    [[nodiscard]] double pressed() {
        struct Deepest : btCollisionWorld::ContactResultCallback {
            double depth = 0;
            btScalar addSingleResult(btManifoldPoint& at, const btCollisionObjectWrapper*, int, int,
                                     const btCollisionObjectWrapper*, int, int) override {
                depth = std::max(depth, -double{at.getDistance()});
                return 0;
            }
        } deepest;
        terrain.world.contactPairTest(&ghost, terrain.object.get(), deepest);
        return deepest.depth;
    }

    Inside(Terrain::Inside& in, const level::Upright& u)
        : terrain(in),
          half(std::max(u.tall, u.wide) / 200.0),
          pace(u.pace / 100.0 * kTick),
          step(static_cast<btScalar>(u.step / 100.0)),
          shape(static_cast<btScalar>(u.wide / 200.0), static_cast<btScalar>(std::max(0, u.tall - u.wide) / 100.0)) {}
};

Stroll::Stroll(const Terrain& terrain, const level::Upright& u, std::array<double, 3> foot)
    : in_(std::make_unique<Inside>(terrain.inside(), u)), eyes_(u.eyes / 100.0 / terrain.inside().metres) {
    in_->ghost.setCollisionShape(&in_->shape);
    in_->ghost.setCollisionFlags(btCollisionObject::CF_CHARACTER_OBJECT);
    in_->controller =
        std::make_unique<btKinematicCharacterController>(&in_->ghost, &in_->shape, in_->step, btVector3(0, 1, 0));
    btKinematicCharacterController& c = *in_->controller;
    c.setGravity(btVector3(0, static_cast<btScalar>(-kGravity), 0));
    c.setFallSpeed(static_cast<btScalar>(kFastest));
    c.setJumpSpeed(static_cast<btScalar>(std::sqrt(2 * kGravity * u.jump / 100.0)));
    c.setMaxSlope(static_cast<btScalar>(u.slope * 3.14159265 / 180));
    c.setMaxPenetrationDepth(static_cast<btScalar>(0.02));
    c.setUseGhostSweepTest(true);
    in_->terrain.world.addCollisionObject(&in_->ghost, btBroadphaseProxy::CharacterFilter,
                                          btBroadphaseProxy::StaticFilter | btBroadphaseProxy::DefaultFilter);
    put(foot);
}

Stroll::~Stroll() { in_->terrain.world.removeCollisionObject(&in_->ghost); }

void Stroll::put(std::array<double, 3> foot) {
    for (double& v : foot) v *= in_->terrain.metres;
    foot[1] += in_->half + kSkin;
    in_->controller->warp(vector(foot));
    in_->controller->reset(&in_->terrain.world);
}

void Stroll::step(double east, double south, bool jumps) {
    const double length = std::hypot(east, south);
    const double by = in_->pace * (length > 1 ? 1 / length : 1);
    in_->controller->setWalkDirection(vector({east * by, 0, south * by}));
    // In the air nothing is stepped onto: lifted by a step against a ceiling, the controller would be pushed through
    // it.
    in_->controller->setStepHeight(stands() ? in_->step : btScalar(0));
    if (jumps && stands()) in_->controller->jump();
    // What it touches, and then where it gets to.
    const btVector3 before = in_->ghost.getWorldTransform().getOrigin();
    in_->terrain.world.performDiscreteCollisionDetection();
    in_->controller->updateAction(&in_->terrain.world, static_cast<btScalar>(kTick));
    // The controller lets a step lift it into a floor's edge, and would pass through a thin one in the end.
    const double pressed = in_->pressed();
    in_->held = pressed > kMostPressed && pressed > in_->was_pressed;
    if (in_->held) {
        in_->controller->warp(before);
        in_->controller->reset(&in_->terrain.world);
    } else {
        in_->was_pressed = pressed;
    }
}

std::array<double, 3> Stroll::foot() const {
    const btVector3& at = in_->ghost.getWorldTransform().getOrigin();
    const double metres = in_->terrain.metres;
    return {double{at.x()} / metres, (double{at.y()} - in_->half) / metres, double{at.z()} / metres};
}

bool Stroll::stands() const { return in_->controller->onGround() && !in_->held; }

} // namespace vic::upright
