// What an area follows from, term by term: a row for each.
#pragma once

#include <QString>
#include <QWidget>
#include <functional>
#include <string>
#include <vector>

#include "app/parts/binding.hpp"
#include "level/planting.hpp"

class QVBoxLayout;

namespace vic::app {

class Session;

class TermRows : public QWidget {
    Q_OBJECT
  public:
    using Terms = std::vector<level::AreaTerm>;
    using Get = std::function<const Terms&()>;
    using Change = std::function<void(const std::function<void(Terms&)>&, const std::string& merge)>;
    // `passes`: how many earlier passes it may look at. `prefix` begins the names of its fields.
    TermRows(Session& session, const QString& prefix, int passes, Get get, Change change, QWidget* parent);
    void refresh();

  private:
    void rebuild();
    QWidget* row(std::size_t index);
    QWidget* reaches(std::size_t index, QWidget* parent);
    [[nodiscard]] std::vector<Bindings::Choice> choices(bool adds) const;

    Session& session_;
    QString prefix_;
    int passes_;
    Get get_;
    Change change_;
    QVBoxLayout* rows_;
    std::vector<level::AreaOf> shown_;
    Bindings lines_, fields_;
};

} // namespace vic::app
