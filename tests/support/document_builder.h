// Short ways to write documents in tests.
#pragma once

#include <cmath>
#include <map>
#include <stdexcept>
#include <string>
#include <vector>

#include "fields/all_fields.h"
#include "model/rebuild.h"
#include "steps/registry.h"

namespace kervo::test {

inline Step step(const std::string& id, const std::string& kind, std::map<std::string, FieldValue> fields = {}) {
  return Step(id, *allStepKinds().find(kind), std::move(fields));
}

/// A choice or a text as a field's value.
inline FieldValue text(const char* choice) {
  return std::string(choice);
}

inline Expression expression(const std::string& text) {
  return Expression(text);
}

inline FieldValue point(const std::string& x, const std::string& y, const std::string& z) {
  return std::vector<Expression>{Expression(x), Expression(y), Expression(z)};
}

inline Step block(const std::string& id, const std::string& width, const std::string& depth, const std::string& height,
                  const std::vector<std::string>& at = {"0", "0", "0"}) {
  return step(id, "block",
              {{"width", Expression(width)},
               {"depth", Expression(depth)},
               {"height", Expression(height)},
               {"at", point(at[0], at[1], at[2])}});
}

inline DrawnCurve circle(const std::string& id, const std::string& u, const std::string& v, const std::string& r) {
  return {id, "circle", {Expression(u), Expression(v), Expression(r)}};
}

inline DrawnCurve rectangle(const std::string& id, const std::string& u, const std::string& v, const std::string& w,
                            const std::string& h) {
  return {id, "rectangle", {Expression(u), Expression(v), Expression(w), Expression(h)}};
}

inline PlanePick onFace(const std::string& body, const std::string& face) {
  return {PlanePick::Kind::OnFace, "", {body, face, std::nullopt}};
}

inline Step drawing(const std::string& id, PlanePick plane, std::vector<DrawnCurve> curves) {
  return step(id, "drawing", {{"plane", std::move(plane)}, {"curves", Drawing::of(std::move(curves))}});
}

inline BodyPick bodies(std::vector<BodyId> ids) {
  return {false, std::move(ids)};
}

/// A standard plane as the only cutter.
inline std::vector<CutterPick> cutBy(const std::string& plane) {
  return {CutterPick::of(PlanePick{PlanePick::Kind::Standard, plane, {}})};
}

inline RegionPick allOf(const std::string& drawing) {
  return {drawing, true, {}};
}

inline Document documentOf(const std::vector<Step>& steps, const std::vector<DimensionRow>& dimensions = {}) {
  Document document;
  document.made.dimensions = dimensions;
  for (const Step& one : steps) document = document.withStep(one);
  return document;
}

inline Model made(const Document& document) {
  Memo memo;
  Progress progress;
  return rebuild(document, memo, progress);
}

inline double volume(const Model& model, const BodyId& body) {
  const Body* found = model.find(body);
  return found ? found->shape().volume() : NAN;
}

inline const StepReport& report(const Model& model, const StepId& id) {
  for (const StepReport& one : model.steps)
    if (one.id == id) return one;
  throw std::runtime_error("no step " + id);
}

inline std::string errorOf(const Model& model, const StepId& id) {
  const StepReport& one = report(model, id);
  return one.error ? one.error->what() : "no error";
}

}  // namespace kervo::test
