// Planes, cylinders, cones, spheres and tori that a file gives as splines, made such surfaces again.
#include <map>
#include <numbers>
#include <set>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/faces_field.h"
#include "fields/reference_parts.h"
#include "geom/place_text.h"
#include "geom/surface/recognised.h"
#include "geom/surface/recognised_mesh.h"
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
                      "Free-form faces and parts of meshes that are planes, cylinders, cones, spheres or tori become "
                      "such faces, so that they have sizes, axes and fast ways",
                  .takesMeshes = true,
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
      if (!before.mesh() && before.kind() == BodyKind::Curve) continue;
      progress.enter(done, done + 1 / static_cast<double>(wanted.size()), say("looking at \"%1\"", body));
      done += 1 / static_cast<double>(wanted.size());
      try {
        if (const Mesh* mesh = before.mesh()) {
          recogniseMesh(result, inputs, body, *mesh, progress);
          continue;
        }
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
  /// A mesh becomes a solid where all of it is recognised. Otherwise it stays, with a surface of what was beside it.
  void recogniseMesh(StepResult& result, StepInputs& inputs, const BodyId& body, const Mesh& mesh,
                     Progress& progress) const {
    const double angle = facetAngle_.of(inputs);
    constexpr double most = std::numbers::pi / 3;
    if (!(angle > 0) || angle > most)
      facetAngle_.fail(say("the angle must lie above 0 and at most at 60 deg"), say("Type e.g. 25 deg"));
    const RecognisedMesh found = recognisedMesh(mesh, inputs.id() + "/" + body, tolerance_.of(inputs), angle, progress);
    if (found.shape.empty())
      tolerance_.fail(say("no part of \"%1\" is a plane, cylinder, cone, sphere or torus within this tolerance", body),
                      say("Allow more, or leave it a mesh"));
    std::string text = kindsText(found.kinds);
    text += say("; at most %1 mm off", formatNumber(found.off, 2));
    result.audit.notes.push_back("\"" + body + "\": " + text);
    if (found.left == 0) return replaceBody(result, body, Shape(mesh), found.shape);
    result.audit.warnings.push_back(say(
        "%1 triangles of \"%2\" were not recognised, for instance at %3; it stays a mesh, with a surface of the rest "
        "beside it",
        found.left, body, placeText(found.rest)));
    const BodyId id = BodyId(inputs.id()).part(body.text());
    result.audit.touched.push_back(body);
    result.pieces.push_back(Piece::whole(say("recognised of %1", body), id, found.shape));
    result.made.push_back({.id = id, .form = found.shape, .name = say("recognised of %1", body)});
  }

  static std::string kindsText(const std::map<std::string, int>& kinds) {
    std::string text;
    for (const auto& [kind, count] : kinds)
      text += (text.empty() ? "" : ", ") + std::to_string(count) + " × " + say(kind.c_str());
    return text;
  }

  static std::string told(const Recognised& after) {
    std::string text = kindsText(after.kinds);
    const auto add = [&](const std::string& what) { text += (text.empty() ? "" : ", ") + what; };
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
  const AngleField facetAngle_{*this,
                               {.key = "facet_angle",
                                .label = "Facet angle",
                                .well = Well::Reach,
                                .help = "of meshes: between neighbouring triangles of one round face at most"},
                               "25 deg"};
};

}  // namespace

const StepKind& recogniseStep() {
  static const Recognise kind;
  return kind;
}

}  // namespace kervo
