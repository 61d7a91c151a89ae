#include "exchange/brep_file.h"

#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <BinTools.hxx>
#include <TopoDS_Compound.hxx>
#include <fstream>
#include <sstream>

#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/body_separator.h"
#include "exchange/loose_edges.h"
#include "exchange/mending.h"
#include "exchange/read_back.h"
#include "geom/kernel/call.h"
#include "geom/kernel/shape_body.h"

namespace kervo {

namespace {

constexpr std::uintmax_t mostBytes = 2'000'000'000;
constexpr char binaryMark[] = "Open CASCADE Topology";  // for the machine
constexpr char textMark[] = "CASCADE Topology";         // for the machine

TopoDS_Shape parse(const std::string& bytes, const std::string& where) {
  const std::string head = bytes.substr(0, 400);
  const bool binary = head.find(binaryMark) != std::string::npos;
  if (!binary && head.find(textMark) == std::string::npos)
    throw FileError(say("this is not a BREP file: its first lines do not say so"), where,
                    say("Check how it was written"));
  TopoDS_Shape shape;
  try {
    kernelCall("reading a BREP file", [&] {
      std::istringstream stream(bytes);
      if (binary) {
        BinTools::Read(shape, stream);
      } else {
        BRep_Builder builder;
        BRepTools::Read(shape, stream, builder);
        if (!stream) shape = TopoDS_Shape();
      }
    });
  } catch (const Error&) {
    shape = TopoDS_Shape();
  }
  if (shape.IsNull())
    throw FileError(say("the file is damaged or ends early"), where, say("Write it again, or bring in another format"));
  return shape;
}

}  // namespace

namespace {

FileContents readAsIs(const std::filesystem::path& path, Progress& progress) {
  const std::string bytes = readWhole(path, mostBytes);
  progress.throwIfStopped();
  FileContents contents;
  const TopoDS_Shape whole = parse(bytes, path.string());
  try {
    kernelCall("taking the bodies out of the file", [&] {
      tightenLooseEdges(whole);
      const std::vector<TopoDS_Shape> bodies = separateBodies(whole);
      for (std::size_t i = 0; i < bodies.size(); ++i) {
        progress.throwIfStopped();
        const std::string name = path.stem().string() + (bodies.size() == 1 ? "" : " " + std::to_string(i + 1));
        Shape shape = makeShape(withoutLocations(bodies[i]), {}, "face");
        if (!shape.empty()) contents.bodies.push_back({name, std::move(shape), std::nullopt, ""});
      }
    });
  } catch (const FileError&) {
    throw;
  } catch (const Error& error) {
    throw FileError(error.happened(), path.string(), say("The file is probably damaged"));
  }
  if (contents.bodies.empty()) throw FileError(say("the file holds no body"), path.string());
  return contents;
}

}  // namespace

FileContents readBrep(const std::filesystem::path& path, const ReadWishes&, Progress& progress) {
  FileContents contents = readAsIs(path, progress);
  for (FileBody& body : contents.bodies) mend(body, contents.notes, progress);
  return contents;
}

const Format& brepFormat() {
  static const Format format{.name = "BREP",
                             .extensions = {".brep", ".brp"},
                             .carries = later("nothing else"),
                             .read = readBrep,
                             .write = writeBrep};
  return format;
}

void writeBrep(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
               Progress& progress) {
  TopoDS_Shape shape = bodies.front().shape.body().topology;
  if (bodies.size() > 1) {
    TopoDS_Compound compound;
    BRep_Builder builder;
    builder.MakeCompound(compound);
    for (const FileBody& body : bodies) builder.Add(compound, body.shape.body().topology);
    shape = compound;
  }
  writeAtomically(path, Backup::None, [&](const std::filesystem::path& temporary) {
    const bool written = kernelCall("writing a BREP file", [&] {
      return BRepTools::Write(shape, temporary.c_str(), false, false, TopTools_FormatVersion_CURRENT);
    });
    if (!written)
      throw FileError(say("the file could not be written"), path.string(), say("Check the folder and the free space"));
    if (wishes.readBack == ReadBack::Skip) return;
    const std::vector<FileBody> read = readAsIs(temporary, progress).bodies;
    if (const auto found = differences(bodies, read, Keeps::ShapesOnly); !found.empty())
      throw unfaithful(bodies[found.front().body], found.front(), path);
  });
}

std::string brepToBytes(const Shape& shape) {
  return kernelCall("storing a shape", [&] {
    std::ostringstream stream;
    BinTools::Write(shape.body().topology, stream, false, false, BinTools_FormatVersion_CURRENT);
    return stream.str();
  });
}

Shape brepFromBytes(const std::string& bytes, const std::string& where) {
  const TopoDS_Shape topology = parse(bytes, where);
  try {
    Shape shape = kernelCall("reading a shape", [&] { return makeShape(topology, {}, "face"); });
    if (!shape.empty()) return shape;
  } catch (const Error& error) {
    throw FileError(error.happened(), where);
  }
  throw FileError(say("the stored shape is empty"), where);
}

}  // namespace kervo
