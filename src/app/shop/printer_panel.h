// The simulated printer: a written file, layer by layer, with what it takes and what is wrong with it.
#pragma once

#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>
#include <QTimer>

#include "app/shop/flat_view.h"
#include "app/worker.h"
#include "shop/printer.h"

namespace kervo::app {

/// One layer on the bed, over what lies below it.
class PrinterView : public FlatView {
  Q_OBJECT
 public:
  using FlatView::FlatView;
  void setRun(std::shared_ptr<const PrintRun> run);
  void setLayer(std::size_t layer);

 protected:
  void paintOver(QPainter& painter) override;

 private:
  QPainterPath pathOf(const std::vector<std::vector<PlanePoint>>& outlines) const;

  std::shared_ptr<const PrintRun> run_;
  std::size_t layer_ = 0;
};

/// Slices in the worker, which is its own or the window's.
class PrinterPanel : public QWidget {
  Q_OBJECT
 public:
  explicit PrinterPanel(Worker& worker, QWidget* parent = nullptr);

  void open(const QString& path);
  /// Null until it is sliced.
  const PrintRun* run() const { return run_.get(); }
  std::size_t layer() const { return layer_; }
  void setLayer(std::size_t layer);

 private:
  void slice();
  void take(std::shared_ptr<const PrintRun> run);
  void play(bool on);
  QDoubleSpinBox* addNumber(QFormLayout* form, const QString& name, double value, double most, const QString& unit);

  Worker& worker_;
  QString path_;
  std::shared_ptr<const PrintRun> run_;
  std::size_t layer_ = 0;
  int newest_ = 0;
  PrinterView* view_;
  QListWidget* events_;
  QLabel *sums_, *here_;
  QDoubleSpinBox *height_, *nozzle_, *fill_, *wallSpeed_, *fillSpeed_, *width_, *depth_, *tall_;
  QSlider* slider_;
  QPushButton* play_;
  QTimer timer_, typed_;
};

}  // namespace kervo::app
