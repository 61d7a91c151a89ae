#include "model/materials.h"

#include <algorithm>

namespace kervo {

const std::vector<Material>& shippedMaterials() {
  // Middle values of what tables of materials give. Their names stand in documents, as they are.
  static const std::vector<Material> all{{"steel", 7850},     {"stainless steel", 7900},  // for the machine
                                         {"cast iron", 7200},                             // for the machine
                                         {"aluminium", 2700}, {"brass", 8500},           {"copper", 8960},
                                         {"oak", 690},        {"spruce", 450},           {"plywood", 650},
                                         {"MDF", 750},        {"acrylic", 1190},         {"ABS", 1050},
                                         {"PLA", 1240},       {"nylon", 1140},           {"glass", 2500},
                                         {"concrete", 2400}};
  return all;
}

const Material* findMaterial(const std::vector<Material>& materials, const std::string& name) {
  const auto found =
      std::find_if(materials.begin(), materials.end(), [&](const Material& each) { return each.name == name; });
  return found == materials.end() ? nullptr : &*found;
}

}  // namespace kervo
