// What a step makes: outputs (bodies, datums, drawings), pieces, and the audit.
#pragma once

#include <cmath>
#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "base/quantity.h"
#include "drawing/drawing_result.h"
#include "fields/field_value.h"
#include "fields/reference.h"
#include "geom/body_form.h"
#include "geom/curves/curve_body.h"
#include "geom/datum.h"

namespace kervo {

struct SectionCut;

/// A drawing as an output; copies share it.
using Drawn = std::shared_ptr<const DrawingResult>;

/// What an output is.
using OutputForm = std::variant<BodyForm, Datum, Drawn>;

/// A body that a step makes or changes, or a datum or drawing that it makes.
struct Output {
  BodyId id;
  OutputForm form;
  /// The body whose name, colour, layer and settings it takes over; empty for a new one.
  BodyId from = {};
  /// For a new one, or appended to the taken-over name: "front". Ids in quotes are given as names (withNames()).
  std::string name = {};
  std::optional<Color> color = {};
  std::string layer = {};
  std::vector<std::string> within = {};  ///< assemblies that a new one is in, the outermost first
  std::optional<bool> visible = {};      ///< whether it is shown, unless a person says otherwise
  bool holeMaker = false;                ///< taken away from the group that it is put into
};

/// A separate part of a step's result, kept or dropped.
struct Piece {
  std::string name = {};  ///< for people, once ids in quotes are given as names
  BodyId body = {};       ///< the body it became; empty if dropped
  double volume = 0;      ///< mm³; 0 for surfaces
  double area = 0;        ///< mm²
  double length = 0;      ///< mm, of curves
  Point place = {};       ///< centre of its box, for its badge
  bool kept = true;
  Shape shape = {};
  BodyId from = {};  ///< the body it is a part of
  /// What it is called in choices of pieces: the body that it is or would become.
  BodyId key = {};

  /// A piece that always stays, with its measures taken from `shape`. `from`: the body that it was made from.
  static Piece whole(std::string name, const BodyId& body, const Shape& shape, const BodyId& from = {}) {
    return {.name = std::move(name),
            .body = body,
            .volume = shape.volume(),
            .area = shape.area(),
            .length = lengthOfCurve(shape),
            .place = shape.roughBox().centre(),
            .shape = shape,
            .from = from};
  }
};

/// What was checked about a step's result.
struct Audit {
  double volumeBefore = 0;  ///< of the bodies it touched, mm³
  double volumeAfter = 0;
  double volumeRemoved = 0;
  /// before − after − removed, for steps that cut. Within tolerance::balance of the volume before.
  double balance = 0;
  bool cuts = false;  ///< volumeRemoved and balance mean something
  bool valid = true;
  bool watertight = true;
  std::vector<BodyId> touched;
  std::vector<BodyId> spared;    ///< chosen or in reach, but not met
  std::vector<BodyId> shielded;  ///< would have been cut
  std::vector<std::string> warnings;
  std::vector<std::string> notes;  ///< what is good to know: "12 faces are shared"
};

/// A field that can be dragged in the view. A length is the distance from `from` along `along`; an angle is that by
/// which `zero` is turned about `along` through `from`.
struct Gauge {
  std::string field;
  Point from;
  Vector along;          ///< unit length
  double value = 0;      ///< mm or radians
  bool centred = false;  ///< a length lies half on each side of `from`
  enum class Kind { Length, Angle };
  Kind kind = Kind::Length;
  Vector zero = {};   ///< of an angle: unit length, at a right angle to `along`
  double radius = 0;  ///< of an angle: where its arc is shown, mm
  /// Of a plain number: how far the bead stands from where it would at 0, for each 1, in mm. 0: of a length or angle.
  double perOne = 0;
  /// A place that can be dragged in the plane of this gauge and another one that has the same: both follow.
  std::optional<Point> grip = {};

  static Gauge angle(std::string field, Point from, Vector axis, Vector zero, double radius, double value) {
    return {std::move(field), from, axis, value, false, Kind::Angle, zero, radius};
  }
  /// Of a plain number: an arm of this length stands for a value.
  static Gauge plain(std::string field, Point from, Vector arm, double value) {
    const double reach = length(arm);
    return {std::move(field), from, arm * (1 / reach), reach, false, Kind::Length, {}, 0, reach / value};
  }
  /// The end of an angle's arm at a value.
  Point armAt(double angle) const {
    return from + (zero * std::cos(angle) + cross(along, zero) * std::sin(angle)) * radius;
  }
};

/// Something that would help a step, as a change of its fields.
struct Offer {
  enum class Kind { Extend, UseFinite };
  Kind kind;
  std::string label;                                       ///< "Extend by 6.2 mm"
  std::vector<std::pair<std::string, FieldValue>> fields;  ///< key of a field → its new value
  double length = 0;                                       ///< of an extension, mm: the longest one serves all
};

/// What was found out about a step even if it fails: shown in the view and on the Bench.
struct Finding {
  std::vector<Polyline> gap;            ///< where a cutter ends inside the stock
  std::vector<Polyline> cutterOutline;  ///< of a cutter that does not cut
  std::vector<Offer> offers;
  std::vector<Gauge> gauges;        ///< with which a cutter is dragged to where it cuts
  std::vector<Conflict> conflicts;  ///< constraints of a drawing that contradict others

  bool empty() const {
    return gap.empty() && cutterOutline.empty() && offers.empty() && gauges.empty() && conflicts.empty();
  }
};

/// A number that a step found: shown where it was measured, and a dimension for the expressions of later steps.
struct Measurement {
  std::string name = {};  ///< of the dimension; empty: it is only shown
  Quantity value = {};
  /// The line that shows a distance, or one place for what has no line.
  std::vector<Point> at = {};
};

struct StepResult {
  std::vector<BodyId> consumed;  ///< bodies that are gone, or replaced by `made`
  std::vector<Output> made;
  std::vector<Piece> pieces;
  std::vector<Polyline> cutterOutline;  ///< what cuts, where it is not a body
  std::vector<Polyline> left;           ///< places that something has moved away from: their outlines, hatched
  std::vector<Gauge> gauges;
  std::shared_ptr<const SectionCut> section = {};  ///< what it takes out of sight; null for every step but a section
  std::optional<Measurement> measured = {};
  Audit audit;

  /// The first output that is a datum or a drawing, or null.
  const Datum* datum() const { return first<Datum>(); }
  const DrawingResult* drawing() const {
    const Drawn* drawn = first<Drawn>();
    return drawn ? drawn->get() : nullptr;
  }

 private:
  template <class Form>
  const Form* first() const {
    for (const Output& output : made)
      if (const Form* form = std::get_if<Form>(&output.form)) return form;
    return nullptr;
  }
};

}  // namespace kervo
