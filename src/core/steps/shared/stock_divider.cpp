#include "steps/shared/stock_divider.h"

#include "base/error.h"
#include "base/say.h"
#include "geom/divide/partition.h"
#include "geom/planes.h"
#include "geom/primitives.h"
#include "geom/surface/sheet.h"
#include "geom/tolerances.h"
#include "geom/topology.h"

namespace kervo {

namespace {

Side sideFrom(SheetSide side) {
  return side == SheetSide::Front ? Side::Front : side == SheetSide::Back ? Side::Back : Side::Unknown;
}

/// Beside a kerf: by the faces that the kerf's two sides left on the part.
Side sideFromNames(const Shape& part, const std::string& kerf) {
  bool front = false, back = false;
  for (const Face& face : facesOf(part))
    for (const std::string& origin : face.origins()) {
      front |= origin == kerf + ":front";
      back |= origin == kerf + ":back";
    }
  return front == back ? Side::Unknown : front ? Side::Front : Side::Back;
}

}  // namespace

StockDivider::StockDivider(const std::vector<ResolvedCutter>& cutters, const Kerf& kerf, const StepId& step,
                           const LengthField& field, Progress& progress)
    : cutters_(cutters), kerf_(kerf), step_(step), progress_(progress), taken_(cutters.size()), inner_(cutters.size()) {
  if (!hasKerf()) return;
  for (std::size_t i = 0; i < cutters_.size(); ++i) {
    const ResolvedCutter& cutter = cutters_[i];
    try {
      if (!cutter.sheet.empty()) taken_[i] = thickened(cutter.sheet, kerf_.from, kerf_.to, kerfName(i), progress_);
      if (cutter.solid.empty()) continue;
      taken_[i] = grown(cutter.solid, kerf_.to, progress_);
      inner_[i] = grown(cutter.solid, kerf_.from, progress_);
    } catch (const Error& error) {
      field.fail(say("the kerf along \"%1\": %2", cutter.label, error.happened()), error.help());
    }
  }
}

bool StockDivider::hasKerf() const {
  return kerf_.width() >= tolerance::smallestSize;
}

std::string StockDivider::kerfName(std::size_t cutter) const {
  return step_ + ":cut" + (cutter ? std::to_string(cutter + 1) : "");
}

Divided StockDivider::divide(const Shape& stock) const {
  return stock.kind() == BodyKind::Solid || stock.mesh() ? divideSolid(stock) : divideSurface(stock);
}

Divided StockDivider::divideSolid(const Shape& stock) const {
  // The body and everything solid that meets it, then the surfaces. For each: which cutter it belongs to.
  std::vector<Shape> solids{stock}, sheets;
  std::vector<std::size_t> sheetOf;
  std::vector<std::pair<std::size_t, std::size_t>> taken, inner;  // solid → cutter
  const Box box = stock.roughBox();
  const auto addSolid = [&](const Shape& solid, std::size_t cutter, auto& list) {
    if (solid.empty() || !solid.roughBox().overlaps(box)) return;
    list.emplace_back(solids.size(), cutter);
    solids.push_back(solid);
  };
  for (std::size_t i = 0; i < cutters_.size(); ++i) {
    const ResolvedCutter& cutter = cutters_[i];
    if (cutter.plane && hasKerf())
      addSolid(makeSlab(kerfName(i), *cutter.plane, kerf_.from, kerf_.to, box), i, taken);
    else if (hasKerf())
      addSolid(taken_[i], i, taken), addSolid(inner_[i], i, inner);
    else if (!cutter.solid.empty())
      addSolid(cutter.solid, i, inner);
    if (hasKerf() || (cutter.plane ? !crosses(*cutter.plane, box) : cutter.sheet.empty())) continue;
    const Shape sheet = cutter.plane ? planarSheet(*cutter.plane, box, kerfName(i)) : cutter.sheet;
    if (!sheet.roughBox().overlaps(box)) continue;
    sheetOf.push_back(i);
    sheets.push_back(sheet);
  }
  const Partition partition = kervo::partition(solids, sheets, progress_);
  Divided divided;
  divided.remedy = partition.remedy;
  divided.meshed = partition.meshed;
  for (const Part& part : partition.parts) {
    if (!part.isIn(0)) continue;
    SidedPart sided{part.shape, std::vector<Side>(cutters_.size(), Side::Unknown)};
    bool waste = false;
    for (std::size_t i = 0; i < cutters_.size(); ++i) {
      if (const auto& plane = cutters_[i].plane)
        sided.sides[i] = farthestFrom(*plane, part.shape) > 0 ? Side::Front : Side::Back;
      if (!cutters_[i].solid.empty()) sided.sides[i] = Side::Front;
    }
    for (const auto& [solid, cutter] : inner)
      if (part.isIn(solid)) sided.sides[cutter] = Side::Back;
    // Planes and surfaces take all of their slab; round a body only what lies outside its inner side goes.
    for (const auto& [solid, cutter] : taken)
      waste |= part.isIn(solid) && (cutters_[cutter].solid.empty() || sided.sides[cutter] != Side::Back);
    for (std::size_t s = 0; s < sheets.size(); ++s)
      if (!cutters_[sheetOf[s]].plane) sided.sides[sheetOf[s]] = sideFrom(part.sides[s]);
    if (hasKerf())
      for (std::size_t i = 0; i < cutters_.size(); ++i)
        if (!cutters_[i].sheet.empty()) sided.sides[i] = sideFromNames(part.shape, kerfName(i));
    if (waste)
      divided.waste.push_back(part.shape);
    else
      divided.parts.push_back(std::move(sided));
  }
  return divided;
}

/// A surface, by one cutter after another: what lies in a kerf or inside a body is told by the boolean, what lies
/// on a side of a surface by its border.
Divided StockDivider::divideSurface(const Shape& stock) const {
  Divided divided;
  divided.parts.push_back({stock, std::vector<Side>(cutters_.size(), Side::Unknown)});
  for (std::size_t i = 0; i < cutters_.size(); ++i) {
    std::vector<SidedPart> next;
    for (const SidedPart& part : divided.parts) {
      const auto put = [&](const Shape& shape, Side side) {
        if (shape.empty()) return;
        SidedPart sided{shape, part.sides};
        sided.sides[i] = side;
        next.push_back(std::move(sided));
      };
      const ResolvedCutter& cutter = cutters_[i];
      if (cutter.plane) {
        const PlaneSplit sides = splitByPlane(kerfName(i), part.shape, *cutter.plane, kerf_, progress_);
        for (const Shape& shape : sides.front) put(shape, Side::Front);
        for (const Shape& shape : sides.back) put(shape, Side::Back);
        if (!sides.waste.empty()) divided.waste.push_back(sides.waste);
      } else if (!cutter.solid.empty() || hasKerf()) {
        const Shape& outer = hasKerf() ? taken_[i] : cutter.solid;
        const Division cut = kervo::divide(part.shape, {outer}, progress_);
        for (const Shape& shape : cut.outside.pieces()) put(shape, Side::Front);
        if (!hasKerf()) {
          put(cut.inside, Side::Back);
        } else if (!cut.inside.empty()) {
          const Division deep =
              inner_[i].empty() ? Division{cut.inside, {}, {}, {}} : kervo::divide(cut.inside, {inner_[i]}, progress_);
          put(deep.inside, Side::Back);
          if (!deep.outside.empty()) divided.waste.push_back(deep.outside);
        }
      } else {
        const Partition pieces = partitionOfSurface(part.shape, {cutter.sheet}, progress_);
        for (const Part& piece : pieces.parts) put(piece.shape, sideFrom(piece.sides.front()));
      }
    }
    divided.parts = std::move(next);
  }
  return divided;
}

}  // namespace kervo
