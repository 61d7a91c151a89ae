// What a drawing takes along from bodies: edges, outlines of faces, silhouettes and sections, which follow the bodies.
#pragma once

#include "base/progress.h"
#include "drawing/solve.h"
#include "fields/field.h"
#include "fields/reference.h"

namespace kervo {

struct TakenAlong {
  enum class What {
    Edge,        ///< as it is seen along the normal
    Outline,     ///< the edges around a face
    Silhouette,  ///< of a body, as it is seen along the normal
    Section      ///< of a body with the plane
  };
  std::string id;
  What what = What::Edge;
  EdgeReference edge;  ///< for What::Edge
  FaceReference face;  ///< for What::Outline
  BodyId body;         ///< for silhouettes and sections; its pieces count as well
  bool construction = false;
  bool operator==(const TakenAlong&) const = default;
};

extern template class FieldOf<std::vector<TakenAlong>>;

class TakenField : public FieldOf<std::vector<TakenAlong>> {
 public:
  using FieldOf::FieldOf;
  /// The curves on a plane. An edge's is called by the id (id.2 and so on where the edge was divided), the others
  /// ID.FACE, by the face that they come from. Throws an Error at the field that names what is lost, or cannot be seen
  /// as curves there; Stopped on request.
  std::vector<TakenCurve> on(Inputs& inputs, const Plane& plane, Progress& progress) const;
  const char* typeName() const override { return "taken"; }
  std::string allowed() const override;

 protected:
  nlohmann::json print(const std::vector<TakenAlong>& value) const override;
  std::vector<TakenAlong> parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const std::vector<TakenAlong>& value) const override;
  /// Ids are there once, and can be ids of curves.
  void require(const std::vector<TakenAlong>& value) const override;
  void references(std::set<StepId>& steps, const std::vector<TakenAlong>& value) const override;
};

}  // namespace kervo
