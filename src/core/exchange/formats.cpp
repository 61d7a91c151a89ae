#include "exchange/formats.h"

#include <algorithm>
#include <cctype>
#include <functional>

#include "base/error.h"
#include "base/say.h"
#include "exchange/brep_file.h"
#include "exchange/dxf_file.h"
#include "exchange/glb_file.h"
#include "exchange/ifc_file.h"
#include "exchange/iges_file.h"
#include "exchange/kervo_file.h"
#include "exchange/obj_file.h"
#include "exchange/pdf_file.h"
#include "exchange/ply_file.h"
#include "exchange/png_file.h"
#include "exchange/step_file.h"
#include "exchange/stl_file.h"
#include "exchange/svg_file.h"
#include "exchange/threemf_file.h"

namespace kervo {

const std::vector<const Format*>& allFormats() {
  static const std::vector<const Format*> formats{
      &kervoFormat(), &documentTextFormat(), &stepFormat(),    &igesFormat(), &brepFormat(),
      &stlFormat(),   &objFormat(),          &threemfFormat(), &glbFormat(),  &plyFormat(),
      &ifcFormat(),   &dxfFormat(),          &svgFormat(),     &pdfFormat(),  &pngFormat()};
  return formats;
}

const Format* formatOf(const std::filesystem::path& path) {
  std::string extension = path.extension().string();
  std::transform(extension.begin(), extension.end(), extension.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  for (const Format* format : allFormats())
    if (std::find(format->extensions.begin(), format->extensions.end(), extension) != format->extensions.end())
      return format;
  return nullptr;
}

bool allows(const Format& format, Direction direction) {
  if (direction == Direction::Read) return format.holds == Format::Holds::Document || format.read || format.readCurves;
  return format.holds == Format::Holds::Document ? format.documentsWritten : format.write != nullptr;
}

namespace {

/// "a, b or c"
std::string anyOf(const std::vector<std::string>& words) {
  std::string text;
  for (std::size_t i = 0; i < words.size(); ++i)
    text += (i == 0 ? "" : i + 1 < words.size() ? ", " : say(" or ")) + words[i];
  return text;
}

std::string endingsOf(const std::function<bool(const Format&)>& wanted) {
  std::vector<std::string> all;
  for (const Format* format : allFormats())
    if (wanted(*format)) all.insert(all.end(), format->extensions.begin(), format->extensions.end());
  return anyOf(all);
}

}  // namespace

std::string endingsOfPictures() {
  return endingsOf([](const Format& format) { return format.writePicture != nullptr; });
}

std::string endings(Format::Holds holds, Direction direction) {
  return endingsOf([&](const Format& format) { return format.holds == holds && allows(format, direction); });
}

std::string endings(Direction direction) {
  return endingsOf([&](const Format& format) { return allows(format, direction); });
}

std::string namesOfBodyFormats(Direction direction) {
  std::vector<std::string> names;
  for (const Format* format : allFormats())
    if (format->holds == Format::Holds::Bodies && allows(*format, direction))
      names.push_back(say(format->name.c_str()));
  return anyOf(names);
}

std::string namesOfMeshFormats() {
  std::vector<std::string> names;
  for (const Format* format : allFormats())
    if (format->triangles && format->write) names.push_back(say(format->name.c_str()));
  return anyOf(names);
}

const Format& requireBodyFormat(const std::filesystem::path& path, Direction direction) {
  const Format* format = formatOf(path);
  const bool known = format && format->holds == Format::Holds::Bodies;
  if (known && allows(*format, direction)) return *format;
  throw FileError(known ? say(direction == Direction::Read ? later("Kervo does not read %1 files")
                                                           : later("Kervo does not write %1 files"),
                              say(format->name.c_str()))
                        : say("files ending in \"%1\" are not known", path.extension().string()),
                  path.string(), say("Use %1", endings(Format::Holds::Bodies, direction)));
}

}  // namespace kervo
