// Sweeps over stretches of curves that shall go, or points at ends that shall go on to the next curve.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "drawing/trims.h"
#include "view/tools/drawing_tool.h"

namespace kervo {

enum class TrimMode { None, Sweep, Lengthen };

class TrimTool : public Tool {
 public:
  TrimTool(ToolSpace& space, const DrawingTool& drawing) : Tool(space), drawing_(drawing) {}
  /// Curves were swept over, each where it was, or the end of one was pointed at.
  std::function<void(const std::vector<std::pair<std::string, PlanePoint>>&)> swept;

  void set(TrimMode mode);
  /// The stretches that are listed, with their numbers where they are; `lit`: the one that is pointed at in the list.
  void list(std::vector<CurvePiece> pieces, std::optional<std::size_t> lit);

  bool press(const Pointer& pointer) override;
  void drag(const Pointer& pointer) override;
  void release(const Pointer& pointer) override;
  bool point(const Pointer& pointer, bool taken) override;
  void forget() override { hot_.reset(); }
  void paint(QPainter& painter) const override;

 private:
  /// A stretch that goes.
  struct Stretch {
    CurvePiece piece;
    PlanePoint place;
  };
  std::optional<Stretch> stretchAt(QPointF position) const;
  void take(const std::optional<Stretch>& stretch);
  QPolygonF outline(const CurvePiece& piece) const;
  void paintListed(QPainter& painter) const;

  const DrawingTool& drawing_;
  TrimMode mode_ = TrimMode::None;
  std::optional<Stretch> hot_;
  std::vector<Stretch> taken_;
  std::vector<CurvePiece> listed_;
  std::optional<std::size_t> lit_;
};

}  // namespace kervo
