#include "app/bound/movers_grid.hpp"

#include <QCheckBox>
#include <QGridLayout>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <set>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "edit/areas.hpp"
#include "level/standing.hpp"
#include "outline/movers.hpp"

namespace vic::app {

MoversGrid::MoversGrid(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    addHeading(column, tr("Who is stopped"));
    table_ = new QWidget(this);
    column->addWidget(table_);
    hint_ = label({}, "quiet", this);
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    add_ = toolButton(this, "moverAdd", {}, tr("Add a mover"), {}, "link");
    describe(add_, tr("Add a mover"), {},
             tr("One who is stopped by some collision classes only: a shot, a wheel, one who can fly"));
    connect(add_, &QToolButton::clicked, this, &MoversGrid::addMover);
    column->addWidget(add_);
}

void MoversGrid::addMover() {
    level::Project p = session_.project();
    const char* const names[] = {QT_TR_NOOP("Walkers"), QT_TR_NOOP("Shots"), QT_TR_NOOP("Flyers")};
    const QString name = tr(names[std::min<std::size_t>(p.movers.size(), 2)]);
    if (edit::add_mover(p, name.toStdString()).empty())
        return emit session_.said(tr("There are as many movers as there can be"), true);
    session_.apply(tr("Add a mover"), std::move(p));
}

void MoversGrid::rename(const QString& name) {
    bool taken = false;
    const QString to =
        QInputDialog::getText(this, tr("A mover"), tr("Who it is"), QLineEdit::Normal, name, &taken).trimmed();
    if (!taken || to.isEmpty() || to == name) return;
    if (session_.project().mover(to.toStdString()))
        return emit session_.said(tr("There is a mover called %1").arg(to), true);
    session_.apply(tr("Rename a mover"), edit::rename_mover(session_.project(), name.toStdString(), to.toStdString()));
}

void MoversGrid::build(const std::vector<std::string>& classes) {
    qDeleteAll(table_->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
    delete table_->layout();
    auto* grid = new QGridLayout(table_);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(3);
    const auto& movers = session_.project().movers;
    for (std::size_t m = 0; m < movers.size(); ++m) {
        const QString name = QString::fromStdString(movers[m].name);
        auto* head = toolButton(table_, QString("mover-%1").arg(m), {}, name, {}, "link");
        describe(head, name, {}, tr("Rename it, or take it away"));
        connect(head, &QToolButton::clicked, this, [this, head, name] {
            auto* menu = new QMenu(this);
            menu->setObjectName("moverMenu");
            menu->setAttribute(Qt::WA_DeleteOnClose);
            connect(menu->addAction(tr("Rename %1…").arg(name)), &QAction::triggered, this,
                    [this, name] { rename(name); });
            connect(menu->addAction(tr("Take %1 away").arg(name)), &QAction::triggered, this, [this, name] {
                session_.apply(tr("Take a mover away"), edit::without_mover(session_.project(), name.toStdString()));
            });
            menu->popup(head->mapToGlobal(QPoint(0, head->height())));
        });
        grid->addWidget(head, 0, static_cast<int>(m) + 1, Qt::AlignCenter);
    }
    for (std::size_t c = 0; c < classes.size(); ++c) {
        const int row = static_cast<int>(c) + 1;
        grid->addWidget(
            label(classes[c].empty() ? tr("no class") : QString::fromStdString(classes[c]), "quiet", table_), row, 0);
        for (std::size_t m = 0; m < movers.size(); ++m) {
            auto* box = new QCheckBox(table_);
            box->setObjectName(QString("stops-%1-%2").arg(c).arg(m));
            box->setChecked(!std::binary_search(movers[m].passes.begin(), movers[m].passes.end(), classes[c]));
            box->setAccessibleName(tr("%1 are stopped by %2")
                                       .arg(QString::fromStdString(movers[m].name),
                                            classes[c].empty() ? tr("no class") : QString::fromStdString(classes[c])));
            box->setToolTip(box->accessibleName());
            connect(box, &QCheckBox::clicked, this, [this, mover = movers[m].name, name = classes[c]](bool on) {
                session_.apply(tr("Who is stopped"), edit::with_stopping(session_.project(), mover, name, on));
            });
            grid->addWidget(box, row, static_cast<int>(m) + 1, Qt::AlignCenter);
        }
    }
    grid->setColumnStretch(0, 1);
}

void MoversGrid::refresh() {
    if (!session_.isOpen() || !session_.level()) return;
    const level::Project& project = session_.project();
    std::set<std::string> names;
    const level::TileTable tiles(project, *session_.level());
    const level::PropKinds kinds(project, *session_.level());
    for (const std::string& name : outline::classes_in(*session_.level(), {tiles, kinds})) names.insert(name);
    for (const level::Mover& m : project.movers) names.insert(m.passes.begin(), m.passes.end());
    const std::vector<std::string> classes(names.begin(), names.end());
    std::vector<std::string> movers;
    std::vector<std::vector<std::string>> passes;
    for (const level::Mover& m : project.movers) {
        movers.push_back(m.name);
        passes.push_back(m.passes);
    }
    // With one class and no mover there is nothing to tell apart.
    setVisible(!movers.empty() || classes.size() > 1);
    hint_->setText(movers.empty() ? tr("All that blocks stops everyone.") : QString());
    hint_->setVisible(movers.empty());
    if (rows_ == classes && columns_ == movers && passes_ == passes) return;
    rows_ = classes;
    columns_ = movers;
    passes_ = passes;
    build(classes);
}

} // namespace vic::app
