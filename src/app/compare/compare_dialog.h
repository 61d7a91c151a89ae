// What differs between the model and another state of it, or a file: added and removed material, body by body, shown in
// the view while the dialog is open.
#pragma once

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QTreeWidget>
#include <memory>

#include "app/files.h"
#include "model/compare.h"
#include "view/scene.h"

namespace kervo::app {

class CompareDialog : public QDialog {
  Q_OBJECT
 public:
  enum class With { LastEdit, Disk, File };

  CompareDialog(Desk& desk, Files& files, QWidget* parent);

  /// `path`: of the file, for With::File.
  void compareWith(With with, const QString& path = {});
  bool busy() const { return busy_; }
  QTreeWidget* list() { return list_; }
  QString sum() const { return sum_->text(); }

 signals:
  /// What is to be seen instead of the model.
  void sceneMade(const kervo::Scene& scene);
  void placeWanted(const kervo::Box& box);

 private:
  struct Compared {
    std::vector<BodyChange> changes;
    /// Of each change; null for what is empty.
    std::vector<std::shared_ptr<const BodyPicture>> added, removed, common;
    std::shared_ptr<const Made> now;
  };
  void again();
  void compareDocument(const Document& other);
  void showResult(const Compared& compared);
  void refuse(const QString& why);
  Scene sceneOf(const Compared& compared) const;

  Desk& desk_;
  Files& files_;
  QComboBox* with_;
  QLabel* sum_;
  QTreeWidget* list_;
  QString path_;
  bool busy_ = false;
  int newest_ = 0;
};

}  // namespace kervo::app
