// Inside of Shape: the kernel's topology and what is known about each face. For src/core/geom and exchange only.
#pragma once

#include <TopTools_ShapeMapHasher.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shape.hxx>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/progress.h"
#include "geom/measure/face_integrals.h"
#include "geom/shape.h"

namespace kervo {

/// The names of where a face comes from, sorted: usually one, several after faces were merged.
using Origins = std::shared_ptr<const std::vector<std::string>>;

Origins originsOf(const std::string& name);
Origins merged(const Origins& a, const Origins& b);

/// What is known about one face, whatever body it bounds. Unchanged faces keep it through every operation.
struct FaceFacts {
  Origins origins;
  std::optional<FaceColor> color;
  bool sound = false;  ///< checked and found valid
  bool measured = false;
  FaceIntegrals integrals{};  ///< of the face taken forward
  Box box{};                  ///< encloses the face, not always tightly
  /// Checked and found not valid: it came like this, and is carried along as long as no cut meets it.
  bool flawed = false;
};

struct SameShapeHash {
  std::size_t operator()(const TopoDS_Shape& shape) const {
    return static_cast<std::size_t>(TopTools_ShapeMapHasher::HashCode(shape, std::numeric_limits<int>::max()));
  }
};
struct SameShape {
  bool operator()(const TopoDS_Shape& a, const TopoDS_Shape& b) const { return a.IsSame(b); }
};
template <class T>
using ShapeMap = std::unordered_map<TopoDS_Shape, T, SameShapeHash, SameShape>;
using FaceTable = ShapeMap<FaceFacts>;

struct Skeleton;

struct ShapeBody {
  TopoDS_Shape topology;
  BodyKind kind = BodyKind::Solid;
  FaceTable faces;  ///< every face of `topology`, measured
  Mesh mesh = {};   ///< of a mesh, which has no topology
  double volume = 0;
  double volumeError = 0;
  double area = 0;
  Box looseBox;  ///< sum of the faces' boxes

  // Filled on first use.
  mutable std::once_flag boxOnce;
  mutable Box box;
  mutable std::once_flag validOnce;
  mutable bool valid = false;
  mutable std::once_flag skeletonOnce;
  mutable std::shared_ptr<const Skeleton> skeleton;
  mutable std::once_flag plainOnce;
  mutable Shape plain;  ///< of an instance: the same without a location (instance.h)
};

/// A Shape of this topology. `known` holds facts of some of its faces (others are ignored); faces not in it get the
/// origins that `nameNew` gives them by their running number, and all unmeasured ones are measured. The solid or the
/// surface is taken out of compounds that hold nothing else. Gives the empty shape for a topology without faces or
/// edges.
Shape makeShape(const TopoDS_Shape& topology, FaceTable known, const std::string& nameOfUnknownFaces);

/// The signed sum of the fluxes of its faces, which are measured in the table: mm³.
double volumeOf(const TopoDS_Shape& solid, const FaceTable& faces);
/// Fills in integrals and box, if they are not there yet.
void measure(const TopoDS_Face& face, FaceFacts& facts);
/// Checks those faces of a body that are in the table and were not checked before, and marks them there
/// (soundness.cpp).
void markChecked(const ShapeBody& body, FaceTable& table, Progress& progress);
const FaceFacts& factsOf(const Shape& shape, const TopoDS_Shape& face);
/// The faces (each once) in the topology's own order.
std::vector<TopoDS_Face> facesOf(const TopoDS_Shape& topology);

}  // namespace kervo
