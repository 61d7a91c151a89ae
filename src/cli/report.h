// How bodies, steps and audits are printed: as JSON for programs, as lines for people.
#pragma once

#include <nlohmann/json.hpp>
#include <string>

#include "exchange/formats.h"
#include "model/model.h"

namespace kervo::cli {

using Json = nlohmann::ordered_json;

/// name, kind, volume_mm3, volume_error_mm3, area_mm2, centroid_mm (solids), bbox, closed, valid, faces, edges, color,
/// layer.
Json bodyJson(const FileBody& body);
std::string bodyLine(const FileBody& body);
/// Of a datum or drawing.
Json guideJson(const Guide& guide);
std::string guideLine(const Guide& guide);

/// id, kind, name, state, error; with the audit, time and memo use if `full`.
Json stepJson(const StepReport& step, const Model& model, bool full);
Json dimensionsJson(const Document& document, const DimensionTable& table);
Json levelsJson(const Document& document, const Model& model);

/// 12345.678 mm³ as "12.3457 cm³", small volumes in mm³.
std::string volumeText(double cubicMillimetres);
/// The text with everything but one JSON object left to stdout.
void print(const Json& json);

/// Whether the file holds a document, by its extension; otherwise it holds bodies.
bool isDocumentFile(const std::string& path);
/// Throws a UsageError, unless the result can be written to a file with such an extension.
void requireWritable(const std::string& path);
/// Notes on what was mended go to stderr.
FileContents readBodiesFrom(const std::string& path, const ReadWishes& wishes = {});
/// Whether writeBodiesTo() compares: --no-read-back turns that off.
void setReadBack(ReadBack readBack);
/// How finely writeBodiesTo() makes triangles of exact bodies.
void setFineness(const MeshFineness& fineness);
void writeBodiesTo(const std::string& path, const std::vector<FileBody>& bodies, const std::string& unit,
                   const std::vector<FileLevel>& levels = {});
/// One line on stderr. `what`: "note", "damaged" for a place where a body cannot be trusted, or "lost".
void note(const std::string& text, const char* what = "note");
/// The unit to write what came from these contents in: theirs, or mm if theirs is none that Kervo knows.
std::string unitToWrite(const FileContents& contents);

}  // namespace kervo::cli
