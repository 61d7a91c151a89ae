#include "cli/report.h"

#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <iostream>

#include "cli/terminal.h"
#include "geom/curves/curve_body.h"
#include "geom/measure/mass_properties.h"
#include "model/names_for_people.h"

namespace kervo::cli {

namespace {

Json pointJson(Point p) {
  // Rounded to a nanometre, so that -1e-16 does not show.
  const auto clean = [](double value) {
    const double rounded = std::round(value * 1e6) / 1e6;
    return rounded == 0 ? 0.0 : rounded;
  };
  return Json::array({clean(p.x), clean(p.y), clean(p.z)});
}

Json auditJson(const Audit& audit, const Model& model) {
  Json result;
  result["volume_before_mm3"] = audit.volumeBefore;
  result["volume_after_mm3"] = audit.volumeAfter;
  if (audit.cuts) {
    result["volume_removed_mm3"] = audit.volumeRemoved;
    result["balance_mm3"] = audit.balance;
  }
  result["valid"] = audit.valid;
  result["watertight"] = audit.watertight;
  result["touched"] = audit.touched;
  result["spared"] = audit.spared;
  result["shielded"] = audit.shielded;
  result["warnings"] = withNames(audit.warnings, model);
  result["notes"] = withNames(audit.notes, model);
  return result;
}

/// Of the volume: below it the printed digits hold.
constexpr double tellingError = 1e-6;

}  // namespace

Json bodyJson(const FileBody& body) {
  const Box box = body.shape.box();
  Json result;
  result["name"] = body.name;
  result["kind"] = nameOf(body.shape.kind());
  result["volume_mm3"] = body.shape.volume();
  result["volume_error_mm3"] = body.shape.volumeError();
  result["area_mm2"] = body.shape.area();
  if (body.shape.kind() == BodyKind::Solid)
    result["centroid_mm"] = pointJson(massProperties(body.shape, progress()).centroid);
  result["bbox"] = {{"min", pointJson(box.low)}, {"max", pointJson(box.high)}};
  result["closed"] = body.shape.watertight();
  result["valid"] = body.shape.valid();
  if (body.shape.kind() == BodyKind::Curve) result["length_mm"] = lengthOfCurve(body.shape);
  result["faces"] = body.shape.faceCount();
  result["edges"] = body.shape.edgeCount();
  if (const Mesh* mesh = body.shape.mesh()) {
    result["triangles"] = mesh->triangles().size();
    result["tolerance_mm"] = mesh->tolerance();
  }
  if (!body.within.empty()) result["in"] = body.within;
  result["color"] = body.color ? Json(colorText(*body.color)) : Json();
  result["layer"] = body.layer;
  return result;
}

std::string bodyLine(const FileBody& body) {
  const Shape& shape = body.shape;
  std::string line = "  " + body.name + ": " + nameOf(shape.kind());
  const Mesh* mesh = shape.mesh();
  if (mesh) line += " of " + std::to_string(mesh->triangles().size()) + " triangles";
  if (mesh && mesh->tolerance() > 0) line += " within " + formatNumber(mesh->tolerance(), 3) + " mm";
  if (shape.hasInside()) {
    line += ", " + volumeText(shape.volume());
    if (shape.volumeError() > tellingError * shape.volume()) line += " ± " + volumeText(shape.volumeError());
  }
  if (shape.kind() == BodyKind::Curve)
    line += ", " + formatNumber(lengthOfCurve(shape), 7) + " mm";
  else
    line += ", " + formatNumber(shape.area() / 100, 6) + " cm²";
  if (!mesh && shape.kind() != BodyKind::Curve) line += ", " + std::to_string(shape.faceCount()) + " faces";
  if (mesh || shape.kind() == BodyKind::Solid) line += shape.watertight() ? ", closed" : ", NOT CLOSED";
  line += shape.valid() ? "" : ", NOT VALID";
  if (!body.layer.empty()) line += ", layer " + body.layer;
  return line;
}

Json guideJson(const Guide& guide) {
  Json result{{"id", guide.id}, {"name", guide.name}, {"kind", guide.kindName()}, {"visible", guide.visible}};
  const Datum* datum = guide.datum();
  if (const auto* plane = datum ? std::get_if<Plane>(datum) : nullptr) {
    result["at"] = pointJson(plane->origin);
    result["normal"] = pointJson(plane->normal);
  } else if (const auto* axis = datum ? std::get_if<Axis>(datum) : nullptr) {
    result["at"] = pointJson(axis->point);
    result["direction"] = pointJson(axis->direction);
  } else if (datum) {
    result["at"] = pointJson(std::get<Point>(*datum));
  } else {
    result["regions"] = Json::array();
    for (const Region& region : guide.drawing()->regions) result["regions"].push_back(region.name());
    result["open_lines"] = Json::array();
    for (const Path& path : guide.drawing()->paths) result["open_lines"].push_back(path.name());
  }
  return result;
}

std::string guideLine(const Guide& guide) {
  const auto triple = [](const Vector& v) {
    return formatNumber(v.x, 6) + ", " + formatNumber(v.y, 6) + ", " + formatNumber(v.z, 6);
  };
  const std::string line = "  " + guide.name + ": " + guide.kindName();
  if (const DrawingResult* drawing = guide.drawing()) {
    const std::size_t regions = drawing->regions.size(), paths = drawing->paths.size();
    return line + ", " + std::to_string(regions) + (regions == 1 ? " region, " : " regions, ") + std::to_string(paths) +
           (paths == 1 ? " open line" : " open lines");
  }
  if (const auto* plane = std::get_if<Plane>(guide.datum()))
    return line + " at " + triple(plane->origin) + " mm, normal " + triple(plane->normal);
  if (const auto* axis = std::get_if<Axis>(guide.datum()))
    return line + " at " + triple(axis->point) + " mm, direction " + triple(axis->direction);
  return line + " at " + triple(std::get<Point>(*guide.datum())) + " mm";
}

Json stepJson(const StepReport& step, const Model& model, bool full) {
  Json result;
  result["id"] = step.id;
  result["kind"] = step.kind;
  result["name"] = step.name;
  result["state"] = nameOf(step.state);
  result["error"] = step.error ? Json(step.error->what()) : Json();
  if (const DrawingResult* drawing = step.drawing()) {
    result["freedoms"] = drawing->solution.freedoms;
    result["already_true"] = drawing->solution.alreadyTrue;
  }
  if (step.finding && !step.finding->conflicts.empty()) {
    result["conflicts"] = Json::array();
    for (const Conflict& conflict : step.finding->conflicts)
      result["conflicts"].push_back(
          {{"constraint", conflict.constraint}, {"with", conflict.with}, {"reason", conflict.reason}});
  }
  if (step.result)
    if (const auto& measured = step.result->measured)
      result["measured"] = {{"dimension", step.measures},
                            {"value_mm_rad", measured->value.value},
                            {"what", measured->value.dimension.name()}};
  if (!full) return result;
  result["seconds"] = step.seconds;
  result["from_memo"] = step.fromMemo;
  result["volume_change_mm3"] = step.volumeChange;
  if (!step.result) return result;
  result["audit"] = auditJson(step.result->audit, model);
  result["pieces"] = Json::array();
  for (const Piece& piece : step.result->pieces)
    result["pieces"].push_back({{"name", withNames(piece.name, model, Quotes::Drop)},
                                {"key", piece.key},
                                {"body", piece.body},
                                {"volume_mm3", piece.volume},
                                {"area_mm2", piece.area},
                                {"place", pointJson(piece.place)},
                                {"kept", piece.kept}});
  return result;
}

Json dimensionsJson(const Document& document, const DimensionTable& table) {
  const Unit unit = unitNamed(document.made.unit);
  Json result = Json::array();
  for (std::size_t i = 0; i < document.made.dimensions.size(); ++i) {
    Json row;
    row["name"] = document.made.dimensions[i].name;
    row["expression"] = document.made.dimensions[i].expression.text();
    const auto& value = table.value(i);
    if (value) {
      const std::string text = format(*value, unit);
      const auto space = text.find(' ');
      row["value"] = std::strtod(text.c_str(), nullptr);
      row["unit"] = space == std::string::npos ? "" : text.substr(space + 1);
    } else {
      row["value"] = Json();
      row["unit"] = "";
      if (const auto& error = table.error(i)) row["error"] = error->what();
    }
    result.push_back(std::move(row));
  }
  return result;
}

Json levelsJson(const Document& document, const Model& model) {
  Json result = Json::array();
  for (std::size_t i = 0; i < model.levels.size(); ++i) {
    const LevelNow& level = model.levels[i];
    Json row;
    row["name"] = level.name;
    row["expression"] = document.made.levels[i].height.text();
    row["layer"] = level.layer;
    row["height_mm"] = level.height ? Json(*level.height) : Json();
    if (const auto& error = model.dimensions.heightError(i)) row["error"] = error->what();
    result.push_back(std::move(row));
  }
  return result;
}

std::string volumeText(double volume) {
  return std::abs(volume) >= 1000 ? formatNumber(volume / 1000, 6) + " cm³" : formatNumber(volume, 6) + " mm³";
}

void print(const Json& json) {
  clearProgress();
  // Texts from files may hold bytes that are not UTF-8; they must not break the object.
  out() << json.dump(2, ' ', false, Json::error_handler_t::replace) << "\n";
}

bool isDocumentFile(const std::string& path) {
  const Format* format = formatOf(path);
  return format && format->holds == Format::Holds::Document;
}

void requireWritable(const std::string& path) {
  const Format* format = formatOf(path);
  if (format && allows(*format, Direction::Write)) return;
  const std::string extension = std::filesystem::path(path).extension().string();
  throw UsageError((format ? "Kervo does not write files ending in \"" + extension + "\""
                           : "files ending in \"" + extension + "\" are not known") +
                   "; use " + endings(Direction::Write));
}

std::string unitToWrite(const FileContents& contents) {
  return findUnit(contents.unit) ? contents.unit : "mm";
}

FileContents readBodiesFrom(const std::string& path, const ReadWishes& wishes) {
  const InterruptEndsProcess whileReading;
  progress().enter(0, 0, "Reading " + std::filesystem::path(path).filename().string());
  FileContents contents = [&] {
    try {
      return readBodies(path, wishes, progress());
    } catch (const BrokenFile&) {
      note("with --parts, what can be read of it comes in", "parts");
      throw;
    }
  }();
  for (const LostPart& part : contents.lost) note(part.happened, "lost");
  for (const std::string& text : contents.notes) note(text);
  if (!contents.unitNamed) {
    Box box;
    for (const FileBody& body : contents.bodies) box.add(body.shape.roughBox());
    const Vector size = box.high - box.low;
    note(say("%1: the file does not say its unit", contents.unit), "unit");
    note(formatNumber(size.x, 7) + " x " + formatNumber(size.y, 7) + " x " + formatNumber(size.z, 7) + " mm", "size");
  }
  return contents;
}

namespace {
ReadBack chosenReadBack = ReadBack::Compare;
MeshFineness chosenFineness;
}  // namespace

void setReadBack(ReadBack readBack) {
  chosenReadBack = readBack;
}

void setFineness(const MeshFineness& fineness) {
  chosenFineness = fineness;
}

void writeBodiesTo(const std::string& path, const std::vector<FileBody>& bodies, const std::string& unit,
                   const std::vector<FileLevel>& levels) {
  writeBodies(path, bodies, WriteWishes{unit, chosenReadBack, chosenFineness, levels}, progress());
}

void note(const std::string& text, const char* what) {
  clearProgress();
  std::fprintf(stderr, "kervo-cli: %s: %s\n", what, text.c_str());
}

}  // namespace kervo::cli
