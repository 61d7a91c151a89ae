#include "view/tools/badge_tool.h"

namespace kervo {

void BadgeTool::light(std::optional<std::size_t> piece) {
  if (lit_ == piece) return;
  lit_ = piece;
  space_.redraw();
}

void BadgeTool::setAll(bool all) {
  all_ = all;
  space_.redraw();
}

void BadgeTool::dress(Overlay& overlay) const {
  overlay.allBadges = all_;
  for (Badge& badge : overlay.badges) badge.lit = lit_ == badge.piece;
}

std::vector<QRect> BadgeTool::rects() const {
  const Overlay overlay = space_.emptyOverlay();
  std::vector<QRect> rects;
  for (const std::size_t i : shownBadges(overlay, space_.letters()))
    rects.push_back(badgeRect(overlay.badges[i], space_.eye(), space_.pixelRatio(), space_.letters()).toAlignedRect());
  return rects;
}

std::optional<std::size_t> BadgeTool::at(QPointF position) const {
  const Overlay overlay = space_.emptyOverlay();
  for (const std::size_t i : shownBadges(overlay, space_.letters()))
    if (badgeRect(overlay.badges[i], space_.eye(), space_.pixelRatio(), space_.letters()).contains(position))
      return overlay.badges[i].piece;
  return std::nullopt;
}

bool BadgeTool::point(const Pointer& pointer, bool taken) {
  light(at(pointer.now));
  return taken;
}

bool BadgeTool::click(QPointF position) {
  if (const auto badge = at(position)) {
    clicked(*badge);
    return true;
  }
  const Overlay overlay = space_.emptyOverlay();
  const QString note = badgesNote(overlay, shownBadges(overlay, space_.letters()).size());
  if (note.isEmpty() || !badgesNoteRect(overlay, note, space_.letters()).contains(position)) return false;
  setAll(true);
  return true;
}

void BadgeTool::box(const QRectF& box) {
  std::vector<std::size_t> pieces;
  for (const Badge& badge : space_.shown().badges)
    if (box.contains(badgeRect(badge, space_.eye(), space_.pixelRatio(), space_.letters()).center()))
      pieces.push_back(badge.piece);
  if (!pieces.empty()) boxed(pieces);
}

}  // namespace kervo
