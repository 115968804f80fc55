#include "player/parcel_view.hpp"

#include <QDir>
#include <QKeyEvent>
#include <QPainter>
#include <QPainterPath>
#include <QTransform>
#include <algorithm>
#include <cmath>
#include <map>
#include <string>
#include <tuple>

#include "base/geometry.hpp"
#include "player/backdrop_picture.hpp"

namespace vic::player {

namespace {

bool same(vicinum::Colour a, vicinum::Colour b) { return a.r == b.r && a.g == b.g && a.b == b.b && a.a == b.a; }

} // namespace

struct ParcelView::Game {
    explicit Game(vicinum::Level l) : level(std::move(l)), world(level) {
        atlas = QImage(QString::fromStdString((level.folder / level.atlas).string()))
                    .convertToFormat(QImage::Format_ARGB32_Premultiplied);
        if (atlas.isNull())
            throw std::runtime_error((level.folder / level.atlas).string() + ": the atlas cannot be read");
        for (const vicinum::Tile& tile : level.tiles) highest = std::max(highest, tile.atlas.h);
        for (const vicinum::Tile& tile : level.tiles)
            if (tile.is_block())
                reach = std::max({reach, tile.cells.x + std::abs(tile.offset.x) / 16 + 1,
                                  tile.cells.y + std::abs(tile.offset.y) / 16 + 1});
        for (const vicinum::PropKind& kind : level.prop_kinds)
            for (const vicinum::Piece& piece : kind.pieces) {
                QImage image(QString::fromStdString((level.folder / piece.file).string()));
                if (image.isNull())
                    throw std::runtime_error((level.folder / piece.file).string() + ": the picture cannot be read");
                pieces[piece.file] = image.convertToFormat(QImage::Format_ARGB32_Premultiplied);
            }
        for (const vicinum::Layer& layer : level.layers) {
            if (layer.image.empty()) continue;
            QImage image(QString::fromStdString((level.folder / layer.image).string()));
            if (image.isNull())
                throw std::runtime_error((level.folder / layer.image).string() + ": the backdrop cannot be read");
            backdrops.emplace(layer.id, BackdropPicture(image, layer));
        }
    }
    static QImage tinted(const QImage& picture, vicinum::Colour tint) {
        QImage image = picture.convertToFormat(QImage::Format_ARGB32);
        for (int y = 0; y < image.height(); ++y) {
            auto* line = reinterpret_cast<QRgb*>(image.scanLine(y));
            for (int x = 0; x < image.width(); ++x)
                line[x] = qRgba(qRed(line[x]) * tint.r / 255, qGreen(line[x]) * tint.g / 255,
                                qBlue(line[x]) * tint.b / 255, qAlpha(line[x]) * tint.a / 255);
        }
        return image;
    }
    // The atlas in the colours of a layer, made when first asked for.
    const QImage& atlas_of(const vicinum::Layer& layer) {
        const QRgb key = qRgb(layer.tint.r, layer.tint.g, layer.tint.b);
        if (key == qRgb(255, 255, 255)) return atlas;
        const auto known = atlases.find(key);
        if (known != atlases.end()) return known->second;
        return atlases[key] = tinted(atlas, layer.tint).convertToFormat(QImage::Format_ARGB32_Premultiplied);
    }
    struct Standing {
        QImage image;
        QRect box; // where the prop stands at 0, 0
    };
    // As it is seen that long after the beginning. Valid until the next call.
    const Standing& standing_of(const vicinum::Prop& prop, long long ms);
    [[nodiscard]] long long now() const { return static_cast<long long>(world.ticks()) * 1000 / walk::kTicks; }
    static constexpr std::size_t kMostLooks = 4096;
    using LookKey = std::tuple<std::size_t, bool, double, double, QRgb, QRgb, int>; // last: where in the atlas
    std::map<LookKey, Standing> looks;                                              // of props
    vicinum::Level level; // stays where it is: the world points into it
    walk::World world;
    QImage atlas;
    int highest = 0;                // pixels of the highest picture of a tile
    int reach = 0;                  // cells that blocks can be seen beyond the one where they lie
    std::map<QRgb, QImage> atlases; // tinted ones
    std::map<std::string, QImage> pieces;
    std::map<std::uint32_t, BackdropPicture> backdrops; // by the layer's id
};

ParcelView::ParcelView(QWidget* parent) : QWidget(parent) {
    setObjectName("parcelView");
    setAccessibleName(tr("Walk"));
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, 240);
}

ParcelView::~ParcelView() = default;

void ParcelView::load(const QString& dir, bool keepPlace) {
    auto fresh = std::make_unique<Game>(vicinum::load(dir.toStdString()));
    // A try that runs goes on in the new level as fast as it was; it can no longer be kept as it began in the old one.
    const bool goesOn = keepPlace && game_ && game_->level.id == fresh->level.id;
    if (goesOn) fresh->world.take_over(game_->world);
    game_ = std::move(fresh);
    if (goesOn) centre_ = game_->world.foot();
    if (goesOn)
        recorder_ = std::make_unique<walk::Recorder>(game_->world.foot());
    else
        begin();
    said_ = false;
    update();
}

void ParcelView::unload() {
    setRunning(false);
    game_.reset();
    update();
}

const vicinum::Level& ParcelView::level() const { return game_->level; }
const walk::World& ParcelView::world() const { return game_->world; }

void ParcelView::setRunning(bool on) {
    input_ = {};
    behind_ = 0;
    if (on) {
        clock_.start();
        timer_.start(1000 / walk::kTicks / 2, Qt::PreciseTimer, this);
    } else {
        timer_.stop();
    }
}

void ParcelView::restart() {
    if (!game_) return;
    keepTrail();
    if (game_->world.ticks() > 0) last_ = {game_->world.happenings(), recorder_->way()};
    game_->world = walk::World(game_->level);
    begin();
    said_ = false;
    update();
}

void ParcelView::begin() {
    if (beginning_) game_->world.place(*beginning_);
    look_.reset();
    recorder_ = std::make_unique<walk::Recorder>(game_->world.foot());
    centre_ = game_->world.foot();
}

void ParcelView::keepTrail() {
    constexpr std::size_t most = 3;
    if (!recorder_ || recorder_->way().size() < 4) return;
    trails_.push_back(recorder_->way());
    if (trails_.size() > most) trails_.erase(trails_.begin());
}

void ParcelView::lookAt(std::optional<walk::Position> place) {
    look_ = place;
    update();
}

void ParcelView::setOutlines(bool on) {
    outlines_ = on;
    update();
}

void ParcelView::step() {
    if (!game_) return;
    lead();
    game_->world.tick(input_);
    recorder_->note(input_, game_->world.foot());
    centre_ = walk::followed(game_->level, centre_, game_->world.foot());
    const bool exit = game_->world.reached_exit();
    const bool fell = game_->world.fell_out();
    if ((exit || fell) && !said_) {
        said_ = true;
        emit ended(exit);
    }
    const auto side = game_->world.left_by();
    if (fell || side) {
        restart();
    }
    emit ticked();
    if (side) emit left(*side);
}

void ParcelView::timerEvent(QTimerEvent* event) {
    if (event->timerId() != timer_.timerId()) return QWidget::timerEvent(event);
    // The physics keeps its own pace, whatever the screen does; after a hang at most a quarter of a second is caught
    // up.
    constexpr qint64 tick = 1000000000LL / walk::kTicks;
    behind_ = std::min<qint64>(behind_ + clock_.nsecsElapsed(), 15 * tick);
    clock_.start();
    bool any = false;
    while (behind_ >= tick) {
        behind_ -= tick;
        step();
        any = true;
    }
    if (any) update();
}

// What lies in a cell, blocks and what is turned included.
void ParcelView::paintCell(QPainter& p, const vicinum::Layer& layer, const QImage& atlas, QPoint at) {
    const vicinum::Level& level = game_->level;
    const vicinum::Cell cell = layer.cell(at.x(), at.y());
    const vicinum::Tile& tile = level.tiles[cell.tile()];
    const long long now = game_->now();
    const vicinum::Rect a = vicinum::picture_at(level.tiles, cell.tile(), now);
    if (level.isometric || tile.is_block()) {
        const vicinum::Rect r = level.picture_place(layer, at.x(), at.y(), cell);
        const QRect place(r.x, r.y, r.w, r.h);
        if (cell.mirrored())
            p.drawImage(place, atlas.copy(a.x, a.y, a.w, a.h).mirrored(true, false));
        else
            p.drawImage(place, atlas, QRect(a.x, a.y, a.w, a.h));
        return;
    }
    const vicinum::Vec c = layer.cell_size;
    const QPoint corner(at.x() * c.x, at.y() * c.y);
    if (cell.quarters() == 0 && !cell.mirrored()) {
        p.drawImage(QRect(corner, QSize(c.x, c.y)), atlas, QRect(a.x, a.y, a.w, a.h));
        return;
    }
    p.save();
    p.translate(corner + QPointF(c.x / 2.0, c.y / 2.0));
    p.rotate(90 * cell.quarters());
    if (cell.mirrored()) p.scale(-1, 1);
    p.drawImage(QRectF(-c.x / 2.0, -c.y / 2.0, c.x, c.y), atlas, QRectF(a.x, a.y, a.w, a.h));
    p.restore();
}

// With `uprights` what stands up is put there instead, to be painted in its turn.
void ParcelView::paintLayer(QPainter& p, std::size_t index, const vicinum::Rect& view, std::vector<Upright>* uprights) {
    const vicinum::Level& level = game_->level;
    const vicinum::Layer& layer = level.layers[index];
    if (!layer.shown) return;
    // What goes along by half is seen as if the frame had moved by half; on whole pixels of the game.
    const QPoint aside(static_cast<int>(std::lround(view.x * (1 - layer.parallax_x))) + layer.shift.x,
                       static_cast<int>(std::lround(view.y * (1 - layer.parallax_y))) + layer.shift.y);
    const vicinum::Rect frame{view.x - aside.x(), view.y - aside.y(), view.w, view.h};
    const QImage& atlas = game_->atlas_of(layer);
    const auto upright = [&](QPoint at) {
        const double foot = level.foot_line(layer, at.x(), at.y(), layer.cell(at.x(), at.y()));
        return Upright{foot, 0, index, at.x(), [=, this, &p, &layer, &atlas] {
                           p.save();
                           p.translate(aside);
                           p.setOpacity(layer.opacity);
                           paintCell(p, layer, atlas, at);
                           p.restore();
                       }};
    };
    p.save();
    p.translate(aside);
    p.setOpacity(layer.opacity);
    if (layer.kind == "backdrop") {
        // It goes on beyond the level, whose sides the frame does not pass.
        const vicinum::Rect all = level.bounds();
        const QRect part = QRect(all.x, all.y, all.w, all.h).intersected(QRect(view.x, view.y, view.w, view.h));
        const auto found = game_->backdrops.find(layer.id);
        if (found != game_->backdrops.end() && !part.isEmpty())
            p.drawImage(part.topLeft() - aside, found->second.seen(part.translated(-aside)));
    } else if (layer.kind == "tiles" && level.isometric) {
        for (const QPoint& at : aslantIn(layer, frame)) {
            if (uprights && level.rises(layer, layer.cell(at.x(), at.y())))
                uprights->push_back(upright(at));
            else
                paintCell(p, layer, atlas, at);
        }
    } else if (layer.kind == "tiles") {
        const vicinum::Vec c = layer.cell_size;
        const vicinum::Vec last{layer.box.x + layer.box.w - 1, layer.box.y + layer.box.h - 1};
        const int x0 = std::max(0, floor_div(frame.x, c.x)), x1 = std::min(last.x, (frame.x + frame.w) / c.x);
        const int y0 = std::max(0, floor_div(frame.y, c.y)), y1 = std::min(last.y, (frame.y + frame.h) / c.y);
        struct Block {
            int foot;
            QPoint cell;
        };
        std::vector<Block> blocks;
        const int reach = game_->reach;
        for (int y = std::max(0, y0 - reach); y <= std::min(last.y, y1 + reach); ++y)
            for (int x = std::max(0, x0 - reach); x <= std::min(last.x, x1 + reach); ++x) {
                const vicinum::Cell cell = layer.cell(x, y);
                if (cell.empty()) continue;
                const vicinum::Tile& tile = level.tiles[cell.tile()];
                if (!tile.is_block() && (x < x0 || x > x1 || y < y0 || y > y1)) continue;
                if (uprights && level.rises(layer, cell))
                    uprights->push_back(upright({x, y}));
                else if (tile.is_block())
                    blocks.push_back({y - tile.pivot.y + tile.cells.y, {x, y}});
                else
                    paintCell(p, layer, atlas, {x, y});
            }
        std::sort(blocks.begin(), blocks.end(), [](const Block& a, const Block& b) {
            return std::tuple(a.foot, a.cell.x(), a.cell.y()) < std::tuple(b.foot, b.cell.x(), b.cell.y());
        });
        for (const Block& block : blocks) paintCell(p, layer, atlas, block.cell);
    } else if (uprights) {
        for (const vicinum::Prop& prop : layer.props)
            uprights->push_back({level.foot_line(layer, prop), 1, index, prop.at.x, [=, this, &p, &layer, &prop] {
                                     p.save();
                                     p.translate(aside);
                                     p.setOpacity(layer.opacity);
                                     paintProp(p, layer, prop, frame);
                                     p.restore();
                                 }});
    } else {
        for (const vicinum::Prop& prop : layer.props) paintProp(p, layer, prop, frame);
    }
    p.restore();
}

namespace {

QImage coloured(const QImage& image, const vicinum::Prop& prop) {
    if (same(prop.times, {255, 255, 255, 255}) && same(prop.plus, {0, 0, 0, 255})) return image;
    QImage out = image.convertToFormat(QImage::Format_ARGB32);
    for (int y = 0; y < out.height(); ++y) {
        auto* row = reinterpret_cast<QRgb*>(out.scanLine(y));
        for (int x = 0; x < out.width(); ++x) {
            const auto part = [](int v, int times, int plus) { return std::min(255, (v * times + 127) / 255 + plus); };
            row[x] =
                qRgba(part(qRed(row[x]), prop.times.r, prop.plus.r), part(qGreen(row[x]), prop.times.g, prop.plus.g),
                      part(qBlue(row[x]), prop.times.b, prop.plus.b), qAlpha(row[x]) * prop.times.a / 255);
        }
    }
    return out.convertToFormat(QImage::Format_ARGB32_Premultiplied);
}

// As it stands: each pixel of the level shows that of the picture in which its middle lies. What lies just between two
// counts to the right and lower one.
QImage standing(const QImage& image, const vicinum::PropKind& kind, const vicinum::Prop& prop, QRect& box) {
    const vicinum::Place o = prop.in_level(kind, {0, 0}), x = prop.in_level(kind, {1, 0}),
                         y = prop.in_level(kind, {0, 1});
    const QTransform to(x.x - o.x, x.y - o.y, y.x - o.x, y.y - o.y, o.x, o.y);
    const QRectF area = to.mapRect(QRectF(0, 0, image.width(), image.height()));
    constexpr double kNudge = 1e-7;
    const auto first = [](double edge) { return static_cast<int>(std::ceil(edge - 0.5 - kNudge)); };
    box =
        QRect(QPoint(first(area.left()), first(area.top())), QPoint(first(area.right()) - 1, first(area.bottom()) - 1));
    if (box.width() < 1) box.setWidth(1);
    if (box.height() < 1) box.setHeight(1);
    QImage out(box.size(), QImage::Format_ARGB32_Premultiplied);
    out.fill(Qt::transparent);
    if (kind.smooth) {
        QPainter p(&out);
        p.setRenderHint(QPainter::SmoothPixmapTransform);
        p.setTransform(to * QTransform::fromTranslate(-box.x(), -box.y()));
        p.drawImage(QPointF(0, 0), image);
        return out;
    }
    const QTransform back = to.inverted();
    for (int py = 0; py < box.height(); ++py)
        for (int px = 0; px < box.width(); ++px) {
            const QPointF at = back.map(QPointF(box.x() + px + 0.5 + kNudge, box.y() + py + 0.5 + kNudge));
            const QPoint from(static_cast<int>(std::floor(at.x())), static_cast<int>(std::floor(at.y())));
            if (image.rect().contains(from)) out.setPixel(px, py, image.pixel(from));
        }
    return out;
}

} // namespace

// The picture of a prop as it stands, made when it is first seen.
const ParcelView::Game::Standing& ParcelView::Game::standing_of(const vicinum::Prop& prop, long long ms) {
    const auto number = [](vicinum::Colour c) { return qRgba(c.r, c.g, c.b, c.a); };
    const vicinum::PropKind& kind = level.prop_kinds[prop.kind];
    const vicinum::Rect a = kind.picture_at(ms);
    const LookKey key{prop.kind, prop.mirrored, prop.turn, prop.scale, number(prop.times), number(prop.plus), a.x};
    if (const auto known = looks.find(key); known != looks.end()) return known->second;
    if (looks.size() >= kMostLooks) looks.clear();
    QImage whole = kind.pieces.empty() ? atlas.copy(a.x, a.y, a.w, a.h) : QImage(a.w, a.h, atlas.format());
    if (!kind.pieces.empty()) {
        whole.fill(Qt::transparent);
        QPainter p(&whole);
        for (const vicinum::Piece& piece : kind.pieces) p.drawImage(piece.at.x, piece.at.y, pieces.at(piece.file));
    }
    vicinum::Prop here = prop;
    here.at = {};
    Standing out;
    out.image = standing(coloured(whole, prop), kind, here, out.box);
    return looks.emplace(key, std::move(out)).first->second;
}

void ParcelView::paintProp(QPainter& p, const vicinum::Layer& layer, const vicinum::Prop& prop,
                           const vicinum::Rect& frame) {
    // The layer's tint comes after its own.
    const auto both = [](vicinum::Colour c, vicinum::Colour tint) {
        const auto part = [](int a, int b) { return static_cast<std::uint8_t>((a * b + 127) / 255); };
        return vicinum::Colour{part(c.r, tint.r), part(c.g, tint.g), part(c.b, tint.b), c.a};
    };
    vicinum::Prop tinted = prop;
    tinted.times = both(prop.times, layer.tint);
    tinted.plus = both(prop.plus, layer.tint);
    const Game::Standing& picture = game_->standing_of(tinted, game_->now());
    const QRect box = picture.box.translated(prop.at.x, prop.at.y);
    if (box.intersects(QRect(frame.x, frame.y, frame.w, frame.h))) p.drawImage(box.topLeft(), picture.image);
}

// The cells that are seen, from the back: what stands further down on the screen stands in front.
std::vector<QPoint> ParcelView::aslantIn(const vicinum::Layer& layer, const vicinum::Rect& frame) const {
    const vicinum::Level& level = game_->level;
    struct Piece {
        int depth, x, y;
    };
    std::vector<Piece> pieces;
    // Whatever is seen stands in a cell between the frame's corners, or below them by as much as the highest tile.
    // In cells of the layer, which may have its own.
    const auto at = [&](int px, int py) {
        const auto [x, y] = level.place(px, py);
        const double grain = double(level.cell.x) / layer.cell_size.x;
        return std::pair(x * grain, y * grain);
    };
    const int above = game_->highest;
    const int x0 = static_cast<int>(at(frame.x, frame.y).first) - game_->reach - 2;
    const int x1 = static_cast<int>(at(frame.x + frame.w, frame.y + frame.h + above).first) + game_->reach + 2;
    const int y0 = static_cast<int>(at(frame.x + frame.w, frame.y).second) - game_->reach - 2;
    const int y1 = static_cast<int>(at(frame.x, frame.y + frame.h + above).second) + game_->reach + 2;
    const QRect seen(frame.x, frame.y, frame.w, frame.h);
    for (int y = std::max({0, y0, layer.box.y}); y <= std::min(y1, layer.box.y + layer.box.h - 1); ++y)
        for (int x = std::max({0, x0, layer.box.x}); x <= std::min(x1, layer.box.x + layer.box.w - 1); ++x) {
            const vicinum::Cell cell = layer.cell(x, y);
            if (cell.empty()) continue;
            const vicinum::Rect r = level.picture_place(layer, x, y, cell);
            if (!seen.intersects(QRect(r.x, r.y, r.w, r.h))) continue;
            const vicinum::Rect foot = level.foot_cells(x, y, cell);
            pieces.push_back({foot.x + foot.w + foot.y + foot.h, x, y});
        }
    std::sort(pieces.begin(), pieces.end(),
              [](const Piece& a, const Piece& b) { return std::tuple(a.depth, a.x) < std::tuple(b.depth, b.x); });
    std::vector<QPoint> out;
    for (const Piece& piece : pieces) out.emplace_back(piece.x, piece.y);
    return out;
}

void ParcelView::paintOutlines(QPainter& p) {
    const vicinum::Level& level = game_->level;
    const auto at = [&](vicinum::Vec v) {
        const auto [x, y] = level.pixel(double(v.x) / vicinum::kUnit, double(v.y) / vicinum::kUnit);
        return QPointF(x, y);
    };
    p.setBrush(Qt::NoBrush);
    for (const bool under : {true, false}) {
        p.setPen(QPen(under ? QColor("#FBF8F1") : QColor("#22302D"), under ? 1.6 : 0.8));
        for (const auto& o : level.outlines) {
            QPolygonF polygon;
            for (const auto v : o.points) polygon << at(v);
            p.drawPolygon(polygon);
        }
    }
    p.setPen(QPen(QColor("#22302D"), 0.8, Qt::DashLine));
    for (const auto& e : level.one_way) p.drawLine(at(e.from), at(e.to));
}

// The figure of an actor, as a prop that stands there.
void ParcelView::paintActor(QPainter& p, std::size_t kind, vicinum::Vec at, bool mirrored, bool moves) {
    vicinum::Prop figure;
    figure.kind = kind;
    figure.at = at;
    figure.mirrored = mirrored;
    const Game::Standing& picture = game_->standing_of(figure, moves ? game_->now() : 0);
    p.drawImage(picture.box.translated(at.x, at.y).topLeft(), picture.image);
}

void ParcelView::paintWalker(QPainter& p) {
    const vicinum::Level& level = game_->level;
    const walk::Position foot = game_->world.foot();
    if (input_.left != input_.right) looksLeft_ = input_.left;
    if (input_.towards >= 0) looksLeft_ = input_.towards > 90 && input_.towards < 270;
    const bool walks = game_->world.grounded() &&
                       (input_.left || input_.right || input_.towards >= 0 || (!level.from_the_side && (input_.up || input_.down)));
    for (const vicinum::Mark& m : level.marks)
        if (m.kind == "start" && m.figure) {
            const auto [x, y] = level.pixel(foot.x, foot.y);
            return paintActor(p, *m.figure, {static_cast<int>(std::floor(x)), static_cast<int>(std::lround(y)) - 1},
                              looksLeft_, walks);
        }
    // The walker, on whole pixels of the game.
    const double w = double(level.walker.width) / vicinum::kUnit * level.cell.x;
    const double h =
        double(level.walker.height) / vicinum::kUnit * (level.isometric ? level.cell.x / 2.0 : level.cell.y);
    const auto [fx, fy] = level.pixel(foot.x, foot.y);
    const QRectF box(std::round(fx - w / 2), std::round(fy - h), w, h);
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const double head = h * 0.15;
    const QPointF top(box.center().x(), box.top() + head);
    const double hip = box.top() + h * 0.58;
    const bool goes = input_.left || input_.right || input_.up || input_.down || input_.towards >= 0;
    const double stride = game_->world.grounded() && goes
                              ? std::sin(game_->world.ticks() * 0.35) * w * 0.3
                              : w * 0.25;
    for (const bool under : {true, false}) {
        p.setPen(QPen(under ? QColor("#FBF8F1") : QColor("#C2452D"), std::max(1.2, w * 0.16) + (under ? 1.4 : 0),
                      Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        p.setBrush(under ? QColor("#FBF8F1") : QColor("#C2452D"));
        p.drawEllipse(top, head * 0.7, head * 0.7);
        p.drawLine(QPointF(top.x(), top.y() + head), QPointF(top.x(), hip));
        p.drawLine(QPointF(box.left() + w * 0.15, box.top() + h * 0.42),
                   QPointF(box.right() - w * 0.15, box.top() + h * 0.42));
        p.drawLine(QPointF(top.x(), hip), QPointF(top.x() - stride, box.bottom() - 0.6));
        p.drawLine(QPointF(top.x(), hip), QPointF(top.x() + stride, box.bottom() - 0.6));
    }
    p.restore();
}

// The frame as large as it fits by whole steps, in the middle.
ParcelView::Shown ParcelView::shown() const {
    const vicinum::Level& level = game_->level;
    Shown out;
    out.zoom = std::max(1, std::min(width() / level.frame.x, height() / level.frame.y));
    out.frame = walk::frame_around(level, look_.value_or(centre_), level.frame);
    out.corner = {(width() - level.frame.x * out.zoom) / 2, (height() - level.frame.y * out.zoom) / 2};
    return out;
}

void ParcelView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), QColor("#121816"));
    if (!game_) return;
    const vicinum::Level& level = game_->level;
    const walk::Position foot = game_->world.foot();
    const auto [zoom, corner, frame] = shown();
    p.setClipRect(QRect(corner, QSize(frame.w, frame.h) * zoom));
    p.translate(corner);
    p.scale(zoom, zoom);
    p.translate(-frame.x, -frame.y);
    const vicinum::Rect all = level.bounds();
    // Aslant the ground goes on around the level: only its diamond has anything on it.
    if (level.ground.a == 0) {
        // Nothing lies behind all: what the engine draws there.
    } else if (level.isometric)
        p.fillRect(QRect(frame.x, frame.y, frame.w, frame.h), QColor(level.ground.r, level.ground.g, level.ground.b));
    else
        p.fillRect(QRect(all.x, all.y, all.w, all.h), QColor(level.ground.r, level.ground.g, level.ground.b));
    const int plane = level.plane;
    bool walked = false;
    std::vector<const vicinum::Mark*> actors; // but for the walker
    for (const vicinum::Mark& m : level.marks)
        if (m.figure && m.kind != "start") actors.push_back(&m);
    for (std::size_t i = 0; i <= level.layers.size(); ++i) {
        const std::size_t end = level.run_by_feet(i);
        const bool within = plane >= static_cast<int>(i) && plane <= static_cast<int>(end);
        if (end > i) {
            std::vector<Upright> uprights;
            for (std::size_t k = i; k < end; ++k) paintLayer(p, k, frame, &uprights);
            if (within) {
                uprights.push_back({level.foot_line(foot.x, foot.y), 2, 0, 0, [&] { paintWalker(p); }});
                for (const vicinum::Mark* m : actors) {
                    const vicinum::Vec at = level.stand_of(*m);
                    const auto [x, y] = level.place(at.x + 0.5, at.y + 1);
                    uprights.push_back({level.foot_line(x, y), 1, 0, at.x,
                                        [this, &p, m, at] { paintActor(p, *m->figure, at, false, true); }});
                }
            }
            std::stable_sort(uprights.begin(), uprights.end(), [](const Upright& a, const Upright& b) {
                return std::tuple(a.foot, a.kind, a.layer, a.x) < std::tuple(b.foot, b.kind, b.layer, b.x);
            });
            for (const Upright& one : uprights) one.paint();
            i = end - 1;
            walked = walked || within;
            continue;
        }
        if (static_cast<int>(i) == plane && !walked) {
            for (const vicinum::Mark* m : actors) paintActor(p, *m->figure, level.stand_of(*m), false, true);
            paintWalker(p);
        }
        if (i < level.layers.size()) paintLayer(p, i, frame);
    }
    if (outlines_) paintOutlines(p);
    paintTrails(p);
}

} // namespace vic::player
