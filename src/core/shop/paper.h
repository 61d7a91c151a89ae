// What drawings at scale have in common: scaled curves, fills of cut faces, the title strip with its scale bar.
#pragma once

#include <string>
#include <vector>

#include "exchange/flat_picture.h"
#include "model/section_cut.h"

namespace kervo {

struct PaperOrder {
  std::string name = {};  ///< in the title strip
  double scale = 1;       ///< mm on paper for a mm of the model: 0.02 is 1:50
  bool strip = true;      ///< with title strip and scale bar
};

/// "1:50" → 0.02, "2:1" → 2. Throws Error for what is no scale.
double scaleFrom(const std::string& text);
/// The other way round.
std::string scaleText(double scale);

/// The ink of outlines.
Color paperInk();
/// Scaled about the origin. Curves that are no lines and arcs keep their kind.
std::vector<FlatChain> scaled(std::vector<FlatChain> chains, double by);
/// How a section fills the cut face of a body of that colour, on paper of that scale. The hatch is the one of the view
/// where it is at least a quarter and at most four times as wide as on paper usual, otherwise the usual one. `turned`:
/// across the hatch of its neighbour.
FlatFill filled(std::vector<FlatChain> loops, const CutFill& fill, const Color& body, bool turned, double scale);
/// Puts all that is drawn on paper, with a margin, and a title strip if it is wanted.
void finish(FlatPicture& picture, const PaperOrder& order);

}  // namespace kervo
