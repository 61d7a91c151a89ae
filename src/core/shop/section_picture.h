// A section drawn at scale: outlines and fills of what a plane cuts, with a title strip and a scale bar.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "exchange/flat_picture.h"
#include "model/model.h"
#include "model/section_cut.h"
#include "shop/paper.h"

namespace kervo {

struct SectionPicture {
  FlatPicture picture;
  std::vector<std::string> bodies;  ///< cut, by their names
  double area = 0;                  ///< of all cut faces, mm² of the model
};

/// Of all visible bodies that the section cuts, as seen against the plane's normal, each on a layer of its name; open
/// surfaces are lines. Hatches are at true scale on paper. Throws Error for a section that is not by a plane, or cuts
/// nothing; Stopped on request.
SectionPicture sectionPicture(const Model& model, const SectionCut& section, const PaperOrder& order,
                              Progress& progress);

}  // namespace kervo
