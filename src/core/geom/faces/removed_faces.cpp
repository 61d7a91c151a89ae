#include "geom/faces/removed_faces.h"

#include <BRepAlgoAPI_Defeaturing.hxx>
#include <BRepTools_History.hxx>

#include "base/say.h"
#include "geom/faces/carried_faces.h"
#include "geom/measure/soundness.h"

namespace kervo {

Shape withoutFaces(const Shape& solid, const std::vector<int>& faces, Progress& progress) {
  return kernelCall("removing faces", [&] {
    const std::vector<TopoDS_Face> all = facesOf(solid.body().topology);
    BRepAlgoAPI_Defeaturing removal;
    removal.SetShape(solid.body().topology);
    for (const int number : faces) removal.AddFaceToRemove(all.at(static_cast<std::size_t>(number)));
    removal.SetToFillHistory(true);
    removal.Build();
    progress.throwIfStopped();
    if (removal.HasErrors() || removal.HasWarnings() || removal.Shape().IsNull())
      throw Error(say("what is round these faces does not close the gap that they leave"), "",
                  say("Pick all faces of the pocket or boss, or rounds together with those that they end in"));
    const Shape result = carriedAlong(removal.Shape(), solid.body().faces, *removal.History());
    const std::string fault = findFault(result.body(), progress);
    if (!fault.empty() || result.solidCount() != solid.solidCount())
      throw Error(
          say("without these faces the body would not be sound: %1", fault.empty() ? say("it falls apart") : fault), "",
          say("Pick all faces of the pocket or boss"));
    return result;
  });
}

}  // namespace kervo
