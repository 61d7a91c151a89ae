#include "steps/shared/picked_faces.h"

#include <algorithm>

#include "base/say.h"
#include "fields/reference_parts.h"

namespace kervo {

std::vector<PickedFaces> pickedFaces(StepInputs& inputs, const FacesField& field, StepResult& result) {
  if (field.in(inputs).empty()) field.fail(say("no face is picked"), say("Pick faces in the view"));
  std::vector<PickedFaces> picked;
  std::set<BodyId> shielded;
  for (const FaceReference& reference : field.in(inputs)) {
    const Face face = faceFor(inputs, reference, field);
    bool known = false;
    for (const BodyId& body : inputs.members(reference.body)) {
      const Shape shape = inputs.shape(body);
      const std::vector<Face> all = facesOf(shape);
      const auto place = std::find_if(all.begin(), all.end(), [&](const Face& each) { return isSameFace(each, face); });
      if (place == all.end()) continue;
      known = true;
      if (inputs.shielded(body)) {
        if (shielded.insert(body).second) inputs.warn(say("\"%1\" is shielded and stays as it is", body));
        break;
      }
      auto its = std::find_if(picked.begin(), picked.end(), [&](const PickedFaces& each) { return each.body == body; });
      if (its == picked.end()) its = picked.insert(picked.end(), {body, shape, {}, {}});
      const int number = static_cast<int>(place - all.begin());
      if (std::find(its->numbers.begin(), its->numbers.end(), number) != its->numbers.end()) break;
      its->numbers.push_back(number);
      its->faces.push_back(*place);
      break;
    }
    if (!known) field.fail(say("the body of a picked face is gone"), say("Pick the face again"));
  }
  result.audit.shielded.insert(result.audit.shielded.end(), shielded.begin(), shielded.end());
  if (picked.empty()) field.fail(say("all bodies of these faces are shielded"), say("Unshield a body"));
  return picked;
}

}  // namespace kervo
