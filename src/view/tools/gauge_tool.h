// Drags what a step can be driven by: lengths and angles.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "view/tools/tool.h"

namespace kervo {

class GaugeTool : public Tool {
 public:
  using Tool::Tool;
  /// The field of a gauge, and its value in mm or radians.
  std::function<void(const std::string&, double)> moved;
  /// A gauge was clicked: its value is to be typed.
  std::function<void(const std::string&)> typed;

  void set(std::vector<Gauge> gauges);

  bool press(const Pointer& pointer) override;
  void drag(const Pointer& pointer) override;
  void release(const Pointer& pointer) override;
  bool point(const Pointer& pointer, bool taken) override;
  void mark(Overlay& overlay, bool dragging) const override;

 private:
  std::optional<std::size_t> at(QPointF position) const;
  /// The first gauge whose grip is there.
  std::optional<std::size_t> gripAt(QPointF position) const;
  /// Both gauges of a grip, that of the first of them, to where a pixel lies in their plane.
  void dragGrip(std::size_t number, const Pointer& pointer);

  std::vector<Gauge> gauges_;
  std::optional<std::size_t> hot_;   ///< under the pointer or dragged
  std::optional<std::size_t> grip_;  ///< the same, by its grip
  std::vector<Gauge> pressed_;       ///< as they were when a grip was pressed
};

}  // namespace kervo
