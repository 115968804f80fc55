// The props of a layer. A value: copying it is cheap, because they are kept per chunk of space, and chunks are shared
// until one changes. So the difference of two states costs what changed, and drawing what is in view.
#pragma once

#include <array>
#include <bitset>
#include <cstddef>
#include <cstdint>
#include <iterator>
#include <memory>
#include <utility>
#include <vector>

#include "base/geometry.hpp"
#include "level/prop.hpp"

namespace vic::level {

class Props {
    using Chunk = std::vector<Prop>; // by id
    struct Column {
        int x = 0;
        std::shared_ptr<const Chunk> props;
    };
    using Columns = std::vector<Column>; // by x
    struct Row {
        int y = 0;
        std::shared_ptr<const Columns> columns;
    };

  public:
    static constexpr int kSide = 512; // pixels of a chunk

    Props() = default;
    // Of several with one id the last counts.
    explicit Props(const std::vector<Prop>& props);

    [[nodiscard]] bool empty() const { return count_ == 0; }
    [[nodiscard]] std::size_t size() const { return count_; }
    // No prop is scaled by more per cent, and none is turned unless `any_turned`; after props went it may be less.
    [[nodiscard]] int most_scale() const { return most_scale_; }
    [[nodiscard]] bool any_turned() const { return any_turned_; }
    // Null where no prop has the id. Valid until the next change.
    [[nodiscard]] const Prop* find(PropId id) const;
    [[nodiscard]] std::vector<Prop> all() const; // by id, that is in the order in which they were placed

    void put(const Prop& prop); // in the place of the one with its id, if there is one
    bool remove(PropId id);     // false where there is none
    void clear();
    // change(Prop&) for each; ids may change, too.
    template <class Change>
    void change_all(Change change) {
        std::vector<Prop> props = all();
        for (Prop& p : props) change(p);
        *this = Props(props);
    }
    // Returns how many there were.
    template <class Goes>
    std::size_t remove_if(Goes goes) {
        std::vector<PropId> gone;
        for (const Prop& p : *this)
            if (goes(p)) gone.push_back(p.id);
        for (const PropId id : gone) remove(id);
        return gone.size();
    }

    // visit(prop) for those whose pivot is in the pixels, chunk by chunk.
    template <class Visit>
    void each_in(const Box& pixels, Visit visit) const {
        if (pixels.empty()) return;
        const Point first = chunk_of(pixels.corner());
        const Point last = chunk_of({pixels.right() - 1, pixels.bottom() - 1});
        for (const Row& row : rows_) {
            if (row.y < first.y || row.y > last.y) continue;
            for (const Column& column : *row.columns) {
                if (column.x < first.x || column.x > last.x) continue;
                for (const Prop& p : *column.props)
                    if (pixels.contains(p.at)) visit(p);
            }
        }
    }

    // visit(before, after): a prop that only one of them has comes with null for the other; so, twice, may one that has
    // moved. Chunks that they share are not looked at.
    template <class Visit>
    static void differences(const Props& before, const Props& after, Visit visit) {
        each_pair(
            before.rows_, after.rows_, &Row::y, [](const Row& r) { return r.columns.get(); },
            [&](const Row* a, const Row* b) {
                static const Columns none;
                each_pair(
                    a ? *a->columns : none, b ? *b->columns : none, &Column::x,
                    [](const Column& c) { return c.props.get(); },
                    [&](const Column* c, const Column* d) {
                        static const Chunk nothing;
                        each_pair(
                            c ? *c->props : nothing, d ? *d->props : nothing, &Prop::id,
                            [](const Prop& p) { return &p; },
                            [&](const Prop* p, const Prop* q) {
                                if (!p || !q || !(*p == *q)) visit(p, q);
                            });
                    });
            });
    }
    bool operator==(const Props& other) const;
    // Bytes that it holds and `other` does not share.
    [[nodiscard]] std::size_t unshared(const Props& other) const;

    // Chunk by chunk, from top to bottom and left to right.
    class Iterator {
      public:
        using iterator_category = std::forward_iterator_tag;
        using value_type = Prop;
        using difference_type = std::ptrdiff_t;
        using pointer = const Prop*;
        using reference = const Prop&;
        Iterator() = default;
        explicit Iterator(const std::vector<Row>* rows) : rows_(rows) {}
        reference operator*() const { return (*(*(*rows_)[row_].columns)[column_].props)[prop_]; }
        pointer operator->() const { return &**this; }
        Iterator& operator++() {
            const Columns& columns = *(*rows_)[row_].columns;
            if (++prop_ < columns[column_].props->size()) return *this;
            prop_ = 0;
            if (++column_ < columns.size()) return *this;
            column_ = 0;
            ++row_;
            return *this;
        }
        Iterator operator++(int) {
            Iterator was = *this;
            ++*this;
            return was;
        }
        bool operator==(const Iterator& other) const {
            const auto ended = [](const Iterator& i) { return !i.rows_ || i.row_ == i.rows_->size(); };
            if (ended(*this) || ended(other)) return ended(*this) == ended(other);
            return row_ == other.row_ && column_ == other.column_ && prop_ == other.prop_;
        }

      private:
        const std::vector<Row>* rows_ = nullptr;
        std::size_t row_ = 0, column_ = 0, prop_ = 0;
    };
    [[nodiscard]] Iterator begin() const { return Iterator(&rows_); }
    [[nodiscard]] Iterator end() const { return {}; }

  private:
    // Where the props of consecutive ids stand.
    static constexpr PropId kIds = 128;
    struct Places {
        std::array<Point, kIds> at{};
        std::bitset<kIds> there;
    };
    struct Bucket {
        PropId first = 0;
        std::shared_ptr<const Places> places;
    };

    static Point chunk_of(Point pixel) { return {floor_div(pixel.x, kSide), floor_div(pixel.y, kSide)}; }
    // visit(a, b) for the entries of two sorted lists that are not shared, null where one has none with the key.
    template <class List, class Key, class Shared, class Visit>
    static void each_pair(const List& a, const List& b, Key key, Shared shared, Visit visit) {
        auto i = a.begin();
        auto j = b.begin();
        while (i != a.end() || j != b.end()) {
            if (j == b.end() || (i != a.end() && (*i).*key < (*j).*key)) {
                visit(&*i++, nullptr);
            } else if (i == a.end() || (*j).*key < (*i).*key) {
                visit(nullptr, &*j++);
            } else {
                if (shared(*i) != shared(*j)) visit(&*i, &*j);
                ++i;
                ++j;
            }
        }
    }
    [[nodiscard]] const Point* place_of(PropId id) const;
    void take_out(PropId id, Point at);

    std::vector<Row> rows_;      // by y; none is empty
    std::vector<Bucket> places_; // by id; none is empty
    std::size_t count_ = 0;
    int most_scale_ = 100;
    bool any_turned_ = false;
};

} // namespace vic::level
