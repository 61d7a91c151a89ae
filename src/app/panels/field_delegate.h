// Cells that look like fields where they can be edited in place, and rows marked by state.
#pragma once

#include <QStyledItemDelegate>

namespace kervo::app {

/// `boxRole`: a model role that is true for cells drawn as fields; `barRole`: true for rows marked with a bar.
class FieldDelegate : public QStyledItemDelegate {
 public:
  FieldDelegate(int boxRole, int barRole, QObject* parent)
      : QStyledItemDelegate(parent), boxRole_(boxRole), barRole_(barRole) {}
  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
  QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& option, const QModelIndex& index) const override;

 private:
  int boxRole_, barRole_;
};

}  // namespace kervo::app
