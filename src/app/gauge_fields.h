// The number fields beside the gauges in the view.
#pragma once

#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QObject>
#include <map>

#include "app/trial.h"
#include "app/viewport.h"

namespace kervo::app {

/// One field for each gauge, beside its bead, with the expression that the step has.
class GaugeFields : public QObject {
  Q_OBJECT
 public:
  GaugeFields(Trial& trial, Viewport& view);
  void show(const std::vector<Gauge>& gauges);
  void focus(const QString& field);
  QLineEdit* field(const std::string& key) const;

 private:
  void place();
  /// Where a field of that size is near its bead, in the view and clear of what is taken, as far as that goes.
  QRect placeBeside(QPoint bead, int gap, QSize size, const std::vector<QRect>& taken) const;

  struct Line {
    QFrame* frame = nullptr;
    QLineEdit* line = nullptr;
  };
  Trial& trial_;
  Viewport& view_;
  std::vector<Gauge> gauges_;
  std::map<std::string, Line> fields_;
};

}  // namespace kervo::app
