// Random work in the real window: all of it can be undone, and what is killed at any moment loses nothing that was
// done.
#include "app/window.hpp"

#include <unistd.h>

#include <QCoreApplication>
#include <QFile>
#include <QProcess>
#include <QString>
#include <QTest>
#include <QThread>
#include <algorithm>
#include <filesystem>
#include <string>

#include "app/session/keeper.hpp"
#include "app/session/session.hpp"
#include "base/files.hpp"
#include "base/hash.hpp"
#include "edit/document.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "store/journal.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::app;
using namespace app_test;

namespace {

int count_of(const char* variable, int usual) {
    const QByteArray asked = qgetenv(variable);
    return asked.isEmpty() ? usual : asked.toInt();
}

std::uint64_t bytes_of(const level::Project& project) {
    std::string all;
    for (const auto& [name, text] : store::texts(project)) all += name + "\n" + text;
    return hash_of(all);
}

// One thing that a designer does, by chance.
void act(Window& w, make::Random& random) {
    const auto cell = [&] {
        const Point at{14 + random.below(14), 14 + random.below(10)};
        // Cards above the level come and go, and leave less room for it.
        if (!w.view()->rect().contains(w.view()->cellCentre(at))) w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
        return at;
    };
    const auto materials = w.session().project().materials;
    switch (random.below(12)) {
        case 0:
            return w.key(Qt::Key_Z, Qt::ControlModifier);
        case 1:
            return w.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        case 2:
            return w.key(random.flip() ? Qt::Key_E : Qt::Key_B); // another tool
        case 3:
            return w.session().setHand(
                {edit::held::Material{materials[static_cast<std::size_t>(random.below(int(materials.size())))]->id}});
        case 4: {
            const auto& layers = w.level().layers;
            const level::LayerRef& layer = layers[static_cast<std::size_t>(random.below(int(layers.size())))];
            if (layer->tiles()) w.session().setActiveLayer(layer->id);
            return;
        }
        case 5:
            return w.drag(cell(), cell());
        default:
            return w.clickCell(cell());
    }
}

void begin(Window& w) {
    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.activate("Marsh");
    w.pickMaterial("Marsh");
}

} // namespace

// 10,000 with VICINUM_ACTIONS=10000.
TEST_CASE("whatever is done can be undone to the same bytes, and done again", "[app][random]") {
    Window w;
    begin(w);
    const std::uint64_t before = bytes_of(w.session().project());
    make::Random random(41);
    const int actions = count_of("VICINUM_ACTIONS", 250);
    for (int i = 0; i < actions; ++i) act(w, random);
    const std::uint64_t after = bytes_of(w.session().project());
    REQUIRE(after != before);
    const std::size_t now = w.session().document().now();
    w.session().goTo(0);
    CHECK(bytes_of(w.session().project()) == before);
    w.session().goTo(now);
    CHECK(bytes_of(w.session().project()) == after);
}

TEST_CASE("the journal of random work leads to the same bytes", "[app][random]") {
    Window w;
    begin(w);
    make::Random random(43);
    const fs::path dir = w.folder / "pell";
    for (int i = 0; i < 150; ++i) {
        act(w, random);
        if (random.below(10) == 0) w.session().save();
        w.session().keeper().flush();
        const auto head = store::journal_head(store::journal_place(dir));
        if (!head) {
            CHECK(!w.session().document().unsaved());
            continue;
        }
        const auto base = std::make_shared<const level::Project>(store::load(dir));
        CHECK(head->mark == w.session().document().seen().mark());
        edit::Document document(*base, dir);
        store::JournalReader reader(store::journal_place(dir), base, dir);
        document.replay(reader);
        CHECK_FALSE(reader.torn());
        INFO("after " << i << ": " << w.session().document().undo_name());
        const auto a = store::texts(document.project()), b = store::texts(w.session().project());
        for (const auto& [name, text] : b) {
            INFO(name);
            REQUIRE(a.at(name) == text);
        }
    }
}

// Run by the case below, in a process of its own: works on VICINUM_KILLS until it is killed, and tells of each thing
// when it is done.
TEST_CASE("works until it is killed", "[.worker]") {
    Window w(false);
    const QString dir = qEnvironmentVariable("VICINUM_KILLS");
    REQUIRE((*w).openProject(dir));
    begin(w);
    QFile log(dir + ".log");
    REQUIRE(log.open(QIODevice::WriteOnly | QIODevice::Unbuffered));
    make::Random random(count_of("VICINUM_SEED", 1));
    const pid_t parent = ::getppid();
    while (::getppid() == parent) {
        if (random.below(25) == 0) {
            log.write("saving\n");
            w.key(Qt::Key_S, Qt::ControlModifier);
            settle();
        } else {
            log.write("doing\n");
            act(w, random);
        }
        log.write(QByteArray("done ") + QByteArray::number(qulonglong(bytes_of(w.session().project()))) + "\n");
    }
}

// 200 with VICINUM_ROUNDS=200 (tools/kills).
TEST_CASE("a kill at any moment loses at most what was just being done", "[app][kills]") {
    make::Folder folder;
    const fs::path dir = folder / "pell";
    make::Random random(static_cast<unsigned>(count_of("VICINUM_SEED", 7)));
    const int rounds = count_of("VICINUM_ROUNDS", 2);
    int in_progress = 0, kept = 0;
    for (int round = 0; round < rounds; ++round) {
        fs::remove_all(dir);
        fs::copy(demo(), dir, fs::copy_options::recursive);
        fs::remove(dir.string() + ".log");
        QProcess worker;
        QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
        environment.insert("VICINUM_KILLS", QString::fromStdString(dir.string()));
        environment.insert("VICINUM_SEED", QString::number(random.below(1 << 20)));
        worker.setProcessEnvironment(environment);
        worker.start(QCoreApplication::applicationFilePath(), {"works until it is killed"});
        REQUIRE(worker.waitForStarted());
        const QString log_file = QString::fromStdString(dir.string() + ".log");
        REQUIRE(QTest::qWaitFor([&] { return QFile(log_file).size() > 0; }, 20000));
        QThread::msleep(static_cast<unsigned long>(random.below(1500)));
        worker.kill();
        worker.waitForFinished();

        const std::string log = read_file(log_file.toStdString());
        const auto last = log.rfind("done ");
        const bool busy = !log.ends_with("\n") || log.rfind("doing") > last || log.rfind("saving") > last;
        auto now = std::make_shared<const level::Project>(store::load(dir));
        const fs::path journal = store::journal_place(dir);
        store::Seen seen;
        store::load(dir, nullptr, &seen);
        edit::Document document(*now, dir);
        std::string fits = "no head";
        if (const auto head = store::journal_head(journal))
            fits = std::to_string(head->mark) + " on " + std::to_string(seen.mark());
        INFO(fits);
        if (const auto head = store::journal_head(journal); head && head->mark == seen.mark()) {
            store::JournalReader reader(journal, now, dir);
            document.replay(reader);
        }
        if (last == std::string::npos) continue; // killed before anything was done
        const std::uint64_t told = std::stoull(log.substr(last + 5));
        INFO(log.substr(last > 200 ? last - 200 : 0));
        INFO("round " << round);
        // What was done last, or one step from it: what was just being done, which may be a step back or forth.
        const bool same = bytes_of(document.project()) == told;
        bool beside = false;
        const auto history = document.history();
        for (std::size_t i = std::max<std::size_t>(document.now(), 1) - 1;
             !same && i <= document.now() + 1 && i < history.size(); ++i)
            beside = beside || bytes_of(*history[i].state) == told;
        std::string story = fs::exists(journal) ? "journal: " : "no journal";
        for (const auto& past : history) story += past.name + " " + std::to_string(bytes_of(*past.state)) + "; ";
        INFO(story << " now " << document.now());
        CHECK((same || (busy && beside)));
        (same ? kept : in_progress) += 1;
    }
    WARN(kept << " of " << rounds << " as told last, " << in_progress << " with what was just being done");
}
