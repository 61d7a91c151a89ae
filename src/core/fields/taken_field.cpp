#include "fields/taken_field.h"

#include <cctype>
#include <set>

#include "base/identifier.h"
#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"
#include "fields/reference_parts.h"
#include "geom/flat/flat_curves.h"

namespace kervo {

using nlohmann::json;

template class FieldOf<std::vector<TakenAlong>>;

namespace {

/// An origin as a part of a curve's name.
std::string partOf(const std::string& origin) {
  std::string part;
  for (const char each : origin)
    part += std::isalnum(static_cast<unsigned char>(each)) || static_cast<unsigned char>(each) >= 0x80 ? each : '_';
  return part.empty() ? "curve" : part;
}

/// Curves under names of their own: those that come from one face are numbered.
void addNamed(std::vector<TakenCurve>& all, const TakenAlong& taken, const Plane& plane,
              const std::vector<NamedCurve>& curves, std::map<std::string, int>& used) {
  for (const NamedCurve& each : curves) {
    std::string id = taken.id + "." + partOf(each.name);
    if (const int count = ++used[id]; count > 1) id += "_" + std::to_string(count);
    all.push_back({PlanarCurve(id, planeCurveOf(each.curve, plane)), taken.construction});
  }
}

class Resolving {
 public:
  Resolving(Inputs& inputs, const Plane& plane, const Field& field, Progress& progress)
      : inputs_(inputs), plane_(plane), field_(field), progress_(progress) {}

  void add(const TakenAlong& taken) {
    const std::size_t before = all.size();
    std::map<std::string, int> used;
    switch (taken.what) {
      case TakenAlong::What::Edge:
        addEdge(taken);
        break;
      case TakenAlong::What::Outline: {
        const Face face = faceFor(inputs_, taken.face, field_);
        addNamed(all, taken, plane_, flatOutline(shapeOf(face, taken), face, plane_), used);
        break;
      }
      case TakenAlong::What::Silhouette:
      case TakenAlong::What::Section:
        for (const BodyId& body : membersOf(taken)) {
          const Shape shape = inputs_.shape(body);
          addNamed(all, taken, plane_,
                   taken.what == TakenAlong::What::Section ? flatSection(shape, plane_, progress_)
                                                           : flatSilhouette(shape, plane_, progress_),
                   used);
        }
    }
    if (all.size() > before) return;
    if (taken.what == TakenAlong::What::Section)
      throw Error(say("the plane does not meet the body \"%1\"", taken.body), "",
                  say("Take its silhouette along instead, or another body"));
    throw Error(say("it is seen as a point along the plane's normal"), "", say("Take something else along"));
  }

  std::vector<TakenCurve> all;

 private:
  void addEdge(const TakenAlong& taken) {
    int count = 0;
    for (const auto& [body, edge] : edgesFor(inputs_, taken.edge, field_).edges)
      if (const auto curve = flattened(edge, plane_)) {
        const std::string id = ++count == 1 ? taken.id : taken.id + "." + std::to_string(count);
        all.push_back({PlanarCurve(id, planeCurveOf(*curve, plane_)), taken.construction});
      }
  }

  std::vector<BodyId> membersOf(const TakenAlong& taken) {
    std::vector<BodyId> members = inputs_.members(taken.body);
    if (members.empty() || taken.body.empty())
      throw Error(say("there is no body \"%1\" here", taken.body), "", say("Take another body along"));
    return members;
  }

  /// The body that has the face.
  Shape shapeOf(const Face& face, const TakenAlong& taken) {
    std::vector<BodyId> among = inputs_.members(taken.face.body);
    for (const bool everywhere : {false, true}) {
      if (everywhere) among = inputs_.members("");
      for (const BodyId& body : among) {
        if (inputs_.isMesh(body)) continue;
        Shape shape = inputs_.shape(body);
        for (const Face& each : facesOf(shape))
          if (isSameFace(each, face)) return shape;
      }
    }
    throw Error(say("no body has the face \"%1\"", taken.face.name), "", say("Pick it again"));
  }

  Inputs& inputs_;
  const Plane& plane_;
  const Field& field_;
  Progress& progress_;
};

TakenAlong takenFrom(const json& value, const std::string& place) {
  if (!value.is_object()) throw wrongJson(place, "an object");
  requireOnly(value, {"id", "edge", "outline", "silhouette", "section", "construction"}, place);
  TakenAlong taken;
  taken.id = textAt(value, "id", place);
  if (value.contains("construction")) {
    if (!value["construction"].is_boolean()) throw wrongJson(place + ".construction", "true or false");
    taken.construction = value["construction"].get<bool>();
  }
  if (value.contains("edge")) {
    taken.edge = edgeFrom(value["edge"], place + ".edge");
  } else if (value.contains("outline")) {
    taken.what = TakenAlong::What::Outline;
    taken.face = faceFrom(value["outline"], place + ".outline");
  } else if (value.contains("silhouette")) {
    taken.what = TakenAlong::What::Silhouette;
    taken.body = idAt<BodyId>(value, "silhouette", place);
  } else if (value.contains("section")) {
    taken.what = TakenAlong::What::Section;
    taken.body = idAt<BodyId>(value, "section", place);
  } else {
    throw wrongJson(place, "one of the keys edge, outline, silhouette, section");
  }
  return taken;
}

json takenJson(const TakenAlong& taken) {
  json result{{"id", taken.id}};
  switch (taken.what) {
    case TakenAlong::What::Edge:
      result["edge"] = toJson(taken.edge);
      break;
    case TakenAlong::What::Outline:
      result["outline"] = toJson(taken.face);
      break;
    case TakenAlong::What::Silhouette:
      result["silhouette"] = taken.body;
      break;
    case TakenAlong::What::Section:
      result["section"] = taken.body;
      break;
  }
  if (taken.construction) result["construction"] = true;
  return result;
}

}  // namespace

std::vector<TakenCurve> TakenField::on(Inputs& inputs, const Plane& plane, Progress& progress) const {
  Resolving resolving(inputs, plane, *this, progress);
  for (const TakenAlong& taken : in(inputs)) {
    try {
      resolving.add(taken);
    } catch (const Error& error) {
      throw error.within(say("what is taken along as \"%1\"", taken.id));
    }
  }
  return std::move(resolving.all);
}

std::string TakenField::allowed() const {
  return say(
      "a list of {\"id\": …, KIND: …}, where KIND is edge, outline (of a face), silhouette or section (of a body)");
}

json TakenField::print(const std::vector<TakenAlong>& value) const {
  json result = json::array();
  for (const TakenAlong& each : value) result.push_back(takenJson(each));
  return result;
}

std::vector<TakenAlong> TakenField::parse(const json& value, const std::string& place) const {
  return listFrom<TakenAlong>(value, place, takenFrom);
}

void TakenField::hash(Hasher& hasher, const std::vector<TakenAlong>& value) const {
  hasher.add(static_cast<std::uint64_t>(value.size()));
  for (const TakenAlong& each : value) {
    hasher.add(each.id).add(static_cast<std::uint64_t>(each.what)).add(each.body);
    hasher.add(static_cast<std::uint64_t>(each.construction ? 1 : 0));
    addTo(hasher, each.edge);
    addTo(hasher, each.face);
  }
}

void TakenField::require(const std::vector<TakenAlong>& value) const {
  std::set<std::string> ids;
  for (const TakenAlong& each : value) {
    const std::string place = say("what is taken along as \"%1\"", each.id);
    if (each.id.find_first_of("-.") != std::string::npos || !whyNotAnId(each.id).empty())
      throw Error(say("\"%1\" cannot be an id in a drawing", each.id), place, say("Use letters, digits and _"));
    if (!ids.insert(each.id).second)
      throw Error(say("the id \"%1\" comes twice", each.id), place, say("Choose another id"));
  }
}

void TakenField::references(std::set<StepId>& steps, const std::vector<TakenAlong>& value) const {
  for (const TakenAlong& each : value) {
    if (!each.body.empty()) steps.insert(each.body.step());
    if (each.what == TakenAlong::What::Edge) kervo::addSteps(steps, each.edge);
    if (each.what == TakenAlong::What::Outline) kervo::addSteps(steps, each.face);
  }
}

}  // namespace kervo
