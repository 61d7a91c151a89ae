// The Dimensions: names, what they are, and their values.
#pragma once

#include <QAbstractTableModel>

#include "app/desk.h"
#include "app/panels/panel.h"

namespace kervo::app {

class DimensionsModel : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { Name, Is, Value, columnCount_ };
  enum Role { EditableRole = Qt::UserRole };

  explicit DimensionsModel(Desk& desk, QObject* parent = nullptr);
  int rowCount(const QModelIndex& = {}) const override;
  int columnCount(const QModelIndex& = {}) const override { return columnCount_; }
  QVariant data(const QModelIndex& index, int role) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;
  /// The step that measures the dimension in that row; empty for one that is typed.
  StepId measuredBy(int row) const;

 private:
  /// One that a step measures, in the rows behind those that are typed.
  QVariant measuredData(const StepReport& report, int column, int role) const;
  std::vector<const StepReport*> measured() const;

  std::size_t measured_ = 0;  ///< shown

  Desk& desk_;
};

class DimensionsPanel : public Panel {
  Q_OBJECT
 public:
  explicit DimensionsPanel(Desk& desk, QWidget* parent = nullptr);
  Sheet* sheet() { return sheet_; }
  void addDimension();
  void editDimension(const QString& name);

 signals:
  /// What the last change did is to be seen.
  void changesWanted();

 private:
  void showTrouble();
  void removeSelected();

  Desk& desk_;
  DimensionsModel* model_;
  Sheet* sheet_;
  QLabel* trouble_;
};

}  // namespace kervo::app
