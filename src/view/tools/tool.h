// Tools of the view: mouse and keys in, marks out. One class each; the view asks them in their order.
#pragma once

#include <QFontMetricsF>
#include <QLineF>
#include <QPainter>

#include "view/overlay.h"
#include "view/picker.h"

namespace kervo {

/// The view that a tool works in.
class ToolSpace {
 public:
  ToolSpace() = default;
  ToolSpace(const ToolSpace&) = delete;
  ToolSpace& operator=(const ToolSpace&) = delete;
  virtual ~ToolSpace() = default;

  virtual Camera& eye() = 0;
  virtual const Scene& shown() const = 0;
  virtual const Picker& picks() const = 0;
  virtual const ViewLook& colors() const = 0;
  /// Pixels of the screen a widget's pixel.
  virtual qreal pixelRatio() const = 0;
  virtual QFontMetricsF letters() const = 0;
  /// How large the view is, in widget pixels.
  virtual QSizeF room() const = 0;
  /// An overlay of this view with nothing in it but the badges.
  virtual Overlay emptyOverlay() const = 0;

  /// The camera is another one now.
  virtual void turned() = 0;
  virtual void redraw() = 0;

  QPointF pixels(QPointF position) const { return position * pixelRatio(); }
  QPointF toWidget(Point point) { return eye().project(point) / pixelRatio(); }
};

/// The mouse, in widget coordinates.
struct Pointer {
  static constexpr double slack = 4;  ///< pixels that a click may move

  QPointF now, last;  ///< where it is, and was at the event before
  QPointF pressed;    ///< where a button went down
  QPoint onScreen = {};
  Qt::MouseButton button = Qt::NoButton;
  Qt::KeyboardModifiers modifiers = {};

  bool still() const { return QLineF(pressed, now).length() <= slack; }
  bool holds(Qt::KeyboardModifier key) const { return modifiers.testFlag(key); }
};

class Tool {
 public:
  explicit Tool(ToolSpace& space) : space_(space) {}
  Tool(const Tool&) = delete;
  Tool& operator=(const Tool&) = delete;
  virtual ~Tool() = default;

  /// True if it takes this press, and what follows until the release.
  virtual bool press(const Pointer&) { return false; }
  /// The second press of a double click; taken, the tool hears no press() for it.
  virtual bool doublePress(const Pointer&) { return false; }
  virtual void drag(const Pointer&) {}
  virtual void release(const Pointer&) {}
  /// The pointer moves without a button. `taken`: it is on something of a tool before. True if it is on something of
  /// this one.
  virtual bool point(const Pointer&, bool taken) { return taken; }
  /// The pointer is gone, or the view has turned under it.
  virtual void forget() {}
  /// True if it takes this key.
  virtual bool key(int, Qt::KeyboardModifiers) { return false; }
  /// True if it takes text that is typed.
  virtual bool text(const QString&) { return false; }
  /// What it shows. `dragging`: some tool is at work.
  virtual void mark(Overlay&, bool) const {}
  /// What no overlay can hold.
  virtual void paint(QPainter&) const {}

 protected:
  ToolSpace& space_;
};

}  // namespace kervo
