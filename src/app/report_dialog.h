// A list of what was found or done, row by row, that can be copied: after reading a file, above all.
#pragma once

#include <QDialog>
#include <QTreeWidget>
#include <utility>
#include <vector>

namespace kervo::app {

struct Report {
  QString title, sum;
  std::vector<std::pair<QString, QString>> rows;  ///< what it is about, and what is said of it
};

class ReportDialog : public QDialog {
  Q_OBJECT
 public:
  explicit ReportDialog(const Report& report, QWidget* parent = nullptr);
  QTreeWidget* list() { return list_; }

 private:
  void copy() const;

  Report report_;
  QTreeWidget* list_;
};

}  // namespace kervo::app
