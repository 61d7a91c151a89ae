// The bodies of the model: colour, name, kind, visible, shielded; layer and material of the selected ones.
#pragma once

#include <QComboBox>
#include <QLineEdit>

#include "app/panels/bodies_model.h"
#include "app/panels/panel.h"

namespace kervo::app {

class BodiesPanel : public Panel {
  Q_OBJECT
 public:
  explicit BodiesPanel(Desk& desk, QWidget* parent = nullptr);
  Sheet* sheet() { return sheet_; }
  void toggleVisible();
  void toggleShield();
  void toggleFaded();
  void chooseColor();
  /// One in its row; several get one name with a number each.
  void renameSelected();
  /// The selected bodies into an assembly, an old one or a new one, or into none.
  void putIntoAssembly();
  /// Hides all bodies but the selected ones.
  void showOnlySelected();
  enum class Alike { Kind, Color, Layer, Size, Part };
  /// Selects all bodies that have the same of something as one of those selected.
  void selectAlike(Alike what);
  /// What toggleVisible() would do: "Hide the body", "Show the selection".
  QString nameOfToggle() const;

 signals:
  /// The list of materials is to be edited.
  void materialsWanted();

 private:
  /// Selects the bodies whose rows are selected.
  void takeRows();
  void act(const QModelIndex& index);
  void toggleFold(const QModelIndex& assembly);
  /// The first of the selected bodies; null if none is.
  const Body* first() const;
  /// "Lid" or "3 bodies".
  QString nameOfSelected() const;
  /// Bodies, datums and drawings.
  std::vector<BodyId> selectedRows() const;
  void showState();
  void showMaterial(const Body& body);
  void takeMaterial(int index);

  Desk& desk_;
  BodiesModel* model_;
  Sheet* sheet_;
  QLineEdit* filter_;
  QLineEdit* layer_;
  QComboBox* material_;
  QWidget* details_;
  bool following_ = false;
  bool taking_ = false;  ///< the selection is being set from the rows
};

}  // namespace kervo::app
