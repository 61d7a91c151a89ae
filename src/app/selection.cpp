#include "app/selection.h"

#include <QLocale>
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "geom/curves/curve_body.h"
#include "geom/tolerances.h"

namespace kervo::app {

namespace {

template <class List>
const typename List::value_type* at(const List& list, int index) {
  return index >= 0 && static_cast<std::size_t>(index) < list.size() ? &list[static_cast<std::size_t>(index)] : nullptr;
}

const BodyPicture* pictureOf(const Pick& pick, const std::map<BodyId, Picture>& pictures) {
  const auto found = pictures.find(pick.body);
  return found == pictures.end() ? nullptr : found->second.get();
}

/// Four digits or so; small values keep theirs.
QString number(double exact) {
  const double value = withoutRounding(exact);
  const double size = std::abs(value);
  if (size > 0 && size < 0.01) return QString::number(value, 'g', 3);
  return QString::number(value, 'f', size >= 1000 ? 0 : size >= 100 ? 1 : 2);
}

/// A second place of one cut face: the two are measured.
bool isAnotherPlace(const Pick& known, const Pick& pick, const std::vector<Pick>& all) {
  const auto &one = known.place, &other = pick.place;
  if (pick.kind != Pick::Kind::Cut || !one || !other) return false;
  return distance(*one, *other) > tolerance::samePlace && std::count(all.begin(), all.end(), pick) == 1;
}

}  // namespace

void Selection::set(std::vector<Pick> picks) {
  picks_ = std::move(picks);
  step_ = {};
  emit changed();
}

void Selection::add(const Pick& pick) {
  const auto found = std::find(picks_.begin(), picks_.end(), pick);
  if (found == picks_.end() || isAnotherPlace(*found, pick, picks_))
    picks_.push_back(pick);
  else
    picks_.erase(found);
  step_ = {};
  emit changed();
}

void Selection::setStep(const StepId& id) {
  if (step_ == id && picks_.empty()) return;
  picks_.clear();
  step_ = id;
  emit changed();
}

void Selection::clear() {
  if (empty()) return;
  picks_.clear();
  step_ = {};
  emit changed();
}

std::optional<std::pair<StepId, CutWall>> cutWallOf(const Pick& pick, const Model& model) {
  if (pick.kind != Pick::Kind::Cut) return std::nullopt;
  auto [section, wall] = wallOf(pick);
  for (const StepReport& report : model.sections) {
    if (report.state == StepState::Off || !report.result || !report.result->section) continue;
    if (section-- > 0) continue;
    const std::vector<CutWall> walls = wallsOf(report.result->section->clip);
    return wall < walls.size() ? std::optional(std::pair(report.id, walls[wall])) : std::nullopt;
  }
  return std::nullopt;
}

void Selection::keepOnly(const Made& before, const Made& now) {
  const auto same = [&](const Pick& pick) {
    if (pick.kind == Pick::Kind::Guide) return now.guides.contains(pick.body);
    const auto a = before.pictures.find(pick.body), b = now.pictures.find(pick.body);
    if (b == now.pictures.end()) return false;
    if (pick.kind == Pick::Kind::Cut) {
      const auto was = cutWallOf(pick, *before.model), is = cutWallOf(pick, *now.model);
      return was && is && was->first == is->first;
    }
    return pick.kind == Pick::Kind::Body || (a != before.pictures.end() && a->second == b->second);
  };
  const auto old = picks_.size();
  std::erase_if(picks_, [&](const Pick& pick) { return !same(pick); });
  const bool stepGone = !step_.empty() && !now.document.find(step_);
  if (stepGone) step_ = {};
  if (picks_.size() != old || stepGone) emit changed();
}

std::vector<BodyId> Selection::bodies() const {
  std::vector<BodyId> result;
  for (const Pick& pick : picks_)
    if (pick.kind != Pick::Kind::Guide && std::find(result.begin(), result.end(), pick.body) == result.end())
      result.push_back(pick.body);
  return result;
}

std::vector<BodyId> Selection::guides() const {
  std::vector<BodyId> result;
  for (const Pick& pick : picks_)
    if (pick.kind == Pick::Kind::Guide) result.push_back(pick.body);
  return result;
}

std::size_t Selection::count(Pick::Kind kind) const {
  return static_cast<std::size_t>(
      std::count_if(picks_.begin(), picks_.end(), [&](const Pick& pick) { return pick.kind == kind; }));
}

std::optional<FaceReference> faceReference(const Pick& pick, const std::map<BodyId, Picture>& pictures) {
  const BodyPicture* picture = pictureOf(pick, pictures);
  if (!picture || pick.kind != Pick::Kind::Face) return std::nullopt;
  const Face* face = at(picture->faces, pick.index);
  if (!face) return std::nullopt;
  return referenceTo(pick.body, *face);
}

std::optional<EdgeReference> edgeReference(const Pick& pick, const std::map<BodyId, Picture>& pictures) {
  const BodyPicture* picture = pictureOf(pick, pictures);
  if (!picture || pick.kind != Pick::Kind::Edge) return std::nullopt;
  const Edge* edge = at(picture->edges, pick.index);
  if (!edge) return std::nullopt;
  return referenceTo(pick.body, *edge);
}

std::optional<PointReference> pointReference(const Pick& pick, const std::map<BodyId, Picture>& pictures) {
  const BodyPicture* picture = pictureOf(pick, pictures);
  if (!picture || pick.kind != Pick::Kind::Corner) return std::nullopt;
  const auto i = static_cast<std::size_t>(pick.index) * 3;
  const auto& points = picture->mesh.corners;
  if (i + 2 >= points.size()) return std::nullopt;
  // The picture's points are in single precision: the corner is the exact one that is nearest.
  const Point at{points[i], points[i + 1], points[i + 2]};
  const auto nearest =
      std::min_element(picture->corners.begin(), picture->corners.end(),
                       [&](const Corner& a, const Corner& b) { return distance(a.point, at) < distance(b.point, at); });
  if (nearest == picture->corners.end() || distance(nearest->point, at) > 0.01) return std::nullopt;
  return referenceTo(pick.body, *nearest);
}

std::optional<PlanePoint> middleOf(const FaceReference& face, const std::map<BodyId, Picture>& pictures,
                                   const Plane& plane) {
  const auto picture = pictures.find(face.body);
  if (picture == pictures.end()) return std::nullopt;
  Box box;
  for (const Face& each : picture->second->faces)
    if (each.origins().front() == face.name) box.add(each.boxIn(plane));
  if (box.empty()) return std::nullopt;
  // What differs by less than anybody measures is noise of rotated coordinates.
  const auto rounded = [](double value) { return std::round(value * 1e3) / 1e3; };
  return PlanePoint{rounded(box.centre().x), rounded(box.centre().y)};
}

BodyId worldId(const std::string& name) {
  return BodyId("world").part("origin " + name);
}

std::optional<std::string> worldPlaneOf(const BodyId& id) {
  for (const char* name : {"xy", "xz", "yz"})
    if (id == worldId(name)) return name;
  return std::nullopt;
}

std::optional<std::string> worldAxisOf(const BodyId& id) {
  for (const char* name : {"x", "y", "z"})
    if (id == worldId(name)) return name;
  return std::nullopt;
}

QString describe(const Pick& pick, const Model& model, const std::map<BodyId, Picture>& pictures,
                 const std::string& unit) {
  const ShownAs* look = model.lookOf(pick.body);
  QString name = QString::fromStdString(look ? look->name : pick.body.text());
  if (const auto plane = worldPlaneOf(pick.body)) return QObject::tr("plane %1").arg(QString::fromStdString(*plane));
  if (const auto axis = worldAxisOf(pick.body)) return QObject::tr("axis %1").arg(QString::fromStdString(*axis));
  if (const Guide* guide = model.guide(pick.body)) return QStringLiteral("%1 · %2").arg(name, guide->kindName());
  const BodyPicture* picture = pictureOf(pick, pictures);
  if (!picture) return name;
  switch (pick.kind) {
    case Pick::Kind::Body:
      if (const Shape* shape = picture->form.shape(); shape && shape->kind() == BodyKind::Curve)
        return QObject::tr("%1 · curve · %2").arg(name, lengthText(lengthOfCurve(*shape), unit));
      if (const Mesh* mesh = picture->form.mesh(); mesh && mesh->watertight())
        return QObject::tr("%1 · mesh · %2").arg(name, volumeText(mesh->volume()));
      return picture->form.kind() == BodyKind::Solid
                 ? QObject::tr("%1 · %2").arg(name, volumeText(picture->form.volume()))
                 : QObject::tr("%1 · %2 · %3").arg(name, nameOf(picture->form.kind()), areaText(picture->form.area()));
    case Pick::Kind::Face: {
      const Face* face = at(picture->faces, pick.index);
      if (!face) return name;
      const std::string& origin = face->origins().front();
      const QString part = QString::fromStdString(origin.substr(origin.find(':') + 1)).replace(':', ' ');
      return QObject::tr("%1 of %2 · %3 · %4")
          .arg(part, name, QString::fromStdString(face->surfaceName()), areaText(face->area()));
    }
    case Pick::Kind::Edge: {
      const Edge* edge = at(picture->edges, pick.index);
      return edge ? QObject::tr("edge of %1 · %2").arg(name, lengthText(edge->length(), unit)) : name;
    }
    case Pick::Kind::Corner: {
      const auto i = static_cast<std::size_t>(pick.index) * 3;
      const auto& corners = picture->mesh.corners;
      if (i + 2 >= corners.size()) return name;
      return QObject::tr("point of %1 · %2, %3, %4")
          .arg(name, number(corners[i]), number(corners[i + 1]), number(corners[i + 2]));
    }
    case Pick::Kind::Cut:
      return QObject::tr("cut face of %1").arg(name);
    case Pick::Kind::Guide:
      break;
  }
  return name;
}

QString countText(const std::vector<Pick>& picks) {
  QStringList parts;
  for (const auto& [kind, one, many] :
       {std::tuple(Pick::Kind::Body, QObject::tr("1 body"), QObject::tr("%1 bodies")),
        std::tuple(Pick::Kind::Face, QObject::tr("1 face"), QObject::tr("%1 faces")),
        std::tuple(Pick::Kind::Edge, QObject::tr("1 edge"), QObject::tr("%1 edges")),
        std::tuple(Pick::Kind::Corner, QObject::tr("1 point"), QObject::tr("%1 points")),
        std::tuple(Pick::Kind::Cut, QObject::tr("1 cut face"), QObject::tr("%1 cut faces")),
        std::tuple(Pick::Kind::Guide, QObject::tr("1 datum or drawing"), QObject::tr("%1 datums or drawings"))}) {
    const auto count =
        std::count_if(picks.begin(), picks.end(), [kind = kind](const Pick& p) { return p.kind == kind; });
    if (count > 0) parts << (count == 1 ? one : many.arg(count));
  }
  return parts.join(", ");
}

QString lengthText(double millimetres, const std::string& unit) {
  return number(millimetres / unitNamed(unit).factor) + " " + QString::fromStdString(unit);
}

QString placeText(Point place, const std::string& unit) {
  // To a millionth of the unit, and then −0 is 0.
  const auto text = [factor = unitNamed(unit).factor](double coordinate) {
    return QString::number(std::round(coordinate / factor * 1e6) / 1e6 + 0.0, 'g', 6);
  };
  return QStringLiteral("%1, %2, %3").arg(text(place.x), text(place.y), text(place.z));
}

QString massText(double kilograms) {
  return kilograms < 1 ? QObject::tr("%1 g").arg(kilograms * 1000, 0, 'f', 1)
                       : QObject::tr("%1 kg").arg(kilograms, 0, 'f', 3);
}

QString quantityText(const Quantity& quantity, const std::string& unit) {
  const auto shown = [](double value) {
    return QString::number(value, 'f', std::abs(value) < 0.01 && value != 0 ? 5 : 2);
  };
  if (quantity.dimension == lengthDimension) {
    return shown(quantity.value / unitNamed(unit).factor) + " " + QString::fromStdString(unit);
  }
  if (quantity.dimension == angleDimension) return shown(quantity.value / unitNamed("deg").factor) + " deg";
  if (quantity.dimension == plainNumber) return shown(quantity.value);
  if (quantity.dimension == Dimensionality{2, 0}) return areaText(quantity.value);
  if (quantity.dimension == Dimensionality{3, 0}) return volumeText(quantity.value);
  return QString::fromStdString(format(quantity, unitNamed(unit), 6));
}

QString areaText(double squareMillimetres) {
  return std::abs(squareMillimetres) < 100 ? number(squareMillimetres) + " mm²"
                                           : number(squareMillimetres / 100) + " cm²";
}

QString volumeText(double cubicMillimetres) {
  return std::abs(cubicMillimetres) < 100 ? number(cubicMillimetres) + " mm³"
                                          : number(cubicMillimetres / 1000) + " cm³";
}

}  // namespace kervo::app
