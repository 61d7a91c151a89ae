#include "exchange/step_file.h"

#include <BRepAdaptor_Surface.hxx>
#include <IFSelect_ReturnStatus.hxx>
#include <Interface_EntityIterator.hxx>
#include <Interface_Graph.hxx>
#include <Interface_InterfaceModel.hxx>
#include <Interface_Static.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <StepBasic_Product.hxx>
#include <StepBasic_ProductDefinition.hxx>
#include <StepBasic_ProductDefinitionFormation.hxx>
#include <StepRepr_PropertyDefinition.hxx>
#include <StepRepr_Representation.hxx>
#include <StepRepr_RepresentationRelationship.hxx>
#include <StepShape_FaceSurface.hxx>
#include <StepShape_ShapeDefinitionRepresentation.hxx>
#include <StepShape_ShellBasedSurfaceModel.hxx>
#include <StepShape_SolidModel.hxx>
#include <TColStd_SequenceOfAsciiString.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TransferBRep.hxx>
#include <Transfer_TransientProcess.hxx>
#include <XSControl_TransferReader.hxx>
#include <XSControl_WorkSession.hxx>
#include <fstream>
#include <map>
#include <sstream>

#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/mending.h"
#include "exchange/plain_healing.h"
#include "exchange/step_exchange.h"
#include "exchange/xcaf_bodies.h"
#include "geom/instance.h"
#include "geom/kernel/call.h"
#include "geom/kernel/shape_body.h"
#include "geom/topology.h"

namespace kervo {

namespace {

constexpr std::uintmax_t mostBytes = 4'000'000'000;

/// What the file says of the sides of its faces.
class SidesOfFaces {
 public:
  explicit SidesOfFaces(const Handle(Transfer_TransientProcess) & transfer) { noteFaces(transfer); }

  /// The kernel takes a patch of a sphere for the rest of the sphere if that lets its border run counter-clockwise, and
  /// turns the other faces round to match. The file says of each face whether its outer side is that of its surface: of
  /// a closed shell all do or none does, but for such patches.
  std::vector<int> onTheWrongSide(const TopoDS_Shape& part) const {
    ShapeMap<int> numbers;
    for (const TopoDS_Face& face : facesOf(part)) numbers.emplace(face, static_cast<int>(numbers.size()) + 1);
    std::vector<int> result;
    if (part.ShapeType() != TopAbs_SOLID) return result;
    for (TopExp_Explorer shell(part, TopAbs_SHELL); shell.More(); shell.Next()) {
      std::vector<int> alike, unlike;  // spheres
      bool othersAlike = false, othersUnlike = false, known = true;
      for (TopExp_Explorer it(shell.Current(), TopAbs_FACE); it.More(); it.Next()) {
        const TopoDS_Face& face = TopoDS::Face(it.Current());
        const auto entity = entities_.find(face);
        known &= entity != entities_.end();
        if (!known) break;
        const bool same = entity->second->SameSense() == (face.Orientation() == TopAbs_FORWARD);
        if (BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Sphere)
          (same ? alike : unlike).push_back(numbers.at(face));
        else
          (same ? othersAlike : othersUnlike) = true;
      }
      if (!known || othersAlike == othersUnlike) continue;
      const std::vector<int>& wrong = othersAlike ? unlike : alike;
      result.insert(result.end(), wrong.begin(), wrong.end());
    }
    return result;
  }

 private:
  /// Which faces came from which entity. The kernel's own search goes through the whole file for each face.
  void noteFaces(const Handle(Transfer_TransientProcess) & transfer) {
    for (int i = 1; i <= transfer->NbMapped(); ++i) {
      const auto entity = Handle(StepShape_FaceSurface)::DownCast(transfer->Mapped(i));
      if (entity.IsNull()) continue;
      const TopoDS_Shape face = TransferBRep::ShapeResult(transfer, entity);
      if (!face.IsNull()) entities_.emplace(face, entity);
    }
  }

  ShapeMap<Handle(StepShape_FaceSurface)> entities_;
};

/// Solids and surfaces that the kernel could not make of what the file says.
class LostItems {
 public:
  explicit LostItems(const Handle(XSControl_WorkSession) & session)
      : session_(session), transfer_(session->TransferReader()->TransientProcess()) {}

  std::vector<LostPart> all() const {
    std::vector<LostPart> result;
    const Handle(Interface_InterfaceModel) model = session_->Model();
    for (int i = 1; i <= model->NbEntities(); ++i) {
      const Handle(Standard_Transient) entity = model->Value(i);
      if (!isBody(entity) || !TransferBRep::ShapeResult(transfer_, entity).IsNull()) continue;
      const auto product = productOf(entity, 0);
      // What belongs to no product is not meant to be seen.
      if (product) result.push_back({say("a body of \"%1\" (%2) cannot be read", *product, lineOf(model, entity))});
    }
    return result;
  }

 private:
  static bool isBody(const Handle(Standard_Transient) & entity) {
    return entity->IsKind(STANDARD_TYPE(StepShape_SolidModel)) ||
           entity->IsKind(STANDARD_TYPE(StepShape_ShellBasedSurfaceModel));
  }

  static std::string lineOf(const Handle(Interface_InterfaceModel) & model, const Handle(Standard_Transient) & entity) {
    return model->StringLabel(entity)->ToCString();
  }

  /// The name of the product whose shape it is a part of.
  std::optional<std::string> productOf(const Handle(Standard_Transient) & entity, int depth) const {
    constexpr int most = 6;  // from an item over its representation, and a related one, to the definition
    if (const auto shape = Handle(StepShape_ShapeDefinitionRepresentation)::DownCast(entity)) {
      const Handle(StepRepr_PropertyDefinition) property = shape->Definition().PropertyDefinition();
      if (property.IsNull()) return std::nullopt;
      const Handle(StepBasic_ProductDefinition) definition = property->Definition().ProductDefinition();
      if (definition.IsNull() || definition->Formation().IsNull() || definition->Formation()->OfProduct().IsNull())
        return std::string();
      const Handle(StepBasic_Product) product = definition->Formation()->OfProduct();
      return product->Name().IsNull() ? std::string() : std::string(product->Name()->ToCString());
    }
    if (depth == most) return std::nullopt;
    for (Interface_EntityIterator users = session_->Graph().Sharings(entity); users.More(); users.Next())
      if (const auto found = productOf(users.Value(), depth + 1)) return found;
    // Related representations name each other.
    if (const auto relation = Handle(StepRepr_RepresentationRelationship)::DownCast(entity))
      for (const Handle(StepRepr_Representation) & each : {relation->Rep1(), relation->Rep2()})
        if (!each.IsNull())
          if (const auto found = productOf(each, depth + 1)) return found;
    return std::nullopt;
  }

  Handle(XSControl_WorkSession) session_;
  Handle(Transfer_TransientProcess) transfer_;
};

constexpr char lastLine[] = "END-ISO-10303-21;";  // for the machine

/// Part 21 files start with ISO-10303-21; and end with END-ISO-10303-21; (clause 4.3 of the standard). False for one
/// that is cut off.
bool isWhole(const std::filesystem::path& path) {
  const std::uintmax_t size = requireReadable(path);
  if (size == 0) throw FileError(say("the file is empty"), path.string());
  if (size > mostBytes) throw FileError(say("the file is larger than 4 GB"), path.string());
  std::ifstream file(path, std::ios::binary);
  std::string head(std::min<std::uintmax_t>(size, 4096), '\0');
  file.read(head.data(), static_cast<std::streamsize>(head.size()));
  if (head.find("ISO-10303-21;") == std::string::npos)
    throw FileError(say("this is not a STEP file: it does not start with ISO-10303-21"), path.string(),
                    say("Check how it was written"));
  const std::uintmax_t tailSize = std::min<std::uintmax_t>(size, 65536);
  std::string tail(tailSize, '\0');
  file.seekg(static_cast<std::streamoff>(size - tailSize));
  file.read(tail.data(), static_cast<std::streamsize>(tailSize));
  return tail.find(lastLine) != std::string::npos;
}

/// What is there of a file that is cut off, up to its last whole line, with an end.
std::string upToTheCut(const std::filesystem::path& path) {
  std::string text = readWhole(path, mostBytes);
  text.resize(std::min(text.size(), text.rfind(';') + 1));
  return text + "\nENDSEC;\n" + lastLine + "\n";
}

std::string unitOf(STEPCAFControl_Reader& reader) {
  TColStd_SequenceOfAsciiString lengths, angles, solidAngles;
  reader.ChangeReader().FileUnits(lengths, angles, solidAngles);
  if (lengths.IsEmpty()) return "mm";
  const std::string name = lengths.First().ToCString();
  static const std::map<std::string, std::string> known{{"millimetre", "mm"}, {"centimetre", "cm"}, {"metre", "m"},
                                                        {"INCH", "in"},       {"inch", "in"},       {"FOOT", "ft"},
                                                        {"foot", "ft"}};
  const auto found = known.find(name);
  return found == known.end() ? name : found->second;
}

}  // namespace

FileContents readStepAsIs(const std::filesystem::path& path, StepPurpose purpose, bool parts, Progress& progress) {
  FileContents contents;
  const bool whole = isWhole(path);
  if (!whole) {
    const std::string happened = say("the file is cut off: END-ISO-10303-21 is missing at its end");
    if (!parts)
      throw BrokenFile(happened, path.string(),
                       say("Copy or write it again, or bring in only the parts that can be read"));
    contents.lost.push_back({happened});
  }
  prepareStep();
  std::optional<PlainHealing> healing;
  if (purpose == StepPurpose::Comparison) healing.emplace();
  try {
    kernelCall("reading the STEP file", [&] {
      StepExchange exchange;
      Interface_Static::SetCVal("xstep.cascade.unit", "MM");
      STEPCAFControl_Reader reader;
      reader.SetColorMode(true);
      reader.SetNameMode(true);
      reader.SetLayerMode(true);
      reader.SetPropsMode(true);
      std::istringstream there(whole ? std::string() : upToTheCut(path));
      if ((whole ? reader.ReadFile(path.c_str()) : reader.ChangeReader().ReadStream(path.c_str(), there)) !=
          IFSelect_RetDone)
        throw FileError(say("the file is damaged: its entities cannot be read"), path.string(), say("Write it again"));
      progress.throwIfStopped();
      contents.unit = unitOf(reader);
      Handle(KernelProgress) indicator = new KernelProgress(progress);
      const bool transferred = reader.Transfer(exchange.document(), indicator->Start());
      progress.throwIfStopped();
      if (!transferred) throw FileError(say("the file holds no body"), path.string(), say("Check how it was written"));
      XcafBodies::Refine refine;
      if (purpose == StepPurpose::BringIn)
        refine = [sides = SidesOfFaces(reader.Reader().WS()->TransferReader()->TransientProcess())](
                     FileBody& body, const TopoDS_Shape& part) { body.wrongSide = sides.onTheWrongSide(part); };
      contents.bodies = XcafBodies(exchange, std::move(refine), progress).take();
      if (purpose != StepPurpose::BringIn) return;
      const std::vector<LostPart> lost = LostItems(reader.Reader().WS()).all();
      contents.lost.insert(contents.lost.end(), lost.begin(), lost.end());
    });
  } catch (const FileError&) {
    throw;
  } catch (const Error& error) {
    throw FileError(error.happened(), path.string(), say("The file is probably damaged"));
  }
  if (contents.bodies.empty() && contents.lost.empty())
    throw FileError(say("the file holds no body"), path.string(), say("Check how it was written"));
  for (std::size_t i = 0; i < contents.bodies.size(); ++i)
    if (contents.bodies[i].name.empty()) contents.bodies[i].name = path.stem().string() + " " + std::to_string(i + 1);
  return contents;
}

const Format& stepFormat() {
  static const Format format{
      .name = "STEP",
      .extensions = {".step", ".stp"},
      .mimeTypes = {"model/step"},
      .carries = later("names, colours of bodies and faces, layers, assemblies with instances, and the unit"),
      .instances = true,
      .read = readStep,
      .write = writeStep};
  return format;
}

FileContents readStep(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress) {
  FileContents contents = [&] {
    const std::lock_guard lock(stepMutex());
    return readStepAsIs(path, StepPurpose::BringIn, wishes.parts, progress);
  }();
  // A part is mended once, wherever it stands.
  std::map<const void*, Shape> mended;
  for (FileBody& body : contents.bodies) {
    const std::optional<Plane> place = placeOf(body.shape);
    if (!place) {
      mend(body, contents.notes, progress);
      continue;
    }
    Shape& part = mended[identityOfPart(body.shape)];
    if (part.empty()) {
      FileBody alone = body;
      alone.shape = partOf(body.shape);
      mend(alone, contents.notes, progress);
      part = alone.shape;
    }
    const std::map<int, Color> colors = faceColors(body.shape);
    body.shape = withFaceColors(placed(part, *place), colors);
  }
  return contents;
}

}  // namespace kervo
