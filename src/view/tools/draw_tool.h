// Draws a curve on a plane: by pressing, dragging and releasing, by clicks, or with numbers that are typed.
#pragma once

#include <functional>
#include <optional>
#include <vector>

#include "drawing/drawn_by_hand.h"
#include "view/tools/tool.h"

namespace kervo {

class DrawTool : public Tool {
 public:
  using Tool::Tool;
  /// Something of the kind that was set was drawn.
  std::function<void(const Stroke&)> drawn;
  /// What a place of the view is meant to be, by where the curve begins.
  std::function<std::optional<Snap>(QPointF, std::optional<PlanePoint> from, bool infer)> snap;
  /// The points in which the line that was drawn last begins and ends.
  std::function<std::optional<std::pair<Snap, Snap>>()> lastLine;
  /// Takes the line away that was drawn last.
  std::function<void()> dropLast;
  /// Somebody types a number: it is the first of sizes() or of a place.
  std::function<void(const QString&)> typing;
  /// Places were added, or the pointer has moved: what can be typed has other values.
  std::function<void()> changed;

  /// While a plane and a kind are set, presses and drags draw that. `sides`: of a polygon.
  void set(std::optional<Plane> plane, const StrokeKind* kind, int sides = 6);
  const StrokeKind* kind() const { return kind_; }

  bool press(const Pointer& pointer) override;
  void drag(const Pointer& pointer) override;
  void release(const Pointer& pointer) override;
  bool doublePress(const Pointer& pointer) override;
  bool point(const Pointer& pointer, bool taken) override;
  bool key(int key, Qt::KeyboardModifiers modifiers) override;
  bool text(const QString& text) override;
  void mark(Overlay& overlay, bool dragging) const override;
  void paint(QPainter& painter) const override;

  /// What can be typed now: the coordinates of a place, or sizes.
  std::vector<StrokeKind::Size> asked() const;
  /// … and what they are where the pointer is.
  std::vector<double> askedNow() const;
  /// Takes what was typed: an expression and its value in mm or rad for each that is asked, nothing for what follows
  /// the pointer.
  struct Typed {
    Expression text;
    std::optional<double> value;
  };
  void take(const std::vector<Typed>& typed);
  /// Where the next place would be, in the view.
  QPointF pointer() const { return at_; }

 private:
  bool asksSizes() const;
  void add(const Snap& place, bool ends);
  void finish();
  /// What is drawn with the places there are and where the pointer is.
  std::optional<Stroke> stroke() const;
  void look(QPointF at, bool infer);
  void drop();
  bool backOne();

  std::optional<Plane> plane_;
  const StrokeKind* kind_ = nullptr;
  int sides_ = 6;
  std::vector<Snap> places_;
  std::vector<Expression> sizes_;
  std::optional<Snap> next_;   ///< where the pointer is
  std::optional<Snap> first_;  ///< the point in which a chain began
  bool infer_ = true;
  bool pressed_ = false;
  bool began_ = false;  ///< the press set the first place
  QPointF at_;
};

/// "middle", "tangent": what a place was taken for, and the sign beside it.
QString wordFor(const Snap& snap);
QString signFor(const Snap& snap);

}  // namespace kervo
