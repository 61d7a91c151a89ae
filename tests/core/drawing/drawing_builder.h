// Drawings put together in tests.
#pragma once

#include <cmath>
#include <string>

#include "drawing/drawing.h"
#include "drawing/solve.h"

namespace kervo {

/// Points are numbered p1, p2, …, curves c1, c2, …, constraints k1, k2, …
class DrawingBuilder {
 public:
  std::string point(double u, double v) {
    drawing.points.push_back({"p" + std::to_string(drawing.points.size() + 1), {u, v}});
    return drawing.points.back().id;
  }
  std::string curve(const std::string& kind, std::vector<std::string> points, std::vector<double> sizes = {}) {
    DrawnCurve curve{.id = "c" + std::to_string(drawing.curves.size() + 1), .kind = kind, .numbers = {}};
    curve.points = std::move(points);
    curve.sizes = std::move(sizes);
    drawing.curves.push_back(curve);
    values.numbers.emplace_back();
    return curve.id;
  }
  std::string line(const std::string& from, const std::string& to) { return curve("line", {from, to}); }
  /// A line between two new points.
  std::string segment(double u1, double v1, double u2, double v2) {
    const std::string from = point(u1, v1), to = point(u2, v2);
    return line(from, to);
  }
  std::string circle(const std::string& centre, double radius) { return curve("circle", {centre}, {radius}); }
  /// A line by numbers.
  std::string fixedLine(double u1, double v1, double u2, double v2) {
    const std::string id = curve("line", {});
    values.numbers.back() = {u1, v1, u2, v2};
    for (const double number : values.numbers.back())
      drawing.curves.back().numbers.emplace_back(std::to_string(number) + " mm");
    return id;
  }
  std::string hold(const std::string& kind, std::vector<std::string> on) {
    drawing.constraints.push_back(
        {.id = "k" + std::to_string(drawing.constraints.size() + 1), .kind = kind, .on = std::move(on)});
    values.constraints.push_back(0);
    return drawing.constraints.back().id;
  }
  std::string measure(const std::string& kind, std::vector<std::string> on, double value, bool reference = false) {
    const std::string id = hold(kind, std::move(on));
    drawing.constraints.back().value = Expression("1 mm");
    drawing.constraints.back().reference = reference;
    values.constraints.back() = value;
    return id;
  }
  /// p1 … p4 and c1 … c4 from the bottom counter-clockwise.
  void rectangle(double u, double v, double width, double height) {
    const std::string a = point(u, v), b = point(u + width, v), c = point(u + width, v + height),
                      d = point(u, v + height);
    line(a, b);
    line(b, c);
    line(c, d);
    line(d, a);
  }
  Solution solved() const {
    requireSound(drawing);
    return solve(drawing, values);
  }

  Drawing drawing;
  DrawingValues values;
};

}  // namespace kervo
