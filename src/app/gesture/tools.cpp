#include "app/gesture/tools.hpp"

namespace vic::app {

// One for each kind of gesture, in its own file.
std::unique_ptr<Gesture> makePencil(Board& board);
std::unique_ptr<Gesture> makeLine(Board& board);
std::unique_ptr<Gesture> makeRectangle(Board& board);
std::unique_ptr<Gesture> makeEllipse(Board& board);
std::unique_ptr<Gesture> makeFill(Board& board);
std::unique_ptr<Gesture> makeReplace(Board& board);
std::unique_ptr<Gesture> makeSelect(Board& board);
std::unique_ptr<Gesture> makeLasso(Board& board);
std::unique_ptr<Gesture> makePick(Board& board);
std::unique_ptr<Gesture> makeMeasure(Board& board);
std::unique_ptr<Gesture> makeProps(Board& board);
std::unique_ptr<Gesture> makeChoose(Board& board);
std::unique_ptr<Gesture> makeChooseRound(Board& board);
std::unique_ptr<Gesture> makeRow(Board& board);
std::unique_ptr<Gesture> makePlantArea(Board& board);
std::unique_ptr<Gesture> makePlantThin(Board& board);
std::unique_ptr<Gesture> makeMayWalk(Board& board);
std::unique_ptr<Gesture> makeMayNotWalk(Board& board);
std::unique_ptr<Gesture> makeDrawBlocker(Board& board);
std::unique_ptr<Gesture> makeWhoDecides(Board& board);
std::unique_ptr<Gesture> makeStart(Board& board);
std::unique_ptr<Gesture> makeExit(Board& board);
std::unique_ptr<Gesture> makeMark(Board& board);
std::unique_ptr<Gesture> makePan(Board& board);
std::unique_ptr<Gesture> makeMapJump(Board& board);
std::unique_ptr<Gesture> makePull(Board& board);
std::unique_ptr<Gesture> makeMoveBackdrop(Board& board);
std::unique_ptr<Gesture> makePickUp(Board& board);
std::unique_ptr<Gesture> makeStampLay(Board& board);

namespace {

using K = ToolKind;

std::vector<ToolKind> layTools() {
    return {
        {Tool::pencil, "pencil", Qt::Key_B, QT_TRANSLATE_NOOP("Tools", "Pencil"),
         QT_TRANSLATE_NOOP("Tools", "Lays what the Hand holds; Ctrl+wheel changes its size"), K::tip, true, makePencil},
        {{"Line"},
         "line",
         QKeySequence(Qt::SHIFT | Qt::Key_L),
         QT_TRANSLATE_NOOP("Tools", "Line"),
         QT_TRANSLATE_NOOP("Tools",
                           "From where one presses to where one lets go; Shift keeps it level, upright or diagonal"),
         K::tip,
         true,
         makeLine},
        {Tool::rectangle, "rectangle", Qt::Key_R, QT_TRANSLATE_NOOP("Tools", "Rectangle"),
         QT_TRANSLATE_NOOP("Tools",
                           "Fills the box that one drags, or its rim; a stamp is stretched or repeated over it"),
         K::box, true, makeRectangle},
        {{"Ellipse"},
         "ellipse",
         QKeySequence(Qt::SHIFT | Qt::Key_R),
         QT_TRANSLATE_NOOP("Tools", "Ellipse"),
         QT_TRANSLATE_NOOP("Tools", "Fills the ellipse in the box that one drags, or its rim"),
         K::box,
         true,
         makeEllipse},
        {{"Fill"},
         "fill",
         QKeySequence(Qt::SHIFT | Qt::Key_F),
         QT_TRANSLATE_NOOP("Tools", "Fill"),
         QT_TRANSLATE_NOOP("Tools",
                           "All that hangs together and is alike; shown before the click. With Shift no "
                           "further than the view"),
         K::alike | K::hangs,
         true,
         makeFill},
        {{"Replace"},
         "replace",
         QKeySequence(Qt::SHIFT | Qt::Key_E),
         QT_TRANSLATE_NOOP("Tools", "Replace"),
         QT_TRANSLATE_NOOP("Tools",
                           "All that is like what one clicks, wherever it lies; with Shift only in view, or "
                           "in what is selected"),
         K::alike,
         true,
         makeReplace},
        {Tool::eraser, "eraser", Qt::Key_E, QT_TRANSLATE_NOOP("Tools", "Eraser"),
         QT_TRANSLATE_NOOP("Tools", "Removes from the active layer only; so does the right button with any tool"),
         K::tip, true, makePencil},
    };
}

std::vector<ToolKind> choosingTools() {
    return {
        {Tool::select, "select", Qt::Key_S, QT_TRANSLATE_NOOP("Tools", "Select"),
         QT_TRANSLATE_NOOP("Tools",
                           "Draws a box; Shift adds to it, Alt takes away; dragging inside moves what is selected"),
         K::selects, false, makeSelect},
        {Tool::lasso, "lasso", QKeySequence(Qt::SHIFT | Qt::Key_W), QT_TRANSLATE_NOOP("Tools", "Go round"),
         QT_TRANSLATE_NOOP("Tools", "Selects what the line goes round; Shift adds to it, Alt takes away"), K::selects,
         false, makeLasso},
        {Tool::pick, "pick", Qt::Key_I, QT_TRANSLATE_NOOP("Tools", "Pick up"),
         QT_TRANSLATE_NOOP("Tools",
                           "Takes what lies under the pointer into the Hand, or all in the box one drags; so "
                           "does Alt+click"),
         K::none, false, makePick},
        {{"Measure"},
         "measure",
         Qt::Key_M,
         QT_TRANSLATE_NOOP("Tools", "Measure"),
         QT_TRANSLATE_NOOP("Tools", "In cells, pixels, units of the engine, walkers and jumps"),
         K::none,
         false,
         makeMeasure},
    };
}

std::vector<ToolKind> dressTools() {
    return {
        {Tool::props, "prop", Qt::Key_P, QT_TRANSLATE_NOOP("Tools", "Place"),
         QT_TRANSLATE_NOOP("Tools", "Places the prop in the Hand; with an empty Hand chooses and moves"), K::stands,
         false, makeProps, QT_TRANSLATE_NOOP("Tools", "Place props")},
        {{"Row", true},
         "row",
         QKeySequence(Qt::SHIFT | Qt::Key_P),
         QT_TRANSLATE_NOOP("Tools", "Row"),
         QT_TRANSLATE_NOOP("Tools", "A row of the prop in the Hand, along the line that one drags"),
         K::stands | K::rows,
         false,
         makeRow,
         QT_TRANSLATE_NOOP("Tools", "Place a row of props")},
        {Tool::choose, "select", Qt::Key_S, QT_TRANSLATE_NOOP("Tools", "Choose"),
         QT_TRANSLATE_NOOP("Tools",
                           "Chooses props and marks by clicks and boxes, and moves them; Shift adds, Alt takes away or "
                           "copies"),
         K::stands, false, makeChoose, QT_TRANSLATE_NOOP("Tools", "Choose props and marks")},
        {Tool::chooseRound, "lasso", QKeySequence(Qt::SHIFT | Qt::Key_W), QT_TRANSLATE_NOOP("Tools", "Go round"),
         QT_TRANSLATE_NOOP("Tools", "Chooses what the line goes round; Shift adds, Alt takes away"), K::stands, false,
         makeChooseRound, QT_TRANSLATE_NOOP("Tools", "Choose by going round")},
        {Tool::plantArea, "plant", QKeySequence(Qt::SHIFT | Qt::Key_A), QT_TRANSLATE_NOOP("Tools", "Area"),
         QT_TRANSLATE_NOOP("Tools", "Paints where the active planting grows; the right button takes away"), K::tip,
         false, makePlantArea, QT_TRANSLATE_NOOP("Tools", "Paint where a planting grows")},
        {Tool::plantThin, "thin", Qt::Key_T, QT_TRANSLATE_NOOP("Tools", "Thin out"),
         QT_TRANSLATE_NOOP("Tools", "Lets about half of the active planting grow where one paints"), K::tip, false,
         makePlantThin, QT_TRANSLATE_NOOP("Tools", "Thin out a planting")},
        {{"Start", true},
         "start",
         QKeySequence(Qt::SHIFT | Qt::Key_S),
         QT_TRANSLATE_NOOP("Tools", "Start"),
         QT_TRANSLATE_NOOP("Tools", "Where the walker begins"),
         K::none,
         false,
         makeStart,
         QT_TRANSLATE_NOOP("Tools", "Place the start")},
        {{"Exit", true},
         "exit",
         QKeySequence(Qt::SHIFT | Qt::Key_X),
         QT_TRANSLATE_NOOP("Tools", "Exit"),
         QT_TRANSLATE_NOOP("Tools", "Where the level is won"),
         K::none,
         false,
         makeExit,
         QT_TRANSLATE_NOOP("Tools", "Place an exit")},
        {{"Mark", true},
         "mark",
         QKeySequence(Qt::SHIFT | Qt::Key_M),
         QT_TRANSLATE_NOOP("Tools", "Mark"),
         QT_TRANSLATE_NOOP("Tools", "A named place that the engine is told of"),
         K::none,
         false,
         makeMark,
         QT_TRANSLATE_NOOP("Tools", "Place a mark")},
    };
}

std::vector<ToolKind> boundTools() {
    return {
        {{"MayWalk", false, true},
         "maywalk",
         Qt::Key_N,
         QT_TRANSLATE_NOOP("Tools", "May walk"),
         QT_TRANSLATE_NOOP("Tools",
                           "Writes the cells' own word: one may walk there, whatever lies in them; the right button "
                           "takes it back"),
         K::tip,
         false,
         makeMayWalk,
         QT_TRANSLATE_NOOP("Tools", "One may walk there")},
        {{"MayNotWalk", false, true},
         "maynot",
         QKeySequence(Qt::SHIFT | Qt::Key_N),
         QT_TRANSLATE_NOOP("Tools", "May not walk"),
         QT_TRANSLATE_NOOP("Tools",
                           "Writes the cells' own word: one may not walk there; the right button takes it back"),
         K::tip,
         false,
         makeMayNotWalk,
         QT_TRANSLATE_NOOP("Tools", "One may not walk there")},
        {{"DrawBlocker", false, true},
         "blocker",
         QKeySequence(Qt::SHIFT | Qt::Key_D),
         QT_TRANSLATE_NOOP("Tools", "Blocker"),
         QT_TRANSLATE_NOOP("Tools",
                           "Draws what blocks free of the lattice: boxes, shapes and lines; the right button takes one "
                           "away"),
         K::draws,
         false,
         makeDrawBlocker,
         QT_TRANSLATE_NOOP("Tools", "Draw a blocker")},
        {{"WhoDecides", false, true},
         "who",
         QKeySequence(Qt::SHIFT | Qt::Key_I),
         QT_TRANSLATE_NOOP("Tools", "Who decides"),
         QT_TRANSLATE_NOOP("Tools", "A click names what decides over a place, and offers to change it there"),
         K::none,
         false,
         makeWhoDecides,
         QT_TRANSLATE_NOOP("Tools", "Ask who decides")},
    };
}

} // namespace

const std::vector<ToolKind>& allTools() {
    static const std::vector<ToolKind> all = [] {
        std::vector<ToolKind> out = layTools();
        for (const auto& more : {choosingTools(), dressTools(), boundTools()})
            out.insert(out.end(), more.begin(), more.end());
        return out;
    }();
    return all;
}

const ToolKind& kindOf(const Tool& tool) {
    for (const ToolKind& kind : allTools())
        if (kind.tool == tool) return kind;
    return allTools().front();
}

std::vector<std::unique_ptr<Gesture>> commonGestures(Board& board) {
    std::vector<std::unique_ptr<Gesture>> out;
    for (const auto make : {makeMapJump, makePan, makePull, makeMoveBackdrop, makePickUp, makeStampLay})
        out.push_back(make(board));
    return out;
}

} // namespace vic::app
