// Bodies in a document of the kernel's data framework, as its readers leave them.
#pragma once

#include <functional>
#include <map>
#include <unordered_map>

#include "exchange/body_file.h"
#include "exchange/step_exchange.h"
#include "geom/kernel/shape_body.h"

namespace kervo {

/// Puts a body into a document, with name, colours of it and of its faces, and layer; gives its label.
TDF_Label addBody(StepExchange& exchange, const FileBody& body);

/// Takes the bodies out of a document: assemblies taken apart into placed bodies, with names, colours and layers, which
/// they inherit from what they are in.
class XcafBodies {
 public:
  /// What a format knows besides: is given the part before it is placed.
  using Refine = std::function<void(FileBody& body, const TopoDS_Shape& part)>;

  XcafBodies(const StepExchange& exchange, Refine refine, Progress& progress);

  /// All bodies, in the document's order.
  std::vector<FileBody> take();

 private:
  /// What is inherited down an assembly.
  struct Look {
    std::string name = {};
    std::optional<Color> color = {};
    std::string layer = {};
    std::vector<std::string> within = {};
  };

  void noteColors();
  void noteColor(const TDF_Label& label);
  void collect(const TDF_Label& label, const TopLoc_Location& place, Look look);
  void countUses(const TDF_Label& label);
  /// The part at a place: as an instance if there are several of it.
  Shape shapeOf(const TopoDS_Shape& part, const TopLoc_Location& place);
  void collectInside(const TDF_Label& label, const TopLoc_Location& place, const Look& look);
  void refineLook(Look& look, const TDF_Label& label) const;
  std::optional<Color> colorOfShape(const TopoDS_Shape& shape) const;
  std::optional<Color> colorOfPart(const TopoDS_Shape& part) const;
  std::map<int, Color> ownColorsOfFaces(const TopoDS_Shape& part, const std::optional<Color>& bodyColor) const;

  const StepExchange& exchange_;
  Refine refine_;
  Progress& progress_;
  ShapeMap<Color> colors_;  ///< of all shapes that have one; the kernel's own search goes through the whole file
  std::map<std::string, int> uses_;               ///< of parts, by their labels
  std::unordered_map<const void*, Shape> parts_;  ///< those that have several instances, by what the kernel has of them
  std::vector<FileBody> bodies_;
};

}  // namespace kervo
