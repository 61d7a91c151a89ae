#include "model/step_inputs.h"

#include "geom/built_planes.h"

#include <algorithm>

#include "drawing/curve_kind.h"
#include "geom/tolerances.h"

namespace kervo {

void Surroundings::reindex() {
  bodyIndex.clear();
  for (std::size_t i = 0; i < bodies.size(); ++i) bodyIndex.emplace(bodies[i].id, i);
}

Key Surroundings::valueOf(Read::What what, const std::string& id) const {
  switch (what) {
    case Read::What::Members: {
      Hasher hasher;
      for (const Entry& body : bodies)
        if (id.empty() || body.id.isOfFamily(id))
          hasher.add(body.id).add(body.shielded ? "shielded" : "").add(body.holeMaker ? "hole" : "");
      return hasher.key();
    }
    case Read::What::ShapeOf: {
      const auto found = bodyIndex.find(id);
      return found == bodyIndex.end() ? Key() : bodies[found->second].key;
    }
    case Read::What::BoxOf: {
      const auto found = bodyIndex.find(id);
      if (found == bodyIndex.end()) return Key();
      const Box box = bodies[found->second].shape.roughBox();
      return Hasher()
          .add(box.low.x)
          .add(box.low.y)
          .add(box.low.z)
          .add(box.high.x)
          .add(box.high.y)
          .add(box.high.z)
          .key();
    }
    case Read::What::PlaneOf: {
      const auto found = planes.find(id);
      return found == planes.end() ? Key() : found->second.second;
    }
    case Read::What::DrawingOf: {
      const auto found = drawings.find(id);
      return found == drawings.end() ? Key() : found->second.second;
    }
  }
  return Key();
}

namespace {

void requireRule(const FieldSpec& field, double value, const MadeHalf& document) {
  const bool isLength = field.type == FieldType::Length || field.type == FieldType::Placement;
  const Dimensionality dimension = isLength                         ? lengthDimension
                                   : field.type == FieldType::Angle ? angleDimension
                                                                    : plainNumber;
  const std::string text = format({value, dimension}, unitNamed(document.unit));
  if (field.rule == NumberRule::Positive && !(value > 0))
    throw Error("the value is " + text, "", "Type a value greater than zero");
  if (field.rule == NumberRule::NotNegative && value < 0) throw Error("the value is " + text, "", "Type zero or more");
  if (isLength && field.rule == NumberRule::Positive && value < tolerance::smallestSize)
    throw Error("the value is only " + text, "",
                "The smallest size is " + formatNumber(tolerance::smallestSize) + " mm");
  if (isLength && std::abs(value) > tolerance::largestSize)
    throw Error("the value is " + text, "", "The largest size is " + formatNumber(tolerance::largestSize) + " mm");
}

std::string listed(const std::vector<BodyId>& names) {
  std::string text;
  for (std::size_t i = 0; i < names.size() && i < 8; ++i) text += (i ? ", " : "") + names[i];
  return names.size() > 8 ? text + ", …" : text;
}

}  // namespace

StepInputs::StepInputs(const Step& step, const MadeHalf& document, const DimensionTable& dimensions,
                       const Surroundings& around)
    : step_(step), document_(document), around_(around) {
  const Unit unit = unitNamed(document.unit);
  const Expression::Lookup lookup = [&](const std::string& name) { return dimensions.lookup(name); };
  Hasher hasher;
  hasher.add(step.fixedKey());
  const auto evaluate = [&](const FieldSpec& field, const Expression& expression, Dimensionality wanted) {
    const double value = expression.evaluateAs(wanted, unit, lookup);
    hasher.add(value);
    numbers_[field.key].push_back(value);
    return value;
  };
  for (const FieldSpec& field : step.kind().fields()) {
    const FieldValue& value = step.value(field.key);
    try {
      if (const auto* expression = std::get_if<Expression>(&value)) {
        if (!matters(step, field)) {
          numbers_[field.key].push_back(0);
          continue;
        }
        const Dimensionality wanted = field.type == FieldType::Length  ? lengthDimension
                                      : field.type == FieldType::Angle ? angleDimension
                                                                       : plainNumber;
        requireRule(field, evaluate(field, *expression, wanted), document);
      } else if (const auto* coordinates = std::get_if<std::vector<Expression>>(&value)) {
        for (const Expression& coordinate : *coordinates)
          requireRule(field, evaluate(field, coordinate, lengthDimension), document);
      } else if (const auto* regions = std::get_if<RegionPick>(&value)) {
        for (const auto& [region, depth] : regions->depths)
          if (!(evaluate(field, depth, lengthDimension) > tolerance::smallestSize))
            throw Error("the depth of region \"" + region + "\" is not more than zero", "", "Type a larger depth");
      } else if (const auto* curves = std::get_if<std::vector<DrawnCurve>>(&value)) {
        for (const DrawnCurve& curve : *curves) {
          const CurveKind* kind = findCurveKind(curve.kind);
          if (!kind || kind->numbers.size() != curve.numbers.size())
            throw Error("the curve is of no known kind, or has the wrong count of numbers",
                        "curve \"" + curve.id + "\"");
          for (std::size_t i = 0; i < curve.numbers.size(); ++i) {
            try {
              evaluate(field, curve.numbers[i], kind->numbers[i].dimension);
            } catch (const Error& error) {
              throw error.within("curve \"" + curve.id + "\", " + kind->numbers[i].name);
            }
          }
        }
      }
    } catch (const Error& error) {
      throw error.within("field " + field.label);
    }
  }
  ownKey_ = hasher.key();
}

Point StepInputs::point(const std::string& field) const {
  const std::vector<double>& coordinates = numbers_.at(field);
  return {coordinates[0], coordinates[1], coordinates[2]};
}

std::vector<PlanarCurve> StepInputs::curves(const std::string& field) const {
  std::vector<PlanarCurve> result;
  const auto found = numbers_.find(field);
  if (found == numbers_.end()) return result;
  auto next = found->second.begin();
  for (const DrawnCurve& curve : value<std::vector<DrawnCurve>>(field)) {
    const std::vector<double> numbers(next, next + static_cast<std::ptrdiff_t>(curve.numbers.size()));
    next += static_cast<std::ptrdiff_t>(curve.numbers.size());
    for (PlanarCurve& planar : planarCurves(*findCurveKind(curve.kind), curve.id, numbers))
      result.push_back(std::move(planar));
  }
  return result;
}

Key StepInputs::read(Read::What what, const std::string& id) {
  const Key value = around_.valueOf(what, id);
  const bool known =
      std::any_of(reads_.begin(), reads_.end(), [&](const Read& r) { return r.what == what && r.id == id; });
  if (!known) reads_.push_back({what, id, value});
  return value;
}

std::vector<BodyId> StepInputs::members(const BodyId& family) {
  read(Read::What::Members, family);
  std::vector<BodyId> result;
  for (const Surroundings::Entry& body : around_.bodies)
    if (family.empty() || body.id.isOfFamily(family)) result.push_back(body.id);
  return result;
}

bool StepInputs::shielded(const BodyId& body) const {
  const auto found = around_.bodyIndex.find(body);
  return found != around_.bodyIndex.end() && around_.bodies[found->second].shielded;
}

bool StepInputs::holeMaker(const BodyId& body) const {
  const auto found = around_.bodyIndex.find(body);
  return found != around_.bodyIndex.end() && around_.bodies[found->second].holeMaker;
}

std::map<std::string, double> StepInputs::regionDepths(const std::string& field) const {
  std::map<std::string, double> result;
  const auto found = numbers_.find(field);
  if (found == numbers_.end()) return result;
  auto next = found->second.begin();
  for (const auto& [region, depth] : value<RegionPick>(field).depths) result.emplace(region, *next++);
  return result;
}

Shape StepInputs::shape(const BodyId& body) {
  read(Read::What::ShapeOf, body);
  const auto found = around_.bodyIndex.find(body);
  return found == around_.bodyIndex.end() ? Shape() : around_.bodies[found->second].shape;
}

Box StepInputs::box(const BodyId& body) {
  read(Read::What::BoxOf, body);
  const auto found = around_.bodyIndex.find(body);
  return found == around_.bodyIndex.end() ? Box() : around_.bodies[found->second].shape.roughBox();
}

std::vector<BodyId> StepInputs::picked(const BodyPick& pick, const std::string& field) {
  if (pick.all) return members("");
  std::vector<BodyId> result;
  for (const BodyId& wanted : pick.bodies) {
    const std::vector<BodyId> found = members(wanted);
    if (found.empty()) {
      // The message depends on all bodies: it is not kept when another one comes or goes.
      const std::vector<BodyId> present = members("");
      throw Error("there is no body \"" + wanted + "\" here", "field " + step_.kind().field(field)->label,
                  present.empty() ? "Make or bring in a body before this step"
                                  : "Pick again; at this step there are: " + listed(present));
    }
    for (const BodyId& body : found)
      if (std::find(result.begin(), result.end(), body) == result.end()) result.push_back(body);
  }
  return result;
}

std::vector<SearchedBody> StepInputs::searched(const BodyId& family) {
  std::vector<SearchedBody> result;
  for (const BodyId& body : members(family)) result.push_back({body, shape(body)});
  return result;
}

namespace {
bool hasFace(const std::vector<SearchedBody>& bodies, const std::string& name) {
  for (const SearchedBody& body : bodies)
    for (const Face& face : facesOf(body.shape))
      if (std::binary_search(face.origins().begin(), face.origins().end(), name)) return true;
  return false;
}
}  // namespace

FoundFace StepInputs::faceOf(const FaceReference& reference) {
  // The other bodies are looked at, and this step made to depend on them, only if the named one does not do.
  if (!reference.body.empty()) {
    const std::vector<SearchedBody> family = searched(reference.body);
    if (hasFace(family, reference.name)) return resolve(reference, family);
  }
  return resolve(reference, searched(""));
}

Face StepInputs::face(const std::string& field) {
  return face(value<FaceReference>(field), field);
}

Face StepInputs::face(const FaceReference& reference, const std::string& field) {
  const std::string place = "field " + step_.kind().field(field)->label;
  if (reference.empty()) throw Error("no face is chosen", place, "Pick a face");
  try {
    const FoundFace found = faceOf(reference);
    if (found.how == Found::ByPosition)
      warn(place + ": the face \"" + reference.name + "\" was found by its position only");
    return found.face;
  } catch (const Error& error) {
    throw error.within(place);
  }
}

Point StepInputs::point(const PointReference& reference, const std::string& field) {
  const std::string place = "field " + step_.kind().field(field)->label;
  try {
    const FoundPoint found =
        resolve(reference, searched(reference.body.empty() || members(reference.body).empty() ? "" : reference.body));
    if (found.how == Found::ByPosition) warn(place + ": a point was found by its position only");
    return found.point;
  } catch (const Error& error) {
    throw error.within(place);
  }
}

Plane StepInputs::plane(const std::string& field) {
  return plane(value<PlanePick>(field), field);
}

Plane StepInputs::plane(const PlanePick& pick, const std::string& field) {
  const std::string place = "field " + step_.kind().field(field)->label;
  switch (pick.kind) {
    case PlanePick::Kind::Standard:
      if (pick.name == "xy") return {};
      if (pick.name == "xz") return {{}, {1, 0, 0}, {0, 0, 1}, {0, -1, 0}};
      if (pick.name == "yz") return {{}, {0, 1, 0}, {0, 0, 1}, {1, 0, 0}};
      throw Error("there is no plane \"" + pick.name + "\"", place, "Choose xy, xz, yz, a Plane step or a face");
    case PlanePick::Kind::OfStep: {
      read(Read::What::PlaneOf, pick.name);
      const auto found = around_.planes.find(pick.name);
      if (found == around_.planes.end())
        throw Error("there is no plane from a step \"" + pick.name + "\" before this one", place, "Pick a plane again");
      return found->second.first;
    }
    case PlanePick::Kind::OnFace:
      return planeOf(pick.face, place);
    default:
      break;
  }
  try {
    if (pick.kind == PlanePick::Kind::Midway)
      return midwayPlane(planeOf(pick.face, place), planeOf(pick.other, place), Between::Faces);
    if (pick.kind == PlanePick::Kind::Points) {
      if (pick.points.size() != 3)
        throw Error(std::to_string(pick.points.size()) + " points are picked", "", "Pick three corners of bodies");
      return planeThrough(point(pick.points[0], field), point(pick.points[1], field), point(pick.points[2], field));
    }
    if (pick.edge.empty()) return planeAcross(face(pick.face, field));
    return planeAcross(edges(pick.edge.front()).edges.front().second);
  } catch (const Error& error) {
    if (error.where().find(place) != std::string::npos) throw;
    throw error.within(place);
  }
}

Plane StepInputs::planeOf(const FaceReference& reference, const std::string& place) {
  try {
    const FoundFace found = faceOf(reference);
    if (found.how == Found::ByPosition)
      warn(place + ": the face \"" + reference.name + "\" was found by its position only");
    const std::optional<Plane> plane = found.face.plane();
    if (!plane)
      throw Error("the face \"" + reference.name + "\" is not planar (it is a " + found.face.surfaceName() + ")", "",
                  "Pick a planar face");
    return *plane;
  } catch (const Error& error) {
    throw error.within(place);
  }
}

FoundEdges StepInputs::edges(const EdgeReference& reference) {
  if (!reference.body.empty()) {
    const std::vector<SearchedBody> family = searched(reference.body);
    if (hasFace(family, reference.first) && hasFace(family, reference.second)) return resolve(reference, family);
  }
  return resolve(reference, searched(""));
}

DrawingResult StepInputs::drawing(const StepId& step) {
  read(Read::What::DrawingOf, step);
  const auto found = around_.drawings.find(step);
  if (found == around_.drawings.end())
    throw Error(
        step.empty() ? "no drawing is chosen" : "there is no drawing from a step \"" + step + "\" before this one", "",
        "Pick the drawing again, or mend the step that makes it");
  return found->second.first;
}

Shape StepInputs::brought(const std::string& key) const {
  const auto found = document_.shapes.find(key);
  if (found == document_.shapes.end())
    throw Error("the stored shape \"" + key + "\" is missing from the document", "", "Bring the file in again");
  return found->second;
}

}  // namespace kervo
