// What is wrong with bodies: every finding is gone to with a click, and nothing is mended by itself.
#pragma once

#include <QDialog>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

#include "app/desk.h"
#include "geom/measure/body_check.h"

namespace kervo::app {

class CheckDialog : public QDialog {
  Q_OBJECT
 public:
  /// Of these bodies.
  CheckDialog(Desk& desk, std::vector<BodyId> bodies, QWidget* parent);

  bool busy() const { return busy_; }
  QTreeWidget* list() { return list_; }

 signals:
  /// A place is to be looked at; `reach`: how much around it, mm.
  void placeWanted(const kervo::Point& place, double reach, const QString& text);
  void repairWanted(const std::vector<kervo::BodyId>& bodies);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  struct Checked {
    BodyId id;
    QString name;
    double size = 0;  ///< diagonal of its box, mm
    BodyCheck check;
    std::optional<Error> error;
  };
  void check();
  void showAll(const std::vector<Checked>& all);

  Desk& desk_;
  std::vector<BodyId> bodies_;
  QLabel* sum_;
  QTreeWidget* list_;
  QPushButton* repair_;
  bool busy_ = false;
  std::vector<BodyId> faulty_;
};

}  // namespace kervo::app
