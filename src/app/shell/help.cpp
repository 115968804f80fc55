#include "app/shell/help.hpp"

#include <QCoreApplication>
#include <QFile>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QRect>
#include <QScreen>
#include <QStringList>
#include <QTextBlock>
#include <QTextBrowser>
#include <QTextCursor>
#include <QTextDocument>
#include <QUrl>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

#include "app/parts/panel.hpp"

namespace vic::app {

namespace {

constexpr int kCardWidth = 320;

QString tr(const char* text) { return QCoreApplication::translate("Help", text); }

// Panels and what the guide says of them, by the object names of widgets; the innermost counts.
struct Place {
    const char* object;
    const char* heading;
    const char* about; // where the thing under the pointer says nothing itself
};
constexpr Place kPlaces[] = {
    {"startPage", "Beginning",
     QT_TRANSLATE_NOOP("Help",
                       "Where a project begins: drop art here, take an empty place, or go on with one of yours.")},
    {"sizeClash", "Art of another size",
     QT_TRANSLATE_NOOP(
         "Help",
         "What is in the Hand was drawn at another size than the cells. Each card shows what would come of it.")},
    {"workline", "Beginning",
     QT_TRANSLATE_NOOP("Help", "The stages, and how far each is. The name on the left opens the levels and files.")},
    {"section", "Lay: painting",
     QT_TRANSLATE_NOOP("Help",
                       "The level cut open and seen from the side: each layer is a slab, the walker's plane the red "
                       "line between them. Drag slabs to another place.")},
    {"strokeList", "When something went to the wrong layer",
     QT_TRANSLATE_NOOP("Help", "The last strokes: drag one onto a slab to lift it to that layer.")},
    {"handCard", "The Hand: chance, homes, stamps", QT_TRANSLATE_NOOP("Help", "What will be laid, and how.")},
    {"pockets", "The Hand: chance, homes, stamps",
     QT_TRANSLATE_NOOP(
         "Help", "Nine places for what you use much: Shift and a digit puts the Hand there, the digit takes it out.")},
    {"tray", "The Tray",
     QT_TRANSLATE_NOOP("Help",
                       "Everything that can be laid. Click takes it into the Hand, Shift and click adds to it, "
                       "dragging over tiles takes them as they lie.")},
    {"levelView", "Lay: painting",
     QT_TRANSLATE_NOOP("Help",
                       "The level. The left button lays what the Hand holds, the right one takes away; the line at the "
                       "bottom says what a click would do.")},
    {"sheetView", "Cut: from a picture to tiles",
     QT_TRANSLATE_NOOP(
         "Help", "The picture and how it is cut. The cards above are the readings, the best first; Enter takes it.")},
    {"joinCentre", "Join: how tiles meet",
     QT_TRANSLATE_NOOP("Help", "What the material looks like where it is painted, and every case with its tile.")},
    {"casePanel", "Join: how tiles meet",
     QT_TRANSLATE_NOOP("Help", "The case that is chosen: its tiles, and what would fit.")},
    {"materialList", "Join: how tiles meet",
     QT_TRANSLATE_NOOP("Help", "The materials, and how many of their cases have a tile.")},
    {"sheetList", "Cut: from a picture to tiles", QT_TRANSLATE_NOOP("Help", "The sheets of the project.")},
    {"boundPanel", "Bound: what blocks",
     QT_TRANSLATE_NOOP("Help", "What blocks in this level, as one merged drawing.")},
    {"walkPanel", "Walk: trying it", QT_TRANSLATE_NOOP("Help", "The walker's size, speed and jump.")},
    {"readingLine", "Lay: painting",
     QT_TRANSLATE_NOOP(
         "Help", "What a click would do, said before it; on the right what waits elsewhere and when it was saved.")},
};

const char* headingOf(Stage stage) {
    switch (stage) {
        case Stage::cut:
            return "Cut: from a picture to tiles";
        case Stage::join:
            return "Join: how tiles meet";
        case Stage::lay:
            return "Lay: painting";
        case Stage::dress:
            return "Dress: props, marks, backdrops";
        case Stage::bound:
            return "Bound: what blocks";
        case Stage::walk:
            return "Walk: trying it";
        case Stage::handOver:
            return "Hand over: building";
    }
    return "";
}

} // namespace

HelpTopic topicOf(const QWidget* widget, bool open, Stage stage) {
    HelpTopic out;
    out.heading = open ? headingOf(stage) : "Beginning";
    bool placed = false;
    for (const QWidget* w = widget; w && !placed; w = w->parentWidget()) {
        if (out.text.isEmpty()) out.text = w->toolTip();
        for (const Place& p : kPlaces) {
            if (w->objectName() != QLatin1String(p.object)) continue;
            out.heading = p.heading;
            if (out.text.isEmpty() && *p.about) out.text = tr(p.about);
            placed = true;
        }
    }
    if (out.text.isEmpty()) out.text = tr("The line at the bottom says what a click would do here.");
    return out;
}

HelpCard::HelpCard(QWidget* parent) : QFrame(parent, Qt::Popup) {
    setObjectName("helpCard");
    setStyleSheet("#helpCard { background: palette(base); border: 1px solid palette(mid); }");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 10);
    column->setSpacing(10);
    text_ = new QLabel(this);
    text_->setObjectName("helpText");
    text_->setTextFormat(Qt::RichText);
    text_->setWordWrap(true);
    column->addWidget(text_);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    auto* guide = new QPushButton(tr("Read on in the guide"), this);
    guide->setObjectName("helpGuide");
    auto* keys = new QPushButton(tr("All keys"), this);
    keys->setObjectName("helpKeys");
    for (QPushButton* b : {guide, keys}) row->addWidget(b);
    row->addStretch();
    column->addLayout(row);
    connect(guide, &QPushButton::clicked, this, [this] {
        close();
        emit guideAsked(heading_);
    });
    connect(keys, &QPushButton::clicked, this, [this] {
        close();
        emit keysAsked();
    });
}

void HelpCard::open(const HelpTopic& topic, QPoint at) {
    heading_ = topic.heading;
    text_->setText(topic.text);
    setAccessibleName(topic.text);
    for (QWidget* w : findChildren<QWidget*>()) w->ensurePolished();
    text_->setFixedHeight(text_->heightForWidth(kCardWidth - 30));
    setFixedWidth(kCardWidth);
    adjustSize();
    const QRect room(parentWidget()->mapToGlobal(QPoint()), parentWidget()->size());
    at += QPoint(12, 16);
    at.setX(std::clamp(at.x(), room.left(), std::max(room.left(), room.right() - width())));
    if (at.y() + height() > room.bottom()) at.setY(at.y() - height() - 32);
    move(at);
    show();
}

Guide::Guide(QWidget* parent) : QWidget(parent, Qt::Window) {
    setObjectName("guide");
    setWindowTitle(tr("Vicinum: user guide"));
    resize(720, 720);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    text_ = new QTextBrowser(this);
    text_->setObjectName("guideText");
    text_->setFrameShape(QFrame::NoFrame);
    text_->setOpenLinks(false);
    text_->document()->setDocumentMargin(24);
    column->addWidget(text_);
    connect(text_, &QTextBrowser::anchorClicked, this, [this](const QUrl& link) {
        const QString file = link.fileName();
        if (QFile::exists(":/guide/" + file)) load(file);
    });
}

void Guide::load(const QString& file) {
    QFile f(":/guide/" + file);
    if (!f.open(QIODevice::ReadOnly)) return;
    QStringList lines = QString::fromUtf8(f.readAll()).split('\n');
    lines.erase(std::remove_if(lines.begin(), lines.end(), [](const QString& l) { return l.startsWith("!["); }),
                lines.end());
    text_->setMarkdown(lines.join('\n'));
    // Room between paragraphs, and more before a heading.
    for (QTextBlock b = text_->document()->begin(); b.isValid(); b = b.next()) {
        QTextBlockFormat format = b.blockFormat();
        format.setTopMargin(format.headingLevel() > 0 ? 18 : 0);
        format.setBottomMargin(8);
        QTextCursor(b).setBlockFormat(format);
    }
    text_->moveCursor(QTextCursor::Start);
}

void Guide::open(const QString& heading) {
    load("guide.md");
    show();
    raise();
    activateWindow();
    for (QTextBlock b = text_->document()->begin(); b.isValid(); b = b.next()) {
        if (b.blockFormat().headingLevel() == 0 || b.text() != heading) continue;
        // The heading comes to stand at the top.
        text_->moveCursor(QTextCursor::End);
        text_->setTextCursor(QTextCursor(b));
        text_->ensureCursorVisible();
        break;
    }
}

} // namespace vic::app
