#include "level/props.hpp"

#include <algorithm>

namespace vic::level {

namespace {

// What this value alone holds is changed in its place; what it shares is copied first.
template <class T>
T& own(std::shared_ptr<const T>& shared) {
    if (!shared)
        shared = std::make_shared<T>();
    else if (shared.use_count() != 1)
        shared = std::make_shared<T>(*shared);
    return const_cast<T&>(*shared); // made by make_shared<T>, so it is not const
}

// The entry with the key, or where it belongs.
template <class List, class Key, class Value>
auto place_in(List& list, Key key, Value value) {
    return std::lower_bound(list.begin(), list.end(), value,
                            [&](const auto& entry, Value v) { return entry.*key < v; });
}

} // namespace

Props::Props(const std::vector<Prop>& props) {
    for (const Prop& p : props) put(p);
}

const Point* Props::place_of(PropId id) const {
    const PropId first = id / kIds * kIds;
    const auto bucket = place_in(places_, &Bucket::first, first);
    if (bucket == places_.end() || bucket->first != first || !bucket->places->there[id - first]) return nullptr;
    return &bucket->places->at[id - first];
}

const Prop* Props::find(PropId id) const {
    const Point* at = place_of(id);
    if (!at) return nullptr;
    const Point chunk = chunk_of(*at);
    const auto row = place_in(rows_, &Row::y, chunk.y);
    const auto column = place_in(*row->columns, &Column::x, chunk.x);
    return &*place_in(*column->props, &Prop::id, id);
}

std::vector<Prop> Props::all() const {
    std::vector<Prop> out(begin(), end());
    std::sort(out.begin(), out.end(), [](const Prop& a, const Prop& b) { return a.id < b.id; });
    return out;
}

void Props::put(const Prop& prop) {
    most_scale_ = std::max<int>(most_scale_, prop.look.scale);
    any_turned_ = any_turned_ || prop.look.turn != 0;
    const Point chunk = chunk_of(prop.at);
    if (const Point* was = place_of(prop.id); was && chunk_of(*was) != chunk) take_out(prop.id, *was);

    auto row = place_in(rows_, &Row::y, chunk.y);
    if (row == rows_.end() || row->y != chunk.y) row = rows_.insert(row, Row{chunk.y, nullptr});
    Columns& columns = own(row->columns);
    auto column = place_in(columns, &Column::x, chunk.x);
    if (column == columns.end() || column->x != chunk.x) column = columns.insert(column, Column{chunk.x, nullptr});
    Chunk& props = own(column->props);
    auto at = place_in(props, &Prop::id, prop.id);
    if (at != props.end() && at->id == prop.id) {
        *at = prop;
    } else {
        props.insert(at, prop);
        ++count_;
    }

    const PropId first = prop.id / kIds * kIds;
    auto bucket = place_in(places_, &Bucket::first, first);
    if (bucket == places_.end() || bucket->first != first) bucket = places_.insert(bucket, Bucket{first, nullptr});
    Places& places = own(bucket->places);
    places.at[prop.id - first] = prop.at;
    places.there[prop.id - first] = true;
}

// Out of its chunk; the places of ids are left to the caller.
void Props::take_out(PropId id, Point place) {
    const Point chunk = chunk_of(place);
    const auto row = place_in(rows_, &Row::y, chunk.y);
    Columns& columns = own(row->columns);
    const auto column = place_in(columns, &Column::x, chunk.x);
    Chunk& props = own(column->props);
    props.erase(place_in(props, &Prop::id, id));
    --count_;
    if (!props.empty()) return;
    columns.erase(column);
    if (columns.empty()) rows_.erase(row);
}

bool Props::remove(PropId id) {
    const Point* at = place_of(id);
    if (!at) return false;
    take_out(id, *at);
    const PropId first = id / kIds * kIds;
    const auto bucket = place_in(places_, &Bucket::first, first);
    Places& places = own(bucket->places);
    places.there[id - first] = false;
    if (places.there.none()) places_.erase(bucket);
    return true;
}

void Props::clear() { *this = {}; }

bool Props::operator==(const Props& other) const {
    if (count_ != other.count_) return false;
    bool same = true;
    differences(*this, other, [&](const Prop*, const Prop*) { same = false; });
    return same;
}

std::size_t Props::unshared(const Props& other) const {
    std::size_t bytes = rows_.size() * sizeof(Row) + places_.size() * sizeof(Bucket);
    each_pair(
        rows_, other.rows_, &Row::y, [](const Row& r) { return r.columns.get(); },
        [&](const Row* row, const Row* there) {
            if (!row) return;
            static const Columns none;
            bytes += row->columns->size() * sizeof(Column);
            each_pair(
                *row->columns, there ? *there->columns : none, &Column::x,
                [](const Column& c) { return c.props.get(); },
                [&](const Column* column, const Column*) {
                    if (column) bytes += column->props->capacity() * sizeof(Prop);
                });
        });
    each_pair(
        places_, other.places_, &Bucket::first, [](const Bucket& b) { return b.places.get(); },
        [&](const Bucket* bucket, const Bucket*) {
            if (bucket) bytes += sizeof(Places);
        });
    return bytes;
}

} // namespace vic::level
