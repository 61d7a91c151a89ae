#include "shop/sheets.h"

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "drawing/offset.h"
#include "geom/flat/flat_curves.h"
#include "geom/tolerances.h"
#include "shop/chains.h"
#include "shop/nest.h"
#include "shop/polygons.h"

namespace kervo {

namespace {

constexpr double fine = 0.005;  ///< mm that polygons may leave outlines by

/// In a plane's coordinates.
FlatChain flatChain(const std::vector<SpaceCurve>& curves, const Plane& plane) {
  FlatChain chain;
  chain.reserve(curves.size());
  for (const SpaceCurve& curve : curves) chain.push_back(planeCurveOf(curve, plane));
  return chain;
}

ShopPart partOf(const Face& face, const Plane& plane, const Body& body) {
  ShopPart part{.name = body.name, .body = body.id, .area = face.area()};
  const auto loops = flatLoops(face, plane);
  if (loops.empty()) throw Error(say("the face has no outline"), body.name, say("Repair the body first"));
  for (std::size_t i = 0; i < loops.size(); ++i) {
    FlatChain chain = flatChain(loops[i], plane);
    if (i == 0)
      part.outline = std::move(chain);
    else
      part.holes.push_back(std::move(chain));
  }
  return part;
}

double enclosedBy(const std::vector<FlatChain>& chains) {
  double sum = 0;
  for (const FlatChain& chain : chains) sum += std::abs(areaOf({polygonOf(chain, fine)}));
  return sum;
}

/// Whether chains lie beside another one as an offset does: closed, and the area between them that of a strip.
bool liesBeside(const std::vector<FlatChain>& chains, const FlatChain& chain, double by) {
  for (const FlatChain& each : chains)
    if (!each.front()->closed() && !runOf(each).closed) return false;
  const double between = enclosedBy(chains) - enclosedBy({chain}), strip = lengthOf(chain) * std::abs(by);
  const double most = 1.05 * strip + 4 * by * by + fine * lengthOf(chain);
  // Narrow places outside of a part close up, those inside of a hole are lost.
  return by > 0 ? between > 0 && between < most + strip : between < 0;
}

/// The outlines that the middle of the beam follows, outside by a distance or inside below zero; none where there is no
/// room. Exact, or where that cannot be found of short lines that are off by `fine`: then `roughly` is set.
std::vector<FlatChain> besideKerf(const FlatChain& chain, double by, bool& roughly) {
  std::vector<PlanarCurve> curves;
  for (std::size_t i = 0; i < chain.size(); ++i) curves.emplace_back("c" + std::to_string(i), chain[i]);
  try {
    std::vector<FlatCurve> made;
    for (const PlanarCurve& curve :
         offset("k", curves, std::abs(by), by > 0 ? OffsetSide::Out : OffsetSide::In, OffsetCorners::Round))
      made.push_back(curve.geometry);
    std::vector<FlatChain> chains = chained(made, tolerance::looseEdge);
    if (liesBeside(chains, chain, by)) return chains;
  } catch (const Error&) {
    // The polygon shows whether there is any room.
  }
  ClipperLib::Path polygon = polygonOf(chain, fine);
  if (!ClipperLib::Orientation(polygon)) std::reverse(polygon.begin(), polygon.end());
  std::vector<FlatChain> result;
  for (const ClipperLib::Path& path : grownBy({polygon}, by)) {
    if (!ClipperLib::Orientation(path)) continue;
    FlatChain lines;
    for (std::size_t i = 0; i < path.size(); ++i)
      lines.push_back(std::make_shared<const LineCurve>(fromGrid(path[i]), fromGrid(path[(i + 1) % path.size()])));
    result.push_back(std::move(lines));
  }
  roughly = roughly || !result.empty();
  return result;
}

void requirePositive(double value, const std::string& what) {
  if (!(value > 0) || !(value < tolerance::largestSize))
    throw Error(say("%1 is %2 mm", what, formatNumber(value)), "", say("Give a size above zero"));
}

/// Placements with the number of holes that each lies in, those in most holes first.
std::vector<std::pair<Placement, int>> deepestFirst(const std::vector<ShopPart>& parts,
                                                    const std::vector<Placement>& placed) {
  std::vector<std::pair<Placement, int>> result;
  for (const Placement& one : placed) {
    const ClipperLib::IntPoint at = toGrid(one.motion(parts[one.part].outline.front()->at(0)));
    int within = 0;
    for (const Placement& other : placed) {
      if (other.sheet != one.sheet || other.part == one.part) continue;
      for (const FlatChain& hole : parts[other.part].holes)
        within += ClipperLib::PointInPolygon(at, polygonOf(moved(hole, other.motion), 0.01)) != 0 ? 1 : 0;
    }
    result.emplace_back(one, within);
  }
  std::stable_sort(result.begin(), result.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
  return result;
}

const Color black{0, 0, 0}, red{0.85, 0.1, 0.1}, blue{0.1, 0.25, 0.8};

}  // namespace

ShopParts shopParts(const std::vector<Body>& bodies, Progress& progress) {
  ShopParts result;
  for (const Body& body : bodies) {
    progress.throwIfStopped();
    const std::string& id = body.id.text();
    const Shape* shape = body.form.shape();
    if (!shape || shape->kind() != BodyKind::Surface) {
      const bool number = id.ends_with("/label") && std::any_of(bodies.begin(), bodies.end(), [&](const Body& other) {
                            return other.id.text() + "/label" == id;
                          });
      if (!number) result.leftOut.push_back(say("%1 is no planar surface", body.name));
      continue;
    }
    const std::vector<Face> faces = facesOf(*shape);
    if (!std::all_of(faces.begin(), faces.end(), [](const Face& face) { return face.plane().has_value(); })) {
      result.leftOut.push_back(say("%1 is no planar surface", body.name));
      continue;
    }
    const auto label =
        std::find_if(bodies.begin(), bodies.end(), [&](const Body& other) { return other.id.text() == id + "/label"; });
    for (const Face& face : faces) {
      const Plane plane = face.plane().value_or(Plane());
      ShopPart part = partOf(face, plane, body);
      if (label != bodies.end() && label->form.shape() && face.distanceTo(label->form.box().centre()) < 1) {
        std::vector<FlatCurve> curves;
        for (const Edge& edge : edgesOf(*label->form.shape()))
          if (const auto curve = flattened(edge, plane)) curves.push_back(planeCurveOf(*curve, plane));
        part.marks = chained(curves, tolerance::looseEdge);
      }
      if (faces.size() > 1) part.name += "." + std::to_string(&face - faces.data() + 1);
      result.parts.push_back(std::move(part));
    }
  }
  return result;
}

CutSheets cutSheets(const std::vector<ShopPart>& parts, const SheetOrder& order, Progress& progress) {
  requirePositive(order.width, say("the width of the sheet"));
  requirePositive(order.height, say("the height of the sheet"));
  if (!(order.kerf >= 0) || !(order.spacing >= 0))
    throw Error(say("the kerf or the spacing is below zero"), "", say("Give zero or more"));
  if (parts.empty())
    throw Error(say("there is no part to be cut"), "", say("Make slices that give faces, or lift planar faces"));
  CutSheets result;
  std::vector<NestedPart> nested;
  nested.reserve(parts.size());
  for (const ShopPart& part : parts) nested.push_back({part.outline, part.holes});
  progress.enter(0, 0.8, say("laying out parts"));
  const Nesting nesting = nest(nested,
                               {.width = order.width,
                                .height = order.height,
                                .edge = order.spacing + order.kerf,
                                .gap = order.spacing + order.kerf},
                               progress);
  for (const std::size_t part : nesting.tooLarge)
    result.notes.push_back(say("%1 is larger than the sheet and is left out", parts[part].name));
  if (nesting.placed.empty())
    throw Error(say("no part fits on a sheet of %1 × %2 mm", formatNumber(order.width), formatNumber(order.height)), "",
                say("Give a larger sheet"));
  result.sheets.resize(nesting.sheets);
  for (std::size_t i = 0; i < result.sheets.size(); ++i) {
    FlatPicture& picture = result.sheets[i].picture;
    picture.width = order.width;
    picture.height = order.height;
    picture.title = say("Sheet %1 of %2", i + 1, nesting.sheets);
    picture.layers = {{.name = numberLayer, .ink = blue, .width = 0.15},
                      {.name = insideLayer, .ink = red, .width = 0.15},
                      {.name = outsideLayer, .ink = black, .width = 0.15}};
  }
  progress.enter(0.8, 1, say("drawing sheets"));
  for (const auto& [placement, within] : deepestFirst(parts, nesting.placed)) {
    progress.throwIfStopped();
    const ShopPart& part = parts[placement.part];
    CutSheets::Sheet& sheet = result.sheets[placement.sheet];
    sheet.parts.push_back(part.name);
    sheet.used += part.area / (order.width * order.height);
    const auto add = [&](const char* layer, const std::vector<FlatChain>& chains) {
      for (const FlatChain& chain : chains)
        sheet.picture.layer(layer, black).chains.push_back(moved(chain, placement.motion));
    };
    add(numberLayer, part.marks);
    bool roughly = false;
    for (const FlatChain& hole : part.holes) {
      if (order.kerf == 0) {
        add(insideLayer, {hole});
        continue;
      }
      const std::vector<FlatChain> beside = besideKerf(hole, -order.kerf / 2, roughly);
      if (beside.empty())
        result.notes.push_back(say("a hole of %1 is narrower than the kerf and is left out", part.name));
      add(insideLayer, beside);
    }
    // A part that lies in a hole is cut before what falls out of that hole, and takes it along.
    add(within > 0 ? insideLayer : outsideLayer,
        order.kerf == 0 ? std::vector<FlatChain>{part.outline} : besideKerf(part.outline, order.kerf / 2, roughly));
    if (roughly)
      result.notes.push_back(
          say("outlines of %1 are of short lines, off by %2 mm at most", part.name, formatNumber(fine)));
  }
  return result;
}

std::vector<std::filesystem::path> writeSheets(const std::filesystem::path& path, const CutSheets& sheets,
                                               Progress& progress) {
  std::vector<std::filesystem::path> paths;
  for (std::size_t i = 0; i < sheets.sheets.size(); ++i) {
    std::filesystem::path own = path;
    if (sheets.sheets.size() > 1)
      own.replace_filename(path.stem().string() + "-" + std::to_string(i + 1) + path.extension().string());
    writePicture(own, sheets.sheets[i].picture, progress);
    paths.push_back(own);
  }
  return paths;
}

}  // namespace kervo
