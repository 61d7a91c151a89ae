#include "app/scene_maker.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <numeric>
#include <optional>
#include <set>
#include <tuple>

#include "app/selection.h"
#include "fields/bodies_field.h"
#include "model/storeys.h"
#include "view/cut_faces.h"
#include "view/guide_picture.h"

namespace kervo::app {

namespace {

void add(Scene& scene, const Body& body, const std::map<BodyId, Picture>& pictures, Role role) {
  const auto picture = pictures.find(body.id);
  if (picture == pictures.end() || !body.inSight()) return;
  if (role == Role::Plain && body.isPale()) role = Role::Behind;
  scene.bodies.push_back({body.id, body.name, picture->second, bodyColor(body), role, 0, true});
}

/// Datums and drawings; also hidden ones of the steps that are `needed`.
void addGuides(Scene& scene, const Model& model, const std::map<BodyId, Picture>& pictures,
               const std::set<StepId>& needed = {}) {
  for (const Guide& guide : model.guides) {
    const auto picture = pictures.find(guide.id);
    if (picture == pictures.end() || (!guide.inSight() && !needed.contains(guide.id.step()))) continue;
    scene.bodies.push_back({guide.id, guide.name, picture->second, {}, guide.datum() ? Role::Datum : Role::Drawing});
  }
}

/// The borders of faces that were found not valid.
void addFlaws(Scene& scene, const Body& body, const std::map<BodyId, Picture>& pictures) {
  const auto picture = pictures.find(body.id);
  if (picture == pictures.end() || !body.inSight() || !body.form.hasFlawedFaces()) return;
  const BodyMesh& mesh = picture->second->mesh;
  for (std::size_t face = 0; face < picture->second->faces.size(); ++face) {
    if (!picture->second->faces[face].flawed()) continue;
    for (const std::uint32_t edge : mesh.faceEdges[face]) {
      Polyline line;
      const BodyMesh::Range range = mesh.edges[edge];
      for (std::size_t i = range.first; i < range.first + range.count; ++i)
        line.push_back({mesh.edgePoints[3 * i], mesh.edgePoints[3 * i + 1], mesh.edgePoints[3 * i + 2]});
      scene.lines.push_back({std::move(line), SceneLine::Style::Fault});
    }
  }
}

void addLines(Scene& scene, const std::vector<Polyline>& lines, SceneLine::Style style) {
  for (const Polyline& line : lines) scene.lines.push_back({line, style});
}

/// Bodies in the step's fields of one well.
std::vector<BodyId> picked(const Step& step, Well well) {
  std::vector<BodyId> result;
  for (const Field* field : step.kind().fields()) {
    if (field->well() != well) continue;
    const FieldValue& value = step.value(*field);
    if (const auto* pick = value.asIf<BodyPick>())
      result.insert(result.end(), pick->bodies.begin(), pick->bodies.end());
    const auto* cutters = value.asIf<std::vector<CutterPick>>();
    if (!cutters) continue;
    for (const CutterPick& cutter : *cutters)
      if (cutter.kind == CutterPick::Kind::Body) result.push_back(cutter.body);
  }
  return result;
}

bool inFamilies(const BodyId& body, const std::vector<BodyId>& families) {
  return std::any_of(families.begin(), families.end(), [&](const BodyId& family) { return body.isOfFamily(family); });
}

/// The middle of one of the larger triangles of a face: that near the middle of the face, of several the one in front,
/// whatever the order of the triangles.
std::optional<Badge::Place> placeOn(const BodyPicture& picture, std::size_t face) {
  struct Spot {
    Point middle;
    Vector across;  ///< twice the triangle's area long
  };
  const BodyMesh& mesh = picture.mesh;
  const BodyMesh::Range range = mesh.faceTriangles[face];
  std::vector<Spot> spots;
  spots.reserve(range.count);
  double largest = 0, area = 0;
  Vector moment;
  for (std::size_t t = range.first; t < range.first + range.count; ++t) {
    const auto corner = [&](std::uint32_t k) {
      const float* p = &mesh.points[std::size_t{3} * mesh.triangles[3 * t + k]];
      return Point{p[0], p[1], p[2]};
    };
    const Point middle = (corner(0) + corner(1) + corner(2)) * (1.0 / 3);
    spots.push_back({middle, cross(corner(1) - corner(0), corner(2) - corner(0))});
    const double size = length(spots.back().across);
    largest = std::max(largest, size);
    area += size;
    moment = moment + (middle - Point{}) * size;
  }
  if (largest <= 0) return std::nullopt;
  const Point centre = Point{} + moment * (1 / area);
  // Rounded, so that what is about equal counts as equal.
  const double near = std::sqrt(area) / 8, step = 1e-3 * std::sqrt(largest);
  const auto rank = [&](const Spot& spot) {
    const bool small = length(spot.across) < largest / 8;
    return std::tuple(small, std::round(length(spot.middle - centre) / near), std::round(spot.middle.y / step),
                      std::round(spot.middle.x / step), std::round(spot.middle.z / step));
  };
  const Spot& best =
      *std::min_element(spots.begin(), spots.end(), [&](const Spot& a, const Spot& b) { return rank(a) < rank(b); });
  return Badge::Place{best.middle, normalized(best.across), picture.faces[face].area()};
}

/// A place on each of the largest faces.
std::vector<Badge::Place> badgePlaces(const BodyPicture& picture, const BodyPicture* source) {
  // A mesh has no faces to put it on: it stands in its middle.
  if (const Mesh* mesh = picture.form.mesh()) return {{mesh->box().centre(), {0, 0, 1}, mesh->area()}};
  constexpr std::size_t most = 12;
  std::vector<std::size_t> order(picture.faces.size());
  std::iota(order.begin(), order.end(), std::size_t(0));
  std::sort(order.begin(), order.end(),
            [&](std::size_t a, std::size_t b) { return picture.faces[a].area() > picture.faces[b].area(); });
  // Faces that were cut lie against the other pieces and are not seen, unless there are no others.
  std::set<std::string> old;
  if (source)
    for (const Face& face : source->faces) old.insert(face.origins().front());
  const auto cut = std::stable_partition(order.begin(), order.end(), [&](std::size_t face) {
    return old.count(picture.faces[face].origins().front()) > 0;
  });
  if (cut != order.begin()) order.erase(cut, order.end());
  if (order.size() > most) order.resize(most);
  std::vector<Badge::Place> places;
  for (const std::size_t face : order)
    if (const auto place = placeOn(picture, face)) places.push_back(*place);
  return places;
}

void addPieces(Scene& scene, const Tried& tried, const StepResult& result) {
  const bool several = result.audit.cuts || result.pieces.size() > 1;
  int number = 0;
  for (std::size_t i = 0; i < result.pieces.size(); ++i) {
    const Piece& piece = result.pieces[i];
    const auto source = tried.picturesBefore.find(piece.from);
    const BodyPicture* before = source == tried.picturesBefore.end() ? nullptr : source->second.get();
    if (!piece.kept) {
      scene.bodies.push_back({piece.key, piece.name, tried.pieces[i], {}, Role::Waste, 0, false, i, piece.from});
      if (several) scene.badges.push_back({"–", badgePlaces(*tried.pieces[i], before), Role::Waste, 0, i, false});
      continue;
    }
    const Body* body = tried.after->find(piece.body);
    Role role = several ? Role::Piece : Role::Stock;
    if (body && !body->inSight()) continue;
    scene.bodies.push_back({piece.body, piece.name, tried.pieces[i], body ? bodyColor(*body) : Color{0.7, 0.75, 0.75},
                            role, number, true, i, piece.from});
    if (several)
      scene.badges.push_back(
          {std::to_string(number + 1), badgePlaces(*tried.pieces[i], before), Role::Piece, number, i, false});
    ++number;
  }
}

}  // namespace

Color bodyColor(const Body& body) {
  if (body.color) return *body.color;
  static constexpr std::array<Color, 5> row{Color{0.66, 0.75, 0.76}, Color{0.80, 0.76, 0.68}, Color{0.70, 0.74, 0.80},
                                            Color{0.74, 0.78, 0.68}, Color{0.78, 0.71, 0.72}};
  // Pieces keep the colour of the body that they were: "plate/front" is of "plate".
  return row[std::hash<BodyId>{}(body.id.root()) % row.size()];
}

namespace {

/// A little more than all that is there.
Box aroundWorld(const Scene& scene) {
  constexpr double least = 50;
  Box around = scene.box();
  around.add(Point{least, least, least});
  around.add(Point{-least, -least, -least});
  return around;
}

void addWorld(Scene& scene, const char* name, const Datum& datum, const Box& around) {
  scene.bodies.push_back({worldId(name), name, pictureOf(datum, around), {}, Role::Datum});
}

}  // namespace

void addWorldPlanes(Scene& scene) {
  const Box around = aroundWorld(scene);
  addWorld(scene, "xy", Plane{}, around);
  addWorld(scene, "xz", Plane{{}, {1, 0, 0}, {0, 0, 1}, {0, -1, 0}}, around);
  addWorld(scene, "yz", Plane{{}, {0, 1, 0}, {0, 0, 1}, {1, 0, 0}}, around);
}

void addWorldAxes(Scene& scene) {
  const Box around = aroundWorld(scene);
  addWorld(scene, "x", Axis{{}, {1, 0, 0}}, around);
  addWorld(scene, "y", Axis{{}, {0, 1, 0}}, around);
  addWorld(scene, "z", Axis{{}, {0, 0, 1}}, around);
}

std::string letterOf(const StepId& section, std::size_t place) {
  // By the number in its id, so that it stays when another one is deleted.
  const std::string& text = section.text();
  const auto digits = text.find_last_not_of("0123456789") + 1;
  constexpr std::size_t most = 4, letters = 26;
  std::size_t number = place;
  if (digits < text.size() && text.size() - digits <= most && text[digits] != '0')
    number = std::stoul(text.substr(digits)) - 1;
  std::string letter;
  for (++number; number > 0; number = (number - 1) / letters)
    letter.insert(letter.begin(), static_cast<char>('A' + (number - 1) % letters));
  return letter;
}

void addSections(Scene& scene, const std::vector<StepReport>& sections, const Model& model, const Openings& openings) {
  for (std::size_t i = 0; i < sections.size(); ++i) {
    const StepReport& report = sections[i];
    if (report.state == StepState::Off || !report.result || !report.result->section) continue;
    scene.sections.push_back({report.id, letterOf(report.id, i), report.name, report.result->section});
  }
  std::vector<StepId> on;
  for (const SceneSection& section : scene.sections) on.push_back(section.id);
  for (SceneBody& body : scene.bodies) {
    if (body.isGuide()) continue;
    const BodyId& id = body.from.empty() ? body.id : body.from;
    const ShownAs* look = model.lookOf(id);
    for (std::size_t i = 0; i < scene.sections.size(); ++i)
      if (scene.sections[i].cut->cuts(id, look ? look->layer : std::string())) body.cutBy.push_back(i);
    const Opened* opened = openings.find(id, body.picture.get(), on);
    if (!opened) continue;
    body.opened = opened->picture;
    body.picture = opened->picture->picture;
    body.overlaps = opened->overlaps;
  }
  std::erase_if(scene.bodies, [](const SceneBody& body) { return !body.picture; });
  // A badge stands only where something of its piece is seen.
  if (scene.sections.empty()) return;
  for (Badge& badge : scene.badges)
    for (const SceneBody& body : scene.bodies)
      if (body.role == badge.role && body.tint == badge.tint && body.badge == badge.piece) {
        const Hidden hidden = hiddenOf(scene, body);
        std::erase_if(badge.places, [&](const Badge::Place& place) { return hidden.at(place.point); });
      }
}

namespace {

/// What lies on the levels above and below the one whose plan is shown, as lines.
void addBeside(Scene& scene, const Model& model, const Document& document, const std::map<BodyId, Picture>& pictures) {
  const auto level = planShown(document);
  if (!level) return;
  const std::vector<std::string> beside = levelsBeside(model.levels, *level);
  for (const Body& body : model.bodies) {
    const auto picture = pictures.find(body.id);
    if (picture == pictures.end() || std::find(beside.begin(), beside.end(), body.level) == beside.end()) continue;
    scene.beside.push_back({body.name, picture->second});
    const BodyMesh& mesh = picture->second->mesh;
    for (const BodyMesh::Range& edge : mesh.edges) {
      Polyline line;
      for (std::size_t i = edge.first; i < edge.first + edge.count; ++i)
        line.push_back({mesh.edgePoints[3 * i], mesh.edgePoints[3 * i + 1], mesh.edgePoints[3 * i + 2]});
      scene.lines.push_back({std::move(line), SceneLine::Style::Level});
    }
  }
}

}  // namespace

Scene sceneOf(const Made& made) {
  Scene scene;
  addBeside(scene, *made.model, made.document, made.pictures);
  for (const Body& body : made.model->bodies) {
    add(scene, body, made.pictures, Role::Plain);
    addFlaws(scene, body, made.pictures);
  }
  addGuides(scene, *made.model, made.guides);
  return scene;
}

Scene sceneOf(const Tried& tried) {
  const auto step = tried.document.find(tried.step);
  const StepReport& report = tried.report();
  if (!report.result) return pickingScene(tried, *step);
  const StepResult& result = *report.result;
  Scene scene;
  addBeside(scene, *tried.after, tried.document, tried.picturesAfter);
  if (report.finding) addLines(scene, report.finding->gap, SceneLine::Style::Fault);
  std::set<BodyId> shown;
  std::vector<BodyId> divided;
  for (const Piece& piece : result.pieces) {
    if (piece.kept) shown.insert(piece.body);
    divided.push_back(piece.from);
  }
  const std::vector<BodyId> cutters = picked(*step, Well::Cutter);
  for (const Body& body : tried.before->bodies)
    // A cutter that is divided itself is shown by its pieces.
    if (inFamilies(body.id, cutters) && std::find(divided.begin(), divided.end(), body.id) == divided.end()) {
      add(scene, body, tried.picturesBefore, Role::Cutter);
      shown.insert(body.id);
    }
  for (const Body& body : tried.after->bodies)
    if (!shown.count(body.id)) add(scene, body, tried.picturesAfter, Role::Plain);
  addPieces(scene, tried, result);
  addLines(scene, result.cutterOutline, SceneLine::Style::Cutter);
  addLines(scene, result.left, SceneLine::Style::Left);
  addGuides(scene, *tried.after, tried.guidesAfter);
  return scene;
}

std::vector<MeasureMark> measureMarks(const Model& model, const std::string& unit) {
  std::vector<MeasureMark> marks;
  for (const StepReport& report : model.steps) {
    if (!report.result) continue;
    const std::optional<Measurement>& measured = report.result->measured;
    if (!measured || measured->at.empty()) continue;
    const QString value = quantityText(measured->value, unit);
    const QString name = QString::fromStdString(measured->name);
    const QString text = name.isEmpty() ? value : QStringLiteral("%1 = %2").arg(name, value);
    marks.push_back({measured->at.front(), measured->at.back(), text});
  }
  return marks;
}

Scene pickingScene(const Tried& tried, const Step& step) {
  Scene scene;
  addBeside(scene, *tried.before, tried.document, tried.picturesBefore);
  if (const auto& finding = tried.report().finding) {
    addLines(scene, finding->cutterOutline, SceneLine::Style::Cutter);
    addLines(scene, finding->gap, SceneLine::Style::Fault);
  }
  const std::vector<BodyId> stock = picked(step, Well::Stock), cutters = picked(step, Well::Cutter);
  for (const Body& body : tried.before->bodies) {
    const Role role = inFamilies(body.id, cutters) ? Role::Cutter
                      : inFamilies(body.id, stock) ? Role::Stock
                                                   : Role::Plain;
    add(scene, body, tried.picturesBefore, role);
  }
  std::set<StepId> read;
  for (const Field* field : step.kind().fields())
    if (matters(step, *field)) field->addSteps(read, step.value(*field));
  addGuides(scene, *tried.before, tried.guidesBefore, read);
  return scene;
}

}  // namespace kervo::app
