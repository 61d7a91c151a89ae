// The bodies of the model, and behind them datums and drawings: colour, name, kind, visible, shielded, layer.
#pragma once

#include <QAbstractTableModel>
#include <QComboBox>
#include <QLineEdit>

#include "app/desk.h"
#include "app/panels/panel.h"

namespace kervo::app {

class BodiesModel : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { Swatch, Name, Kind, Eye, Shield, columnCount_ };

  explicit BodiesModel(Desk& desk, QObject* parent = nullptr);
  int rowCount(const QModelIndex& = {}) const override;
  int columnCount(const QModelIndex& = {}) const override { return columnCount_; }
  QVariant data(const QModelIndex& index, int role) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;
  /// The body, datum or drawing in that row; null beyond the last.
  const ShownAs* lookAt(int row) const;
  const BodyId& idAt(int row) const { return ids_.at(static_cast<std::size_t>(row)); }
  /// What selects it.
  Pick pickOf(int row) const;
  int rowOf(const BodyId& id) const;

 private:
  const Model& model() const { return *desk_.session.made()->model; }
  /// Those of a datum or drawing that differ from a body's.
  QVariant guideData(const Guide& guide, int column, int role) const;
  QVariant bodyData(const Body& body, int column, int role) const;

  Desk& desk_;
  std::vector<BodyId> ids_;  ///< of the rows
};

class BodiesPanel : public Panel {
  Q_OBJECT
 public:
  explicit BodiesPanel(Desk& desk, QWidget* parent = nullptr);
  Sheet* sheet() { return sheet_; }
  void toggleVisible();
  void toggleShield();
  void chooseColor();
  void renameSelected();
  /// What toggleVisible() would do: "Hide the body", "Show the selection".
  QString nameOfToggle() const;

 signals:
  /// The list of materials is to be edited.
  void materialsWanted();

 private:
  /// Selects the bodies whose rows are selected.
  void takeRows();
  void act(const QModelIndex& index);
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
  QLineEdit* layer_;
  QComboBox* material_;
  QWidget* details_;
  bool following_ = false;
};

}  // namespace kervo::app
