#include "shop/section_picture.h"

#include "base/error.h"
#include "base/say.h"
#include "geom/flat/flat_curves.h"
#include "geom/flat/slices.h"
#include "geom/tolerances.h"
#include "shop/chains.h"

namespace kervo {

SectionPicture sectionPicture(const Model& model, const SectionCut& section, const PaperOrder& order,
                              Progress& progress) {
  if (!section.plane)
    throw Error(say("only a section by a plane can be drawn flat"), "", say("Choose a section by a plane"));
  const Plane& plane = *section.plane;
  SectionPicture result;
  for (const Body& body : model.bodies) {
    progress.throwIfStopped();
    if (!body.inSight() || !section.cuts(body.id, body.layer) || body.form.kind() == BodyKind::Curve) continue;
    for (const Slice& slice : slicesOf(body.form, {plane}, "section", progress)) {
      FlatLayer layer{.name = body.name, .ink = paperInk(), .width = section.fill.thick ? 0.5 : 0.18};
      if (slice.faces.empty()) {
        std::vector<FlatCurve> curves;
        for (const Edge& edge : edgesOf(slice.curve))
          if (const auto flat = flattened(edge, plane)) curves.push_back(planeCurveOf(*flat, plane));
        layer.chains = scaled(chained(curves, tolerance::looseEdge), order.scale);
      } else {
        result.area += slice.faces.area();
        for (const Face& face : facesOf(slice.faces)) {
          std::vector<FlatChain> loops;
          for (const auto& loop : flatLoops(face, plane)) {
            FlatChain& chain = loops.emplace_back();
            for (const SpaceCurve& curve : loop) chain.push_back(planeCurveOf(curve, plane));
          }
          loops = scaled(std::move(loops), order.scale);
          layer.chains.insert(layer.chains.end(), loops.begin(), loops.end());
          layer.fills.push_back(filled(std::move(loops), section.fill, body.color.value_or(Color{0.72, 0.74, 0.75}),
                                       result.bodies.size() % 2 == 1, order.scale));
        }
      }
      result.bodies.push_back(body.name);
      result.picture.layers.push_back(std::move(layer));
    }
  }
  if (result.bodies.empty())
    throw Error(say("the section meets no visible body"), "", say("Move it, or show the bodies it is to cut"));
  finish(result.picture, order);
  return result;
}

}  // namespace kervo
