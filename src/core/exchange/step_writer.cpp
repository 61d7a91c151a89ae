// Writes STEP files so that what is read back from them is what was written.
#include <APIHeaderSection_MakeHeader.hxx>
#include <IFSelect_ReturnStatus.hxx>
#include <Interface_Static.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TDataStd_Name.hxx>
#include <XCAFDoc_Area.hxx>
#include <XCAFDoc_Centroid.hxx>
#include <XCAFDoc_Volume.hxx>
#include <map>

#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/body_separator.h"
#include "exchange/body_tree.h"
#include "exchange/instances.h"
#include "exchange/read_back.h"
#include "exchange/step_exchange.h"
#include "exchange/step_file.h"
#include "exchange/xcaf_bodies.h"
#include "geom/divide/checked_intersection.h"
#include "geom/instance.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/shape_body.h"
#include "geom/kernel/transform.h"
#include "geom/measure/mass_properties.h"
#include "geom/surface/reseated_faces.h"

namespace kervo {

namespace {

std::string kernelUnit(const std::string& unit) {
  static const std::map<std::string, std::string> names{
      {"mm", "MM"}, {"cm", "CM"}, {"m", "M"}, {"in", "INCH"}, {"ft", "FT"}};
  const auto found = names.find(unit);
  if (found == names.end()) throw Error(say("\"%1\" is not a length unit", unit), "", say("Use mm, cm, m, in or ft"));
  return found->second;
}

/// How the shapes of a body are written, from the most natural to the most robust.
enum class Form { Turned, TurnedOrDivided, Divided, Splines };

Shape inForm(const Shape& shape, Form form) {
  if (shape.kind() == BodyKind::Curve) return shape;
  return kernelCall("turning seams away", [&] {
    switch (form) {
      case Form::Turned:
        return withSeamsClear(shape, TooLarge::DivideSpheres).shape;
      case Form::TurnedOrDivided:
        return withSeamsClear(shape, TooLarge::DivideAll).shape;
      case Form::Divided:
        return dividedClear(shape).shape;
      case Form::Splines:
        break;
    }
    return asSplines(shape).shape;
  });
}

/// The validation properties of AP242 (ISO 10303-242, geometric validation): what a reader can compare with.
void addProperties(const TDF_Label& label, const Shape& shape, Progress& progress) {
  if (shape.kind() == BodyKind::Curve) return;
  XCAFDoc_Area::Set(label, shape.area());
  if (shape.kind() != BodyKind::Solid) return;
  XCAFDoc_Volume::Set(label, shape.volume());
  XCAFDoc_Centroid::Set(label, toPnt(massProperties(shape, progress).centroid));
}

/// One shape under two names would keep only one of them: the second is a copy.
void separateTwins(std::vector<FileBody>& bodies) {
  std::vector<Shape> shapes;
  shapes.reserve(bodies.size());
  for (const FileBody& body : bodies) shapes.push_back(body.shape);
  shapes = withoutTwins(std::move(shapes));
  for (std::size_t i = 0; i < bodies.size(); ++i) bodies[i].shape = shapes[i];
}

/// The assemblies of a document, made when the first part of one comes.
class Assemblies {
 public:
  explicit Assemblies(StepExchange& exchange) : exchange_(exchange) {}

  /// `to`: how it stands to the part. Outside of assemblies there is nothing to put an instance into.
  void add(const FileBody& body, const TDF_Label& part, const TopLoc_Location& to = {}) {
    std::vector<std::string> path;
    TDF_Label outer;
    for (const std::string& name : body.within) {
      path.push_back(name);
      auto found = labels_.find(path);
      if (found == labels_.end()) {
        const TDF_Label label = exchange_.shapes->NewShape();
        call(label, name);
        if (!outer.IsNull()) call(exchange_.shapes->AddComponent(outer, label, TopLoc_Location()), name);
        found = labels_.emplace(path, label).first;
      }
      outer = found->second;
    }
    if (!outer.IsNull()) call(exchange_.shapes->AddComponent(outer, part, to), body.name);
  }

 private:
  static void call(const TDF_Label& label, const std::string& name) {
    TDataStd_Name::Set(label, TCollection_ExtendedString(name.c_str(), true));
  }

  StepExchange& exchange_;
  std::map<std::vector<std::string>, TDF_Label> labels_;
};

void describe(STEPCAFControl_Writer& writer, ReadBack readBack) {
  APIHeaderSection_MakeHeader header(writer.ChangeWriter().Model());
  header.SetDescriptionValue(
      1, new TCollection_HAsciiString(readBack == ReadBack::Compare ? "Bodies by Kervo, read back and compared"
                                                                    : "Bodies by Kervo, not read back"));
  header.SetOriginatingSystem(new TCollection_HAsciiString("Kervo"));
}

/// `formed`: the bodies with their shapes as they are to be written.
void writeOnce(const std::filesystem::path& path, const std::vector<FileBody>& bodies,
               const std::vector<FileBody>& formed, const std::vector<std::optional<Follows>>& followers,
               const std::string& unit, ReadBack readBack, Progress& progress) {
  kernelCall("writing the STEP file", [&] {
    StepExchange exchange;
    Assemblies assemblies(exchange);
    std::vector<TDF_Label> labels(formed.size());
    for (std::size_t i = 0; i < formed.size(); ++i) {
      progress.throwIfStopped();
      const FileBody& body = formed[i];
      if (const auto& follows = followers[i]) {
        labels[i] = labels[follows->first];
        assemblies.add(body, labels[i], TopLoc_Location(toTrsf(follows->from)));
        continue;
      }
      const TDF_Label label = labels[i] = addBody(exchange, body);
      addProperties(label, bodies[i].shape, progress);
      assemblies.add(body, label);
    }
    exchange.shapes->UpdateAssemblies();
    Interface_Static::SetCVal("write.step.schema", "AP242DIS");
    Interface_Static::SetCVal("write.step.unit", kernelUnit(unit).c_str());
    Interface_Static::SetCVal("write.step.product.name", "Kervo");
    STEPCAFControl_Writer writer;
    writer.SetColorMode(true);
    writer.SetNameMode(true);
    writer.SetLayerMode(true);
    writer.SetPropsMode(true);
    Handle(KernelProgress) indicator = new KernelProgress(progress);
    const bool transferred = writer.Transfer(exchange.document(), STEPControl_AsIs, nullptr, indicator->Start());
    progress.throwIfStopped();
    describe(writer, readBack);
    if (!transferred || writer.Write(path.c_str()) != IFSelect_RetDone)
      throw FileError(say("the STEP file could not be written"), path.string(),
                      say("Check the folder and the free space"));
  });
}

}  // namespace

void writeStep(const std::filesystem::path& path, const std::vector<FileBody>& given, const WriteWishes& wishes,
               Progress& progress) {
  std::vector<FileBody> bodies = inTreeOrder(given);
  std::vector<std::optional<Follows>> followers = followersIn(bodies);
  // Only assemblies have instances.
  for (std::size_t i = 0; i < bodies.size(); ++i)
    if (auto& follows = followers[i]; follows && (bodies[i].within.empty() || bodies[follows->first].within.empty()))
      follows.reset();
  for (FileBody& body : bodies) body.shape = plain(body.shape);
  std::vector<Form> forms(bodies.size(), Form::Turned);
  std::vector<FileBody> formed = bodies;
  separateTwins(formed);
  for (std::size_t i = 0; i < formed.size(); ++i) {
    progress.throwIfStopped();
    if (!followers[i]) formed[i].shape = inForm(formed[i].shape, Form::Turned);
  }
  const std::lock_guard lock(stepMutex());
  prepareStep();
  writeAtomically(path, Backup::None, [&](const std::filesystem::path& temporary) {
    while (true) {
      progress.enter(0, 0.5, say("Writing"));
      writeOnce(temporary, bodies, formed, followers, wishes.unit, wishes.readBack, progress);
      if (wishes.readBack == ReadBack::Skip) return;
      progress.enter(0.5, 1, say("Reading back"));
      const std::vector<Difference> found =
          differences(bodies, readStepAsIs(temporary, StepPurpose::Comparison, false, progress).bodies, Keeps::Looks);
      if (found.empty()) return;
      for (const Difference& difference : found) {
        const auto& follows = followers[difference.body];
        const std::size_t written = follows ? follows->first : difference.body;
        Form& form = forms[written];
        if (!difference.inShape || form == Form::Splines) throw unfaithful(bodies[difference.body], difference, path);
        form = static_cast<Form>(static_cast<int>(form) + 1);
        formed[written].shape = inForm(bodies[written].shape, form);
      }
    }
  });
}

}  // namespace kervo
