// Which bodies of a file are to come in: of a broken one those that can be read, with what cannot.
#pragma once

#include <QDialog>
#include <QDialogButtonBox>
#include <QLabel>
#include <QLineEdit>
#include <QTreeWidget>
#include <vector>

#include "fields/brought_field.h"
#include "model/document.h"

namespace kervo::app {

/// The bodies that the one Bring in step of a document has.
const std::vector<BroughtBody>& broughtIn(const Document& document);

class PartsDialog : public QDialog {
  Q_OBJECT
 public:
  /// `brought`: what could be read. `lost`: what could not, a sentence each.
  PartsDialog(const QString& path, const Document& brought, const QStringList& lost, QWidget* parent);
  /// Numbers of the bodies that are ticked, in the file's order.
  std::vector<std::size_t> chosen() const;

 private:
  void add(const Document& brought);
  void filter(const QString& text);
  /// All rows that are seen.
  void tick(bool on);
  void showCount();

  QTreeWidget* list_;
  QLineEdit* filter_;
  QLabel* count_;
  QDialogButtonBox* buttons_;
};

}  // namespace kervo::app
