// The list of materials with their densities, and the mass of the bodies that are made of them.
#pragma once

#include <QDialog>
#include <QLabel>
#include <QTableWidget>

#include "app/desk.h"

namespace kervo::app {

class MaterialsDialog : public QDialog {
  Q_OBJECT
 public:
  MaterialsDialog(Desk& desk, QWidget* parent);
  QTableWidget* table() { return table_; }
  QString trouble() const { return trouble_->text(); }

 private:
  void fill(const std::vector<Material>& materials);
  /// Adds an empty row and edits it.
  void add();
  void remove();
  /// What the table says. Throws Error, with the row as its place.
  std::vector<Material> typed() const;
  void take();
  void showMasses();

  Desk& desk_;
  QTableWidget* table_;
  QLabel* trouble_;
};

}  // namespace kervo::app
