#include "view/opened_picture.h"

#include <QCoreApplication>
#include <algorithm>
#include <map>
#include <set>

#include "base/error.h"
#include "geom/divide/boolean.h"
#include "geom/surface/sheet.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Within what bodies of other programs are true to, mm.
constexpr double near = 1e-4;

/// The part of the whole body of that name which lies at a place; -1 if there is none.
template <class Part>
int partAt(const std::vector<Part>& parts, const std::vector<std::size_t>& candidates, Point place) {
  int nearest = -1;
  double least = near;
  for (const std::size_t number : candidates) {
    if (candidates.size() == 1) return static_cast<int>(number);
    const double apart = parts[number].distanceTo(place);
    if (apart > least && nearest >= 0) continue;
    least = apart;
    nearest = static_cast<int>(number);
  }
  return nearest;
}

using EdgeName = std::pair<std::vector<std::string>, std::vector<std::string>>;

EdgeName nameOf(const Edge& edge) {
  EdgeName name{edge.firstOrigins(), edge.secondOrigins()};
  if (name.second < name.first) std::swap(name.first, name.second);
  return name;
}

template <class Name, class Part, class NameOf>
std::map<Name, std::vector<std::size_t>> byName(const std::vector<Part>& parts, NameOf&& nameOf) {
  std::map<Name, std::vector<std::size_t>> result;
  for (std::size_t i = 0; i < parts.size(); ++i) result[nameOf(parts[i])].push_back(i);
  return result;
}

void findParts(OpenedPicture& opened, const BodyPicture& whole, const std::vector<OpenedBy>& by) {
  const BodyPicture& picture = *opened.picture;
  const auto faceName = [](const Face& face) { return face.origins(); };
  const auto faces = byName<std::vector<std::string>>(whole.faces, faceName);
  for (std::size_t i = 0; i < picture.faces.size(); ++i) {
    const Face& face = picture.faces[i];
    const auto found = faces.find(face.origins());
    opened.faces.push_back(found == faces.end() ? -1 : partAt(whole.faces, found->second, face.samplePoint()));
    if (opened.faces.back() >= 0) continue;
    // Of the section whose body has a face there.
    const auto has = [&](const OpenedBy& each) {
      const std::vector<Face> cutter = facesOf(each.body);
      return std::any_of(cutter.begin(), cutter.end(),
                         [&](const Face& other) { return other.distanceTo(face.samplePoint()) < near; });
    };
    const auto section = by.size() == 1 ? by.begin() : std::find_if(by.begin(), by.end(), has);
    opened.cutFaces.push_back({i, section == by.end() ? by.front().section : section->section});
  }
  const auto edges = byName<EdgeName>(whole.edges, nameOf);
  for (const Edge& edge : picture.edges) {
    const auto found = edges.find(nameOf(edge));
    opened.edges.push_back(found == edges.end() ? -1 : partAt(whole.edges, found->second, edge.middle()));
  }
  for (const Corner& corner : picture.corners) {
    const auto same = std::find_if(whole.corners.begin(), whole.corners.end(),
                                   [&](const Corner& other) { return distance(corner.point, other.point) < near; });
    opened.corners.push_back(same == whole.corners.end() ? -1 : static_cast<int>(same - whole.corners.begin()));
  }
}

}  // namespace

std::vector<OpenedOverlap> overlapsOf(const OpenedPicture& opened, const BodyPicture& other, const BodyId& otherId,
                                      Progress& progress) {
  std::vector<OpenedOverlap> result;
  const Shape* solid = other.form.shape();
  if (!opened.picture || !solid || solid->kind() != BodyKind::Solid) return result;
  for (const OpenedPicture::CutFace& cut : opened.cutFaces) {
    const Shape sheet = lifted({opened.picture->faces[cut.face]});
    if (!sheet.roughBox().enlarged(-tolerance::point).overlaps(other.mesh.box)) continue;
    const Shape inside = divide(sheet, {*solid}, progress).inside;
    if (inside.empty()) continue;
    const auto picture = pictureOf(inside, progress, Picks::Later, solid->roughBox().diagonal());
    const BodyMesh& mesh = picture->mesh;
    OpenedOverlap& overlap = result.emplace_back(OpenedOverlap{cut.section, otherId, {}});
    for (const std::uint32_t corner : mesh.triangles) {
      const float* point = &mesh.points[std::size_t{3} * corner];
      overlap.triangles.push_back({point[0], point[1], point[2]});
    }
  }
  return result;
}

std::shared_ptr<const OpenedPicture> openedPicture(const BodyPicture& whole, const std::vector<OpenedBy>& by,
                                                   Progress& progress) {
  const Shape* shape = whole.form.shape();
  if (!shape)
    throw Error(QCoreApplication::translate("View", "a mesh cannot be cut by a body for the eye").toStdString(), "",
                QCoreApplication::translate("View", "Use a plane or a box").toStdString());
  Shape rest = *shape;
  for (const OpenedBy& each : by) {
    if (rest.empty()) break;
    const Division division = divide(rest, {each.body}, progress);
    rest = each.outside ? division.inside : division.outside;
  }
  auto opened = std::make_shared<OpenedPicture>();
  if (rest.empty()) return opened;
  opened->picture = pictureOf(rest, progress, Picks::Now, shape->roughBox().diagonal());
  findParts(*opened, whole, by);
  return opened;
}

}  // namespace kervo
