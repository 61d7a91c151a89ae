// The badges of pieces: lit under the pointer, clicked, boxed; all of them or only those that leave the bodies free.
#pragma once

#include <functional>
#include <optional>
#include <vector>

#include "view/tools/tool.h"

namespace kervo {

class BadgeTool : public Tool {
 public:
  using Tool::Tool;
  std::function<void(std::size_t piece)> clicked;
  std::function<void(const std::vector<std::size_t>& pieces)> boxed;

  void light(std::optional<std::size_t> piece);
  void setAll(bool all);
  bool all() const { return all_; }
  /// Fills in how the badges look now.
  void dress(Overlay& overlay) const;
  /// Where badges are, so that nothing else is put there.
  std::vector<QRect> rects() const;

  /// True if a badge, or the words about those left out, took the click.
  bool click(QPointF position);
  void box(const QRectF& box);

  bool point(const Pointer& pointer, bool taken) override;
  void forget() override { light(std::nullopt); }

 private:
  std::optional<std::size_t> at(QPointF position) const;

  std::optional<std::size_t> lit_;
  bool all_ = false;
};

}  // namespace kervo
