// Small geometry of planes, boxes, lines and circles that several subjects need.
#pragma once

#include "geom/space.h"
#include "geom/tolerances.h"

namespace kervo {

/// From the lowest to the highest of something, mm.
struct Span {
  double low = Box::infinity, high = -Box::infinity;

  void add(double at) {
    low = std::min(low, at);
    high = std::max(high, at);
  }
};

/// Of a box's corners, along a direction from a point.
inline Span spanAlong(const Box& box, Point from, Vector direction) {
  Span span;
  for (int i = 0; i < 8; ++i) span.add(dot(box.corner(i) - from, direction));
  return span;
}

/// The signed distances of a box's corners from a plane.
inline Span spanAbove(const Plane& plane, const Box& box) {
  return spanAlong(box, plane.origin, plane.normal);
}

/// A box's corners in a plane's coordinates, z along its normal.
inline Box boxIn(const Plane& plane, const Box& box) {
  Box result;
  for (int i = 0; i < 8; ++i) result.add(plane.coordinates(box.corner(i)));
  return result;
}

/// Whether corners of the box lie on both sides.
inline bool crosses(const Plane& plane, const Box& box) {
  const Span span = spanAbove(plane, box);
  return span.low < -tolerance::point && span.high > tolerance::point;
}

inline PlanePoint operator+(PlanePoint a, PlanePoint b) {
  return {a.u + b.u, a.v + b.v};
}
inline PlanePoint operator-(PlanePoint a, PlanePoint b) {
  return {a.u - b.u, a.v - b.v};
}
inline PlanePoint operator*(PlanePoint a, double s) {
  return {a.u * s, a.v * s};
}
inline double dot(PlanePoint a, PlanePoint b) {
  return a.u * b.u + a.v * b.v;
}
inline double cross(PlanePoint a, PlanePoint b) {
  return a.u * b.v - a.v * b.u;
}
inline double length(PlanePoint a) {
  return std::hypot(a.u, a.v);
}
inline double distance(PlanePoint a, PlanePoint b) {
  return length(a - b);
}

/// What a line or a second circle cuts off a circle: its ends are at `middle` ± `along` · √`square`. They do not meet
/// if that is below zero, and touch at zero.
struct Chord {
  PlanePoint middle;
  PlanePoint along;  ///< unit length
  double square = 0;
};

/// Of the line through two different points.
inline Chord chordOfLine(PlanePoint from, PlanePoint to, PlanePoint centre, double radius) {
  const PlanePoint along = (to - from) * (1 / distance(from, to));
  const PlanePoint foot = from + along * dot(centre - from, along);
  const PlanePoint off = foot - centre;
  return {foot, along, radius * radius - dot(off, off)};
}

/// Of two circles about different centres.
inline Chord chordOfCircles(PlanePoint a, double radiusA, PlanePoint b, double radiusB) {
  const double apart = distance(a, b);
  const PlanePoint way = (b - a) * (1 / apart);
  const double along = (apart * apart + radiusA * radiusA - radiusB * radiusB) / (2 * apart);
  return {a + way * along, {-way.v, way.u}, radiusA * radiusA - along * along};
}

}  // namespace kervo
