// A kept view as a drawing at scale.
#pragma once

#include <QCheckBox>

#include "app/shop/flat_out_dialog.h"

namespace kervo::app {

class ViewOutDialog : public FlatOutDialog {
  Q_OBJECT
 public:
  /// `now`: how one looks now, which need not be kept.
  ViewOutDialog(Desk& desk, SavedView now, QWidget* parent);

 protected:
  std::function<Result(Progress&)> work() override;

 private:
  std::vector<SavedView> views_;
  QComboBox* view_;
  QLineEdit* scale_;
  QCheckBox* hidden_;
};

}  // namespace kervo::app
