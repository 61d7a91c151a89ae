#include "view/cut_faces.h"

#include <algorithm>
#include <cmath>

#include "geom/planes.h"

namespace kervo {

namespace {

constexpr double parallel = 1e-9;
/// Of one section, at the most.
constexpr int mostWalls = 100;
/// Numbers of cut faces from here on are those of faces in the drawn picture.
constexpr int firstOpening = 1'000'000;

/// Whether it is a solid, or the mesh of one.
bool isMeantClosed(const BodyPicture& picture) {
  return picture.mesh.closed || (!picture.form.empty() && picture.form.kind() == BodyKind::Solid);
}

bool isIn(const std::vector<const Plane*>& planes, const Plane& plane) {
  return std::any_of(planes.begin(), planes.end(), [&](const Plane* each) { return *each == plane; });
}

Box boxOf(const MeshSection& outline) {
  Box box;
  for (const auto& loop : outline.loops)
    for (const PlanePoint& point : loop) box.add(Point{point.u, point.v, 0});
  return box;
}

bool apart(const Box& a, const Box& b) {
  return a.high.x <= b.low.x || b.high.x <= a.low.x || a.high.y <= b.low.y || b.high.y <= a.low.y;
}

/// What of a segment lies on the normal's side of all walls; nothing if none of it does.
bool cropTo(const std::vector<Plane>& walls, Point& from, Point& to) {
  for (const Plane& wall : walls) {
    const double a = wall.signedDistance(from), b = wall.signedDistance(to);
    if (a < 0 && b < 0) return false;
    if (a < 0) from = from + (to - from) * (a / (a - b));
    if (b < 0) to = to + (from - to) * (b / (b - a));
  }
  return true;
}

}  // namespace

bool Hidden::at(Point point) const {
  const auto inFront = [&](const Plane& wall) { return wall.signedDistance(point) >= 0; };
  return std::any_of(halfSpaces.begin(), halfSpaces.end(), inFront) ||
         std::any_of(regions.begin(), regions.end(),
                     [&](const Clip::Region& region) { return std::all_of(region.begin(), region.end(), inFront); });
}

Hidden hiddenOf(const Scene& scene, const SceneBody& body, const std::vector<const Plane*>& but) {
  Hidden hidden;
  for (const std::size_t section : body.cutBy)
    for (const Clip::Region& region : scene.sections[section].cut->clip.regions) {
      // Of a region whose own wall is looked at, nothing else can hide that wall.
      if (std::any_of(region.begin(), region.end(), [&](const Plane& wall) { return isIn(but, wall); })) continue;
      if (region.size() == 1)
        hidden.halfSpaces.push_back(region.front());
      else
        hidden.regions.push_back(region);
    }
  return hidden;
}

std::pair<std::size_t, std::size_t> wallOf(const Pick& pick) {
  return {static_cast<std::size_t>(pick.index / mostWalls), static_cast<std::size_t>(pick.index % mostWalls)};
}

std::optional<Pick> pickOfDrawn(Pick::Kind kind, int number, const SceneBody& body) {
  const OpenedPicture* opened = body.opened.get();
  const auto place = static_cast<std::size_t>(number);
  if (!opened || kind == Pick::Kind::Body || kind == Pick::Kind::Guide) return Pick{kind, body.id, number};
  const std::vector<int>& whole = kind == Pick::Kind::Face   ? opened->faces
                                  : kind == Pick::Kind::Edge ? opened->edges
                                                             : opened->corners;
  if (place < whole.size() && whole[place] >= 0) return Pick{kind, body.id, whole[place]};
  if (kind == Pick::Kind::Face) return Pick{Pick::Kind::Cut, body.id, firstOpening + number};
  return std::nullopt;
}

std::optional<std::size_t> openedFaceOf(const Pick& pick) {
  if (pick.kind != Pick::Kind::Cut || pick.index < firstOpening) return std::nullopt;
  return static_cast<std::size_t>(pick.index - firstOpening);
}

std::vector<std::size_t> drawnParts(const Pick& pick, const SceneBody& body) {
  const OpenedPicture* opened = body.opened.get();
  if (pick.kind == Pick::Kind::Cut && pick.index >= firstOpening)
    return {static_cast<std::size_t>(pick.index - firstOpening)};
  if (!opened) return {static_cast<std::size_t>(pick.index)};
  const std::vector<int>& whole = pick.kind == Pick::Kind::Face   ? opened->faces
                                  : pick.kind == Pick::Kind::Edge ? opened->edges
                                                                  : opened->corners;
  std::vector<std::size_t> parts;
  for (std::size_t i = 0; i < whole.size(); ++i)
    if (whole[i] == pick.index) parts.push_back(i);
  return parts;
}

const CutFaces::Known& CutFaces::sectionOf(const std::shared_ptr<const BodyPicture>& picture, const Plane& plane) {
  const auto same = [&](const Known& known) { return known.picture == picture && known.plane == plane; };
  if (const auto here = std::find_if(known_.begin(), known_.end(), same); here != known_.end()) return *here;
  if (const auto old = std::find_if(before_.begin(), before_.end(), same); old != before_.end()) {
    known_.push_back(*old);
    return known_.back();
  }
  known_.push_back({picture, plane, std::make_shared<const MeshSection>(kervo::sectionOf(picture->mesh, plane)),
                    std::make_shared<std::optional<std::vector<PlanePoint>>>()});
  return known_.back();
}

void CutFaces::update(const Scene& scene) {
  before_ = std::exchange(known_, {});
  faces_.clear();
  meetings_.clear();
  overlaps_.clear();
  unsound_.clear();
  openings_.clear();
  for (std::size_t number = 0; number < scene.bodies.size(); ++number) {
    const SceneBody& body = scene.bodies[number];
    if (body.isGuide()) continue;
    for (const std::size_t section : body.cutBy) {
      int wallNumber = 0;
      for (const CutWall& wall : wallsOf(scene.sections[section].cut->clip)) {
        const int face = static_cast<int>(section) * mostWalls + wallNumber++;
        const Known& known = sectionOf(body.picture, wall.plane);
        if (known.outline->empty()) continue;
        const bool sound = body.picture->mesh.closed && known.outline->open.empty();
        if (isMeantClosed(*body.picture) && !sound &&
            std::find(unsound_.begin(), unsound_.end(), body.id) == unsound_.end())
          unsound_.push_back(body.id);
        faces_.push_back({section, number, face, wall, known.outline, sound, hiddenOf(scene, body, {&wall.plane})});
      }
    }
    if (body.cutBy.size() > 1) addMeetings(scene, number);
    if (body.opened) addOpenings(scene, number);
  }
  addOverlaps();
  addOpenedOverlaps(scene);
  before_.clear();
}

std::optional<std::size_t> CutFaces::find(const Scene& scene, const Pick& pick) const {
  if (pick.kind != Pick::Kind::Cut) return std::nullopt;
  for (std::size_t i = 0; i < faces_.size(); ++i)
    if (faces_[i].number == pick.index && scene.bodies[faces_[i].body].id == pick.body) return i;
  return std::nullopt;
}

const std::vector<PlanePoint>& CutFaces::trianglesOf(const CutFace& face) const {
  const auto known =
      std::find_if(known_.begin(), known_.end(), [&](const Known& each) { return each.outline == face.outline; });
  std::optional<std::vector<PlanePoint>>& triangles = *known->triangles;
  if (!triangles) triangles = filled(known->outline->loops);
  return *triangles;
}

void CutFaces::addOpenings(const Scene& scene, std::size_t number) {
  const SceneBody& body = scene.bodies[number];
  for (const OpenedPicture::CutFace& cut : body.opened->cutFaces)
    for (std::size_t section = 0; section < scene.sections.size(); ++section) {
      if (scene.sections[section].id != cut.section) continue;
      const Face& face = body.picture->faces[cut.face];
      const Plane across = face.plane().value_or(Plane::through(face.samplePoint(), face.normal()));
      openings_.push_back({section, number, cut.face, across, hiddenOf(scene, body)});
    }
}

void CutFaces::addMeetings(const Scene& scene, std::size_t body) {
  std::vector<const CutFace*> here;
  for (const CutFace& face : faces_)
    if (face.body == body && face.filled) here.push_back(&face);
  for (std::size_t i = 0; i < here.size(); ++i)
    for (std::size_t k = i + 1; k < here.size(); ++k) {
      const CutFace &one = *here[i], &other = *here[k];
      if (one.section == other.section) continue;
      const Plane& plane = one.wall.plane;
      const Vector across = cross(plane.normal, other.wall.plane.normal);
      if (length(across) < parallel) continue;
      // The point of the line that is nearest to the plane's origin.
      const Vector along = normalized(across), down = cross(along, plane.normal);
      const double slope = dot(other.wall.plane.normal, down);
      const Point on = plane.origin + down * (-other.wall.plane.signedDistance(plane.origin) / slope);
      const Vector local = plane.coordinates(on), way = plane.coordinates(plane.origin + along);
      CutMark mark{one.section, body, {}, {}, hiddenOf(scene, scene.bodies[body], {&plane, &other.wall.plane})};
      for (const auto& [from, to] : one.outline->stretches({local.x, local.y}, {way.x, way.y})) {
        Point a = on + along * from, b = on + along * to;
        if (cropTo(one.wall.borders, a, b) && cropTo(other.wall.borders, a, b)) mark.lines.push_back({a, b});
      }
      if (!mark.lines.empty()) meetings_.push_back(std::move(mark));
    }
}

void CutFaces::addOverlaps() {
  std::vector<Box> boxes;
  for (const CutFace& face : faces_) boxes.push_back(boxOf(*face.outline));
  for (std::size_t i = 0; i < faces_.size(); ++i)
    for (std::size_t k = i + 1; k < faces_.size(); ++k) {
      const CutFace &one = faces_[i], &other = faces_[k];
      if (one.body == other.body || !(one.wall.plane == other.wall.plane) || !one.filled || !other.filled ||
          apart(boxes[i], boxes[k]))
        continue;
      const std::vector<PlanePoint> both = overlapOf(*one.outline, *other.outline);
      if (both.empty()) continue;
      CutMark mark{one.section, one.body, {}, {}, one.hidden};
      for (const PlanePoint& point : both) mark.triangles.push_back(one.wall.plane.at(point.u, point.v));
      overlaps_.push_back(std::move(mark));
    }
}

void CutFaces::addOpenedOverlaps(const Scene& scene) {
  const auto isCutBy = [&](const SceneBody& body, const StepId& section) {
    return std::any_of(body.cutBy.begin(), body.cutBy.end(),
                       [&](std::size_t each) { return scene.sections[each].id == section; });
  };
  for (std::size_t number = 0; number < scene.bodies.size(); ++number)
    for (const OpenedOverlap& overlap : scene.bodies[number].overlaps) {
      const SceneBody* other = scene.find(overlap.other);
      if (!other || !isCutBy(*other, overlap.section)) continue;
      for (std::size_t section = 0; section < scene.sections.size(); ++section)
        if (scene.sections[section].id == overlap.section)
          overlaps_.push_back({section, number, {}, overlap.triangles, hiddenOf(scene, scene.bodies[number])});
    }
}

std::optional<CutFaces::Met> CutFaces::along(Point from, Vector direction) const {
  std::optional<Met> nearest;
  double least = Box::infinity;
  for (std::size_t i = 0; i < faces_.size(); ++i) {
    const CutFace& face = faces_[i];
    const Plane& plane = face.wall.plane;
    const double falling = dot(direction, plane.normal);
    if (!face.filled || std::abs(falling) < parallel) continue;
    const double far = -plane.signedDistance(from) / falling;
    if (far >= least) continue;
    const Point point = from + direction * far;
    const Vector local = plane.coordinates(point);
    const bool bordered = std::any_of(face.wall.borders.begin(), face.wall.borders.end(),
                                      [&](const Plane& border) { return border.signedDistance(point) < 0; });
    if (bordered || face.hidden.at(point) || !face.outline->holds({local.x, local.y})) continue;
    least = far;
    nearest = Met{i, point};
  }
  return nearest;
}

}  // namespace kervo
