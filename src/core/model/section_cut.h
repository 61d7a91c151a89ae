// What a section makes of its fields: where it cuts the view, which bodies, and how the cut faces look.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "geom/display/clip.h"
#include "model/step_result.h"

namespace kervo {

/// Which bodies a section cuts.
struct SectionScope {
  enum class Which { All, AllBut, Only };
  Which which = Which::All;
  std::vector<BodyId> bodies = {};       ///< with the pieces they were divided into
  std::vector<std::string> layers = {};  ///< … and all on these layers

  bool holds(const BodyId& body, const std::string& layer) const;
};

/// How cut faces look.
struct CutFill {
  enum class By { Body, Own, Hatch };
  By by = By::Body;
  Color color = {};        ///< Own
  std::string hatch = {};  ///< key of a hatch
  double turn = 0;         ///< of the hatch, radians
  double scale = 1;        ///< of its spacing
  bool thick = true;       ///< the ink around it
};

struct SectionCut {
  /// Whether it cuts a body on that layer.
  bool cuts(const BodyId& body, const std::string& layer) const;

  Clip clip;
  BodyId by = {};  ///< the closed body that cuts; it is not cut itself
  SectionScope scope;
  CutFill fill;
  /// Of a section by a plane: that plane, its normal towards what goes.
  std::optional<Plane> plane = {};
};

}  // namespace kervo
