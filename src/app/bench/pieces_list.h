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
  /// The piece of a row, or null.
  const Piece* at(int row) const;

 private:
  std::shared_ptr<const Tried> tried_;
  std::vector<int> numbers_;
};

/// Rows with a word each for keep and drop. Space turns the selected rows round, Delete drops them.
class PiecesList : public QListView {
  Q_OBJECT
 public:
  explicit PiecesList(QWidget* parent = nullptr);
  PiecesModel* pieces() { return model_; }
  void light(int row);
  /// Whether rows can be kept and dropped.
  void setChoosable(bool choosable);
  /// Where the words stand in a row.
  struct Words {
    QRect keep, drop;
  };
  static Words wordsIn(const QRect& row, const QFontMetrics& metrics);

 signals:
  void pointed(int row);  ///< −1: at none
  void chosen(const std::map<kervo::BodyId, bool>& stay);

 protected:
  void leaveEvent(QEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  void choose(const QModelIndexList& rows, std::optional<bool> stay);

  PiecesModel* model_;
};

}  // namespace kervo::app
