// The Cut list: the steps in their order, what drives them and what they change.
#pragma once

#include "app/panels/cut_list_model.h"
#include "app/panels/panel.h"

namespace kervo::app {

class CutListPanel : public Panel {
  Q_OBJECT
 public:
  explicit CutListPanel(Desk& desk, QWidget* parent = nullptr);

  Sheet* sheet() { return sheet_; }
  CutListModel* model() { return model_; }
  void renameSelected();
  void editDrivenBy();

 signals:
  /// A step is to be deleted: whoever uses it is to be thought of first.
  void deleteWanted(const kervo::StepId& step);
  void reloadWanted(const kervo::StepId& step);

 private:
  void showState();
  void showMenu(QPoint at);

  Desk& desk_;
  CutListModel* model_;
  Sheet* sheet_;
  QLabel* trouble_;
  QLabel* empty_;
};

/// Edits of the selected step, used by panel, menus and Find.
void switchStep(Desk& desk, const StepId& id);
void deleteStep(Desk& desk, const StepId& id);
void moveStep(Desk& desk, const StepId& id, int direction);

}  // namespace kervo::app
