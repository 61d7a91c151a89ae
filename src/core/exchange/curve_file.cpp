#include "exchange/curve_file.h"

#include <algorithm>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "drawing/drawn_from.h"
#include "exchange/formats.h"
#include "fields/drawing_field.h"

namespace kervo {

namespace {

const DrawingField& drawingFieldOf(const StepKind& kind) {
  for (const Field* field : kind.fields())
    if (const auto* drawing = dynamic_cast<const DrawingField*>(field)) return *drawing;
  throw std::logic_error("drawings have no curves");
}

}  // namespace

CurveLayer& FileCurves::layer(const std::string& name) {
  const auto found =
      std::find_if(layers.begin(), layers.end(), [&](const CurveLayer& layer) { return layer.name == name; });
  return found == layers.end() ? layers.emplace_back(CurveLayer{name, {}}) : *found;
}

std::size_t FileCurves::count() const {
  std::size_t sum = 0;
  for (const CurveLayer& layer : layers) sum += layer.curves.size();
  return sum;
}

std::optional<double> curveUnit(const std::string& name) {
  if (name == "px") return 25.4 / 96;
  if (name == "pt") return 25.4 / 72;
  const auto unit = findUnit(name);
  if (!unit || unit->dimension != lengthDimension) return std::nullopt;
  return unit->factor;
}

const std::vector<std::string>& curveUnits() {
  static const std::vector<std::string> names = [] {
    std::vector<std::string> all;
    for (const Unit* unit = unitsBegin(); unit != unitsEnd(); ++unit)
      if (unit->dimension == lengthDimension) all.emplace_back(unit->name);
    all.insert(all.end(), {"px", "pt"});
    return all;
  }();
  return names;
}

bool isCurveFile(const std::filesystem::path& path) {
  const Format* format = formatOf(path);
  return format && format->holds == Format::Holds::Curves;
}

FileCurves readCurves(const std::filesystem::path& path, const std::string& unit, Progress& progress) {
  if (!unit.empty() && !curveUnit(unit)) {
    std::string all;
    for (const std::string& name : curveUnits()) all += (all.empty() ? "" : ", ") + name;
    throw Error(say("\"%1\" is no unit of a file's coordinates", unit), path.string(), say("Use one of %1", all));
  }
  const Format* format = formatOf(path);
  if (!format || !format->readCurves)
    throw FileError(say("files ending in \"%1\" are not known as files of curves", path.extension().string()),
                    path.string(), say("Use %1", endings(Format::Holds::Curves, Direction::Read)));
  FileCurves curves = format->readCurves(path, unit, progress);
  std::erase_if(curves.layers, [](const CurveLayer& layer) { return layer.curves.empty(); });
  if (curves.layers.empty())
    throw FileError(say("the file holds no curve that can come in"), path.string(),
                    curves.notes.empty() ? say("Choose another file") : curves.notes.front());
  return curves;
}

PlaneBox boxOf(const FileCurves& curves) {
  constexpr int samples = 32;
  PlaneBox box{{Box::infinity, Box::infinity}, {-Box::infinity, -Box::infinity}};
  for (const CurveLayer& layer : curves.layers)
    for (const auto& curve : layer.curves)
      for (int i = 0; i <= samples; ++i) {
        const PlanePoint at = curve->at(static_cast<double>(i) / samples);
        box.low = {std::min(box.low.u, at.u), std::min(box.low.v, at.v)};
        box.high = {std::max(box.high.u, at.u), std::max(box.high.v, at.v)};
      }
  return box;
}

FileCurves inTheMiddle(FileCurves curves) {
  const PlaneBox box = boxOf(curves);
  const PlaneMotion motion = PlaneMotion::shift((box.low + box.high) * -0.5);
  for (CurveLayer& layer : curves.layers)
    for (auto& curve : layer.curves) curve = curve->moved(motion);
  return curves;
}

Document withDrawings(Document document, const FileCurves& curves, const std::string& source, double gap,
                      const StepKinds& kinds) {
  DrawnCurve like;
  like.snapshotOf = source;
  const StepKind& kind = kinds.drawing();
  const DrawingField& field = drawingFieldOf(kind);
  for (const CurveLayer& layer : curves.layers) {
    std::vector<PlanarCurve> named;
    named.reserve(layer.curves.size());
    for (const auto& curve : layer.curves) named.emplace_back(std::to_string(named.size() + 1), curve);
    const StepId id = document.freeId(kind.key());
    document = document.withStep(Step(id, kind, {{field.key(), withDrawn({}, named, gap, like)}}));
    document = document.withStepNamed(id, layer.name.empty() ? source : say("%1 of %2", layer.name, source));
  }
  return document;
}

}  // namespace kervo
