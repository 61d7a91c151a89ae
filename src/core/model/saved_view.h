// Kept ways of looking: camera, what is shown, which sections are on, and how it is drawn.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "base/ids.h"
#include "geom/space.h"
#include "model/levels.h"

namespace kervo {

struct Document;

/// Where one looks from.
struct ViewCamera {
  Point centre;                 ///< the middle of the picture
  Vector towardsEye{0, -1, 0};  ///< unit length
  Vector up{0, 0, 1};           ///< unit length, at a right angle to that
  double height = 200;          ///< mm from the bottom to the top of the picture, at its middle
  bool perspective = false;
  bool operator==(const ViewCamera&) const = default;
};

struct SavedView {
  std::string id;  ///< "view1"
  std::string name;
  ViewCamera camera;
  std::string style = "shaded";         ///< shaded, clear or lines
  std::map<BodyId, bool> visible = {};  ///< what a person had shown or hidden
  std::map<BodyId, bool> faded = {};    ///< what a person had faded or not
  std::vector<StepId> sections = {};    ///< those that were on
  LevelSight levels = {};               ///< what was shown of the levels; of all of them, the working one is not kept
  bool operator==(const SavedView&) const = default;
};

/// The document as it is seen now, as a view. Its id is one that is not taken.
SavedView viewOf(const Document& document, const ViewCamera& camera, std::string style, std::string name);

/// The document with bodies shown and sections on as the view keeps them. Bodies and sections that came later are shown
/// as they would be without it; sections that are not among the view's are off. Levels are shown as they were.
Document asSeen(const Document& document, const SavedView& view);

// Edits of the list of views. They throw Error if there is no such view.
Document withView(const Document& document,
                  SavedView view);  ///< added at the end, or in the place of the one of its id
Document withoutView(const Document& document, const std::string& id);
Document withViewMoved(const Document& document, const std::string& id, std::size_t index);  ///< counted without it

}  // namespace kervo
