// The colours of a plan: how often each occurs and what it means, which a click on it offers to change.
#pragma once

#include <QColor>
#include <QListView>
#include <QString>
#include <functional>
#include <optional>
#include <vector>

#include "level/plan.hpp"

class QComboBox;
class QRect;

namespace vic::app {

struct PlanKeyRow {
    quint32 id = 0; // its place among the keys
    QColor colour;
    qint64 count = 0; // pixels
    QString meaning;
    bool operator==(const PlanKeyRow&) const = default;
};

class PlanKeyModel;

class PlanKeys : public QListView {
    Q_OBJECT
  public:
    struct Meaning {
        QString text;
        std::optional<level::PlanKey> key; // none: it is chosen elsewhere
    };
    using Offer = std::function<std::vector<Meaning>(std::size_t key)>;
    PlanKeys(Offer offer, QWidget* parent);
    void setKeys(std::vector<PlanKeyRow> rows);
    [[nodiscard]] QRect field(std::size_t key) const; // where its meaning stands, in the viewport

  signals:
    void meant(std::size_t key, const vic::level::PlanKey& now);
    void elsewhere(std::size_t key, QWidget* at);

  private:
    void open(std::size_t key);
    Offer offer_;
    PlanKeyModel* model_;
};

} // namespace vic::app
