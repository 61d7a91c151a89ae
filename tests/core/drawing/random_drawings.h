// Drawings made at random, at a place where all of their constraints hold, with formulas of their own for what must
// hold.
#pragma once

#include <Eigen/SVD>
#include <map>
#include <random>

#include "core/drawing/drawing_builder.h"
#include "geom/planes.h"

namespace kervo {

/// What a constraint must come to, as zeros, from the positions of all points and the radii of all circles.
class Truth {
 public:
  explicit Truth(const DrawingBuilder& made) : made_(made) {
    for (std::size_t i = 0; i < made.drawing.points.size(); ++i) pointAt_[made.drawing.points[i].id] = i;
    for (std::size_t i = 0; i < made.drawing.curves.size(); ++i) {
      curveAt_[made.drawing.curves[i].id] = i;
      if (made.drawing.curves[i].kind == "circle") radiusAt_[i] = 2 * pointAt_.size() + radiusAt_.size();
    }
  }

  std::size_t unknowns() const { return 2 * pointAt_.size() + radiusAt_.size(); }

  Eigen::VectorXd place(const std::vector<PlanePoint>& points, const std::vector<std::vector<double>>& sizes) const {
    Eigen::VectorXd x(static_cast<Eigen::Index>(unknowns()));
    for (std::size_t i = 0; i < points.size(); ++i) {
      x[static_cast<Eigen::Index>(2 * i)] = points[i].u;
      x[static_cast<Eigen::Index>(2 * i + 1)] = points[i].v;
    }
    for (const auto& [curve, at] : radiusAt_) x[static_cast<Eigen::Index>(at)] = sizes[curve][0];
    return x;
  }

  /// All rows at a place; `only`: of those constraints.
  Eigen::VectorXd rows(const Eigen::VectorXd& x) const {
    std::vector<double> rows;
    for (const DrawnCurve& curve : made_.drawing.curves)
      if (curve.kind == "arc")
        rows.push_back(distance(at(x, curve.points[0]), at(x, curve.points[1])) -
                       distance(at(x, curve.points[0]), at(x, curve.points[2])));
    for (std::size_t i = 0; i < made_.drawing.constraints.size(); ++i) add(rows, i, x);
    return Eigen::Map<Eigen::VectorXd>(rows.data(), static_cast<Eigen::Index>(rows.size()));
  }

  /// By singular values, of derivatives by central differences.
  int rank(const Eigen::VectorXd& x) const {
    const Eigen::VectorXd here = rows(x);
    if (here.size() == 0) return 0;
    Eigen::MatrixXd derivatives(here.size(), x.size());
    for (Eigen::Index i = 0; i < x.size(); ++i) {
      constexpr double step = 1e-5;
      Eigen::VectorXd low = x, high = x;
      low[i] -= step;
      high[i] += step;
      derivatives.col(i) = (rows(high) - rows(low)) / (2 * step);
    }
    Eigen::BDCSVD<Eigen::MatrixXd> svd(derivatives);
    svd.setThreshold(1e-7);
    return static_cast<int>(svd.rank());
  }

 private:
  PlanePoint at(const Eigen::VectorXd& x, const std::string& id) const {
    const auto i = static_cast<Eigen::Index>(2 * pointAt_.at(id));
    return {x[i], x[i + 1]};
  }
  struct Line {
    PlanePoint from, way;
  };
  Line line(const Eigen::VectorXd& x, const std::string& id) const {
    const DrawnCurve& curve = made_.drawing.curves[curveAt_.at(id)];
    const PlanePoint from = at(x, curve.points[0]);
    return {from, at(x, curve.points[1]) - from};
  }
  struct Round {
    PlanePoint centre;
    double radius;
  };
  Round round(const Eigen::VectorXd& x, const std::string& id) const {
    const std::size_t index = curveAt_.at(id);
    const DrawnCurve& curve = made_.drawing.curves[index];
    const PlanePoint centre = at(x, curve.points[0]);
    if (curve.kind == "circle") return {centre, x[static_cast<Eigen::Index>(radiusAt_.at(index))]};
    return {centre, distance(centre, at(x, curve.points[1]))};
  }
  bool isPoint(const std::string& id) const { return pointAt_.contains(id); }

  void add(std::vector<double>& rows, std::size_t index, const Eigen::VectorXd& x) const {
    const DrawnConstraint& constraint = made_.drawing.constraints[index];
    const std::vector<std::string>& on = constraint.on;
    const double value = made_.values.constraints[index];
    const std::string& kind = constraint.kind;
    if (kind == "horizontal") rows.push_back(line(x, on[0]).way.v);
    if (kind == "vertical") rows.push_back(line(x, on[0]).way.u);
    if (kind == "parallel" || kind == "perpendicular") {
      const PlanePoint a = line(x, on[0]).way, b = line(x, on[1]).way;
      rows.push_back((kind == "parallel" ? cross(a, b) : dot(a, b)) / (length(a) * length(b)));
    }
    if (kind == "equal") rows.push_back(length(line(x, on[0]).way) - length(line(x, on[1]).way));
    if (kind == "length") rows.push_back(length(line(x, on[0]).way) - value);
    if (kind == "distance" && isPoint(on[1])) rows.push_back(distance(at(x, on[0]), at(x, on[1])) - value);
    if (kind == "distance" && !isPoint(on[1])) {
      const Line to = line(x, on[1]);
      rows.push_back(std::abs(cross(to.way, at(x, on[0]) - to.from)) / length(to.way) - value);
    }
    if (kind == "horizontal_distance") rows.push_back(std::abs(at(x, on[1]).u - at(x, on[0]).u) - value);
    if (kind == "vertical_distance") rows.push_back(std::abs(at(x, on[1]).v - at(x, on[0]).v) - value);
    if (kind == "midpoint") {
      const Line of = line(x, on[1]);
      const PlanePoint off = of.from + of.way * 0.5 - at(x, on[0]);
      rows.insert(rows.end(), {off.u, off.v});
    }
    if (kind == "on" && made_.drawing.curves[curveAt_.at(on[1])].kind == "line") {
      const Line to = line(x, on[1]);
      rows.push_back(cross(to.way, at(x, on[0]) - to.from) / length(to.way));
    } else if (kind == "on") {
      rows.push_back(distance(at(x, on[0]), round(x, on[1]).centre) - round(x, on[1]).radius);
    }
    if (kind == "tangent") {
      const Line to = line(x, on[0]);
      const Round circle = round(x, on[1]);
      rows.push_back(std::abs(cross(to.way, circle.centre - to.from)) / length(to.way) - circle.radius);
    }
    if (kind == "radius") rows.push_back(round(x, on[0]).radius - value);
    if (kind == "angle") {
      const PlanePoint a = line(x, on[0]).way, b = line(x, on[1]).way;
      rows.push_back(std::abs(std::atan2(cross(a, b), dot(a, b))) - value);
    }
    if (kind == "coincident") {
      const PlanePoint off = at(x, on[1]) - at(x, on[0]);
      rows.insert(rows.end(), {off.u, off.v});
    }
  }

  const DrawingBuilder& made_;
  std::map<std::string, std::size_t> pointAt_, curveAt_;
  std::map<std::size_t, std::size_t> radiusAt_;
};

/// A chain of lines in a few directions, arcs and circles beside it, and constraints that hold there.
class RandomDrawing : public DrawingBuilder {
 public:
  RandomDrawing(unsigned seed, int lineCount) : random_(seed) {
    std::string last = point(number(0, 50), number(0, 50));
    PlanePoint at = drawing.points.back().last;
    for (int i = 0; i < lineCount; ++i) {
      const double angle = pick(6) * std::numbers::pi / 6 + (pick(2) ? std::numbers::pi : 0);
      const double size = 5.0 * (1 + pick(5));
      at = at + PlanePoint{std::cos(angle), std::sin(angle)} * size;
      const std::string next = point(at.u, at.v);
      lines_.push_back(line(last, next));
      angles_.push_back(angle);
      lengths_.push_back(size);
      last = next;
    }
    for (int i = 0; i < lineCount / 3; ++i) {
      // A circle that touches a line, to its left.
      const std::size_t beside = pick(static_cast<unsigned>(lines_.size()));
      const double radius = 2.0 + pick(4);
      const PlanePoint foot = from(beside) + way(beside) * number(0.2, 0.8);
      const PlanePoint left = PlanePoint{-way(beside).v, way(beside).u} * (radius / lengths_[beside]);
      const std::string centre = point(foot.u + left.u, foot.v + left.v);
      circles_.push_back({circle(centre, radius), beside, radius, centre});
    }
    for (int i = 0; i < lineCount / 4; ++i) {
      const std::size_t beside = pick(static_cast<unsigned>(lines_.size()));
      const PlanePoint middle = from(beside) + way(beside) * 0.5;
      middles_.emplace_back(point(middle.u, middle.v), beside);
    }
    for (int i = 0; i < lineCount / 4; ++i) {
      const double u = number(0, 50), v = number(0, 50), radius = number(3, 9), turn = number(0.5, 2);
      curve("arc",
            {point(u, v), point(u + radius, v), point(u + radius * std::cos(turn), v + radius * std::sin(turn))});
    }
  }

  /// Some true constraint that is not there yet; several times the same are possible by other names.
  void addConstraint() {
    const auto a = pick(static_cast<unsigned>(lines_.size())), b = pick(static_cast<unsigned>(lines_.size()));
    const double between = std::remainder(angles_[a] - angles_[b], std::numbers::pi);
    switch (pick(12)) {
      case 0:
        if (isAlong(angles_[a], 0)) hold("horizontal", {lines_[a]});
        break;
      case 1:
        if (isAlong(angles_[a], std::numbers::pi / 2)) hold("vertical", {lines_[a]});
        break;
      case 2:
        if (a != b && std::abs(between) < 1e-9) hold("parallel", {lines_[a], lines_[b]});
        break;
      case 3:
        if (std::abs(std::abs(between) - std::numbers::pi / 2) < 1e-9) hold("perpendicular", {lines_[a], lines_[b]});
        break;
      case 4:
        if (a != b && lengths_[a] == lengths_[b]) hold("equal", {lines_[a], lines_[b]});
        break;
      case 5:
        measure("length", {lines_[a]}, lengths_[a]);
        break;
      case 6: {
        const auto p = pick(static_cast<unsigned>(drawing.points.size())),
                   q = pick(static_cast<unsigned>(drawing.points.size()));
        const double apart = distance(drawing.points[p].last, drawing.points[q].last);
        if (apart > 1) measure("distance", {drawing.points[p].id, drawing.points[q].id}, apart);
        break;
      }
      case 7: {
        const double angle = std::abs(std::atan2(cross(way(a), way(b)), dot(way(a), way(b))));
        if (angle > 0.1 && angle < 3) measure("angle", {lines_[a], lines_[b]}, angle);
        break;
      }
      case 8:
        if (!circles_.empty()) {
          const Beside& circle = circles_[pick(static_cast<unsigned>(circles_.size()))];
          hold("tangent", {lines_[circle.line], circle.id});
        }
        break;
      case 9:
        if (!circles_.empty()) {
          const Beside& circle = circles_[pick(static_cast<unsigned>(circles_.size()))];
          measure("radius", {circle.id}, circle.radius);
        }
        break;
      case 10:
        if (!middles_.empty()) {
          const auto& [id, line] = middles_[pick(static_cast<unsigned>(middles_.size()))];
          hold(pick(2) ? "midpoint" : "on", {id, lines_[line]});
        }
        break;
      default: {
        const auto p = pick(static_cast<unsigned>(drawing.points.size()));
        const PlanePoint off = drawing.points[p].last - from(a);
        const double apart = std::abs(cross(way(a), off)) / lengths_[a];
        if (apart > 1) measure("distance", {drawing.points[p].id, lines_[a]}, apart);
      }
    }
  }

  void disturb(double by) {
    for (DrawnPoint& each : drawing.points) each.last = each.last + PlanePoint{number(-by, by), number(-by, by)};
    for (DrawnCurve& each : drawing.curves)
      for (double& size : each.sizes) size += number(-by, by);
  }

  std::vector<std::vector<double>> sizes() const {
    std::vector<std::vector<double>> all;
    for (const DrawnCurve& each : drawing.curves) all.push_back(each.sizes);
    return all;
  }
  unsigned pick(unsigned below) { return std::uniform_int_distribution<unsigned>(0, below - 1)(random_); }
  double number(double low, double high) { return std::uniform_real_distribution<double>(low, high)(random_); }

 private:
  struct Beside {
    std::string id;
    std::size_t line;
    double radius;
    std::string centre;
  };
  PlanePoint from(std::size_t line) const { return drawing.points[line].last; }
  PlanePoint way(std::size_t line) const { return drawing.points[line + 1].last - drawing.points[line].last; }
  static bool isAlong(double angle, double other) {
    return std::abs(std::remainder(angle - other, std::numbers::pi)) < 1e-9;
  }

  std::mt19937 random_;
  std::vector<std::string> lines_;
  std::vector<double> angles_, lengths_;
  std::vector<Beside> circles_;
  std::vector<std::pair<std::string, std::size_t>> middles_;
};

}  // namespace kervo
