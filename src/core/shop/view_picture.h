// A kept view drawn at scale: what is seen, what is hidden, and the faces at which its sections cut.
#pragma once

#include <string>
#include <vector>

#include "model/document.h"
#include "model/model.h"
#include "shop/paper.h"

namespace kervo {

struct ViewPictureOrder : PaperOrder {
  bool hidden = true;  ///< with hidden edges, dashed
};

struct ViewPicture {
  FlatPicture picture;
  std::vector<std::string> bodies;  ///< drawn, by their names
  double visible = 0, hidden = 0;   ///< length of all lines, mm of the model
  std::vector<std::string> notes;   ///< what is drawn otherwise than it is seen in the view
};

/// The bodies that the view shows, cut open by its sections, from where it looks, in parallel projection: each on a
/// layer of its name, its hidden edges and cut faces on more that end with " hidden" and " cut". `model` is that of the
/// document. Throws Error if the view shows nothing that can be drawn; Stopped on request.
ViewPicture viewPicture(const Document& document, const Model& model, const SavedView& view,
                        const ViewPictureOrder& order, Progress& progress);

}  // namespace kervo
