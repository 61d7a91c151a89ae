// What is selected when a verb is started, in the terms of steps: from it a kind fills its fields.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "fields/choice_field.h"
#include "fields/cutters_field.h"
#include "fields/edges_field.h"

namespace kervo {

/// What a step makes.
enum class Makes { Bodies, Plane, Axis, Point, Drawing, Section, Number };

/// One thing picked in the view, as a reference.
struct Picked {
  enum class What { Body, Face, Edge, Point, Datum, Drawing };
  What what = What::Body;
  BodyId body = {};           ///< or the datum or drawing
  std::string standard = {};  ///< of a plane of the world: xy, xz or yz; it has no body
  BodyKind bodyKind = BodyKind::Solid;
  FaceReference face = {};
  std::optional<Plane> plane = {};  ///< of a planar face or a plane
  PlanePoint middle = {};           ///< of a planar face, on its plane
  Point place = {};                 ///< of a face: where it was clicked, or some point inside
  bool freeForm = false;            ///< a face on neither a plane, cylinder, cone, sphere nor torus
  /// Of a face that is known to lie in a hole, window, pocket or notch: its number in the body.
  std::optional<int> opening = {};
  std::string name = {};                    ///< of a face, for people
  std::vector<EdgeReference> edges = {};    ///< the edge, or those round a face
  std::vector<PointReference> points = {};  ///< the corner, or the datum that is a point

  /// As a plane: a datum, or a planar face.
  std::optional<PlanePick> asPlane() const;
  /// … or the tangent plane of a curved face, where it was clicked.
  std::optional<PlanePick> asPlaneToDrawOn() const;
  /// As a cutter: a body, the surface that a face is of, a plane, a face, or a drawing. Nothing for edges and points.
  std::optional<CutterPick> cutter() const;
};

/// The selection, and what there is besides.
struct Selected {
  /// Parts of bodies, datums and drawings; also those that a step selected in the Cut list has made.
  std::vector<Picked> picks = {};
  bool step = false;  ///< a step is selected in the Cut list
  /// The drawing to go on with: the selected one, or the newest that no step uses. Empty if there is none.
  StepId drawing = {};
  std::string drawingName = {};
  bool emptyDocument = true;
  bool anyBody = false;
  std::vector<BodyId> damaged = {};  ///< of all bodies
  Box box = {};                      ///< around the selected bodies, or all that are shown and not shielded
  Unit unit = unitNamed("mm");       ///< of the document
  std::string level = {};            ///< the working level; empty: none

  bool nothing() const { return picks.empty() && !step; }
  bool anyOf(Picked::What what) const;
  bool anyInOpening() const;
  /// Of the picked faces one for each opening, and all that are known to lie in none.
  std::vector<FaceReference> facesOfOpenings() const;
  /// Whole bodies, and those of picked parts, each once.
  std::vector<BodyId> bodies() const;
  /// Bodies that were picked as such; a face or edge only says where.
  std::vector<BodyId> wholeBodies() const;
  /// The first planar face, or null.
  const Picked* planarFace() const;
  /// The plane that the selection means: the first datum that is one, or else the first planar face.
  std::optional<PlanePick> plane() const;
  /// … or, where nothing is selected, the working level's.
  std::optional<PlanePick> planeForNew() const;
  /// … or the tangent plane of the first curved face.
  std::optional<PlanePick> planeToDrawOn() const;
  std::vector<FaceReference> faces() const;
  /// Those picked and those round picked faces, each once.
  std::vector<EdgeReference> edges() const;
  /// Corners and datums that are points.
  std::vector<PointReference> points() const;

  /// A length in the document's unit.
  Expression inUnit(double millimetres) const;
};

/// A step to begin with.
struct Start {
  std::map<std::string, FieldValue> fields = {};
  std::string name = {};  ///< empty: called like its kind

  template <class T>
  void set(const FieldOf<T>& field, const std::type_identity_t<T>& value) {
    fields.insert_or_assign(field.key(), value);
  }
  template <class Choice>
  void set(const ChoiceField<Choice>& field, std::type_identity_t<Choice> choice) {
    fields.insert_or_assign(field.key(), field.with(choice));
  }
};

}  // namespace kervo
