// How the arguments of an intersection are handed to the kernel in one attempt, and its results taken back. For
// src/core/geom only.
#pragma once

#include <Geom_Surface.hxx>
#include <set>

#include "geom/divide/checked_intersection.h"

namespace kervo {

/// One attempt's form of the arguments. With Attempt::Form::Revolved, cylinders, cones, spheres and tori are surfaces
/// of revolution there: the same points, but the kernel intersects them by its general method, which often succeeds
/// where its special ones lose a curve or fit it badly.
class TrialForm {
 public:
  explicit TrialForm(const Attempt& attempt) : attempt_(attempt) {}

  /// The shape in that form.
  Shape still(const Shape& shape);
  std::vector<Shape> still(const std::vector<Shape>& shapes);
  /// … and moved by Attempt::move.
  Shape moved(const Shape& shape);
  /// Results with the surfaces they would have had, all together since they may share faces. They stay as they are if
  /// one is not sound then.
  std::vector<Shape> back(std::vector<Shape> results, Progress& progress) const;
  Shape back(const Shape& result, Progress& progress) const { return back(std::vector{result}, progress).front(); }

 private:
  const Attempt& attempt_;
  std::set<Handle(Geom_Surface)> made_;
};

}  // namespace kervo
