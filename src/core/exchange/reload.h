// A file that was brought in, read again: what it holds now takes the place of what it held.
#pragma once

#include <string>
#include <vector>

#include "model/document.h"

namespace kervo {

/// What became of one body.
struct ReloadedBody {
  enum class How { Same, Changed, New, Gone };
  std::string name;
  How how = How::Same;
  std::size_t newFaces = 0, goneFaces = 0;
};

struct Reloaded {
  Document document;
  std::vector<ReloadedBody> bodies;  ///< those of the file first, in its order
  /// Bodies and faces that are no more although steps name them, with ids in quotes: "Cut \"pocket\" names
  /// \"import1:face7\", which is gone". Such steps fail, or find another place by position, which they say.
  std::vector<std::string> lost;
};

/// The document with the bodies of `brought`, the document of one Bring in step that readers make, in the place of
/// those that a step of it brought in. A body is found again by its assemblies and name, by its shape, or as the only
/// one that is left; it keeps its id. Of its faces those that are found again (facesAlike) keep their names, and no
/// other face takes such a name. Throws Error if there is no such Bring in step.
Reloaded reloaded(const Document& document, const StepId& step, const Document& brought);

/// In a sentence: "1 body is as it was, 2 bodies changed (5 faces are new), 1 body is gone".
std::string reloadText(const Reloaded& reloaded);

}  // namespace kervo
