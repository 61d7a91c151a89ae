// Bodies from a file.
#pragma once

#include <map>
#include <optional>

#include "base/say.h"
#include "fields/field.h"
#include "geom/space.h"

namespace kervo {

/// A body from a file, its shape stored in the document under a key.
struct BroughtBody {
  std::string shape;
  std::string name;
  std::optional<Color> color;
  std::string layer;
  std::map<int, Color> faceColors;       ///< of single faces, by number from 1
  std::vector<std::string> within = {};  ///< the names of the assemblies that it is in, the outermost first
  /// Where the shape is put, as one of several instances of it: onto which the world's origin and axes come.
  std::optional<Plane> place = std::nullopt;
  /// By which its id tells it from the others, after its file was reloaded: 0 if it is called like the step alone.
  /// None: its place in the list.
  std::optional<int> number = std::nullopt;
  std::vector<int> faceNumbers = {};  ///< by which its faces are called then; empty: 1, 2, … in stored order
  bool operator==(const BroughtBody&) const = default;
};

/// The ids of the bodies that a step of this id brings in. Throws Error if two are the same.
std::vector<BodyId> idsOf(const std::vector<BroughtBody>& bodies, const StepId& step);

extern template class FieldOf<std::vector<BroughtBody>>;

class BroughtField : public FieldOf<std::vector<BroughtBody>> {
 public:
  using FieldOf::FieldOf;
  const std::vector<BroughtBody>& of(const Inputs& inputs) const { return in(inputs); }
  const char* typeName() const override { return "brought-in bodies"; }  // for the machine
  std::string allowed() const override;

 protected:
  nlohmann::json print(const std::vector<BroughtBody>& value) const override;
  std::vector<BroughtBody> parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const std::vector<BroughtBody>& value) const override;
};

}  // namespace kervo
