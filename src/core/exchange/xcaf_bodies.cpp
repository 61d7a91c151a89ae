#include "exchange/xcaf_bodies.h"

#include <Quantity_Color.hxx>
#include <TColStd_HSequenceOfExtendedString.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDF_Tool.hxx>
#include <TDataStd_Name.hxx>
#include <XCAFDoc_Volume.hxx>

#include "exchange/body_separator.h"
#include "exchange/loose_edges.h"
#include "geom/instance.h"
#include "geom/topology.h"

namespace kervo {

namespace {

std::string utf8Of(const TCollection_ExtendedString& text) {
  std::string utf8(static_cast<std::size_t>(text.LengthOfCString()) + 1, '\0');
  Standard_PCharacter buffer = utf8.data();
  text.ToUTF8CString(buffer);
  utf8.resize(static_cast<std::size_t>(text.LengthOfCString()));
  return utf8;
}

std::string entryOf(const TDF_Label& label) {
  TCollection_AsciiString entry;
  TDF_Tool::Entry(label, entry);
  return entry.ToCString();
}

std::string labelName(const TDF_Label& label) {
  Handle(TDataStd_Name) name;
  return label.FindAttribute(TDataStd_Name::GetID(), name) ? utf8Of(name->Get()) : std::string();
}

Color fromKernel(const Quantity_Color& color) {
  Color result;
  color.Values(result.red, result.green, result.blue, Quantity_TOC_sRGB);
  return result;
}

Quantity_Color toKernel(const Color& color) {
  return {color.red, color.green, color.blue, Quantity_TOC_sRGB};
}

std::optional<double> statedVolume(const TDF_Label& label) {
  double volume = 0;
  return XCAFDoc_Volume::Get(label, volume) ? std::optional(volume) : std::nullopt;
}

}  // namespace

TDF_Label addBody(StepExchange& exchange, const FileBody& body) {
  const TDF_Label label = exchange.shapes->AddShape(withoutLocations(body.shape.body().topology), false);
  TDataStd_Name::Set(label, TCollection_ExtendedString(body.name.c_str(), true));
  if (body.color) exchange.colors->SetColor(label, toKernel(*body.color), XCAFDoc_ColorSurf);
  for (const auto& [face, facts] : body.shape.body().faces) {
    const auto* color = facts.color ? std::get_if<Color>(&*facts.color) : nullptr;
    if (!color) continue;
    const TDF_Label part = exchange.shapes->AddSubShape(label, face);
    if (!part.IsNull()) exchange.colors->SetColor(part, toKernel(*color), XCAFDoc_ColorSurf);
  }
  if (!body.layer.empty()) exchange.layers->SetLayer(label, TCollection_ExtendedString(body.layer.c_str(), true));
  return label;
}

XcafBodies::XcafBodies(const StepExchange& exchange, Refine refine, Progress& progress)
    : exchange_(exchange), refine_(std::move(refine)), progress_(progress) {
  noteColors();
}

void XcafBodies::noteColors() {
  TDF_LabelSequence labels;
  exchange_.shapes->GetShapes(labels);
  for (const TDF_Label& label : labels) {
    progress_.throwIfStopped();
    noteColor(label);
    TDF_LabelSequence parts;
    XCAFDoc_ShapeTool::GetSubShapes(label, parts);
    for (const TDF_Label& part : parts) noteColor(part);
  }
}

void XcafBodies::noteColor(const TDF_Label& label) {
  for (const XCAFDoc_ColorType type : {XCAFDoc_ColorSurf, XCAFDoc_ColorGen}) {
    Quantity_Color color;
    if (!exchange_.colors->GetColor(label, type, color)) continue;
    if (const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(label); !shape.IsNull())
      colors_.emplace(shape, fromKernel(color));
    return;
  }
}

std::vector<FileBody> XcafBodies::take() {
  TDF_LabelSequence roots;
  exchange_.shapes->GetFreeShapes(roots);
  for (const TDF_Label& root : roots) countUses(root);
  for (const TDF_Label& root : roots) collect(root, TopLoc_Location(), {});
  return std::move(bodies_);
}

void XcafBodies::countUses(const TDF_Label& label) {
  TDF_Label part = label;
  XCAFDoc_ShapeTool::GetReferredShape(label, part);
  if (!XCAFDoc_ShapeTool::IsAssembly(part)) {
    ++uses_[entryOf(part)];
    return;
  }
  TDF_LabelSequence components;
  XCAFDoc_ShapeTool::GetComponents(part, components);
  for (const TDF_Label& component : components) countUses(component);
}

Shape XcafBodies::shapeOf(const TopoDS_Shape& part, const TopLoc_Location& place) {
  const TopoDS_Shape standing = part.Moved(place);
  const std::optional<Plane> where = placeOf(standing);
  // What is mirrored or scaled has surfaces of its own.
  if (!where && !standing.Location().IsIdentity()) return makeShape(withoutLocations(standing), {}, "face");
  Shape& known = parts_[part.TShape().get()];
  if (known.empty()) known = makeShape(part.Located(TopLoc_Location()), {}, "face");
  return where ? placed(known, *where) : known;
}

void XcafBodies::collect(const TDF_Label& label, const TopLoc_Location& place, Look look) {
  progress_.throwIfStopped();
  refineLook(look, label);
  TDF_Label referred;
  if (XCAFDoc_ShapeTool::GetReferredShape(label, referred)) {
    const std::string own = labelName(label);
    refineLook(look, referred);
    // The name of the part says more than that of its occurrence, which many writers fill with a number.
    if (look.name.empty()) look.name = own;
    collectInside(referred, place * XCAFDoc_ShapeTool::GetLocation(label), look);
  } else {
    collectInside(label, place, look);
  }
}

void XcafBodies::collectInside(const TDF_Label& label, const TopLoc_Location& place, const Look& look) {
  if (XCAFDoc_ShapeTool::IsAssembly(label)) {
    TDF_LabelSequence components;
    XCAFDoc_ShapeTool::GetComponents(label, components);
    Look inner = look;
    // Two of one name are told apart by that of their place in the assembly, which is another one.
    if (!look.name.empty()) inner.within.push_back(look.name);
    for (const TDF_Label& component : components) collect(component, place, inner);
    return;
  }
  const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(label);
  if (shape.IsNull()) return;
  tightenLooseEdges(shape);
  const std::vector<TopoDS_Shape> parts = separateBodies(shape);
  for (std::size_t i = 0; i < parts.size(); ++i) {
    FileBody body;
    body.name = look.name + (parts.size() > 1 ? " " + std::to_string(i + 1) : "");
    body.color = colorOfPart(parts[i]);
    if (!body.color) body.color = look.color;
    body.layer = look.layer;
    body.within = look.within;
    if (parts.size() == 1) body.statedVolume = statedVolume(label);
    if (refine_) refine_(body, parts[i]);
    body.shape = uses_[entryOf(label)] > 1 ? shapeOf(parts[i], place)
                                           : makeShape(withoutLocations(parts[i].Moved(place)), {}, "face");
    if (!body.shape.empty()) body.shape = withFaceColors(body.shape, ownColorsOfFaces(parts[i], body.color));
    if (!body.shape.empty()) bodies_.push_back(std::move(body));
  }
}

void XcafBodies::refineLook(Look& look, const TDF_Label& label) const {
  if (const std::string name = labelName(label); !name.empty()) look.name = name;
  for (const XCAFDoc_ColorType type : {XCAFDoc_ColorSurf, XCAFDoc_ColorGen, XCAFDoc_ColorCurv}) {
    Quantity_Color color;
    if (!exchange_.colors->GetColor(label, type, color)) continue;
    look.color = fromKernel(color);
    break;
  }
  Handle(TColStd_HSequenceOfExtendedString) layers;
  if (exchange_.layers->GetLayers(label, layers) && layers->Length() > 0) look.layer = utf8Of(layers->First());
}

std::optional<Color> XcafBodies::colorOfShape(const TopoDS_Shape& shape) const {
  const auto found = colors_.find(shape);
  return found == colors_.end() ? std::nullopt : std::optional(found->second);
}

/// Colours of faces that differ from their body's, by number. Placing a part keeps the order of its faces.
std::map<int, Color> XcafBodies::ownColorsOfFaces(const TopoDS_Shape& part,
                                                  const std::optional<Color>& bodyColor) const {
  std::map<int, Color> result;
  if (colors_.empty()) return result;
  int number = 0;
  for (const TopoDS_Face& face : facesOf(part)) {
    ++number;
    const std::optional<Color> color = colorOfShape(face);
    if (color && color != bodyColor) result.emplace(number, *color);
  }
  return result;
}

/// The colour of the part itself, or that of all its faces if they agree.
std::optional<Color> XcafBodies::colorOfPart(const TopoDS_Shape& part) const {
  if (const std::optional<Color> own = colorOfShape(part)) return own;
  std::optional<Color> common;
  for (const TopoDS_Face& face : facesOf(part)) {
    const std::optional<Color> color = colorOfShape(face);
    if (!color || (common && *common != *color)) return std::nullopt;
    common = color;
  }
  return common;
}

}  // namespace kervo
