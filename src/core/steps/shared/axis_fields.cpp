#include "steps/shared/axis_fields.h"

#include "base/say.h"

namespace kervo {

AxisFields::AxisFields(FieldTable& table, const When& when, Well well, From standard)
    : axis(table,
           {.key = "axis",
            .label = "Axis",
            .well = well,
            .help = "face: the axis of a round face, or the normal of a planar one; edge: along a straight edge, or "
                    "the axis of a round one; datum: the result of an Axis step",
            .when = when},
           {"x", "y", "z", "face", "edge", "datum"}, standard),
      face(table, {.key = "axis_face", .label = "Axis of", .well = well, .when = axis.is(From::Face)}),
      edge(table, {.key = "axis_edge", .label = "Axis along", .well = well, .when = axis.is(From::Edge)}),
      datum(table, {.key = "axis_datum", .label = "Datum axis", .well = well, .when = axis.is(From::Datum)}) {}

Axis AxisFields::of(Inputs& inputs) const {
  switch (axis.of(inputs)) {
    case From::X:
      return {{}, {1, 0, 0}};
    case From::Y:
      return {{}, {0, 1, 0}};
    case From::Z:
      return {{}, {0, 0, 1}};
    case From::Face: {
      const Face found = face.of(inputs);
      if (const auto round = found.axis()) return *round;
      if (found.plane()) return {found.middle(), found.normal()};
      face.fail(say("a %1 face has no axis", say(found.surfaceName().c_str())),
                say("Pick a planar or a round face; Recognise finds those that came as splines"));
    }
    case From::Datum:
      return datum.of(inputs);
    case From::Edge:
      break;
  }
  if (const auto found = edge.first(inputs).axis()) return *found;
  edge.fail(say("the edge is neither straight nor round"), say("Pick another edge"));
}

}  // namespace kervo
