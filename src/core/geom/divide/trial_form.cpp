#include "geom/divide/trial_form.h"

#include <BRepTools_Modifier.hxx>
#include <ShapeCustom_ConvertToRevolution.hxx>
#include <ShapeCustom_SweptToElementary.hxx>

#include "base/say.h"
#include "geom/measure/soundness.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Turns surfaces of revolution back into what they were, but only those.
class Backwards : public ShapeCustom_SweptToElementary {
 public:
  explicit Backwards(const std::set<Handle(Geom_Surface)>& made) : made_(made) {}

  Standard_Boolean NewSurface(const TopoDS_Face& face, Handle(Geom_Surface) & surface, TopLoc_Location& place,
                              Standard_Real& tolerance, Standard_Boolean& turnWires,
                              Standard_Boolean& turnFace) override {
    return isMade(face) &&
           ShapeCustom_SweptToElementary::NewSurface(face, surface, place, tolerance, turnWires, turnFace);
  }

  Standard_Boolean NewCurve2d(const TopoDS_Edge& edge, const TopoDS_Face& face, const TopoDS_Edge& newEdge,
                              const TopoDS_Face& newFace, Handle(Geom2d_Curve) & curve,
                              Standard_Real& tolerance) override {
    return isMade(face) && ShapeCustom_SweptToElementary::NewCurve2d(edge, face, newEdge, newFace, curve, tolerance);
  }

 private:
  bool isMade(const TopoDS_Face& face) const {
    TopLoc_Location place;
    return made_.contains(BRep_Tool::Surface(face, place));
  }

  const std::set<Handle(Geom_Surface)>& made_;
};

std::vector<Shape> modified(const std::vector<Shape>& shapes, const Handle(BRepTools_Modification) & modification) {
  std::vector<TopoDS_Shape> topologies;
  for (const Shape& shape : shapes)
    if (!shape.empty()) topologies.push_back(shape.body().topology);
  BRepTools_Modifier modifier(compoundOf(topologies), modification);
  if (!modifier.IsDone()) throw Unsound{say("a surface could not be converted")};
  std::vector<Shape> result;
  for (const Shape& shape : shapes) {
    if (shape.empty()) {
      result.emplace_back();
      continue;
    }
    FaceTable faces;
    for (const auto& [face, facts] : shape.body().faces) {
      const TopoDS_Shape& image = modifier.ModifiedShape(face);
      FaceFacts carried{facts.origins, facts.color, image.IsSame(face) && facts.sound};
      carried.flawed = facts.flawed;
      faces.emplace(image, std::move(carried));
    }
    result.push_back(makeShape(modifier.ModifiedShape(shape.body().topology), std::move(faces), "face:"));
  }
  return result;
}

std::set<Handle(Geom_Surface)> surfacesOf(const Shape& shape) {
  std::set<Handle(Geom_Surface)> result;
  TopLoc_Location place;
  if (!shape.empty())
    for (const auto& [face, facts] : shape.body().faces) result.insert(BRep_Tool::Surface(TopoDS::Face(face), place));
  return result;
}

bool isSame(const Shape& a, const Shape& b, Progress& progress) {
  if (a.empty() || b.empty()) return a.empty() == b.empty();
  return std::abs(a.area() - b.area()) <= tolerance::relative * b.area() + tolerance::point &&
         std::abs(a.volume() - b.volume()) <=
             tolerance::relative * std::abs(b.volume()) + tolerance::point * b.area() &&
         findFault(a.body(), progress).empty();
}

}  // namespace

Shape TrialForm::still(const Shape& shape) {
  if (attempt_.form == Attempt::Form::AsGiven || shape.empty()) return shape;
  const std::set<Handle(Geom_Surface)> before = surfacesOf(shape);
  Shape result = modified({shape}, new ShapeCustom_ConvertToRevolution).front();
  for (const Handle(Geom_Surface) & surface : surfacesOf(result))
    if (!before.contains(surface)) made_.insert(surface);
  return result;
}

std::vector<Shape> TrialForm::still(const std::vector<Shape>& shapes) {
  std::vector<Shape> result;
  for (const Shape& shape : shapes) result.push_back(still(shape));
  return result;
}

Shape TrialForm::moved(const Shape& shape) {
  return nudged(still(shape), attempt_.move);
}

std::vector<Shape> TrialForm::back(std::vector<Shape> results, Progress& progress) const {
  const bool any = std::any_of(results.begin(), results.end(), [&](const Shape& result) {
    const auto surfaces = surfacesOf(result);
    return std::any_of(surfaces.begin(), surfaces.end(), [&](const auto& surface) { return made_.contains(surface); });
  });
  if (!any) return results;
  std::vector<Shape> shapes = modified(results, new Backwards(made_));
  for (std::size_t i = 0; i < shapes.size(); ++i)
    if (!isSame(shapes[i], results[i], progress)) return results;
  return shapes;
}

}  // namespace kervo
