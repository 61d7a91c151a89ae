// The ruler at the right edge of the view, on which a section's plane is dragged.
#pragma once

#include <functional>
#include <optional>

#include "view/gauge.h"
#include "view/tools/tool.h"

namespace kervo {

/// The section whose plane is dragged: how far it lies along its normal.
struct RulerMark {
  StepId section;
  std::string letter;
  Gauge gauge;
  double unit = 1;  ///< mm of one unit of the lengths that are shown
};

class SectionTool : public Tool {
 public:
  using Tool::Tool;
  /// The plane is at another place, mm; `done`: it was let go.
  std::function<void(const StepId& section, double value, bool done)> moved;

  /// Nothing: no ruler.
  void set(std::optional<RulerMark> mark);
  const std::optional<RulerMark>& ruler() const { return mark_; }
  bool dragging() const { return held_; }
  /// Where the mark stands: the tip of it, in widget pixels.
  QPointF tip() const;
  /// Where the ruler is, in widget pixels.
  QRectF bar() const;
  /// From the lowest to the highest place on it, mm.
  std::pair<double, double> range() const;
  /// What Page Up goes on by: a round part of the range, mm.
  double step() const;
  /// By steps, held within the range.
  void stepBy(double steps);

  bool press(const Pointer& pointer) override;
  void drag(const Pointer& pointer) override;
  void release(const Pointer& pointer) override;
  bool point(const Pointer& pointer, bool taken) override;
  void forget() override { hot_ = false; }
  bool key(int key, Qt::KeyboardModifiers modifiers) override;
  void paint(QPainter& painter) const override;

 private:
  double heightOf(double value) const;
  void moveTo(double height, bool finely, bool done);

  std::optional<RulerMark> mark_;
  bool hot_ = false, held_ = false;
};

}  // namespace kervo
