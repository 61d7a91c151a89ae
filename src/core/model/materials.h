// Materials by name, for the mass of bodies.
#pragma once

#include <string>
#include <vector>

namespace kervo {

struct Material {
  std::string name;
  double density = 0;  ///< kg/m³
  bool operator==(const Material&) const = default;
};

/// What Kervo ships, by name in English: a list to begin with, which a document can replace by its own.
const std::vector<Material>& shippedMaterials();

/// The one of that name in a list, or null.
const Material* findMaterial(const std::vector<Material>& materials, const std::string& name);

}  // namespace kervo
