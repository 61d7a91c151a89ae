#include "exchange/iges_file.h"

#include <IFSelect_ReturnStatus.hxx>
#include <IGESCAFControl_Reader.hxx>
#include <IGESCAFControl_Writer.hxx>
#include <IGESControl_Controller.hxx>
#include <IGESData_GlobalSection.hxx>
#include <IGESData_IGESModel.hxx>
#include <IGESSolid_ManifoldSolid.hxx>
#include <Interface_Static.hxx>
#include <TransferBRep.hxx>
#include <Transfer_TransientProcess.hxx>
#include <XSControl_TransferReader.hxx>
#include <XSControl_WorkSession.hxx>
#include <cmath>
#include <fstream>

#include "base/quantity.h"
#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/mending.h"
#include "exchange/step_exchange.h"
#include "exchange/xcaf_bodies.h"
#include "geom/kernel/call.h"
#include "geom/surface/sewn.h"
#include "geom/topology.h"

namespace kervo {

namespace {

constexpr std::uintmax_t mostBytes = 2'000'000'000;
/// Columns 73 to 80 of a line of 80 say which section it is of, and count it (5.3, clause 2.2.1).
constexpr std::size_t lineLength = 80, sectionAt = 72;

void requireIges(const std::filesystem::path& path) {
  const std::uintmax_t size = requireReadable(path);
  if (size > mostBytes) throw FileError(say("the file is larger than 2 GB"), path.string());
  std::ifstream file(path, std::ios::binary);
  std::string line;
  std::getline(file, line);
  if (line.size() < lineLength || line[sectionAt] != 'S')
    throw FileError(say("this is not an IGES file"), path.string(), say("Check how it was written"));
  std::string last;
  while (std::getline(file, line))
    if (line.size() >= lineLength) last = line;
  if (last.empty() || last[sectionAt] != 'T')
    throw FileError(say("the file is cut off: its last section is missing"), path.string(),
                    say("Copy or write it again; nothing was brought in"));
}

/// The unit's flag in the global section (5.3, clause 2.2.4.3.14).
std::string unitOf(const Handle(IGESData_IGESModel) & model) {
  switch (model->GlobalSection().UnitFlag()) {
    case 1:
      return "in";
    case 4:
      return "ft";
    case 6:
      return "m";
    case 10:
      return "cm";
    default:
      return "mm";
  }
}

/// Loose faces that came as several bodies: sewn where they meet, closed ones made solids.
void sew(FileContents& contents, Progress& progress) {
  std::vector<Shape> loose;
  std::vector<FileBody> bodies;
  std::optional<FileBody> first;
  for (FileBody& body : contents.bodies) {
    if (body.shape.kind() != BodyKind::Surface) {
      bodies.push_back(std::move(body));
      continue;
    }
    // A body's colour becomes one of its faces: afterwards they may be in one with others.
    std::map<int, Color> colors = faceColors(body.shape);
    if (body.color)
      for (int face = 1; face <= body.shape.faceCount(); ++face) colors.emplace(face, *body.color);
    loose.push_back(withFaceColors(body.shape, colors));
    if (!first) first = body;
  }
  if (!first) {
    contents.bodies = std::move(bodies);
    return;
  }
  constexpr double gap = 0.01;  // mm: what files of this kind are exact to
  const Sewn joined = sewn(loose, gap, progress);
  const std::vector<Shape> parts = joined.shape.pieces();
  std::size_t number = 0;
  for (const Shape& part : parts) {
    FileBody body;
    body.name = first->name + (parts.size() > 1 ? " " + std::to_string(++number) : "");
    body.layer = first->layer;
    body.shape = part;
    const std::size_t open = openEdgesOf(part).size();
    if (open == 0) {
      try {
        body.shape = solidWithin(part, progress);
      } catch (const Error& error) {
        progress.throwIfStopped();
        contents.notes.push_back("\"" + body.name + "\": " + error.happened());
      }
    } else if (loose.size() > 1 || part.faceCount() > 1) {
      contents.notes.push_back(sayCount(open, "\"%2\" came as faces; sewn together, %1 edge stays open",
                                        "\"%2\" came as faces; sewn together, %1 edges stay open", body.name));
    }
    bodies.push_back(std::move(body));
  }
  contents.bodies = std::move(bodies);
}

/// Solids that the kernel could not make of what the file says.
std::vector<LostPart> lostOf(const Handle(XSControl_WorkSession) & session) {
  std::vector<LostPart> lost;
  const Handle(Interface_InterfaceModel) model = session->Model();
  const Handle(Transfer_TransientProcess) transfer = session->TransferReader()->TransientProcess();
  for (int i = 1; i <= model->NbEntities(); ++i) {
    const auto solid = Handle(IGESSolid_ManifoldSolid)::DownCast(model->Value(i));
    if (solid.IsNull() || !TransferBRep::ShapeResult(transfer, solid).IsNull()) continue;
    const Handle(TCollection_HAsciiString) label = solid->NameValue();
    const std::string line = model->StringLabel(solid)->ToCString();
    lost.push_back({label.IsNull() ? say("a solid (%1) cannot be read", line)
                                   : say("the solid \"%1\" (%2) cannot be read", label->ToCString(), line)});
  }
  return lost;
}

enum class Loose { Sewn, AsTheyAre };

/// Not for two threads at once: the caller holds stepMutex(), since the kernel's settings are global.
FileContents readIgesAsIs(const std::filesystem::path& path, Loose loose, Progress& progress) {
  requireIges(path);
  prepareStep();
  IGESControl_Controller::Init();
  FileContents contents;
  try {
    kernelCall("reading the IGES file", [&] {
      StepExchange exchange;
      Interface_Static::SetCVal("xstep.cascade.unit", "MM");
      IGESCAFControl_Reader reader;
      reader.SetColorMode(true);
      reader.SetNameMode(true);
      reader.SetLayerMode(true);
      if (reader.ReadFile(path.c_str()) != IFSelect_RetDone)
        throw FileError(say("the file is damaged: its entities cannot be read"), path.string(), say("Write it again"));
      progress.throwIfStopped();
      contents.unit = unitOf(Handle(IGESData_IGESModel)::DownCast(reader.Model()));
      Handle(KernelProgress) indicator = new KernelProgress(progress);
      const bool transferred = reader.Transfer(exchange.document(), indicator->Start());
      progress.throwIfStopped();
      if (!transferred) throw FileError(say("the file holds no body"), path.string(), say("Check how it was written"));
      contents.bodies = XcafBodies(exchange, nullptr, progress).take();
      if (loose == Loose::Sewn) contents.lost = lostOf(reader.WS());
    });
  } catch (const FileError&) {
    throw;
  } catch (const Error& error) {
    throw FileError(error.happened(), path.string(), say("The file is probably damaged"));
  }
  if (contents.bodies.empty() && contents.lost.empty())
    throw FileError(say("the file holds no body"), path.string(), say("Check how it was written"));
  for (std::size_t i = 0; i < contents.bodies.size(); ++i)
    if (contents.bodies[i].name.empty())
      contents.bodies[i].name =
          path.stem().string() + (contents.bodies.size() > 1 ? " " + std::to_string(i + 1) : std::string());
  if (loose == Loose::Sewn) sew(contents, progress);
  return contents;
}

void writeOnce(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const std::string& unit,
               Progress& progress) {
  IGESControl_Controller::Init();
  kernelCall("writing the IGES file", [&] {
    StepExchange exchange;
    for (const FileBody& body : bodies) {
      progress.throwIfStopped();
      addBody(exchange, body);
    }
    // Solids as such (entity 186), not as faces.
    Interface_Static::SetIVal("write.iges.brep.mode", 1);
    const std::string name = unit == "in"   ? "INCH"
                             : unit == "ft" ? "FT"
                             : unit == "m"  ? "M"
                             : unit == "cm" ? "CM"
                                            : "MM";
    Interface_Static::SetCVal("write.iges.unit", name.c_str());
    IGESCAFControl_Writer writer;
    writer.SetColorMode(true);
    writer.SetNameMode(true);
    writer.SetLayerMode(true);
    Handle(KernelProgress) indicator = new KernelProgress(progress);
    const bool transferred = writer.Transfer(exchange.document(), indicator->Start());
    progress.throwIfStopped();
    if (!transferred || !writer.Write(path.c_str()))
      throw FileError(say("the IGES file could not be written"), path.string(),
                      say("Check the folder and the free space"));
  });
}

/// The format knows nothing of bodies of loose faces, so all are compared together: how many solids there are, their
/// volume, and the area of all.
void requireFaithful(const std::vector<FileBody>& written, const std::vector<FileBody>& read,
                     const std::filesystem::path& path) {
  struct Sum {
    int solids = 0;
    double volume = 0, area = 0, loose = 0;
  };
  const auto sumOf = [](const std::vector<FileBody>& bodies) {
    Sum sum;
    for (const FileBody& body : bodies) {
      sum.solids += body.shape.solidCount();
      sum.volume += body.shape.volume();
      sum.area += body.shape.area();
      sum.loose += body.shape.volumeError();
    }
    return sum;
  };
  const Sum wanted = sumOf(written), found = sumOf(read);
  const auto fail = [&](const std::string& what) {
    throw FileError(say("the file would not hold what was made: %1", what), path.string(),
                    say("Write another format. Nothing was written"));
  };
  constexpr double exactness = 1e-5;
  if (found.solids != wanted.solids)
    fail(say("read back, it has %1 solids instead of %2", found.solids, wanted.solids));
  if (std::abs(found.volume - wanted.volume) > exactness * std::abs(wanted.volume) + wanted.loose)
    fail(say("read back, it has %1 mm³ instead of %2", formatNumber(found.volume, 9), formatNumber(wanted.volume, 9)));
  if (std::abs(found.area - wanted.area) > exactness * wanted.area)
    fail(say("read back, it has %1 mm² instead of %2", formatNumber(found.area, 9), formatNumber(wanted.area, 9)));
}

}  // namespace

const Format& igesFormat() {
  static const Format format{.name = "IGES",
                             .extensions = {".igs", ".iges"},
                             .mimeTypes = {"model/iges"},
                             .carries = later("names, colours and the unit"),
                             .read = readIges,
                             .write = writeIges};
  return format;
}

FileContents readIges(const std::filesystem::path& path, const ReadWishes&, Progress& progress) {
  FileContents contents = [&] {
    const std::lock_guard lock(stepMutex());
    return readIgesAsIs(path, Loose::Sewn, progress);
  }();
  for (FileBody& body : contents.bodies) mend(body, contents.notes, progress);
  return contents;
}

void writeIges(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
               Progress& progress) {
  const std::lock_guard lock(stepMutex());
  prepareStep();
  writeAtomically(path, Backup::None, [&](const std::filesystem::path& temporary) {
    writeOnce(temporary, bodies, wishes.unit, progress);
    if (wishes.readBack == ReadBack::Skip) return;
    requireFaithful(bodies, readIgesAsIs(temporary, Loose::AsTheyAre, progress).bodies, path);
  });
}

}  // namespace kervo
