// The pieces of a trial: what stays and what goes, each with its badge, volume and source.
#pragma once

#include <QAbstractListModel>
#include <QListView>

#include "app/desk.h"

namespace kervo::app {

class PiecesModel : public QAbstractListModel {
  Q_OBJECT
 public:
  enum Role { VolumeRole = Qt::UserRole, KeptRole, BadgeRole, TintRole };
  using QAbstractListModel::QAbstractListModel;

  void show(std::shared_ptr<const Tried> tried);
  int rowCount(const QModelIndex& = {}) const override;
  QVariant data(const QModelIndex& index, int role) const override;

 private:
  std::shared_ptr<const Tried> tried_;
  std::vector<int> numbers_;
};

class PiecesList : public QListView {
  Q_OBJECT
 public:
  explicit PiecesList(QWidget* parent = nullptr);
  PiecesModel* pieces() { return model_; }
  void light(int row);

 signals:
  void pointed(int row);  ///< −1: at none

 protected:
  void leaveEvent(QEvent* event) override;

 private:
  PiecesModel* model_;
};

}  // namespace kervo::app
