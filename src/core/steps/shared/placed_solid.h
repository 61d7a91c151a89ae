// The step kinds that make one solid from sizes, at a place on a plane.
#pragma once

#include "fields/coordinates_field.h"
#include "fields/plane_field.h"
#include "model/step_inputs.h"

namespace kervo {

/// A positive length.
class SizeField : public LengthField {
 public:
  SizeField(FieldTable& table, FieldText text, const std::string& standard)
      : LengthField(table, std::move(text), standard, NumberRule::Positive) {}
};

/// The fields by which a solid is placed; they stand behind its sizes.
struct Placement {
  explicit Placement(FieldTable& table)
      : plane(table, {.key = "plane", .label = "Plane"}), at(table, text(), names()) {}

  /// The plane picked, moved to the point `at` in its own coordinates.
  Plane of(Inputs& inputs) const;

  PlaneField plane;
  CoordinatesField at;

 private:
  static FieldText text() { return {.key = "at", .label = "Place", .help = "On the plane: u, v, and height above it"}; }
  static std::array<std::string, 3> names() { return {"u", "v", "height"}; }
};

class PlacedSolid : public StepKind {
 public:
  /// Whether the empty Bench offers it in any document, or only in an empty one.
  enum class Offered { Always, AtFirst };
  PlacedSolid(const char* key, const char* label, const char* help, Offered offered, bool startsGroup = false)
      : StepKind({.key = key,
                  .label = label,
                  .menu = KindMenu::Draw,
                  .help = help,
                  .startsGroup = startsGroup,
                  .needsBodies = false}),
        offered_(offered) {}

  /// In the middle of a selected face: its plane's own origin may be far away.
  void startFrom(const Selected& selected, Start& start) const override;
  std::optional<std::string> offered(const Selected& selected) const override;

 protected:
  virtual const Placement& placement() const = 0;
  /// One new body named by the step.
  static StepResult newBody(const Inputs& inputs, Shape shape);

 private:
  Offered offered_;
};

}  // namespace kervo
