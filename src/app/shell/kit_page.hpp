// A kit of pieces as a page: what was read of it, what of that is doubtful, and the materials that would be made. What
// is said otherwise is read again; nothing is in the project until it is taken.
#pragma once

#include <QHash>
#include <QPixmap>
#include <QString>
#include <QWidget>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "app/parts/binding.hpp"
#include "app/session/library.hpp"
#include "edit/kits.hpp"
#include "kit/read_kit.hpp"
#include "level/project.hpp"

class QCheckBox;
class QComboBox;
class QKeyEvent;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace vic::app {

class CardList;
class PictureList;
class Session;

inline constexpr int kKitSideWidth = 300, kKitProofHeight = 180; // pixels

class KitPage : public QWidget {
    Q_OBJECT
  public:
    KitPage(Session& session, QWidget* parent);
    // Reads a file or folder in the background; ready() follows, or what is wrong is said.
    void open(const QString& path, std::optional<bool> whole = std::nullopt);

  signals:
    void ready();
    void taken(const vic::app::ChosenKit& kit);
    void left();

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    // All that follows from what is told, worked out in the background.
    struct Tried {
        kit::KitReading read;
        std::vector<edit::KitMaterial> materials;
        level::Project project;              // with the kit in it, and nothing else
        std::vector<level::MaterialId> made; // by material; 0: none
        bool things = false;                 // its pieces are whole things
        bool fits = false;                   // whether the pieces can be drawn
    };
    // One of the list: a material, or numbers that could be one.
    struct Row {
        int material = -1; // of tried_.materials
        int codes = -1;    // of tried_.read.codes: by which it is made, or could be
    };
    [[nodiscard]] QWidget* buildSide();
    void buildFields(QVBoxLayout* column);
    void buildParts(QVBoxLayout* column);
    void buildMaterials(QVBoxLayout* column);
    void buildCounting(QVBoxLayout* column);
    void readAgain();
    void drawNext();
    void show(Tried tried);
    void showMaterials();
    void showProof();
    void tell();
    void take();
    [[nodiscard]] const Row* chosenRow() const;
    [[nodiscard]] bool isMade(const Row& row) const;
    void setMade(bool on);
    [[nodiscard]] QString wordsOf(std::size_t piece, bool& looks) const;
    [[nodiscard]] QPixmap draw(quint32 id) const;

    Session& session_;
    QString path_;
    std::shared_ptr<const kit::KitFile> file_;
    kit::Told told_;
    int side_ = 32;
    Tried tried_;
    std::set<std::string> leftOut_; // names of materials
    std::vector<Row> rows_;
    QHash<quint32, QPixmap> pictures_;
    std::size_t next_ = 0; // the first piece that is not drawn yet
    Bindings bound_;
    QLabel *title_, *under_, *proof_, *doubts_, *doubtsHead_, *materialsHead_;
    PictureList* list_;
    CardList* materials_;
    QCheckBox *make_, *open_;
    QComboBox* counting_;
    QWidget* codes_;
    QPushButton* take_;
};

} // namespace vic::app
