// A number measured on bodies, for the expressions of later steps and to be seen in the view.
#include <algorithm>

#include "base/expression.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/edges_field.h"
#include "fields/faces_field.h"
#include "fields/flag_field.h"
#include "fields/plane_field.h"
#include "fields/points_field.h"
#include "fields/reference_parts.h"
#include "fields/text_field.h"
#include "geom/curves/curve_body.h"
#include "geom/divide/boolean.h"
#include "geom/measure/between.h"
#include "geom/measure/box_along.h"
#include "geom/measure/thinnest_wall.h"
#include "model/step_inputs.h"
#include "steps/registry.h"

namespace kervo {

namespace {

enum class What {
  Distance,
  Planes,
  Axes,
  Angle,
  Radius,
  Diameter,
  Length,
  Area,
  Volume,
  Overlap,
  Wall,
  SizeX,
  SizeY,
  SizeZ
};

constexpr Dimensionality areaDimension{2, 0}, volumeDimension{3, 0};

/// What was picked, and what it is now: an edge that was divided is several.
using Parts = std::vector<std::vector<MeasuredPart>>;

class Measure : public StepKind {
 public:
  Measure()
      : StepKind({.key = "measure",
                  .label = "Measure",
                  .menu = KindMenu::Check,
                  .verb = "Measured dimension …",
                  .help = "A number measured on bodies, for the expressions of later steps and to be seen in the view",
                  .makes = Makes::Number}) {}

  const FieldOf<std::string>* nameOfMeasured() const override { return &name_; }

  void startFrom(const Selected& selected, Start& start) const override {
    std::vector<FaceReference> faces;
    std::vector<EdgeReference> edges;
    for (const Picked& pick : selected.picks) {
      if (pick.what == Picked::What::Face) faces.push_back(pick.face);
      if (pick.what == Picked::What::Edge) edges.insert(edges.end(), pick.edges.begin(), pick.edges.end());
    }
    const std::vector<BodyId> bodies = selected.wholeBodies();
    if (!bodies.empty()) start.set(bodies_, BodyPick::only(bodies));
    if (!faces.empty()) start.set(faces_, faces);
    if (!edges.empty()) start.set(edges_, edges);
    if (!selected.points().empty()) start.set(points_, selected.points());
    const std::size_t count = bodies.size() + faces.size() + edges.size() + selected.points().size();
    if (count != 1) return;
    start.set(what_, !bodies.empty() ? What::Volume : !faces.empty() ? What::Area : What::Length);
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const std::string& name = name_.of(inputs);
    if (!name.empty())
      if (const std::string reason = whyNotAName(name); !reason.empty())
        name_.fail(reason, say("Choose another name, or leave it empty"));
    StepResult result;
    result.measured = measured(inputs, progress);
    result.measured->name = name;
    if (what_.of(inputs) == What::Overlap && asBody_.of(inputs)) addOverlap(inputs, result, progress);
    return result;
  }

 private:
  Measurement measured(StepInputs& inputs, Progress& progress) const {
    switch (what_.of(inputs)) {
      case What::Distance:
      case What::Planes:
      case What::Axes:
      case What::Angle:
      case What::Overlap:
        return between(inputs, progress);
      case What::Radius:
      case What::Diameter:
        return round(inputs);
      case What::Length:
        return lengths(inputs);
      case What::Area:
      case What::Volume:
        return sizes(inputs);
      case What::Wall:
        return wall(inputs, progress);
      case What::SizeX:
      case What::SizeY:
      case What::SizeZ:
        break;
    }
    return extent(inputs);
  }

  Parts parts(StepInputs& inputs) const {
    Parts result;
    if (matters(inputs, bodies_))
      for (const BodyId& body : bodies_.of(inputs)) result.push_back({inputs.shape(body)});
    if (matters(inputs, faces_))
      for (const FaceReference& face : faces_.in(inputs)) result.push_back({faceFor(inputs, face, faces_)});
    if (matters(inputs, edges_))
      for (const EdgeReference& edge : edges_.in(inputs)) {
        std::vector<MeasuredPart>& pieces = result.emplace_back();
        for (const auto& [body, found] : edgesFor(inputs, edge, edges_).edges) pieces.emplace_back(found);
      }
    if (matters(inputs, points_))
      for (const PointReference& point : points_.in(inputs)) result.push_back({pointFor(inputs, point, points_)});
    return result;
  }

  bool matters(const Inputs& inputs, const Field& field) const {
    return !field.when().other || field.when().holds(inputs.value(*field.when().other));
  }

  /// The nearest of what each of the two is now.
  Measurement between(StepInputs& inputs, Progress& progress) const {
    const Parts two = parts(inputs);
    if (two.size() != 2)
      what_.fail(say("%1 things are picked", two.size()), say("Pick two: bodies, faces, edges or points"));
    std::optional<Between> nearest;
    for (const MeasuredPart& a : two[0])
      for (const MeasuredPart& b : two[1])
        if (Between found = measuredBetween(a, b, progress); !nearest || found.distance < nearest->distance)
          nearest = found;
    if (!nearest) what_.fail(say("there is nothing to measure"), say("Pick something else"));
    const auto need = [&](const std::optional<double>& value, std::string help) {
      if (!value) what_.fail(say("these two have no such measure"), std::move(help));
      return *value;
    };
    const std::vector<Point> line{nearest->from, nearest->to};
    switch (what_.of(inputs)) {
      case What::Planes:
        return {{}, {need(nearest->planes, say("Pick two parallel planar faces")), lengthDimension}, line};
      case What::Axes:
        return {{}, {need(nearest->axes, say("Pick two round faces or edges")), lengthDimension}, line};
      case What::Angle:
        return {{},
                {need(nearest->angle, say("Pick two planar faces, straight edges or axes")), angleDimension},
                {nearest->from}};
      case What::Overlap: {
        for (const auto& part : two)
          if (const auto* shape = std::get_if<Shape>(&part.front()); !shape || shape->kind() != BodyKind::Solid)
            what_.fail(say("only solids overlap"), say("Pick two solids"));
        return {{}, {nearest->overlap.value_or(0), volumeDimension}, {nearest->from}};
      }
      default:
        return {{}, {nearest->distance, lengthDimension}, line};
    }
  }

  void addOverlap(StepInputs& inputs, StepResult& result, Progress& progress) const {
    std::vector<Shape> solids;
    for (const BodyId& body : bodies_.of(inputs)) solids.push_back(inputs.shape(body));
    Shape both = intersect(solids, progress);
    if (both.empty()) asBody_.fail(say("the two do not overlap"), say("Switch this off"));
    result.made.push_back({.id = inputs.id(), .form = BodyForm(std::move(both)), .name = say("overlap")});
  }

  Measurement round(StepInputs& inputs) const {
    const Parts one = parts(inputs);
    if (one.size() != 1) what_.fail(say("%1 things are picked", one.size()), say("Pick one round face or edge"));
    const MeasuredPart& part = one.front().front();
    const auto* face = std::get_if<Face>(&part);
    const auto* edge = std::get_if<Edge>(&part);
    const auto radius = face ? radiusOf(*face) : edge ? radiusOf(*edge) : std::nullopt;
    if (!radius) what_.fail(say("it has no radius"), say("Pick a cylinder, a ball or a circular edge"));
    return {{},
            {what_.of(inputs) == What::Diameter ? 2 * *radius : *radius, lengthDimension},
            {face ? face->samplePoint() : edge->middle()}};
  }

  Measurement lengths(StepInputs& inputs) const {
    double sum = 0;
    std::vector<Point> at;
    for (const auto& each : parts(inputs))
      for (const MeasuredPart& part : each) {
        if (const auto* edge = std::get_if<Edge>(&part)) {
          sum += edge->length();
          at.push_back(edge->middle());
        } else {
          const Shape& shape = std::get<Shape>(part);
          if (shape.kind() != BodyKind::Curve)
            bodies_.fail(say("only curves have a length"), say("Pick edges or curves"));
          sum += lengthOfCurve(shape);
          at.push_back(shape.roughBox().centre());
        }
      }
    if (at.empty()) what_.fail(say("nothing is picked"), say("Pick edges or curves"));
    return {{}, {sum, lengthDimension}, {at.front()}};
  }

  Measurement sizes(StepInputs& inputs) const {
    const bool volume = what_.of(inputs) == What::Volume;
    double sum = 0;
    std::vector<Point> at;
    for (const BodyId& body : bodies_.of(inputs)) {
      const BodyForm form = inputs.form(body);
      if (volume && !form.anyShape().hasInside()) bodies_.fail(say("\"%1\" has no volume", body), say("Pick solids"));
      sum += volume ? form.volume() : form.area();
      at.push_back(form.roughBox().centre());
    }
    if (!volume)
      for (const FaceReference& reference : faces_.in(inputs)) {
        const Face face = faceFor(inputs, reference, faces_);
        sum += face.area();
        at.push_back(face.samplePoint());
      }
    if (at.empty()) what_.fail(say("nothing is picked"), volume ? say("Pick solids") : say("Pick faces or bodies"));
    return {{}, {sum, volume ? volumeDimension : areaDimension}, {at.front()}};
  }

  Measurement wall(StepInputs& inputs, Progress& progress) const {
    std::optional<Wall> thinnest;
    const std::vector<BodyId> bodies = bodies_.of(inputs);
    for (const BodyId& body : bodies) {
      const Shape shape = inputs.form(body).anyShape();
      const double limit = thinnest ? thinnest->thickness : shape.roughBox().diagonal();
      if (const auto found = thinnestWall({}, {shape}, limit, progress)) thinnest = found;
    }
    if (!thinnest)
      bodies_.fail(bodies.empty() ? say("nothing is picked") : say("there are no two faces with material between them"),
                   say("Pick solids with walls"));
    return {{}, {thinnest->thickness, lengthDimension}, {thinnest->from, thinnest->to}};
  }

  Measurement extent(StepInputs& inputs) const {
    Box box;
    const Plane along = along_.of(inputs);
    for (const BodyId& body : bodies_.of(inputs)) box.add(boxAlong(inputs.shape(body), along));
    if (box.empty()) bodies_.fail(say("nothing is picked"), say("Pick bodies"));
    const Vector size = box.high - box.low;
    const What what = what_.of(inputs);
    return {{},
            {what == What::SizeX   ? size.x
             : what == What::SizeY ? size.y
                                   : size.z,
             lengthDimension},
            {along.at(box.centre().x, box.centre().y, box.centre().z)}};
  }

  const ChoiceField<What> what_{
      *this,
      {.key = "what",
       .label = "What",
       .help =
           "the least distance; between parallel planes; between axes; the angle of the material between two faces; "
           "the thinnest wall; the size along x, y or z",
       .telling = true},
      {"distance", "planes", "axes", "angle", "radius", "diameter", "length", "area", "volume", "overlap", "wall",
       "size_x", "size_y", "size_z"}};
  const TextField name_{*this,
                        {.key = "name",
                         .label = "Dimension",
                         .help = "Expressions of later steps can use it; empty: it is only shown",
                         .telling = true}};
  const BodiesField bodies_{*this,
                            {.key = "bodies",
                             .label = "Bodies",
                             .when = what_.is(What::Distance, What::Length, What::Area, What::Volume, What::Overlap,
                                              What::Wall, What::SizeX, What::SizeY, What::SizeZ)},
                            BodyPick::only({})};
  const FlagField asBody_{*this,
                          {.key = "as_body",
                           .label = "As a body",
                           .help = "What the two have in common becomes a body of its own",
                           .when = what_.is(What::Overlap)}};
  const PlaneField along_{*this,
                          {.key = "along",
                           .label = "Along",
                           .help = "The size is taken along the x and y axes of this plane, and its normal",
                           .when = what_.is(What::SizeX, What::SizeY, What::SizeZ)}};
  const FacesField faces_{*this,
                          {.key = "faces",
                           .label = "Faces",
                           .when = what_.is(What::Distance, What::Planes, What::Axes, What::Angle, What::Radius,
                                            What::Diameter, What::Area)}};
  const EdgesField edges_{
      *this,
      {.key = "edges",
       .label = "Edges",
       .when = what_.is(What::Distance, What::Axes, What::Angle, What::Radius, What::Diameter, What::Length)}};
  const PointsField points_{*this, {.key = "points", .label = "Points", .when = what_.is(What::Distance)}};
};

}  // namespace

const StepKind& measureStep() {
  static const Measure kind;
  return kind;
}

}  // namespace kervo
