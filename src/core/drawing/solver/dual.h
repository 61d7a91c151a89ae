// Numbers that carry their derivatives by up to sixteen unknowns: a constraint is written once, as a formula.
#pragma once

#include <array>
#include <cmath>

namespace kervo {

class Dual {
 public:
  static constexpr std::size_t most = 16;

  Dual(double value = 0) : value(value) {}
  static Dual unknown(double value, std::size_t index) {
    Dual result(value);
    result.by[index] = 1;
    return result;
  }

  double value;
  std::array<double, most> by{};

  Dual& add(const Dual& other, double times) {
    for (std::size_t i = 0; i < most; ++i) by[i] += other.by[i] * times;
    return *this;
  }
  Dual scaled(double newValue, double times) const {
    Dual result(newValue);
    for (std::size_t i = 0; i < most; ++i) result.by[i] = by[i] * times;
    return result;
  }
};

inline Dual operator+(const Dual& a, const Dual& b) {
  return Dual(a.scaled(a.value + b.value, 1)).add(b, 1);
}
inline Dual operator-(const Dual& a, const Dual& b) {
  return Dual(a.scaled(a.value - b.value, 1)).add(b, -1);
}
inline Dual operator-(const Dual& a) {
  return a.scaled(-a.value, -1);
}
inline Dual operator*(const Dual& a, const Dual& b) {
  return Dual(a.scaled(a.value * b.value, b.value)).add(b, a.value);
}
inline Dual operator/(const Dual& a, const Dual& b) {
  return Dual(a.scaled(a.value / b.value, 1 / b.value)).add(b, -a.value / (b.value * b.value));
}
/// The derivative at zero is taken as that just beside it.
inline Dual sqrt(const Dual& a) {
  const double root = std::sqrt(std::max(a.value, 0.0));
  return a.scaled(root, 0.5 / std::max(root, 1e-150));
}
inline Dual atan2(const Dual& y, const Dual& x) {
  const double square = std::max(x.value * x.value + y.value * y.value, 1e-300);
  return Dual(y.scaled(std::atan2(y.value, x.value), x.value / square)).add(x, -y.value / square);
}

/// A point or vector in the plane.
struct DualPoint {
  Dual u, v;
};
inline DualPoint operator+(const DualPoint& a, const DualPoint& b) {
  return {a.u + b.u, a.v + b.v};
}
inline DualPoint operator-(const DualPoint& a, const DualPoint& b) {
  return {a.u - b.u, a.v - b.v};
}
inline DualPoint operator*(const DualPoint& a, const Dual& times) {
  return {a.u * times, a.v * times};
}
inline Dual dot(const DualPoint& a, const DualPoint& b) {
  return a.u * b.u + a.v * b.v;
}
inline Dual cross(const DualPoint& a, const DualPoint& b) {
  return a.u * b.v - a.v * b.u;
}
inline Dual length(const DualPoint& a) {
  return sqrt(dot(a, a));
}

}  // namespace kervo
