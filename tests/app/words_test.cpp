// Every word that the window says can be put into another language, also what the core says.
#include "app/window.hpp"

#include <QAbstractButton>
#include <QAction>
#include <QApplication>
#include <QChar>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QObject>
#include <QRegularExpression>
#include <QString>
#include <QStringList>
#include <QTextDocumentFragment>
#include <QTranslator>
#include <QWidget>

#include "app/parts/card_list.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

using namespace app_test;

namespace {

// Translates everything, into the same words with a mark on each.
class Marking : public QTranslator {
  public:
    [[nodiscard]] bool isEmpty() const override { return false; }
    QString translate(const char*, const char* source, const char*, int) const override {
        return QString("¤") + source;
    }
};

struct Foreign {
    Marking marking;
    Foreign() { QApplication::installTranslator(&marking); }
    ~Foreign() { QApplication::removeTranslator(&marking); }
};

// The names that are the designer's own, not the program's.
QStringList own_names(const level::Project& p) {
    QStringList out{QString::fromStdString(p.name)};
    const auto add = [&](const std::string& s) { out += QString::fromStdString(s); };
    for (const auto& s : p.sheets) {
        add(s->name);
        add(s->file);
        for (const auto& c : {s->credits.author, s->credits.licence, s->credits.source, s->credits.note})
            if (!c.empty()) add(c);
        for (const auto& t : s->tiles)
            if (!t.name.empty()) add(t.name);
    }
    for (const auto& m : p.materials) add(m->name);
    for (const auto& k : p.prop_kinds) add(k->name);
    for (const auto& l : p.levels) {
        add(l->name);
        for (const auto& m : l->marks) add(m.name);
        for (const level::LayerRef& layer : l->layers) add(layer->name);
    }
    std::sort(out.begin(), out.end(), [](const QString& a, const QString& b) { return a.size() > b.size(); });
    return out;
}

// What is left of a text without names, keys and numbers; empty where every word went through the translation.
QString untranslated(QString text, const QStringList& names) {
    if (text.contains("<")) text = QTextDocumentFragment::fromHtml(text).toPlainText();
    if (text.contains(QChar(0xA4))) return {};
    for (const QString& n : names) text.remove(n, Qt::CaseInsensitive);
    text.remove(QRegularExpression("\\b(Ctrl|Shift|Alt|Esc|Enter|Del|Space|Tab|F\\d+|[A-Z])\\b"));
    text.remove(QRegularExpression("\\b(px|×)\\b"));
    return text.contains(QRegularExpression("[A-Za-z]{2,}")) ? text.trimmed() : QString();
}

void look(Window& w, QStringList& found) {
    QApplication::processEvents();
    const QStringList names = own_names(w.session().project());
    const auto check = [&](const QObject* of, const QString& text) {
        if (const QString rest = untranslated(text, names); !rest.isEmpty())
            found += QString("%1 %2: %3").arg(of->metaObject()->className(), of->objectName(), text);
    };
    for (QWidget* widget : (*w).findChildren<QWidget*>()) {
        if (!widget->isVisible()) continue;
        check(widget, widget->toolTip());
        if (const auto* l = qobject_cast<QLabel*>(widget)) check(l, l->text());
        if (const auto* b = qobject_cast<QAbstractButton*>(widget)) check(b, b->text());
        if (const auto* e = qobject_cast<QLineEdit*>(widget)) check(e, e->placeholderText());
        if (const auto* c = qobject_cast<QComboBox*>(widget))
            for (int i = 0; i < c->count(); ++i) check(c, c->itemText(i));
        if (const auto* list = qobject_cast<QListView*>(widget))
            for (int row = 0; row < list->model()->rowCount(); ++row)
                check(list, list->model()->index(row, 0).data().toString());
    }
    for (const QAction* a : (*w).findChildren<QAction*>()) check(a, a->text());
}

} // namespace

TEST_CASE("every word of the window goes through the translation, in every stage", "[words]") {
    const Foreign foreign;
    Window w;
    QStringList found;
    for (const char* stage :
         {"stage-cut", "stage-join", "stage-lay", "stage-dress", "stage-bound", "stage-walk", "stage-hand-over"}) {
        w.stage(stage);
        look(w, found);
    }
    found.removeDuplicates();
    {
        QStringList caught;
        QLabel foreign_word("Blank tiles", &*w);
        foreign_word.show();
        look(w, caught);
        CHECK(caught.size() == found.size() + 1);
    }
    INFO(found.join("\n").toStdString());
    CHECK(found.isEmpty());
}

TEST_CASE("what the core says is translated: findings, refusals, readings", "[words]") {
    const Foreign foreign;
    Window w;
    level::Project p = w.session().project();
    level::Level l = w.level();
    std::erase_if(l.marks, [](const level::Mark& m) { return m.kind == level::MarkKind::start; });
    p.put(std::move(l));
    w.session().apply("no start", std::move(p));
    w.stage("stage-hand-over");
    auto* findings = w.find<CardList>("findings");
    REQUIRE_SOON(!findings->cards().empty());
    REQUIRE_SOON(findings->cards()[0].title.contains(QChar(0xA4)) || findings->cards().size() > 1);
    bool said = false;
    for (const Card& card : findings->cards()) said = said || card.title.contains("¤The level has no start");
    CHECK(said);

    write_file(w.folder.path() / "broken.png", "this is no picture");
    w.drop(QString::fromStdString((w.folder.path() / "broken.png").string()));
    CHECK(w.notice().contains("¤This is not a PNG picture"));
    CHECK(w.notice().contains("¤Save the picture as PNG"));
}
