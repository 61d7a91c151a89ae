// A mesh as the kernel's selection sees it. For src/view only.
#pragma once

#include <Poly_Triangulation.hxx>
#include <Select3D_SensitivePoint.hxx>
#include <Select3D_SensitivePoly.hxx>
#include <Select3D_SensitiveTriangulation.hxx>
#include <SelectMgr_EntityOwner.hxx>
#include <SelectMgr_SelectableObject.hxx>
#include <SelectMgr_Selection.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <array>
#include <vector>

#include "view/body_picture.h"

namespace kervo {

/// Says which part of which body was hit.
class PartOwner : public SelectMgr_EntityOwner {
 public:
  PartOwner(const Handle(SelectMgr_SelectableObject) & object, Pick::Kind kind, int index, int priority)
      : SelectMgr_EntityOwner(object, priority), kind(kind), index(index) {}
  const Pick::Kind kind;
  const int index;
};

/// Faces, edges and corners of a mesh, each kind a selection mode of its own.
class SelectableBody : public SelectMgr_SelectableObject {
 public:
  enum Mode { Faces, Edges, Corners, modeCount };

  /// Owners hold the body by handle, which would end it if they were made in its constructor.
  static Handle(SelectableBody) of(const BodyMesh& mesh) {
    const Handle(SelectableBody) body = new SelectableBody(mesh.box);
    body->fill(mesh);
    return body;
  }

  void BoundingBox(Bnd_Box& box) override {
    box.SetVoid();
    if (!box_.empty()) box.Update(box_.low.x, box_.low.y, box_.low.z, box_.high.x, box_.high.y, box_.high.z);
  }

  DEFINE_STANDARD_RTTI_INLINE(SelectableBody, SelectMgr_SelectableObject)

 private:
  explicit SelectableBody(const Box& box) : box_(box) {}

  void fill(const BodyMesh& mesh) {
    addFaces(mesh);
    addEdges(mesh);
    for (std::size_t i = 0; i + 2 < mesh.corners.size(); i += 3)
      entities_[Corners].push_back(
          new Select3D_SensitivePoint(owner(Pick::Kind::Corner, static_cast<int>(i / 3)),
                                      {mesh.corners[i], mesh.corners[i + 1], mesh.corners[i + 2]}));
    // Otherwise the first pick would build the search trees, on the interface thread.
    for (const auto& mode : entities_)
      for (const Handle(Select3D_SensitiveEntity) & entity : mode) entity->BVH();
  }

  void Compute(const Handle(PrsMgr_PresentationManager) &, const Handle(Prs3d_Presentation) &,
               const Standard_Integer) override {}
  void ComputeSelection(const Handle(SelectMgr_Selection) & selection, const Standard_Integer mode) override {
    for (const Handle(Select3D_SensitiveEntity) & entity : entities_[static_cast<std::size_t>(mode)])
      selection->Add(entity);
  }

  Handle(PartOwner) owner(Pick::Kind kind, int index) {
    // Where several lie at one depth, the smaller thing is meant.
    const int priority = kind == Pick::Kind::Face ? 4 : kind == Pick::Kind::Edge ? 6 : 8;
    return new PartOwner(this, kind, index, priority);
  }

  void addFaces(const BodyMesh& mesh) {
    for (std::size_t i = 0; i < mesh.faceTriangles.size(); ++i) {
      const BodyMesh::Range vertices = mesh.faceVertices[i], triangles = mesh.faceTriangles[i];
      if (triangles.count == 0) continue;
      Handle(Poly_Triangulation) part =
          new Poly_Triangulation(static_cast<int>(vertices.count), static_cast<int>(triangles.count), false, false);
      for (std::size_t v = 0; v < vertices.count; ++v) {
        const float* p = &mesh.points[3 * (vertices.first + v)];
        part->SetNode(static_cast<int>(v) + 1, gp_Pnt(p[0], p[1], p[2]));
      }
      for (std::size_t t = 0; t < triangles.count; ++t) {
        const std::uint32_t* corner = &mesh.triangles[3 * (triangles.first + t)];
        const auto local = [&](int k) { return static_cast<int>(corner[k] - vertices.first) + 1; };
        part->SetTriangle(static_cast<int>(t) + 1, Poly_Triangle(local(0), local(1), local(2)));
      }
      entities_[Faces].push_back(new Select3D_SensitiveTriangulation(owner(Pick::Kind::Face, static_cast<int>(i)), part,
                                                                     TopLoc_Location(), Standard_True));
    }
  }

  void addEdges(const BodyMesh& mesh) {
    for (std::size_t i = 0; i < mesh.edges.size(); ++i) {
      const BodyMesh::Range range = mesh.edges[i];
      if (range.count < 2) continue;
      TColgp_Array1OfPnt points(1, static_cast<int>(range.count));
      for (std::size_t k = 0; k < range.count; ++k) {
        const float* p = &mesh.edgePoints[3 * (range.first + k)];
        points(static_cast<int>(k) + 1) = gp_Pnt(p[0], p[1], p[2]);
      }
      entities_[Edges].push_back(
          new Select3D_SensitivePoly(owner(Pick::Kind::Edge, static_cast<int>(i)), points, Standard_True));
    }
  }

  Box box_;
  std::array<std::vector<Handle(Select3D_SensitiveEntity)>, modeCount> entities_;
};

/// What picks of a picture search.
struct PickTrees {
  Handle(SelectMgr_SelectableObject) object;
};

}  // namespace kervo
