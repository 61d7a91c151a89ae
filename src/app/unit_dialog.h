// In which unit the lengths of a file are that does not say so itself.
#pragma once

#include <QComboBox>
#include <QDialog>
#include <QLabel>

namespace kervo::app {

class UnitDialog : public QDialog {
  Q_OBJECT
 public:
  /// `size`: of what it holds if its lengths are in mm, as the reader says it: "120 x 80 x 60 mm".
  UnitDialog(const QString& path, const QString& size, QWidget* parent);
  /// mm, cm, m, in or ft.
  QString unit() const { return unit_->currentText(); }

 private:
  void showSize();

  QComboBox* unit_;
  QLabel* size_;
  QList<double> sizes_;  ///< mm
};

}  // namespace kervo::app
