#include "exchange/ifc_file.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <chrono>
#include <cmath>
#include <ctime>
#include <map>

#include "base/error.h"
#include "base/hash.h"
#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/ifc_reader.h"
#include "exchange/mesh_file.h"
#include "geom/kernel/call.h"
#include "geom/openings/filled.h"
#include "geom/openings/openings.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

using Number = int;  ///< of a line of the file

std::string ref(Number line) {
  return "#" + std::to_string(line);
}

std::string listOf(const std::vector<Number>& lines) {
  std::string text = "(";
  for (std::size_t i = 0; i < lines.size(); ++i) text += (i == 0 ? "" : ",") + ref(lines[i]);
  return text + ")";
}

/// A real needs a point (ISO 10303-21, 6.4.2).
std::string real(double value) {
  constexpr double nothing = 1e-12;
  std::array<char, 32> buffer{};
  const auto [end, error] =
      std::to_chars(buffer.data(), buffer.data() + buffer.size(), std::abs(value) < nothing ? 0.0 : value);
  std::string text(buffer.data(), end);
  const std::size_t exponent = text.find('e');
  if (text.find('.') == std::string::npos) text.insert(std::min(exponent, text.size()), ".");
  std::replace(text.begin(), text.end(), 'e', 'E');
  return text;
}

/// A string (6.4.3): what is not ASCII as UTF-16 in hexadecimal.
std::string quoted(const std::string& utf8) {
  std::string text = "'";
  for (std::size_t i = 0; i < utf8.size();) {
    const auto lead = static_cast<unsigned char>(utf8[i]);
    const std::size_t length = lead < 0x80 ? 1 : lead < 0xE0 ? 2 : lead < 0xF0 ? 3 : 4;
    if (length == 1) {
      const char c = utf8[i++];
      if (c == '\'' || c == '\\') text += c;
      text += lead < 0x20 ? ' ' : c;
      continue;
    }
    std::uint32_t point = lead & (0xFFU >> (length + 1));
    for (std::size_t k = 1; k < length && i + k < utf8.size(); ++k)
      point = point << 6U | (static_cast<unsigned char>(utf8[i + k]) & 0x3FU);
    i += length;
    std::array<char, 16> hex{};
    std::snprintf(hex.data(), hex.size(), point > 0xFFFF ? "%08X" : "%04X", point);
    text += (point > 0xFFFF ? "\\X4\\" : "\\X2\\") + std::string(hex.data()) + "\\X0\\";
  }
  return text + "'";
}

class IfcWriter {
 public:
  IfcWriter(const std::filesystem::path& path, const WriteWishes& wishes, Progress& progress)
      : path_(path), wishes_(wishes), progress_(progress) {}

  std::string run(const std::vector<FileBody>& bodies) {
    writeFrame();
    std::map<std::string, std::vector<Number>> byLevel;
    for (std::size_t i = 0; i < bodies.size(); ++i) {
      progress_.throwIfStopped();
      progress_.enter(static_cast<double>(i) / static_cast<double>(bodies.size()),
                      static_cast<double>(i + 1) / static_cast<double>(bodies.size()), bodies[i].name);
      const std::string level = storeys_.contains(bodies[i].level) ? bodies[i].level : "";
      byLevel[level].push_back(addElement(bodies[i], level, i));
    }
    for (const auto& [level, elements] : byLevel)
      add("IFCRELCONTAINEDINSPATIALSTRUCTURE(" + guid("in " + level) + ",$,$,$," + listOf(elements) + "," +
          ref(level.empty() ? building_ : storeys_.at(level).line) + ")");
    for (const auto& [layer, items] : layers_)
      add("IFCPRESENTATIONLAYERASSIGNMENT(" + quoted(layer) + ",$," + listOf(items) + ",$)");
    return head() + data_ + "ENDSEC;\nEND-ISO-10303-21;\n";
  }

 private:
  struct Storey {
    Number line = 0, place = 0;
    double height = 0;
  };

  Number add(const std::string& entity) {
    data_ += "#" + std::to_string(++last_) + "=" + entity + ";\n";
    return last_;
  }

  /// 128 bits in 22 characters (the standard's own alphabet).
  static std::string guid(const std::string& of) {
    static constexpr char alphabet[] = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$";
    const Key key = Hasher().add(of).key();
    std::array<std::uint64_t, 2> bits{key.low, key.high};
    std::string text;
    for (int i = 0; i < 22; ++i) {
      const std::uint64_t digit = i < 21 ? bits[0] & 63U : bits[0] & 3U;
      text.insert(text.begin(), alphabet[digit]);
      bits[0] = bits[0] >> 6U | bits[1] << 58U;
      bits[1] >>= 6U;
    }
    return "'" + text + "'";
  }

  std::string head() const {
    const std::time_t now = std::chrono::system_clock::to_time_t(std::chrono::system_clock::now());
    std::tm utc{};
    gmtime_r(&now, &utc);
    std::array<char, 32> time{};
    std::strftime(time.data(), time.size(), "%Y-%m-%dT%H:%M:%S", &utc);
    return "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION(('ViewDefinition [ReferenceView_V1.2]'),'2;1');\nFILE_NAME(" +
           quoted(path_.filename().string()) + ",'" + time.data() +
           "',(''),(''),'Kervo','Kervo','');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n";
  }

  Number point(const Point& at) {
    return add("IFCCARTESIANPOINT((" + real(at.x) + "," + real(at.y) + "," + real(at.z) + "))");
  }

  Number place(Number within, double height) {
    const Number axes = add("IFCAXIS2PLACEMENT3D(" + ref(point({0, 0, height})) + ",$,$)");
    return add("IFCLOCALPLACEMENT(" + (within == 0 ? std::string("$") : ref(within)) + "," + ref(axes) + ")");
  }

  void writeFrame() {
    const Number length = add("IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.)"),
                 area = add("IFCSIUNIT(*,.AREAUNIT.,$,.SQUARE_METRE.)"),
                 volume = add("IFCSIUNIT(*,.VOLUMEUNIT.,$,.CUBIC_METRE.)"),
                 angle = add("IFCSIUNIT(*,.PLANEANGLEUNIT.,$,.RADIAN.)");
    const Number units = add("IFCUNITASSIGNMENT(" + listOf({length, area, volume, angle}) + ")");
    const Number world = add("IFCAXIS2PLACEMENT3D(" + ref(point({})) + ",$,$)");
    const Number context = add("IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.E-5," + ref(world) + ",$)");
    context_ =
        add("IFCGEOMETRICREPRESENTATIONSUBCONTEXT('Body','Model',*,*,*,*," + ref(context) + ",$,.MODEL_VIEW.,$)");
    const std::string name = quoted(path_.stem().string());
    const Number project =
        add("IFCPROJECT(" + guid("project") + ",$," + name + ",$,$,$,$,(" + ref(context) + ")," + ref(units) + ")");
    const Number sitePlace = place(0, 0);
    buildingPlace_ = place(sitePlace, 0);
    const Number site =
        add("IFCSITE(" + guid("site") + ",$,'Site',$,$," + ref(sitePlace) + ",$,$,.ELEMENT.,$,$,$,$,$)");
    building_ =
        add("IFCBUILDING(" + guid("building") + ",$," + name + ",$,$," + ref(buildingPlace_) + ",$,$,.ELEMENT.,$,$,$)");
    add("IFCRELAGGREGATES(" + guid("sites") + ",$,$,$," + ref(project) + "," + listOf({site}) + ")");
    add("IFCRELAGGREGATES(" + guid("buildings") + ",$,$,$," + ref(site) + "," + listOf({building_}) + ")");
    std::vector<Number> storeys;
    for (const FileLevel& level : wishes_.levels) {
      Storey storey;
      storey.height = level.height;
      storey.place = place(buildingPlace_, level.height);
      storey.line = add("IFCBUILDINGSTOREY(" + guid("storey " + level.name) + ",$," + quoted(level.name) + ",$,$," +
                        ref(storey.place) + ",$,$,.ELEMENT.," + real(level.height) + ")");
      storeys.push_back(storey.line);
      storeys_.emplace(level.name, storey);
    }
    if (!storeys.empty())
      add("IFCRELAGGREGATES(" + guid("storeys") + ",$,$,$," + ref(building_) + "," + listOf(storeys) + ")");
  }

  Number addElement(const FileBody& body, const std::string& level, std::size_t number) {
    const double height = level.empty() ? 0 : storeys_.at(level).height;
    const Number within = level.empty() ? buildingPlace_ : storeys_.at(level).place;
    const std::string key = "element " + body.name + " " + std::to_string(number);
    const Opened opened = openingsIn(body);
    const Number own = place(within, 0);
    const Number element = add("IFCBUILDINGELEMENTPROXY(" + guid(key) + ",$," + quoted(body.name) + ",$,$," + ref(own) +
                               "," + ref(shapeOf(opened.closed, body, height)) + ",$,$)");
    for (std::size_t i = 0; i < opened.openings.size(); ++i) {
      const std::string part = key + " opening " + std::to_string(i);
      const Number opening = add(
          "IFCOPENINGELEMENT(" + guid(part) + ",$," + quoted(say("Opening %1", i + 1)) + ",$,$," + ref(place(own, 0)) +
          "," + ref(shapeOf(opened.openings[i], FileBody{"", {}, std::nullopt, ""}, height)) + ",$,.OPENING.)");
      add("IFCRELVOIDSELEMENT(" + guid(part + " of") + ",$,$,$," + ref(element) + "," + ref(opening) + ")");
    }
    addQuantities(body, opened, element, key);
    return element;
  }

  /// A solid and what is taken out of it.
  struct Opened {
    Shape closed;
    std::vector<Shape> openings;
  };

  /// What goes through a solid, as bodies of their own. Where one cannot be filled, the solid stays as it is.
  Opened openingsIn(const FileBody& body) const {
    if (body.shape.kind() != BodyKind::Solid || body.shape.solidCount() != 1) return {body.shape, {}};
    std::vector<std::vector<int>> through;
    for (const Opening& opening : openingsOf(body.shape)) {
      if (!opening.through) continue;
      // Holes that run through each other are one body.
      const std::vector<int>& faces = opening.crossing.empty() ? opening.faces : opening.crossing;
      if (std::find(through.begin(), through.end(), faces) == through.end()) through.push_back(faces);
    }
    if (through.empty()) return {body.shape, {}};
    try {
      Filled filled = kervo::filled(body.shape, through, progress_);
      return {std::move(filled.body), std::move(filled.fillings)};
    } catch (const Error&) {
      progress_.throwIfStopped();
      return {body.shape, {}};
    }
  }

  Number shapeOf(const Shape& shape, const FileBody& look, double height) {
    FileBody body = look;
    body.shape = shape;
    const MeshBody written =
        meshBodies({body}, {"mm", ReadBack::Skip, wishes_.fineness, {}}, Precision::Double, path_, progress_).front();
    std::string text = "IFCCARTESIANPOINTLIST3D((";
    for (std::size_t i = 0; i < written.mesh.points().size(); ++i) {
      const Point& at = written.mesh.points()[i];
      text += (i == 0 ? "(" : ",(") + real(at.x) + "," + real(at.y) + "," + real(at.z - height) + ")";
    }
    const Number points = add(text + "))");
    text = "IFCTRIANGULATEDFACESET(" + ref(points) + ",$," + (written.mesh.watertight() ? ".T." : ".F.") + ",(";
    for (std::size_t t = 0; t < written.mesh.triangles().size(); ++t) {
      const Mesh::Triangle& corner = written.mesh.triangles()[t];
      text += (t == 0 ? "(" : ",(") + std::to_string(corner[0] + 1) + "," + std::to_string(corner[1] + 1) + "," +
              std::to_string(corner[2] + 1) + ")";
    }
    const Number item = add(text + "),$)");
    paint(item, written);
    const Number representation =
        add("IFCSHAPEREPRESENTATION(" + ref(context_) + ",'Body','Tessellation'," + listOf({item}) + ")");
    if (!look.layer.empty()) layers_[look.layer].push_back(representation);
    return add("IFCPRODUCTDEFINITIONSHAPE($,$," + listOf({representation}) + ")");
  }

  void paint(Number item, const MeshBody& body) {
    if (body.color) {
      const Number color = add("IFCCOLOURRGB($," + real(body.color->red) + "," + real(body.color->green) + "," +
                               real(body.color->blue) + ")");
      const Number rendering = add("IFCSURFACESTYLERENDERING(" + ref(color) + ",0.,$,$,$,$,$,$,.NOTDEFINED.)");
      const Number style = add("IFCSURFACESTYLE($,.BOTH.," + listOf({rendering}) + ")");
      add("IFCSTYLEDITEM(" + ref(item) + "," + listOf({style}) + ",$)");
    }
    if (body.mesh.paints().empty()) return;
    const Color grey{0.7, 0.7, 0.7};
    std::map<Paint, std::size_t> number;
    std::string colors, indices;
    for (std::size_t t = 0; t < body.mesh.triangles().size(); ++t) {
      const Color color = body.colorOf(t).value_or(grey);
      const auto [found, isNew] = number.try_emplace(paintOf(color), number.size() + 1);
      if (isNew)
        colors += std::string(colors.empty() ? "(" : ",(") + real(color.red) + "," + real(color.green) + "," +
                  real(color.blue) + ")";
      indices += (t == 0 ? "" : ",") + std::to_string(found->second);
    }
    const Number list = add("IFCCOLOURRGBLIST((" + colors + "))");
    add("IFCINDEXEDCOLOURMAP(" + ref(item) + ",$," + ref(list) + ",(" + indices + "))");
  }

  void addQuantities(const FileBody& body, const Opened& opened, Number element, const std::string& key) {
    constexpr double cubic = 1e-9, square = 1e-6;  // mm³ in m³, mm² in m²
    std::vector<Number> quantities;
    if (body.shape.hasInside()) {
      quantities.push_back(add("IFCQUANTITYVOLUME('GrossVolume',$,$," + real(opened.closed.volume() * cubic) + ",$)"));
      quantities.push_back(add("IFCQUANTITYVOLUME('NetVolume',$,$," + real(body.shape.volume() * cubic) + ",$)"));
    }
    quantities.push_back(add("IFCQUANTITYAREA('NetSurfaceArea',$,$," + real(body.shape.area() * square) + ",$)"));
    const Number set =
        add("IFCELEMENTQUANTITY(" + guid(key + " quantities") + ",$,'BaseQuantities',$,$," + listOf(quantities) + ")");
    add("IFCRELDEFINESBYPROPERTIES(" + guid(key + " has") + ",$,$,$," + listOf({element}) + "," + ref(set) + ")");
  }

  const std::filesystem::path& path_;
  const WriteWishes& wishes_;
  Progress& progress_;
  std::string data_;
  Number last_ = 0, context_ = 0, building_ = 0, buildingPlace_ = 0;
  std::map<std::string, Storey> storeys_;
  std::map<std::string, std::vector<Number>> layers_;
};

}  // namespace

FileContents readIfc(const std::filesystem::path& path, const ReadWishes&, Progress& progress) {
  const std::string text = readWhole(path, mostMeshBytes);
  if (!text.starts_with("ISO-10303-21") || text.find("END-ISO-10303-21") == std::string::npos)
    throw FileError(say("this is not a whole IFC file"), path.string(), say("Copy or write it again"));
  IfcModel model;
  try {
    model = kernelCall("reading the IFC file", [&] {
      return ifcModelOf(text, [&](double share) {
        progress.throwIfStopped();
        progress.report(share);
      });
    });
  } catch (const Stopped&) {
    throw;
  } catch (const std::exception& error) {
    throw FileError(say("the file could not be read as IFC4: %1", error.what()), path.string(),
                    say("Write it as IFC4, or as STEP"));
  }
  std::vector<MeshBody> bodies;
  for (IfcElement& element : model.elements) {
    Welder welder;
    std::vector<Mesh::Triangle> triangles;
    for (const std::vector<Point>& face : element.faces) {
      std::vector<std::uint32_t> numbers;
      for (const Point& corner : face) numbers.push_back(welder.numberOf(corner));
      for (const Mesh::Triangle& each : trianglesOf(face)) {
        const Mesh::Triangle made{numbers[each[0]], numbers[each[1]], numbers[each[2]]};
        if (made[0] != made[1] && made[1] != made[2] && made[2] != made[0]) triangles.push_back(made);
      }
    }
    bodies.push_back({element.name, Mesh(welder.take(), std::move(triangles)), element.color, element.storey});
  }
  FileContents contents = contentsOf(std::move(bodies), "mm", path);
  for (const char* unit : {"mm", "cm", "m", "in", "ft"})
    if (std::abs(lengthUnit(unit) - model.unit) < tolerance::relative * model.unit) contents.unit = unit;
  for (const IfcStorey& storey : model.storeys) contents.levels.push_back({storey.name, storey.height});
  contents.notes.insert(contents.notes.end(), model.notes.begin(), model.notes.end());
  return contents;
}

const Format& ifcFormat() {
  static const Format format{.name = "IFC4",
                             .extensions = {".ifc"},
                             .carries = later("levels, openings, names, colours, layers and quantities; triangles"),
                             .triangles = true,
                             .read = readIfc,
                             .write = writeIfc};
  return format;
}

void writeIfc(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
              Progress& progress) {
  writeText(path, IfcWriter(path, wishes, progress).run(bodies));
}

}  // namespace kervo
