#include "app/surface_looks.h"

#include <QTimer>
#include <algorithm>
#include <cmath>

#include "base/parallel.h"
#include "base/quantity.h"
#include "geom/surface/sewn.h"

namespace kervo::app {

namespace {

/// Gaps whose widths are written into the view, the widest first.
constexpr std::size_t mostMarks = 12;
/// Anything narrower does not count as a gap, mm.
constexpr double noGap = 1e-7;

bool hasValues(SurfaceShow what) {
  return what == SurfaceShow::Curvature || what == SurfaceShow::Draft || what == SurfaceShow::Thickness;
}

std::string millimetres(double value) {
  return formatNumber(value, 3) + " mm";
}
std::string radiusText(double curvature) {
  return curvature == 0 ? "R ∞" : "R " + millimetres(1 / std::abs(curvature));
}
std::string degrees(double value) {
  return formatNumber(std::round(value * 100) / 100, 4) + "°";
}

std::string written(double value, SurfaceShow what) {
  return what == SurfaceShow::Curvature ? radiusText(value)
         : what == SurfaceShow::Draft   ? degrees(value)
                                        : millimetres(value);
}

}  // namespace

SurfaceLooks::SurfaceLooks(Worker& worker) : worker_(worker) {}

void SurfaceLooks::show(SurfaceShow what) {
  if (shown_ == what) return;
  shown_ = what;
  forget();
  emit changed();
}

void SurfaceLooks::setDraftAxis(int axis) {
  if (axis_ == axis) return;
  axis_ = axis;
  if (shown_ != SurfaceShow::Draft) return;
  forget();
  emit changed();
}

void SurfaceLooks::forget() {
  ++turn_;
  found_ = {};
  refused_.clear();
  wanted_.clear();
  finding_ = false;
}

void SurfaceLooks::addTo(Scene& scene) {
  if (shown_ == SurfaceShow::Nothing) return;
  if (shown_ == SurfaceShow::Stripes) {
    scene.paint.kind = SurfacePaint::Kind::Stripes;
    return;
  }
  bool missing = false;
  for (SceneBody& body : scene.bodies) {
    if (body.isGuide() || body.role == Role::Waste || body.role == Role::Cutter || !body.picture->form.shape())
      continue;
    wanted_.push_back(body.picture);
    const auto known = found_.bodies.find(body.picture.get());
    if (known == found_.bodies.end()) {
      missing |= !refused_.contains(body.picture.get());
      continue;
    }
    body.bands = known->second->bands;
    for (const Polyline& line : known->second->lines)
      scene.lines.push_back({line, shown_ == SurfaceShow::Gaps ? SceneLine::Style::Fault : SceneLine::Style::Net});
  }
  scene.paint = found_.paint;
  if (!missing || asked_) return;
  // Once for all panes.
  asked_ = true;
  QTimer::singleShot(0, this, &SurfaceLooks::find);
}

void SurfaceLooks::find() {
  asked_ = false;
  if (!hasValues(shown_) && shown_ != SurfaceShow::Gaps && shown_ != SurfaceShow::Net) return;
  std::vector<std::shared_ptr<const BodyPicture>> pictures;
  for (const auto& picture : std::exchange(wanted_, {}))
    if (std::find(pictures.begin(), pictures.end(), picture) == pictures.end()) pictures.push_back(picture);
  finding_ = true;
  const int turn = turn_;
  worker_.run(
      tr("Looking at surfaces"),
      [this, pictures, known = found_.bodies, what = shown_, axis = axis_, turn](Progress& progress) -> Worker::Then {
        auto found = std::make_shared<Found>(all(pictures, known, what, axis, progress));
        return [this, found, turn] {
          if (turn != turn_) return;
          finding_ = false;
          found_ = std::move(*found);
          emit changed();
        };
      },
      [this, pictures, turn](const std::optional<Error>& error) {
        if (turn != turn_) return;
        finding_ = false;
        // Not asked for again: it would fail again.
        for (const auto& picture : pictures) refused_.insert(picture.get());
        if (error) emit failed(*error);
        emit changed();
      });
}

std::shared_ptr<SurfaceLooks::Known> SurfaceLooks::of(const std::shared_ptr<const BodyPicture>& picture,
                                                      SurfaceShow what, int axis) {
  auto known = std::make_shared<Known>();
  known->picture = picture;
  const Shape& shape = *picture->form.shape();
  const BodyMesh& mesh = picture->mesh;
  if (what == SurfaceShow::Net) {
    known->lines = controlNetOf(shape);
    return known;
  }
  if (what == SurfaceShow::Gaps) {
    for (const OpenEdge& edge : openEdgesOf(shape)) {
      ++known->open;
      known->lines.push_back(edge.line);
      const Point middle = edge.line[edge.line.size() / 2];
      if (edge.gap > noGap && known->marks.size() < mostMarks)
        known->marks.push_back({middle, middle, QString::fromStdString(millimetres(edge.gap))});
      if (edge.gap > known->widest) {
        known->widest = edge.gap;
        known->widestAt = middle;
      }
    }
    return known;
  }
  known->values = what == SurfaceShow::Curvature ? curvaturesOn(shape, mesh)
                  : what == SurfaceShow::Draft
                      ? draftOn(mesh, Vector{axis == 0 ? 1.0 : 0, axis == 1 ? 1.0 : 0, axis == 2 ? 1.0 : 0})
                      : thicknessOn(mesh);
  for (std::size_t i = 0; i < known->values.size(); ++i) {
    // Bends are told apart by their size alone.
    const double value = what == SurfaceShow::Curvature ? std::abs(known->values[i]) : known->values[i];
    if (std::isnan(value)) continue;
    const float* at = &mesh.points[3 * i];
    const Point place{double(at[0]), double(at[1]), double(at[2])};
    if (!known->any || value < known->low) known->low = value, known->lowAt = place;
    if (!known->any || value > known->high) known->high = value, known->highAt = place;
    known->any = true;
  }
  return known;
}

SurfaceLooks::Found SurfaceLooks::all(const std::vector<std::shared_ptr<const BodyPicture>>& pictures,
                                      const Bodies& known, SurfaceShow what, int axis, Progress& progress) {
  Found found;
  std::vector<std::shared_ptr<Known>> bodies(pictures.size());
  inParallel(pictures.size(), [&](std::size_t i) {
    progress.throwIfStopped();
    const auto before = known.find(pictures[i].get());
    const bool same = before != known.end() && before->second->picture.lock() == pictures[i];
    bodies[i] = same ? std::make_shared<Known>(*before->second) : of(pictures[i], what, axis);
  });
  if (hasValues(what)) {
    std::vector<float> ends;
    for (const auto& body : bodies)
      if (body->any) ends.insert(ends.end(), {float(body->low), float(body->high)});
    const ValueScale scale = what == SurfaceShow::Curvature ? radiusScale(ends)
                             : what == SurfaceShow::Draft   ? draftScale(ends)
                                                            : sizeScale(ends);
    if (!scale.empty()) {
      found.paint.kind = SurfacePaint::Kind::Bands;
      found.paint.title = what == SurfaceShow::Curvature ? tr("tightest bend").toStdString()
                          : what == SurfaceShow::Draft   ? tr("draft along %1").arg(QChar('x' + axis)).toStdString()
                                                         : tr("thickness").toStdString();
      for (const double border : scale.borders) found.paint.borders.push_back(written(border, what));
    }
    for (const auto& body : bodies) {
      progress.throwIfStopped();
      auto bands = std::make_shared<std::vector<float>>();
      for (const float value : body->values)
        bands->push_back(scale.place(what == SurfaceShow::Curvature ? std::abs(value) : value));
      body->bands = std::move(bands);
    }
  }
  for (std::size_t i = 0; i < pictures.size(); ++i) {
    found.bodies[pictures[i].get()] = bodies[i];
    found.marks.insert(found.marks.end(), bodies[i]->marks.begin(), bodies[i]->marks.end());
  }
  if (found.marks.size() > mostMarks) found.marks.resize(mostMarks);
  tell(found, what);
  return found;
}

void SurfaceLooks::tell(Found& found, SurfaceShow what) {
  const Known* lowest = nullptr;
  const Known* highest = nullptr;
  const Known* widest = nullptr;
  int open = 0;
  std::size_t lines = 0;
  for (const auto& [picture, body] : found.bodies) {
    open += body->open;
    lines += body->lines.size();
    if (body->widest > noGap && (!widest || body->widest > widest->widest)) widest = body.get();
    if (!body->any) continue;
    if (!lowest || body->low < lowest->low) lowest = body.get();
    if (!highest || body->high > highest->high) highest = body.get();
  }
  const auto text = [&](double value) { return QString::fromStdString(written(value, what)); };
  switch (what) {
    case SurfaceShow::Curvature:
      if (highest) found.rows.push_back({tr("tightest bend"), text(highest->high), highest->highAt});
      break;
    case SurfaceShow::Draft:
      if (lowest) found.rows.push_back({tr("looks least along it"), text(lowest->low), lowest->lowAt});
      if (highest) found.rows.push_back({tr("looks most along it"), text(highest->high), highest->highAt});
      break;
    case SurfaceShow::Thickness:
      if (lowest) found.rows.push_back({tr("thinnest"), text(lowest->low), lowest->lowAt});
      if (highest) found.rows.push_back({tr("thickest"), text(highest->high), highest->highAt});
      if (!lowest) found.rows.push_back({tr("no closed body is shown"), {}, {}});
      break;
    case SurfaceShow::Gaps:
      found.rows.push_back({tr("open edges"), QString::number(open), {}});
      if (widest)
        found.rows.push_back({tr("widest gap"), QString::fromStdString(millimetres(widest->widest)), widest->widestAt});
      break;
    case SurfaceShow::Net:
      found.rows.push_back({tr("lines of nets"), QString::number(lines), {}});
      break;
    default:
      break;
  }
}

}  // namespace kervo::app
