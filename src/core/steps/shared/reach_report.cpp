#include "steps/shared/reach_report.h"

#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/surface/extension.h"
#include "geom/surface/sheet.h"

namespace kervo {

namespace {

constexpr std::size_t mostReasons = 6;

/// A little more than what is missing, as a short number.
double roundedUp(double length) {
  const double step = std::pow(10, std::floor(std::log10(length)) - 1);
  return std::ceil(length * 1.02 / step) * step;
}

/// An extension with which the surface does come out of the stock everywhere; nothing if none is found.
std::optional<double> extensionThatReaches(const Shape& stock, const Shape& surface, double missing,
                                           Progress& progress) {
  constexpr int most = 5;
  double by = roundedUp(missing);
  for (int i = 0; i < most; ++i, by = roundedUp(by * 1.3)) {
    try {
      if (!gapOf(stock, extended(surface, by, "extension"), progress)) return by;
    } catch (const Error&) {
      // This border cannot go on; the offer is left out, and the gap is still told.
      return std::nullopt;
    }
  }
  return std::nullopt;
}

}  // namespace

void ReachReport::add(const BodyId& body, const std::string& why) {
  const auto same = std::find_if(others_.begin(), others_.end(), [&](const auto& each) { return each.first == why; });
  if (same == others_.end())
    others_.push_back({why, {body}});
  else
    same->second.push_back(body);
}

void ReachReport::explain(StepInputs& inputs, const BodyId& body, const Shape& stock, const ResolvedCutter& cutter,
                          bool finite, Progress& progress) {
  const std::string name = "\"" + cutter.label + "\"";
  if (cutter.plane) {
    const double side = cutter.plane->signedDistance(stock.roughBox().centre());
    return add(body, say(side < 0 ? later("lies entirely behind %1") : later("lies entirely in front of %1"), name));
  }
  const bool isSheet = !cutter.sheet.empty();
  const Shape& shape = isSheet ? cutter.sheet : cutter.solid;
  if (isSheet && stock.kind() == BodyKind::Solid) {
    if (const auto gap = gapOf(stock, shape, progress)) {
      const std::string reason =
          say("%1 ends inside \"%2\": it is %3 mm too short to divide it", name, body, formatNumber(gap->missing, 4));
      gaps_.push_back(reason);
      auto& lines = inputs.finding().gap;
      lines.insert(lines.end(), gap->area.begin(), gap->area.end());
      if (finite && help_.empty()) help_ = say("Give it a kerf to cut a slot, or extend it");
      return offer(inputs, stock, cutter, *gap, progress);
    }
  }
  switch (meetingOf(stock, shape)) {
    case Meeting::Touching:
      return add(body, say("is only touched by %1", name));
    case Meeting::CutterInside:
      return add(body, say("holds the whole of %1 inside it", name));
    case Meeting::StockInside:
      return add(body, say("lies entirely inside %1", name));
    case Meeting::Apart:
      return add(body, say("is not met by %1", name));
  }
}

void ReachReport::offer(StepInputs& inputs, const Shape& stock, const ResolvedCutter& cutter, const ReachGap& gap,
                        Progress& progress) {
  auto& offers = inputs.finding().offers;
  const auto offered = [&](Offer::Kind kind) {
    return std::find_if(offers.begin(), offers.end(), [&](const Offer& each) { return each.kind == kind; });
  };
  const auto& [cutters, reach, kerf] = fields_;
  const Extent extent = reach.extent.of(inputs);
  const double already = extent == Extent::Extended ? reach.extend.of(inputs) : 0;
  if (const auto by = extensionThatReaches(stock, cutter.sheet, gap.missing, progress)) {
    const std::string length = formatNumber(*by + already, 6) + " mm";
    Offer extend{Offer::Kind::Extend,
                 say("Extend by %1", length),
                 {{reach.extent.key(), reach.extent.with(Extent::Extended)}, {reach.extend.key(), Expression(length)}},
                 *by + already};
    // One extension serves all cutters and bodies: the longest.
    const auto found = offered(Offer::Kind::Extend);
    if (found == offers.end())
      offers.push_back(extend);
    else if (found->length < extend.length)
      *found = extend;
  }
  if (offered(Offer::Kind::UseFinite) == offers.end() && extent != Extent::Finite) {
    Offer finite{
        Offer::Kind::UseFinite, say("Use as finite cutter"), {{reach.extent.key(), reach.extent.with(Extent::Finite)}}};
    if (!(kerf.of(inputs) > 0)) finite.fields.emplace_back(kerf.key(), Expression("1 mm"));
    offers.push_back(finite);
  }
}

void ReachReport::warnOfGap(StepInputs& inputs, const BodyId& body, const Shape& stock, const ResolvedCutter& cutter,
                            const ReachGap& gap, Progress& progress) {
  gaps_.push_back(say("\"%1\" ends inside \"%2\" elsewhere: %3 mm are missing there", cutter.label, body,
                      formatNumber(gap.missing, 4)));
  auto& lines = inputs.finding().gap;
  lines.insert(lines.end(), gap.area.begin(), gap.area.end());
  offer(inputs, stock, cutter, gap, progress);
}

void ReachReport::fail(StepInputs& inputs) const {
  // What can be mended comes first; bodies of which the same is to be said share one sentence.
  std::vector<std::string> reasons = gaps_;
  for (const auto& [why, bodies] : others_) {
    const BodyId& first = bodies.front();
    reasons.push_back(bodies.size() == 1   ? say("\"%1\" %2", first, why)
                      : bodies.size() == 2 ? say("\"%1\" and \"%2\": each %3", first, bodies.back(), why)
                                           : say("\"%1\" and %2 more: each %3", first, bodies.size() - 1, why));
  }
  std::string happened;
  for (std::size_t i = 0; i < reasons.size() && i < mostReasons; ++i)
    happened += (happened.empty() ? "" : "; ") + reasons[i];
  if (reasons.size() > mostReasons)
    happened = say("%1; and %2 more like these", happened, reasons.size() - mostReasons);
  std::string help = help_;
  for (const Offer& offer : inputs.finding().offers)
    help = help.empty() ? offer.label : say("%1, or: %2", help, offer.label);
  if (help.empty()) help = say("Move the cutter, or choose other stock");
  fields_.cutters.fail(say("nothing is divided: %1", happened), help);
}

void ReachReport::warn(StepInputs& inputs) const {
  for (std::size_t i = 0; i < gaps_.size() && i < mostReasons; ++i) inputs.warn(gaps_[i]);
}

}  // namespace kervo
