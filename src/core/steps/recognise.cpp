// Planes, cylinders, cones, spheres and tori that a file gives as splines, made such surfaces again.
#include <map>
#include <set>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/faces_field.h"
#include "fields/reference_parts.h"
#include "geom/surface/recognised.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

namespace {

class Recognise : public StepKind {
 public:
  Recognise()
      : StepKind({.key = "recognise",
                  .label = "Recognise",
                  .menu = KindMenu::Check,
                  .verb = "Recognise planes, cylinders …",
                  .help =
                      "Free-form faces that are planes, cylinders, cones, spheres or tori become such faces, so that "
                      "they have sizes, axes and fast ways",
                  .wells = {.stock = {"Bodies", "whose faces are looked at"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    const std::vector<FaceReference> faces = selected.faces();
    start.set(faces_, faces);
    if (faces.empty()) start.set(bodies_, BodyPick::only(selected.wholeBodies()));
  }

  std::optional<std::string> offered(const Selected& selected) const override {
    for (const Picked& pick : selected.picks)
      if (pick.what == Picked::What::Face && pick.freeForm) return say("Recognise what it is");
    return std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    std::map<BodyId, std::set<std::string>> wanted;
    if (!faces_.in(inputs).empty()) {
      for (const FaceReference& pick : faces_.in(inputs)) {
        const Face face = faceFor(inputs, pick, faces_);
        for (const BodyId& body : inputs.members(pick.body))
          wanted[body].insert(face.origins().begin(), face.origins().end());
      }
    } else {
      const Stock stock = stockOf(inputs, bodies_);
      result.audit.shielded = stock.shielded;
      for (const BodyId& body : stock.bodies) wanted[body];
    }
    int left = 0;
    double done = 0;
    for (const auto& [body, names] : wanted) {
      if (inputs.shielded(body)) {
        result.audit.shielded.push_back(body);
        inputs.warn(say("\"%1\" is shielded and stays as it is", body));
        continue;
      }
      const Shape before = inputs.shape(body);
      if (before.kind() == BodyKind::Curve) continue;
      progress.enter(done, done + 1 / static_cast<double>(wanted.size()), say("looking at \"%1\"", body));
      done += 1 / static_cast<double>(wanted.size());
      try {
        const Recognised after = recognised(before, names, tolerance_.of(inputs), progress);
        left += after.left;
        if (after.kinds.empty()) continue;
        result.audit.notes.push_back("\"" + body + "\": " + told(after));
        replaceBody(result, body, before, after.shape);
      } catch (const Error& error) {
        throw error.within(say("body \"%1\"", body));
      }
    }
    if (result.made.empty())
      tolerance_.fail(left == 0 ? say("there is no free-form face")
                                : sayCount(left, "the one free-form face is nothing simpler within this tolerance",
                                           "none of the %1 free-form faces is anything simpler within this tolerance"),
                      left == 0 ? say("Choose another body") : say("Allow more, or choose another body"));
    return result;
  }

 private:
  static std::string told(const Recognised& after) {
    std::string text;
    const auto add = [&](const std::string& what) { text += (text.empty() ? "" : ", ") + what; };
    for (const auto& [kind, count] : after.kinds) add(std::to_string(count) + " × " + say(kind.c_str()));
    if (after.edges > 0) add(sayCount(after.edges, "%1 line or circle", "%1 lines and circles"));
    if (after.left > 0) add(sayCount(after.left, "%1 face stays free-form", "%1 faces stay free-form"));
    return text + say("; at most %1 mm off", formatNumber(after.off, 2));
  }

  const BodiesField bodies_{*this, {.key = "bodies", .label = "Bodies", .well = Well::Stock}, BodyPick::everything()};
  const FacesField faces_{
      *this,
      {.key = "faces", .label = "Only these faces", .well = Well::Stock, .help = "instead of all faces of the bodies"}};
  const LengthField tolerance_{*this,
                               {.key = "tolerance",
                                .label = "Tolerance",
                                .well = Well::Reach,
                                .help = "how far a face may be from what it is taken for"},
                               "0.001 mm",
                               NumberRule::Positive};
};

}  // namespace

const StepKind& recogniseStep() {
  static const Recognise kind;
  return kind;
}

}  // namespace kervo
