// The table of file formats: what dialogs, what is dropped on the window, the command line's help, the desktop's file
// types and errors follow.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "exchange/body_file.h"
#include "exchange/curve_file.h"
#include "exchange/flat_picture.h"

namespace kervo {

/// A kind of file. Each has a file pair of its own, and one line in formats.cpp.
struct Format {
  enum class Holds { Bodies, Curves, Document };

  std::string name;                      ///< "STEP"
  std::vector<std::string> extensions;   ///< in small letters, with their dot; the usual one first
  std::vector<std::string> mimeTypes{};  ///< as registered; none if there is none
  Holds holds = Holds::Bodies;
  std::string carries;     ///< what bodies keep in it besides their shape: "names, colours and layers"
  bool triangles = false;  ///< bodies are triangles in it, exact ones meshed
  bool instances = false;  ///< a part is in it once, wherever it stands
  bool unitless = false;   ///< it does not say in which unit its lengths are
  /// Null where bodies are not read from it. What of a file could not be read is among what was lost. Throws FileError.
  FileContents (*read)(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress) = nullptr;
  /// Null where curves are not read from it. `unit`: as in readCurves(). Throws FileError.
  FileCurves (*readCurves)(const std::filesystem::path& path, const std::string& unit, Progress& progress) = nullptr;
  /// Null where bodies are not written to it. Whole or not at all. Throws FileError.
  void (*write)(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
                Progress& progress) = nullptr;
  /// Null where pictures are not written to it. Whole or not at all. Throws FileError.
  void (*writePicture)(const std::filesystem::path& path, const FlatPicture& picture, Progress& progress) = nullptr;
  bool documentsWritten = false;  ///< of documents, which are read by readDocument() and written by writeDocument()
};

/// All formats, those of documents first.
const std::vector<const Format*>& allFormats();

/// The format of a file by its extension, in small or large letters; null if there is none.
const Format* formatOf(const std::filesystem::path& path);

enum class Direction { Read, Write };
bool allows(const Format& format, Direction direction);

/// Extensions of the formats that hold this and allow it, as a list for people: ".step, .stp or .brep".
std::string endings(Format::Holds holds, Direction direction);
/// Of those to which pictures are written: ".dxf, .svg, .pdf or .png".
std::string endingsOfPictures();
/// Of all formats that allow it, whatever they hold.
std::string endings(Direction direction);

/// What the formats of bodies that allow it are called, as a list for people: "STEP or BREP".
std::string namesOfBodyFormats(Direction direction);

/// … of those that hold meshes and are written: "STL, OBJ, PLY or 3MF".
std::string namesOfMeshFormats();

/// Throws a FileError that names the extensions there are, unless the file has one of them.
const Format& requireBodyFormat(const std::filesystem::path& path, Direction direction);

}  // namespace kervo
