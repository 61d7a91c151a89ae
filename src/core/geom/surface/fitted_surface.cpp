#include "geom/surface/fitted_surface.h"

#include <GeomAdaptor_Surface.hxx>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Plane.hxx>
#include <Geom_SphericalSurface.hxx>
#include <Geom_ToroidalSurface.hxx>
#include <algorithm>
#include <array>
#include <cmath>
#include <math_Gauss.hxx>
#include <math_Jacobi.hxx>
#include <numbers>

#include "geom/kernel/convert.h"
#include "geom/kernel/elementary.h"
#include "geom/surface/surface_refinement.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double normalsAgree = std::numbers::pi / 180;
/// A more complicated surface has to fit so much better, and a fit within this is as good as any, mm.
constexpr double muchBetter = 10, asGoodAsAny = 1e-6;

template <std::size_t N>
using Row = std::array<double, N>;

/// Σ row·rowᵀ
template <std::size_t N>
math_Matrix squares(const std::vector<Row<N>>& rows) {
  constexpr auto size = static_cast<int>(N);
  math_Matrix sum(1, size, 1, size, 0.0);
  for (const Row<N>& row : rows)
    for (int i = 1; i <= size; ++i)
      for (int k = 1; k <= size; ++k)
        sum(i, k) += row[static_cast<std::size_t>(i) - 1] * row[static_cast<std::size_t>(k) - 1];
  return sum;
}

/// The direction in which rows vary least, of unit length; the eigenvalues from small to large.
template <std::size_t N>
std::optional<std::pair<Row<N>, std::vector<double>>> leastOf(const std::vector<Row<N>>& rows) {
  constexpr auto size = static_cast<int>(N);
  const math_Jacobi found(squares(rows));
  if (!found.IsDone()) return std::nullopt;
  int least = 1;
  std::vector<double> values;
  for (int i = 1; i <= size; ++i) {
    values.push_back(found.Value(i));
    if (found.Value(i) < found.Value(least)) least = i;
  }
  std::sort(values.begin(), values.end());
  Row<N> result{};
  for (int i = 1; i <= size; ++i) result[static_cast<std::size_t>(i) - 1] = found.Vectors()(i, least);
  return std::pair(result, values);
}

/// x of least squares for rows·x = values.
template <std::size_t N>
std::optional<Row<N>> solved(const std::vector<Row<N>>& rows, const std::vector<double>& values) {
  constexpr auto size = static_cast<int>(N);
  math_Vector right(1, size, 0.0), x(1, size);
  for (std::size_t r = 0; r < rows.size(); ++r)
    for (int i = 1; i <= size; ++i) right(i) += rows[r][static_cast<std::size_t>(i) - 1] * values[r];
  const math_Gauss gauss(squares(rows));
  if (!gauss.IsDone()) return std::nullopt;
  gauss.Solve(right, x);
  Row<N> result{};
  for (int i = 1; i <= size; ++i) result[static_cast<std::size_t>(i) - 1] = x(i);
  return result;
}

Row<3> rowOf(Vector v) {
  return {v.x, v.y, v.z};
}
Vector vectorOf(const Row<3>& row) {
  return {row[0], row[1], row[2]};
}

/// Centre and radius of the circle through points of a plane.
std::optional<std::pair<PlanePoint, double>> circleThrough(const std::vector<PlanePoint>& points) {
  std::vector<Row<3>> rows;
  std::vector<double> values;
  for (const PlanePoint& point : points) {
    rows.push_back({2 * point.u, 2 * point.v, 1});
    values.push_back(point.u * point.u + point.v * point.v);
  }
  const auto found = solved(rows, values);
  if (!found) return std::nullopt;
  const auto [u, v, rest] = *found;
  const double square = rest + u * u + v * v;
  if (!(square > 0)) return std::nullopt;
  return std::pair(PlanePoint{u, v}, std::sqrt(square));
}

class Fitting {
 public:
  explicit Fitting(const std::vector<SurfaceSample>& samples) : samples_(samples) {
    Box box;
    for (const SurfaceSample& sample : samples) {
      middle_ = middle_ + sample.at * (1 / static_cast<double>(samples.size()));
      box.add(sample.at);
    }
    size_ = box.diagonal();
  }

  double size() const { return size_; }

  Handle(Geom_ElementarySurface) plane() const {
    std::vector<Row<3>> rows;
    for (const SurfaceSample& sample : samples_) rows.push_back(rowOf(sample.at - middle_));
    const auto least = leastOf(rows);
    if (!least) return {};
    return new Geom_Plane(toPnt(middle_), toDir(vectorOf(least->first)));
  }

  Handle(Geom_ElementarySurface) cylinder() const {
    std::vector<Row<3>> rows;
    for (const SurfaceSample& sample : samples_) rows.push_back(rowOf(sample.normal));
    const auto least = leastOf(rows);
    if (!least) return {};
    const Plane across = Plane::through(middle_, vectorOf(least->first));
    const auto circle = circleThrough(seenAlong(across));
    if (!circle || circle->second > tolerance::largestSize) return {};
    const Point on = across.at(circle->first.u, circle->first.v);
    return new Geom_CylindricalSurface(gp_Ax3(toPnt(on), toDir(across.normal), toDir(across.x)), circle->second);
  }

  Handle(Geom_ElementarySurface) cone() const {
    Vector mean;
    for (const SurfaceSample& sample : samples_)
      mean = mean + sample.normal * (1 / static_cast<double>(samples_.size()));
    std::vector<Row<3>> spread, tangent;
    std::vector<double> heights;
    for (const SurfaceSample& sample : samples_) {
      spread.push_back(rowOf(sample.normal - mean));
      tangent.push_back(rowOf(sample.normal));
      heights.push_back(dot(sample.normal, sample.at - middle_));
    }
    const auto least = leastOf(spread);
    const auto off = solved(tangent, heights);
    if (!least || !off) return {};
    const Point apex = middle_ + vectorOf(*off);
    if (distance(apex, middle_) > tolerance::largestSize) return {};
    Vector along = vectorOf(least->first);
    if (dot(along, middle_ - apex) < 0) along = -along;
    // All normals have this height over the plane across the axis.
    const double angle = std::asin(std::clamp(std::abs(dot(mean, along)), 0.0, 1.0));
    if (angle < tolerance::parallel || angle > std::numbers::pi / 2 - tolerance::parallel) return {};
    const double height = dot(middle_ - apex, along);
    if (height < tolerance::smallestSize) return {};
    const Point on = apex + along * height;
    return new Geom_ConicalSurface(gp_Ax3(toPnt(on), toDir(along), toDir(Plane::through(on, along).x)), angle,
                                   height * std::tan(angle));
  }

  Handle(Geom_ElementarySurface) sphere() const {
    std::vector<Row<4>> rows;
    std::vector<double> values;
    for (const SurfaceSample& sample : samples_) {
      const Vector p = (sample.at - middle_) * (1 / size_);
      rows.push_back({2 * p.x, 2 * p.y, 2 * p.z, 1});
      values.push_back(dot(p, p));
    }
    const auto found = solved(rows, values);
    if (!found) return {};
    const Vector centre{(*found)[0], (*found)[1], (*found)[2]};
    const double square = (*found)[3] + dot(centre, centre);
    if (!(square > 0) || std::sqrt(square) * size_ > tolerance::largestSize) return {};
    return new Geom_SphericalSurface(gp_Ax3(toPnt(middle_ + centre * size_), gp::DZ()), std::sqrt(square) * size_);
  }

  Handle(Geom_ElementarySurface) torus() const {
    // The normals of a surface of revolution meet its axis (a, b = q × a): a·(p × n) + b·n = 0.
    std::vector<Row<6>> rows;
    for (const SurfaceSample& sample : samples_) {
      const Vector moment = cross((sample.at - middle_) * (1 / size_), sample.normal);
      rows.push_back({moment.x, moment.y, moment.z, sample.normal.x, sample.normal.y, sample.normal.z});
    }
    const auto least = leastOf(rows);
    if (!least) return {};
    const Row<6>& line = least->first;
    const Vector a{line[0], line[1], line[2]}, b{line[3], line[4], line[5]};
    if (length(a) < tolerance::sameDirection) return {};
    const Vector along = normalized(a);
    const Plane across = Plane::through(middle_ + cross(a, b) * (size_ / dot(a, a)), along);
    std::vector<PlanePoint> profile;
    for (const SurfaceSample& sample : samples_) {
      const Vector at = across.coordinates(sample.at);
      profile.push_back({std::hypot(at.x, at.y), at.z});
    }
    const auto circle = circleThrough(profile);
    if (!circle) return {};
    const auto& [centre, tube] = *circle;
    // One that crosses itself is not taken.
    if (!(centre.u > tube) || centre.u > tolerance::largestSize) return {};
    return new Geom_ToroidalSurface(gp_Ax3(toPnt(across.at(0, 0, centre.v)), toDir(along), toDir(across.x)), centre.u,
                                    tube);
  }

  /// How far the farthest sample is; infinite if a normal disagrees.
  double off(const Handle(Geom_ElementarySurface) & surface, double agree = normalsAgree) const {
    const GeomAdaptor_Surface adaptor(surface);
    double farthest = 0, alike = 0;
    for (const SurfaceSample& sample : samples_) {
      const gp_Pnt2d at = parametersOn(adaptor, toPnt(sample.at)).value_or(gp_Pnt2d());
      gp_Pnt point;
      gp_Vec du, dv;
      surface->D1(at.X(), at.Y(), point, du, dv);
      farthest = std::max(farthest, point.Distance(toPnt(sample.at)));
      const gp_Vec normal = du.Crossed(dv);
      if (normal.Magnitude() < tolerance::direction) continue;
      const double cosine = dot(normalized(fromVec(normal)), sample.normal);
      // On the one or the other side, but all of them.
      if (std::abs(cosine) < std::cos(agree) || cosine * alike < 0) return Box::infinity;
      alike = cosine;
    }
    return farthest;
  }

 private:
  std::vector<PlanePoint> seenAlong(const Plane& across) const {
    std::vector<PlanePoint> result;
    for (const SurfaceSample& sample : samples_) {
      const Vector at = across.coordinates(sample.at);
      result.push_back({at.x, at.y});
    }
    return result;
  }

  const std::vector<SurfaceSample>& samples_;
  Point middle_;
  double size_ = 0;
};

/// Of fewer samples anything is said to be anything.
constexpr std::size_t fewestSamples = 8;

}  // namespace

std::optional<FittedSurface> fittedSurface(const std::vector<SurfaceSample>& samples, double tolerance) {
  if (samples.size() < fewestSamples) return std::nullopt;
  const Fitting fitting(samples);
  if (fitting.size() < tolerance::smallestSize) return std::nullopt;
  std::vector<FittedSurface> fits;
  for (const Handle(Geom_ElementarySurface) & surface :
       {fitting.plane(), fitting.cylinder(), fitting.cone(), fitting.sphere(), fitting.torus()}) {
    if (surface.IsNull()) continue;
    if (const double off = fitting.off(surface); off <= tolerance) fits.push_back({surface, off});
  }
  double best = tolerance;
  for (const FittedSurface& fit : fits) best = std::min(best, fit.off);
  for (const FittedSurface& fit : fits)
    if (fit.off <= std::max(best * muchBetter, asGoodAsAny)) return fit;
  return std::nullopt;
}

std::vector<FittedSurface> fittedToFacets(const std::vector<SurfaceSample>& samples, double tolerance, double angle) {
  if (samples.size() < fewestSamples) return {};
  const Fitting fitting(samples);
  if (fitting.size() < tolerance::smallestSize) return {};
  // A point that several facets share counts once; some spread over all do.
  std::vector<Point> points;
  constexpr std::size_t most = 150;
  const std::size_t step = 1 + samples.size() / (4 * most);
  for (std::size_t i = 0; i < samples.size() && points.size() < most; i += step)
    if (std::none_of(points.begin(), points.end(),
                     [&](const Point& each) { return length(each - samples[i].at) == 0; }))
      points.push_back(samples[i].at);
  // In its middle a facet faces where the surface does.
  std::vector<SurfaceSample> middles;
  for (std::size_t i = 0; i + 2 < samples.size(); i += 3)
    middles.push_back({(samples[i].at + samples[i + 1].at + samples[i + 2].at) * (1.0 / 3), samples[i].normal});
  const Fitting guessing(middles);
  std::vector<FittedSurface> fits;
  for (const Handle(Geom_ElementarySurface) & guess :
       {fitting.plane(), guessing.cylinder(), guessing.cone(), fitting.sphere(), guessing.torus()}) {
    if (guess.IsNull()) continue;
    const Handle(Geom_ElementarySurface) surface = nearerTo(points, guess, tolerance);
    if (surface.IsNull()) continue;
    if (const double off = fitting.off(surface, angle); off <= tolerance) fits.push_back({surface, off});
  }
  return fits;
}

Handle(Geom_ElementarySurface) fittedPlane(const std::vector<SurfaceSample>& samples) {
  return Fitting(samples).plane();
}

std::optional<FittedCircle> fittedCircle(const std::vector<Point>& points) {
  if (points.size() < 3) return std::nullopt;
  Point middle;
  for (const Point& point : points) middle = middle + point * (1 / static_cast<double>(points.size()));
  std::vector<Row<3>> rows;
  for (const Point& point : points) rows.push_back(rowOf(point - middle));
  const auto least = leastOf(rows);
  if (!least) return std::nullopt;
  const Plane flat = Plane::through(middle, vectorOf(least->first));
  std::vector<PlanePoint> seen;
  for (const Point& point : points) {
    const Vector at = flat.coordinates(point);
    seen.push_back({at.x, at.y});
  }
  const auto circle = circleThrough(seen);
  if (!circle || circle->second > tolerance::largestSize) return std::nullopt;
  FittedCircle result;
  result.radius = circle->second;
  const Point centre = flat.at(circle->first.u, circle->first.v);
  Vector out = points.front() - centre;
  out = normalized(out - flat.normal * dot(out, flat.normal));
  result.axes = {centre, out, cross(flat.normal, out), flat.normal};
  for (const Point& point : points) {
    const Vector at = result.axes.coordinates(point);
    result.off = std::max(result.off, std::hypot(std::hypot(at.x, at.y) - result.radius, at.z));
  }
  return result;
}

}  // namespace kervo
