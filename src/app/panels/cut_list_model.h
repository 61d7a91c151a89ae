// The Cut list as a table: number, step, what drives it, change of volume.
#pragma once

#include <QAbstractTableModel>

#include "app/desk.h"

namespace kervo::app {

class CutListModel : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { Number, Name, DrivenBy, Volume, columnCount_ };
  enum Role { FailedRole = Qt::UserRole, OffRole, OnBenchRole, EditableRole };

  explicit CutListModel(Desk& desk, QObject* parent = nullptr);

  int rowCount(const QModelIndex& = {}) const override;
  int columnCount(const QModelIndex& = {}) const override { return columnCount_; }
  QVariant data(const QModelIndex& index, int role) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;

  StepId stepAt(int row) const;
  int rowOf(const StepId& id) const;
  /// What became of a step, if the model is that far.
  const StepReport* report(const StepId& id) const;

 private:
  Desk& desk_;
};

}  // namespace kervo::app
