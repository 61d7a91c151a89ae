#include "steps/shared/axis_fields.h"

namespace kervo {

AxisFields::AxisFields(FieldTable& table, const When& when)
    : axis(table,
           {.key = "axis",
            .label = "Axis",
            .well = Well::Reach,
            .help = "face: the axis of a round face, or the normal of a planar one; edge: along a straight edge, or "
                    "the axis of a round one",
            .when = when},
           {"x", "y", "z", "face", "edge"}),
      face(table, {.key = "axis_face", .label = "Axis of", .well = Well::Reach, .when = axis.is(From::Face)}),
      edge(table, {.key = "axis_edge", .label = "Axis along", .well = Well::Reach, .when = axis.is(From::Edge)}) {}

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
      if (found.plane()) return {found.samplePoint(), found.normal()};
      face.fail("a " + found.surfaceName() + " face has no axis", "Pick a planar or a round face");
    }
    case From::Edge:
      break;
  }
  if (const auto found = edge.first(inputs).axis()) return *found;
  edge.fail("the edge is neither straight nor round", "Pick another edge");
}

}  // namespace kervo
