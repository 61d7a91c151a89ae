// The bodies of the model: colour, name, kind, visible, shielded, layer.
#pragma once

#include <QAbstractTableModel>
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
  const Body* bodyAt(int row) const;
  int rowOf(const BodyId& id) const;

 private:
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

 private:
  /// Selects the bodies whose rows are selected.
  void takeRows();
  void act(const QModelIndex& index);
  /// The first of the selected bodies; null if none is.
  const Body* first() const;
  /// "Hide Lid" or "Hide 3 bodies".
  QString nameOfSelected() const;
  void showState();

  Desk& desk_;
  BodiesModel* model_;
  Sheet* sheet_;
  QLineEdit* layer_;
  QWidget* details_;
  bool following_ = false;
};

}  // namespace kervo::app
