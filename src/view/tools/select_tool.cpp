#include "view/tools/select_tool.h"

#include "view/mark_walk.h"

namespace kervo {

namespace {
constexpr double reach = 4;  // pixels round the pointer
}

std::vector<Hit> SelectTool::hitsAt(QPointF position) const {
  return space_.picks().at(space_.pixels(position), reach * space_.pixelRatio(), space_.eye());
}

std::optional<Pick> SelectTool::pickAt(QPointF position) const {
  const auto hits = hitsAt(position);
  return hits.empty() ? std::nullopt : std::optional(hits.front().pick);
}

void SelectTool::sceneChanged() {
  hover_.reset();
  stackNext_ = 0;
}

void SelectTool::forget() {
  pointing_ = true;
  hover_.reset();
}

bool SelectTool::press(const Pointer& pointer) {
  box_.reset();
  return pointer.button == Qt::LeftButton;
}

void SelectTool::drag(const Pointer& pointer) {
  if (!box_ && pointer.still()) return;
  box_ = QRectF(pointer.pressed, pointer.now);
  boxTouches_ = pointer.now.x() < pointer.pressed.x();
}

void SelectTool::release(const Pointer& pointer) {
  labelAt_ = pointer.now;
  if (!box_) return click(pointer);
  box_.reset();
  const QRectF box(pointer.pressed, pointer.now);
  const bool touches = pointer.now.x() < pointer.pressed.x();
  badges_.box(box.normalized());
  boxed(space_.picks().in(QRectF(space_.pixels(pointer.pressed), space_.pixels(pointer.now)),
                          touches ? Picker::Inclusion::Touching : Picker::Inclusion::Inside, space_.eye()),
        pointer.holds(Qt::ControlModifier));
}

void SelectTool::click(const Pointer& pointer) {
  if (badges_.click(pointer.now)) return;
  const auto hits = hitsAt(pointer.now);
  if (hits.empty()) {
    stackAt_ = {-100, -100};
    return pickedNothing();
  }
  const bool again = QLineF(pointer.now, stackAt_).length() <= Pointer::slack;
  if (!again) stackNext_ = 0;
  stackAt_ = pointer.now;
  // Taking it may change what is shown, and with it what the next click begins with.
  const Hit& hit = hits[stackNext_ % hits.size()];
  Pick pick = hit.pick;
  pick.place = hit.point;
  picked(pick, pointer.holds(Qt::ControlModifier));
  ++stackNext_;
}

bool SelectTool::point(const Pointer& pointer, bool taken) {
  pointing_ = true;
  labelAt_ = pointer.now;
  const auto hits = hitsAt(pointer.now);
  std::optional<Pick> now;
  if (!taken && !hits.empty()) {
    // What the next click takes: after repeated clicks, something further back.
    const bool stacked = QLineF(pointer.now, stackAt_).length() <= Pointer::slack;
    now = hits[stacked ? stackNext_ % hits.size() : 0].pick;
  }
  pointed(hits.empty() ? std::nullopt : std::optional(hits.front().point));
  if (now != hover_ || now) space_.redraw();
  hover_ = now;
  return taken || hover_;
}

void SelectTool::step(int direction) {
  pointing_ = false;
  // A pick may have changed what is shown: the keyboard goes on from where it was.
  const auto next = nextPick(space_.shown(), space_.picks().filter(), hover_ ? hover_ : marked_, direction);
  if (!next) return;
  hover_ = marked_ = next;
  // The label stands at the middle of what is marked.
  if (const SceneBody* body = space_.shown().find(hover_->body)) labelAt_ = space_.toWidget(middleOf(*hover_, *body));
  space_.redraw();
}

void SelectTool::takeMark(bool add) {
  // What it takes may change what is marked.
  if (const std::optional<Pick> pick = hover_) picked(*pick, add);
}

bool SelectTool::key(int key, Qt::KeyboardModifiers modifiers) {
  switch (key) {
    case Qt::Key_N:
      step(1);
      return true;
    case Qt::Key_P:
      step(-1);
      return true;
    case Qt::Key_Space:
      takeMark(modifiers.testFlag(Qt::ControlModifier));
      return true;
    default:
      return false;
  }
}

void SelectTool::mark(Overlay& overlay, bool dragging) const {
  if (hover_ && describe && !dragging) {
    overlay.label = describe(*hover_);
    overlay.labelAt = labelAt_;
  }
  overlay.box = box_;
  overlay.boxTouches = boxTouches_;
}

}  // namespace kervo
