#include "exchange/ply_file.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstring>

#include "base/error.h"
#include "base/say.h"
#include "exchange/atomic_file.h"
#include "geom/mesh/mesh_pieces.h"

namespace kervo {

namespace {

static_assert(std::endian::native == std::endian::little, "the written kind of PLY has its numbers in this order");

// What Kervo writes as comments, which other programs pass over.
constexpr char unitComment[] = "kervo_unit ";            // for the machine
constexpr char bodyComment[] = "kervo_body ";            // for the machine: triangles, colour or none, name
constexpr char toleranceComment[] = "kervo_tolerance ";  // for the machine

enum class Kind { Text, Little, Big };

struct Property {
  std::string name;
  std::string type;
  std::string countType = {};  ///< of a list; empty for a single number
};

struct Element {
  std::string name;
  std::size_t count = 0;
  std::vector<Property> properties = {};

  std::optional<std::size_t> place(std::initializer_list<const char*> names) const {
    for (std::size_t i = 0; i < properties.size(); ++i)
      for (const char* name : names)
        if (properties[i].name == name) return i;
    return std::nullopt;
  }
};

std::size_t sizeOf(const std::string& type) {
  if (type == "char" || type == "int8" || type == "uchar" || type == "uint8") return 1;
  if (type == "short" || type == "int16" || type == "ushort" || type == "uint16") return 2;
  if (type == "int" || type == "int32" || type == "uint" || type == "uint32" || type == "float" || type == "float32")
    return 4;
  return type == "double" || type == "float64" ? 8 : 0;
}

bool isWhole(const std::string& type) {
  return type != "float" && type != "float32" && type != "double" && type != "float64";
}

template <class T>
double as(const char* bytes) {
  T value;
  std::memcpy(&value, bytes, sizeof value);
  return static_cast<double>(value);
}

double numberOf(const std::string& type, const char* bytes) {
  if (type == "char" || type == "int8") return as<std::int8_t>(bytes);
  if (type == "uchar" || type == "uint8") return as<std::uint8_t>(bytes);
  if (type == "short" || type == "int16") return as<std::int16_t>(bytes);
  if (type == "ushort" || type == "uint16") return as<std::uint16_t>(bytes);
  if (type == "int" || type == "int32") return as<std::int32_t>(bytes);
  if (type == "uint" || type == "uint32") return as<std::uint32_t>(bytes);
  return type == "float" || type == "float32" ? as<float>(bytes) : as<double>(bytes);
}

class PlyReader {
 public:
  PlyReader(const std::string& bytes, const std::string& where, Progress& progress)
      : bytes_(bytes), where_(where), progress_(progress) {}

  PlyContent run() {
    readHeader();
    for (const Element& element : elements_) {
      if (element.name == "vertex")
        readPoints(element);
      else if (element.name == "face")
        readFaces(element);
      else
        skip(element);
    }
    return content();
  }

 private:
  struct Named {
    std::size_t triangles = 0;
    std::optional<Color> color;
    std::string name;
  };

  [[noreturn]] void fail(const std::string& what, const std::string& help = {}) const {
    throw FileError(what, where_,
                    help.empty() ? say("The file is damaged, or was written by a program that errs") : help);
  }

  std::string_view headerLine() {
    const std::size_t end = bytes_.find('\n', at_);
    if (end == std::string::npos) fail(say("its head does not end"));
    std::string_view line(bytes_.data() + at_, end - at_);
    at_ = end + 1;
    if (!line.empty() && line.back() == '\r') line.remove_suffix(1);
    return line;
  }

  void readHeader() {
    if (headerLine() != "ply") fail(say("this is not a PLY file"));
    while (true) {
      const std::string line(headerLine());
      LineReader words(line, where_);
      words.nextLine();
      const std::string_view word = words.word();
      if (word == "end_header") break;
      if (word == "format")
        readKind(words.word());
      else if (word == "comment")
        readComment(words);
      else if (word == "element")
        readElement(words);
      else if (word == "property")
        readProperty(words);
    }
  }

  void readKind(std::string_view word) {
    if (word == "ascii")
      kind_ = Kind::Text;
    else if (word == "binary_little_endian")
      kind_ = Kind::Little;
    else if (word == "binary_big_endian")
      kind_ = Kind::Big;
    else
      fail(say("its kind \"%1\" is not known", std::string(word)));
  }

  void readComment(LineReader& words) {
    const std::string text(words.rest());
    if (text.starts_with(unitComment)) unit_ = text.substr(sizeof unitComment - 1);
    LineReader parts(text, where_);
    parts.nextLine();
    const std::string word = std::string(parts.word()) + " ";
    if (word == toleranceComment) tolerance_ = parts.number();
    if (word != bodyComment) return;
    Named body;
    body.triangles = static_cast<std::size_t>(std::max<std::int64_t>(0, parts.wholeNumber()));
    body.color = colorFromText(std::string(parts.word()));
    body.name = parts.rest();
    named_.push_back(std::move(body));
  }

  void readElement(LineReader& words) {
    Element element;
    element.name = words.word();
    const std::int64_t count = words.wholeNumber();
    if (count < 0 || static_cast<std::uint64_t>(count) > bytes_.size())
      fail(say("it says that it has %1 of \"%2\", and has no room for them", count, element.name));
    element.count = static_cast<std::size_t>(count);
    elements_.push_back(std::move(element));
  }

  void readProperty(LineReader& words) {
    if (elements_.empty()) fail(say("a property stands before any element"));
    Property property;
    property.type = words.word();
    if (property.type == "list") {
      property.countType = words.word();
      property.type = words.word();
      if (sizeOf(property.countType) == 0 || !isWhole(property.countType))
        fail(say("the type \"%1\" is not known", property.countType));
    }
    if (sizeOf(property.type) == 0) fail(say("the type \"%1\" is not known", property.type));
    property.name = words.word();
    elements_.back().properties.push_back(std::move(property));
  }

  double next(const std::string& type) {
    if (kind_ == Kind::Text) {
      while (at_ < bytes_.size() && std::isspace(static_cast<unsigned char>(bytes_[at_])) != 0) ++at_;
      const std::size_t begin = at_;
      while (at_ < bytes_.size() && std::isspace(static_cast<unsigned char>(bytes_[at_])) == 0) ++at_;
      bool good = false;
      const double value = numberFrom(std::string_view(bytes_.data() + begin, at_ - begin), good);
      if (!good)
        fail(begin == at_
                 ? say("it ends before all of its numbers have come")
                 : say("\"%1\" is not a number", bytes_.substr(begin, std::min<std::size_t>(at_ - begin, 40))));
      return value;
    }
    const std::size_t size = sizeOf(type);
    if (bytes_.size() - at_ < size)
      fail(say("it ends before all of its numbers have come"), say("It was cut off: get it once more"));
    std::array<char, 8> buffer{};
    std::memcpy(buffer.data(), bytes_.data() + at_, size);
    if (kind_ == Kind::Big) std::reverse(buffer.begin(), buffer.begin() + static_cast<std::ptrdiff_t>(size));
    at_ += size;
    const double value = numberOf(type, buffer.data());
    if (!std::isfinite(value)) fail(say("it holds something that is not a number"));
    return value;
  }

  std::size_t listSize(const Property& property) {
    const double count = next(property.countType);
    if (count < 0 || count > static_cast<double>(bytes_.size()))
      fail(say("it has a list that is longer than the file"));
    return static_cast<std::size_t>(count);
  }

  void skip(const Element& element) {
    for (std::size_t i = 0; i < element.count; ++i) {
      if (i % 65536 == 0) progress_.throwIfStopped();
      for (const Property& property : element.properties)
        for (std::size_t k = property.countType.empty() ? 1 : listSize(property); k > 0; --k) next(property.type);
    }
  }

  /// Red, green and blue among an element's properties, and their largest value.
  struct Colors {
    std::array<std::size_t, 3> at{};
    double most = 255;
  };
  static std::optional<Colors> colorsOf(const Element& element) {
    const auto red = element.place({"red", "diffuse_red"}), green = element.place({"green", "diffuse_green"}),
               blue = element.place({"blue", "diffuse_blue"});
    if (!red || !green || !blue) return std::nullopt;
    return Colors{{*red, *green, *blue}, isWhole(element.properties[*red].type) ? 255.0 : 1.0};
  }
  static Paint paintFrom(const Colors& colors, const std::vector<double>& row) {
    return paintOf({row[colors.at[0]] / colors.most, row[colors.at[1]] / colors.most, row[colors.at[2]] / colors.most});
  }

  void readPoints(const Element& element) {
    const auto x = element.place({"x"}), y = element.place({"y"}), z = element.place({"z"});
    if (!x || !y || !z) fail(say("its points have no x, y and z"));
    const auto colors = colorsOf(element);
    std::vector<double> row(element.properties.size());
    for (std::size_t i = 0; i < element.count; ++i) {
      if (i % 65536 == 0) progress_.throwIfStopped();
      for (std::size_t k = 0; k < row.size(); ++k) {
        const Property& property = element.properties[k];
        for (std::size_t n = property.countType.empty() ? 1 : listSize(property); n > 0; --n)
          row[k] = next(property.type);
      }
      points_.push_back({row[*x], row[*y], row[*z]});
      if (colors) pointPaints_.push_back(paintFrom(*colors, row));
    }
  }

  void readFaces(const Element& element) {
    const auto corners = element.place({"vertex_indices", "vertex_index"});
    if (!corners || element.properties[*corners].countType.empty()) fail(say("its faces have no corners"));
    const auto colors = colorsOf(element);
    const auto alpha = element.place({"alpha"});
    std::vector<double> row(element.properties.size());
    std::vector<std::uint32_t> polygon;
    std::vector<Point> places;
    for (std::size_t i = 0; i < element.count; ++i) {
      if (i % 65536 == 0) progress_.throwIfStopped();
      for (std::size_t k = 0; k < row.size(); ++k) {
        const Property& property = element.properties[k];
        const std::size_t count = property.countType.empty() ? 1 : listSize(property);
        if (k == *corners) polygon.clear(), places.clear();
        for (std::size_t n = 0; n < count; ++n) {
          row[k] = next(property.type);
          if (k != *corners) continue;
          if (row[k] < 0 || row[k] >= static_cast<double>(points_.size()) || row[k] != std::floor(row[k]))
            fail(say("face %1 names a point that is not there", i + 1));
          polygon.push_back(static_cast<std::uint32_t>(row[k]));
          places.push_back(points_[polygon.back()]);
        }
      }
      if (polygon.size() < 3) fail(say("face %1 has %2 corners", i + 1, polygon.size()));
      Paint paint = colors && !(alpha && row[*alpha] == 0) ? paintFrom(*colors, row) : 0;
      if (!colors && !pointPaints_.empty()) paint = pointPaints_[polygon.front()];
      for (const Mesh::Triangle& triangle : trianglesOf(places)) {
        triangles_.push_back({polygon[triangle[0]], polygon[triangle[1]], polygon[triangle[2]]});
        paints_.push_back(paint);
      }
    }
  }

  PlyContent content() {
    if (std::all_of(paints_.begin(), paints_.end(), [](Paint paint) { return paint == 0; })) paints_.clear();
    PlyContent result{{}, unit_};
    const std::size_t count = triangles_.size();
    std::size_t sum = 0;
    for (const Named& body : named_) sum += body.triangles;
    if (named_.empty() || sum != count) {
      result.bodies.push_back(
          {"", Mesh(std::move(points_), std::move(triangles_), {std::move(paints_), tolerance_}), {}});
      return result;
    }
    if (named_.size() == 1) {
      result.bodies.push_back({named_.front().name,
                               Mesh(std::move(points_), std::move(triangles_), {std::move(paints_), tolerance_}),
                               named_.front().color});
      return result;
    }
    std::size_t first = 0;
    for (const Named& body : named_) {
      const auto from = static_cast<std::ptrdiff_t>(first), to = static_cast<std::ptrdiff_t>(first + body.triangles);
      std::vector<Paint> paints;
      if (!paints_.empty()) paints.assign(paints_.begin() + from, paints_.begin() + to);
      if (std::all_of(paints.begin(), paints.end(), [](Paint paint) { return paint == 0; })) paints.clear();
      const Mesh part(points_, {triangles_.begin() + from, triangles_.begin() + to}, {std::move(paints), tolerance_});
      result.bodies.push_back({body.name, someOf(part, std::vector<bool>(body.triangles, true)), body.color});
      first += body.triangles;
    }
    return result;
  }

  const std::string& bytes_;
  const std::string& where_;
  Progress& progress_;
  std::size_t at_ = 0;
  Kind kind_ = Kind::Text;
  std::string unit_;
  double tolerance_ = 0;
  std::vector<Named> named_;
  std::vector<Element> elements_;
  std::vector<Point> points_;
  std::vector<Paint> pointPaints_;
  std::vector<Mesh::Triangle> triangles_;
  std::vector<Paint> paints_;
};

template <class T>
void put(std::string& bytes, T value) {
  bytes.append(reinterpret_cast<const char*>(&value), sizeof value);
}

}  // namespace

std::string plyFromMeshes(const std::vector<MeshBody>& bodies, const std::string& unit) {
  std::size_t points = 0, triangles = 0;
  double tolerance = 0;
  bool coloured = false;
  std::string list;
  for (const MeshBody& body : bodies) {
    points += body.mesh.points().size();
    triangles += body.mesh.triangles().size();
    tolerance = std::max(tolerance, body.mesh.tolerance());
    coloured |= body.color.has_value() || !body.mesh.paints().empty();
    std::string name = body.name;
    std::replace_if(
        name.begin(), name.end(), [](char c) { return c == '\n' || c == '\r'; }, ' ');
    list += std::string("comment ") + bodyComment + std::to_string(body.mesh.triangles().size()) + " " +
            (body.color ? colorText(*body.color) : "none") + " " + name + "\n";
  }
  std::string bytes = "ply\nformat binary_little_endian 1.0\n";  // for the machine
  bytes += std::string("comment ") + unitComment + unit + "\n" + list;
  if (tolerance > 0) {
    char text[32];
    std::snprintf(text, sizeof text, "%.9g", tolerance);
    std::replace(text, text + std::strlen(text), ',', '.');
    bytes += std::string("comment ") + toleranceComment + text + "\n";
  }
  const std::string places = "\nproperty double x\nproperty double y\nproperty double z\n";      // for the machine
  const std::string corners = "\nproperty list uchar uint vertex_indices\n";                     // for the machine
  const std::string colors = "property uchar red\nproperty uchar green\nproperty uchar blue\n";  // for the machine
  bytes += "element vertex " + std::to_string(points) + places;                                  // for the machine
  bytes += "element face " + std::to_string(triangles) + corners;                                // for the machine
  if (coloured) bytes += colors + "property uchar alpha\n";                                      // for the machine
  bytes += "end_header\n";
  bytes.reserve(bytes.size() + 24 * points + (coloured ? 17 : 13) * triangles);
  for (const MeshBody& body : bodies)
    for (const Point& point : body.mesh.points())
      for (const double value : {point.x, point.y, point.z}) put(bytes, value);
  std::uint32_t first = 0;
  for (const MeshBody& body : bodies) {
    for (std::size_t t = 0; t < body.mesh.triangles().size(); ++t) {
      put(bytes, std::uint8_t{3});
      for (const std::uint32_t corner : body.mesh.triangles()[t]) put(bytes, first + corner);
      if (!coloured) continue;
      // The body's own colour is told twice: to Kervo in the comment, to others on each triangle; only paints count.
      const auto color = body.colorOf(t);
      const Paint paint = color ? paintOf(*color) : 0;
      for (const unsigned shift : {16U, 8U, 0U}) put(bytes, static_cast<std::uint8_t>(paint >> shift & 255U));
      put(bytes, static_cast<std::uint8_t>(color ? 255 : 0));
    }
    first += static_cast<std::uint32_t>(body.mesh.points().size());
  }
  return bytes;
}

PlyContent meshesFromPly(const std::string& bytes, const std::string& where, Progress& progress) {
  PlyContent content = PlyReader(bytes, where, progress).run();
  // What has the body's colour has none of its own.
  for (MeshBody& body : content.bodies) {
    if (!body.color || body.mesh.empty() || body.mesh.paints().empty()) continue;
    Mesh::Extra extra = body.mesh.extra();
    for (Paint& paint : extra.paints)
      if (paint == paintOf(*body.color)) paint = 0;
    if (std::all_of(extra.paints.begin(), extra.paints.end(), [](Paint paint) { return paint == 0; }))
      extra.paints.clear();
    body.mesh = body.mesh.with(std::move(extra));
  }
  return content;
}

const Format& plyFormat() {
  static const Format format{.name = "PLY",
                             .extensions = {".ply"},
                             .mimeTypes = {"application/x-ply"},
                             .carries = later("names and colours; triangles"),
                             .triangles = true,
                             .unitless = true,
                             .read = readPly,
                             .write = writePly};
  return format;
}

FileContents readPly(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress) {
  PlyContent content = meshesFromPly(readWhole(path, mostMeshBytes), path.string(), progress);
  const std::string written = content.unit;
  return contentsOf(std::move(content.bodies), wishes.unit, written, path);
}

void writePly(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
              Progress& progress) {
  std::vector<MeshBody> written = meshBodies(bodies, wishes, Precision::Double, path, progress);
  for (MeshBody& body : written) body.within.clear();
  const std::string bytes = plyFromMeshes(written, wishes.unit);
  writeAtomically(path, Backup::None, [&](const std::filesystem::path& temporary) {
    writeText(temporary, bytes);
    if (wishes.readBack == ReadBack::Compare) requireSame(written, readPly(temporary, {}, progress), wishes.unit, path);
  });
}

}  // namespace kervo
