// The simulated cutter: a written file, cut by cut, with what falls free and what is wrong with it.
#pragma once

#include <QDoubleSpinBox>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>
#include <QTimer>

#include "app/shop/flat_view.h"
#include "shop/cutter.h"

namespace kervo::app {

/// The sheet with what is cut so far.
class CutterView : public FlatView {
  Q_OBJECT
 public:
  using FlatView::FlatView;
  void setRun(const CutRun* run, double kerf);
  void setTime(double seconds);

 protected:
  void paintOver(QPainter& painter) override;
  bool paintsLines() const override { return false; }

 private:
  const CutRun* run_ = nullptr;
  double kerf_ = 0, seconds_ = 0;
};

class CutterPanel : public QWidget {
  Q_OBJECT
 public:
  explicit CutterPanel(QWidget* parent = nullptr);

  /// Throws Error for a file that cannot be read.
  void open(const QString& path);
  const CutRun& run() const { return run_; }
  void setTime(double seconds);
  double time() const { return seconds_; }

 private:
  void runAgain();
  void showState();
  void play(bool on);

  FileCurves file_;
  CutRun run_;
  double seconds_ = 0;
  CutterView* view_;
  QListWidget* events_;
  QLabel* sums_;
  QDoubleSpinBox *kerf_, *feed_;
  QSlider* slider_;
  QPushButton* play_;
  QTimer timer_;
};

}  // namespace kervo::app
