// What is to come in of a file of curves: which layers, in which unit, joined where.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>

#include "app/files.h"

namespace kervo::app {

class CurvesDialog : public QDialog {
  Q_OBJECT
 public:
  /// `drawings`: the file as it was read, a drawing a layer. `unit` and `size`: as the reader says them.
  CurvesDialog(const QString& path, const Document& drawings, const QString& unit, const QString& size,
               QWidget* parent);
  /// What was chosen.
  Files::CurvesWanted wanted() const;

 private:
  void addLayers(const Document& drawings);
  void showSize();
  void check();

  QListWidget* layers_;
  QComboBox* unit_;
  QLabel* size_;
  QLineEdit* gap_;
  QCheckBox* middle_;
  QDialogButtonBox* buttons_;
  QString readIn_;                 ///< the unit in which the file was read
  double width_ = 0, height_ = 0;  ///< mm, in that unit
};

}  // namespace kervo::app
