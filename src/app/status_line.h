// The line below everything: what can be done now, the progress of long work with a way to stop it, and where the
// pointer is.
#pragma once

#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QStatusBar>
#include <optional>

#include "app/bench/bench.h"
#include "app/files.h"

namespace kervo::app {

class StatusLine : public QStatusBar {
  Q_OBJECT
 public:
  StatusLine(Desk& desk, Files& files, const Bench& bench);
  /// What can be done now, unless long work is shown.
  void refresh();
  /// Something that just happened; stands until the next refresh().
  void tell(const QString& text) { hint_->setText(text); }
  void showPointer(const std::optional<Point>& at);

 private:
  QString hint() const;
  void showWork(double fraction, const QString& activity);
  void hideWork();

  Desk& desk_;
  Files& files_;
  const Bench& bench_;
  QLabel* hint_;
  QLabel* where_;
  QProgressBar* progress_;
  QPushButton* stop_;
};

}  // namespace kervo::app
