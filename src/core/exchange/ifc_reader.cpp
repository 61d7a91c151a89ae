#include "exchange/ifc_reader.h"

#include <ifcpp/IFC4/include/IfcBuildingStorey.h>
#include <ifcpp/IFC4/include/IfcFeatureElement.h>
#include <ifcpp/IFC4/include/IfcLabel.h>
#include <ifcpp/IFC4/include/IfcLengthMeasure.h>
#include <ifcpp/IFC4/include/IfcProduct.h>
#include <ifcpp/IFC4/include/IfcProductRepresentation.h>
#include <ifcpp/IFC4/include/IfcRelContainedInSpatialStructure.h>
#include <ifcpp/IFC4/include/IfcRepresentation.h>
#include <ifcpp/IFC4/include/IfcSpatialElement.h>
#include <ifcpp/geometry/Carve/GeometryConverter.h>
#include <ifcpp/model/BuildingModel.h>
#include <ifcpp/reader/ReaderSTEP.h>

#include <map>
#include <set>
#include <stdexcept>

namespace kervo {

namespace {

constexpr double metre = 1000;

/// The library's wide texts as UTF-8.
std::string utf8(const std::wstring& wide) {
  std::string text;
  for (const wchar_t character : wide) {
    const std::uint32_t code{std::char_traits<wchar_t>::to_int_type(character)};
    if (code < 0x80) {
      text += static_cast<char>(code);
    } else if (code < 0x800) {
      text += static_cast<char>(0xC0 | code >> 6);
      text += static_cast<char>(0x80 | (code & 0x3F));
    } else if (code < 0x10000) {
      text += static_cast<char>(0xE0 | code >> 12);
      text += static_cast<char>(0x80 | (code >> 6 & 0x3F));
      text += static_cast<char>(0x80 | (code & 0x3F));
    } else {
      text += static_cast<char>(0xF0 | code >> 18);
      text += static_cast<char>(0x80 | (code >> 12 & 0x3F));
      text += static_cast<char>(0x80 | (code >> 6 & 0x3F));
      text += static_cast<char>(0x80 | (code & 0x3F));
    }
  }
  return text;
}

/// A name, in which the library leaves apostrophes doubled, as files have them.
std::string nameOf(const std::wstring& wide) {
  std::string text = utf8(wide);
  for (std::size_t at = text.find("''"); at != std::string::npos; at = text.find("''", at + 1)) text.erase(at, 1);
  return text;
}

class Reader {
 public:
  explicit Reader(const std::function<void(double)>& goOn) : goOn_(goOn) {}

  IfcModel read(const std::string& text) {
    auto model = std::make_shared<BuildingModel>();
    ReaderSTEP reader;
    reader.setMessageCallBack(this, &Reader::take);
    std::string copy = text;
    reader.loadModelFromString(copy, model);
    if (model->getMapIfcEntities().empty()) return result_;
    goOn_(0.3);
    result_.unit = model->getUnitConverter()->getLengthInMeterFactor() * metre;
    readStoreys(*model);
    GeometryConverter converter(model);
    converter.setMessageCallBack(this, &Reader::take);
    converter.convertGeometry();
    goOn_(0.9);
    for (const auto& [number, data] : converter.getShapeInputData()) readElement(*data);
    return std::move(result_);
  }

 private:
  static void take(void* self, std::shared_ptr<StatusCallback::Message> given) {
    using Type = StatusCallback::MessageType;
    const std::shared_ptr<StatusCallback::Message> message = std::move(given);
    auto* reader = static_cast<Reader*>(self);
    const Type type = message->m_message_type;
    if (type != Type::MESSAGE_TYPE_WARNING && type != Type::MESSAGE_TYPE_ERROR) return;
    constexpr std::size_t most = 50;
    if (reader->result_.notes.size() < most) reader->result_.notes.push_back(utf8(message->m_message_text));
  }

  void readStoreys(const BuildingModel& model) {
    for (const auto& [number, entity] : model.getMapIfcEntities()) {
      if (const auto storey = std::dynamic_pointer_cast<IfcBuildingStorey>(entity)) {
        const std::string name = storey->m_Name ? nameOf(storey->m_Name->m_value) : "";
        const double height = storey->m_Elevation ? storey->m_Elevation->m_value * result_.unit : 0;
        if (!name.empty()) result_.storeys.push_back({name, height});
      }
      const auto contained = std::dynamic_pointer_cast<IfcRelContainedInSpatialStructure>(entity);
      if (!contained) continue;
      const auto storey = std::dynamic_pointer_cast<IfcBuildingStorey>(contained->m_RelatingStructure);
      if (!storey || !storey->m_Name) continue;
      for (const auto& product : contained->m_RelatedElements)
        if (product) storeyOf_[product->m_entity_id] = nameOf(storey->m_Name->m_value);
    }
  }

  void readElement(ProductShapeData& data) {
    const auto product = std::dynamic_pointer_cast<IfcProduct>(data.m_ifc_object_definition.lock());
    if (!product || std::dynamic_pointer_cast<IfcFeatureElement>(product) ||
        std::dynamic_pointer_cast<IfcSpatialElement>(product))
      return;
    IfcElement element;
    element.name = product->m_Name ? nameOf(product->m_Name->m_value) : product->className();
    if (const auto storey = storeyOf_.find(product->m_entity_id); storey != storeyOf_.end())
      element.storey = storey->second;
    const auto place = data.getTransform();
    for (const auto& representation : data.m_vec_representations) {
      take(representation->m_vec_representation_appearances, element);
      for (const auto& item : representation->m_vec_item_data) {
        take(item->m_vec_item_appearances, element);
        for (const auto* sets : {&item->m_meshsets, &item->m_meshsets_open})
          for (const auto& set : *sets)
            for (const auto* mesh : set->meshes)
              for (const auto* face : mesh->faces) add(*face, place, element);
      }
    }
    if (element.faces.empty() && !hasBody(*product)) return;
    result_.elements.push_back(std::move(element));
  }

  /// Whether the file gives it a body, understood or not.
  static bool hasBody(const IfcProduct& product) {
    if (!product.m_Representation) return false;
    for (const auto& each : product.m_Representation->m_Representations)
      if (each && each->m_RepresentationIdentifier && each->m_RepresentationIdentifier->m_value == L"Body") return true;
    return false;
  }

  static void add(const carve::mesh::Face<3>& face, const carve::math::Matrix& place, IfcElement& element) {
    std::vector<Point> corners;
    const auto* edge = face.edge;
    do {
      const auto at = place * edge->vert->v;
      corners.push_back({at[0] * metre, at[1] * metre, at[2] * metre});
      edge = edge->next;
    } while (edge != face.edge);
    element.faces.push_back(std::move(corners));
  }

  static void take(const std::vector<std::shared_ptr<AppearanceData>>& appearances, IfcElement& element) {
    for (const auto& each : appearances) {
      if (element.color || !each) continue;
      const auto& color = each->m_color_diffuse;
      element.color = Color{color.r(), color.g(), color.b()};
    }
  }

  const std::function<void(double)>& goOn_;
  IfcModel result_;
  std::map<int, std::string> storeyOf_;
};

}  // namespace

}  // namespace kervo

extern "C" __attribute__((visibility("default"))) void kervoReadIfc(const std::string& text,
                                                                    const std::function<void(double)>& goOn,
                                                                    kervo::IfcModel& model) {
  model = kervo::Reader(goOn).read(text);
}
