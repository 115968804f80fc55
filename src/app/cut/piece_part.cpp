#include "app/cut/piece_part.hpp"

#include <QComboBox>
#include <QVBoxLayout>
#include <algorithm>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "app/parts/panel.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/session.hpp"
#include "edit/kits.hpp"
#include "level/sheet.hpp"

namespace vic::app {

using level::PieceBlocks;

// The nodes of the chosen piece, by their names, where it has several.
std::vector<std::string> PiecePart::nodes() {
    std::vector<std::string> out;
    if (session_.tiles().empty()) return out;
    for (const auto& kit : session_.bodies().all()) {
        const auto found = kit->piece_of.find(session_.tiles().front());
        if (found == kit->piece_of.end()) continue;
        for (const std::string& name : kit->file.bodies[found->second].nodes)
            if (!name.empty() && std::find(out.begin(), out.end(), name) == out.end()) out.push_back(name);
    }
    return out.size() < 2 ? std::vector<std::string>() : out;
}

PiecePart::PiecePart(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    const auto piece = [this] {
        const level::Sheet* const sheet = session_.sheet();
        return sheet && !session_.tiles().empty() ? edit::piece_of(*sheet, session_.tiles().front()) : nullptr;
    };
    const auto say = [this](PieceBlocks blocks, const std::string& as) {
        level::Project p = session_.project();
        for (const level::TileId tile : session_.tiles()) p = edit::with_piece_blocking(std::move(p), tile, blocks, as);
        session_.apply(tr("What a piece blocks"), std::move(p));
    };
    auto* blocks = comboBox(this, "pieceBlocks");
    describe(blocks, tr("What it blocks in height"), {},
             tr("Of what is merged for the walker and the engine; in the plan its shape as a tile counts"));
    addField(column, tr("In height"), blocks, 78);
    fields_.bindChoice(
        blocks,
        [] {
            const std::pair<QString, PieceBlocks> all[] = {{PiecePart::tr("what it fills"), PieceBlocks::mesh},
                                                           {PiecePart::tr("the box around it"), PieceBlocks::box},
                                                           {PiecePart::tr("its hull"), PieceBlocks::hull},
                                                           {PiecePart::tr("a ramp"), PieceBlocks::ramp},
                                                           {PiecePart::tr("as another piece"), PieceBlocks::another},
                                                           {PiecePart::tr("a node of its own"), PieceBlocks::node},
                                                           {PiecePart::tr("nothing"), PieceBlocks::nothing}};
            std::vector<Bindings::Choice> out;
            for (const auto& [name, value] : all) out.push_back({name, static_cast<int>(value)});
            return out;
        },
        [piece] { return QVariant(piece() ? static_cast<int>(piece()->blocks) : 0); },
        [this, piece, say](const QVariant& v) {
            const auto wanted = static_cast<PieceBlocks>(v.toInt());
            std::string as;
            if (wanted == PieceBlocks::another && piece()) // the first other one, until one is chosen
                for (const level::KitPiece& p : session_.sheet()->kit->pieces)
                    if (as.empty() && p.name != piece()->name) as = p.name;
            if (wanted == PieceBlocks::node && !nodes().empty()) as = nodes().back();
            say(level::names_another(wanted) && as.empty() ? PieceBlocks::mesh : wanted, as);
        });
    auto* as = comboBox(this, "pieceAs");
    addField(column, tr("as"), as, 78);
    fields_.bindChoice(
        as,
        [this, piece] {
            std::vector<Bindings::Choice> out;
            std::set<std::string> had;
            if (piece() && piece()->blocks == PieceBlocks::node) {
                for (const std::string& name : nodes())
                    out.push_back({QString::fromStdString(name), QString::fromStdString(name)});
                return out;
            }
            if (piece())
                for (const level::KitPiece& p : session_.sheet()->kit->pieces)
                    if (p.name != piece()->name && had.insert(p.name).second)
                        out.push_back({QString::fromStdString(p.name), QString::fromStdString(p.name)});
            return out;
        },
        [piece] { return QVariant(piece() ? QString::fromStdString(piece()->as) : QString()); },
        [piece, say](const QVariant& v) {
            say(piece() ? piece()->blocks : PieceBlocks::another, v.toString().toStdString());
        });
    fields_.bindShown(as->parentWidget() == this ? as : as->parentWidget(),
                      [piece] { return piece() && level::names_another(piece()->blocks); });
    fields_.bindShown(this, [piece] { return piece() != nullptr; });
}

} // namespace vic::app
