// A list of rows that a view shows: told anew as a whole after every change, it tells the view what became different.
#pragma once

#include <QAbstractListModel>
#include <QModelIndex>
#include <algorithm>
#include <cstddef>
#include <utility>
#include <vector>

namespace vic::app {

// A Row has a quint32 `id` and operator==. Rows with the same id are taken for the same thing, so that what is chosen
// and where the view stands stay when rows come and go.
template <class Row>
class RowModel : public QAbstractListModel {
  public:
    using QAbstractListModel::QAbstractListModel;

    [[nodiscard]] const std::vector<Row>& rows() const { return rows_; }
    [[nodiscard]] const Row& row(const QModelIndex& index) const {
        return rows_[static_cast<std::size_t>(index.row())];
    }
    [[nodiscard]] QModelIndex indexOf(quint32 id) const {
        const auto at = std::find_if(rows_.begin(), rows_.end(), [id](const Row& r) { return r.id == id; });
        return at == rows_.end() ? QModelIndex() : index(static_cast<int>(at - rows_.begin()));
    }
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(rows_.size());
    }

    // Costs what the rows are, and tells of the rows between the equal ones at the front and at the end.
    void setRows(std::vector<Row> next) {
        const auto same = [](const Row& a, const Row& b) { return a.id == b.id; };
        const int least = static_cast<int>(std::min(rows_.size(), next.size()));
        const int front = static_cast<int>(
            std::mismatch(rows_.begin(), rows_.begin() + least, next.begin(), same).first - rows_.begin());
        int back = 0;
        while (back < least - front && same(*(rows_.end() - 1 - back), *(next.end() - 1 - back))) ++back;
        const int gone = static_cast<int>(rows_.size()) - front - back;
        const int come = static_cast<int>(next.size()) - front - back;
        if (gone > 0) {
            beginRemoveRows({}, front, front + gone - 1);
            rows_.erase(rows_.begin() + front, rows_.begin() + front + gone);
            endRemoveRows();
        }
        if (come > 0) {
            beginInsertRows({}, front, front + come - 1);
            rows_.insert(rows_.begin() + front, next.begin() + front, next.begin() + front + come);
            endInsertRows();
        }
        for (int i = 0; i < static_cast<int>(next.size()); ++i) {
            const auto at = static_cast<std::size_t>(i);
            if (rows_[at] == next[at]) continue;
            rows_[at] = std::move(next[at]);
            emit dataChanged(index(i), index(i));
        }
    }

  private:
    std::vector<Row> rows_;
};

} // namespace vic::app
