#include "steps/shared/profile_result.h"

#include "base/say.h"
#include "geom/display/outline.h"

namespace kervo {

namespace {

/// The shapes of the stock, which is consumed.
std::vector<Shape> take(StepResult& result, StepInputs& inputs, const Stock& stock) {
  std::vector<Shape> parts;
  result.audit.shielded = stock.shielded;
  for (const BodyId& body : stock.bodies) {
    parts.push_back(inputs.shape(body));
    result.audit.volumeBefore += parts.back().volume();
    result.audit.touched.push_back(body);
  }
  result.consumed = stock.bodies;
  return parts;
}

}  // namespace

void addNewBodies(StepResult& result, StepInputs& inputs, const std::vector<Shape>& shapes) {
  addKept(result, inputs, "", inputs.id(), "", shapes);
  for (const Shape& shape : shapes) result.audit.volumeAfter += shape.volume();
  result.audit.touched = {inputs.id()};
  if (shapes.size() == 1) result.made.front().name.clear();
}

void addJoined(StepResult& result, StepInputs& inputs, const Stock& stock, const std::vector<Shape>& shapes,
               Progress& progress) {
  std::vector<Shape> parts = take(result, inputs, stock);
  parts.insert(parts.end(), shapes.begin(), shapes.end());
  const Union joined = unite(parts, progress);
  noteSeams(result.audit, joined);
  if (!joined.remedy.empty()) inputs.warn(say("the kernel needed help with the union: %1", joined.remedy));
  const std::vector<Shape> pieces = joined.shape.pieces();
  if (pieces.size() > stock.bodies.size())
    inputs.warn(say("the profile does not touch the stock everywhere: the result is in %1 pieces", pieces.size()));
  result.audit.volumeAfter = joined.shape.volume();
  addKept(result, inputs, stock.bodies.front(), stock.bodies.front(), "", pieces);
}

bool addCommon(StepResult& result, StepInputs& inputs, const Stock& stock, const std::vector<Shape>& shapes,
               Progress& progress) {
  const std::vector<Shape> parts = take(result, inputs, stock);
  result.audit.cuts = true;
  for (std::size_t i = 0; i < stock.bodies.size(); ++i) {
    const Shape shared = divide(parts[i], shapes, progress).inside;
    result.audit.volumeAfter += shared.volume();
    if (!shared.empty()) addKept(result, inputs, stock.bodies[i], stock.bodies[i], "", shared.pieces());
  }
  result.audit.volumeRemoved = result.audit.volumeBefore - result.audit.volumeAfter;
  return !result.made.empty();
}

bool addCut(StepResult& result, StepInputs& inputs, const Stock& stock, const std::vector<Shape>& shapes,
            const PieceChoice& pieces, Progress& progress) {
  Box reach;
  for (const Shape& shape : shapes) {
    reach.add(shape.roughBox());
    for (Polyline& line : edgeLines(shape)) result.cutterOutline.push_back(std::move(line));
  }
  for (const BodyId& body : stock.bodies) {
    progress.throwIfStopped();
    const Division division = inputs.box(body).overlaps(reach) && inputs.shape(body).kind() != BodyKind::Curve
                                  ? divide(inputs.shape(body), shapes, progress)
                                  : Division();
    if (division.inside.empty())
      result.audit.spared.push_back(body);
    else
      addDivided(result, inputs, body, division);
  }
  for (const BodyId& body : stock.shielded)
    if (inputs.box(body).overlaps(reach)) result.audit.shielded.push_back(body);
  if (result.audit.touched.empty()) {
    inputs.finding().cutterOutline = result.cutterOutline;
    return false;
  }
  settlePieces(result, inputs, pieces);
  return true;
}

ProfileResult::ProfileResult(FieldTable& table, const RegionsField& profiles)
    : profiles_(profiles),
      then_(table, {.key = "then", .label = "Result", .well = Well::Stock}, {"new", "joined", "cut", "common"}),
      stock_(table,
             {.key = "stock",
              .label = "Stock",
              .well = Well::Stock,
              .when = then_.is(Then::Joined, Then::Cut, Then::Common)},
             BodyPick::everything()),
      pieces_(table) {}

void ProfileResult::requireSolids(const std::vector<Shape>& shapes) const {
  for (const Shape& shape : shapes)
    if (shape.kind() != BodyKind::Solid)
      profiles_.fail(say("open lines become surfaces, which cannot be joined or cut like this"),
                     say("Close the lines, or split with the surface they make"));
}

void ProfileResult::add(StepResult& result, StepInputs& inputs, const std::vector<Shape>& shapes,
                        Progress& progress) const {
  const Then then = then_.of(inputs);
  if (then == Then::New) {
    addNewBodies(result, inputs, shapes);
    if (shapes.front().kind() != BodyKind::Solid) result.audit.watertight = false;
    return;
  }
  requireSolids(shapes);
  const Stock stock = stockOf(inputs, stock_);
  if (then == Then::Joined)
    addJoined(result, inputs, stock, shapes, progress);
  else if (then == Then::Common && !addCommon(result, inputs, stock, shapes, progress))
    stock_.fail(say("the profile has nothing in common with the stock"), say("Move it, or choose other stock"));
  else if (then == Then::Cut && !addCut(result, inputs, stock, shapes, pieces_.in(inputs), progress))
    stock_.fail(say("the profile meets none of the stock on its way"), say("Move it, or choose other stock"));
}

}  // namespace kervo
