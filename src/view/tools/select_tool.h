// Picks what is shown: pointing marks, a click takes, clicks at one place go through what lies there, a box takes
// several; on the keyboard N and P step, Space takes.
#pragma once

#include <QString>
#include <functional>
#include <optional>
#include <vector>

#include "view/tools/badge_tool.h"

namespace kervo {

class SelectTool : public Tool {
 public:
  SelectTool(ToolSpace& space, BadgeTool& badges) : Tool(space), badges_(badges) {}
  std::function<void(const Pick&, bool add)> picked;
  std::function<void()> pickedNothing;
  std::function<void(const std::vector<Pick>&, bool add)> boxed;
  /// What lies under the pointer.
  std::function<void(const std::optional<Point>&)> pointed;
  /// Text beside the pointer for what a click would take.
  std::function<QString(const Pick&)> describe;

  const std::optional<Pick>& hovered() const { return hover_; }
  /// True while the mark follows the pointer, not the keyboard.
  bool follows() const { return pointing_; }
  std::optional<Pick> pickAt(QPointF position) const;
  /// What is shown is another scene now.
  void sceneChanged();
  /// Other things can be picked now: what is marked may not be one of them.
  void unmark() { hover_.reset(); }
  /// Marks the next or previous of all that can be picked: bodies, or faces, then edges, then corners.
  void step(int direction);
  void takeMark(bool add);

  bool press(const Pointer& pointer) override;
  void drag(const Pointer& pointer) override;
  void release(const Pointer& pointer) override;
  bool point(const Pointer& pointer, bool taken) override;
  void forget() override;
  bool key(int key, Qt::KeyboardModifiers modifiers) override;
  void mark(Overlay& overlay, bool dragging) const override;

 private:
  void click(const Pointer& pointer);
  std::vector<Hit> hitsAt(QPointF position) const;

  BadgeTool& badges_;
  std::optional<Pick> hover_;
  std::optional<Pick> marked_;  ///< where the keyboard stepped last
  QPointF labelAt_;
  std::optional<QRectF> box_;
  bool boxTouches_ = false;  ///< drawn right to left
  bool pointing_ = true;
  /// Repeated clicks at one place go through what lies there.
  QPointF stackAt_{-100, -100};
  std::size_t stackNext_ = 0;
};

}  // namespace kervo
