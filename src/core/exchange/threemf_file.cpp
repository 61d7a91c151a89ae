#include "exchange/threemf_file.h"

#include <Model/COM/NMR_DLLInterfaces.h>

#include <array>
#include <cmath>
#include <map>
#include <memory>
#include <set>

#include "base/error.h"
#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/body_tree.h"
#include "exchange/mesh_file.h"
#include "geom/mesh/welded.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

struct Release {
  void operator()(NMR::PLib3MFBase* object) const { NMR::lib3mf_release(object); }
};
template <class T>
using Held = std::unique_ptr<T, Release>;

constexpr char noMaterial[] = "none";  // for the machine: of triangles without a colour

/// Throws a FileError with what the library says about its object.
void require(LIB3MFRESULT result, NMR::PLib3MFBase* object, const std::filesystem::path& path) {
  if (result == LIB3MF_OK) return;
  DWORD code = 0;
  LPCSTR text = nullptr;
  if (object) NMR::lib3mf_getlasterror(object, &code, &text);
  throw FileError(say("the 3MF library refuses it: %1", text ? std::string(text) : std::to_string(result)),
                  path.string(), say("The file is damaged, or holds what Kervo does not read"));
}

/// What `get` gives through its last argument, held.
template <class T, class Get>
Held<T> held(NMR::PLib3MFBase* from, const std::filesystem::path& path, const Get& get) {
  T* object = nullptr;
  require(get(&object), from, path);
  return Held<T>(object);
}

const std::map<DWORD, std::string>& units() {
  static const std::map<DWORD, std::string> names{{NMR::MODELUNIT_MILLIMETER, "mm"},
                                                  {NMR::MODELUNIT_CENTIMETER, "cm"},
                                                  {NMR::MODELUNIT_INCH, "in"},
                                                  {NMR::MODELUNIT_FOOT, "ft"},
                                                  {NMR::MODELUNIT_METER, "m"}};
  return names;
}

/// A placement: rows of three numbers and a move.
struct Placed {
  std::array<Vector, 3> rows{Vector{1, 0, 0}, Vector{0, 1, 0}, Vector{0, 0, 1}};
  Vector moving{};

  static Placed from(const NMR::MODELTRANSFORM& transform) {
    Placed placed;
    for (std::size_t i = 0; i < 3; ++i) {
      const auto& row = transform.m_fFields[i];
      placed.rows[i] = {row[0], row[1], row[2]};
    }
    placed.moving = {transform.m_fFields[0][3], transform.m_fFields[1][3], transform.m_fFields[2][3]};
    return placed;
  }
  Point operator()(Point p) const { return Vector{dot(rows[0], p), dot(rows[1], p), dot(rows[2], p)} + moving; }
  Placed within(const Placed& outer) const {
    Placed result;
    const auto column = [&](const Vector& v) {
      return Vector{dot(outer.rows[0], v), dot(outer.rows[1], v), dot(outer.rows[2], v)};
    };
    const Vector x = column({rows[0].x, rows[1].x, rows[2].x}), y = column({rows[0].y, rows[1].y, rows[2].y}),
                 z = column({rows[0].z, rows[1].z, rows[2].z});
    result.rows = {Vector{x.x, y.x, z.x}, Vector{x.y, y.y, z.y}, Vector{x.z, y.z, z.z}};
    result.moving = outer(moving);
    return result;
  }
  bool mirrors() const { return dot(cross(rows[0], rows[1]), rows[2]) < 0; }
};

class Reading {
 public:
  Reading(const std::filesystem::path& path, Progress& progress) : path_(path), progress_(progress) {}

  FileContents run() {
    model_ = held<NMR::PLib3MFModel>(nullptr, path_, [](auto** model) { return NMR::lib3mf_createmodel(model); });
    const auto reader = held<NMR::PLib3MFModelReader>(
        model_.get(), path_, [&](auto** made) { return NMR::lib3mf_model_queryreader(model_.get(), "3mf", made); });
    // The library reads from memory, so that any name of a file will do.
    std::string bytes = readWhole(path_, mostMeshBytes);
    require(NMR::lib3mf_reader_readfrombuffer(reader.get(), reinterpret_cast<BYTE*>(bytes.data()), bytes.size()),
            reader.get(), path_);
    progress_.report(0.6);
    progress_.throwIfStopped();
    DWORD unit = 0;
    require(NMR::lib3mf_model_getunit(model_.get(), &unit), model_.get(), path_);
    const auto items = held<NMR::PLib3MFModelBuildItemIterator>(
        model_.get(), path_, [&](auto** made) { return NMR::lib3mf_model_getbuilditems(model_.get(), made); });
    BOOL more = 0;
    while (NMR::lib3mf_builditemiterator_movenext(items.get(), &more) == LIB3MF_OK && more) addItem(items.get());
    const auto known = units().find(unit);
    // A thousandth of a millimetre has no name here.
    const bool micrometres = known == units().end();
    if (micrometres)
      for (MeshBody& body : bodies_) {
        std::vector<Point> points = body.mesh.empty() ? std::vector<Point>() : body.mesh.points();
        for (Point& point : points) point = point * 1e-3;
        if (!body.mesh.empty()) body.mesh = Mesh(std::move(points), body.mesh.triangles(), body.mesh.extra());
      }
    return contentsOf(std::move(bodies_), micrometres ? "mm" : known->second, path_);
  }

 private:
  static constexpr std::size_t mostDepth = 50;

  void addItem(NMR::PLib3MFModelBuildItemIterator* items) {
    const auto item = held<NMR::PLib3MFModelBuildItem>(
        items, path_, [&](auto** made) { return NMR::lib3mf_builditemiterator_getcurrent(items, made); });
    const auto object = held<NMR::PLib3MFModelObjectResource>(
        item.get(), path_, [&](auto** made) { return NMR::lib3mf_builditem_getobjectresource(item.get(), made); });
    BOOL has = 0;
    require(NMR::lib3mf_builditem_hasobjecttransform(item.get(), &has), item.get(), path_);
    NMR::MODELTRANSFORM transform{};
    if (has) require(NMR::lib3mf_builditem_getobjecttransform(item.get(), &transform), item.get(), path_);
    addObject(object.get(), has ? Placed::from(transform) : Placed(), {}, 0);
  }

  void addObject(NMR::PLib3MFModelObjectResource* object, const Placed& placed, std::vector<std::string> within,
                 std::size_t depth) {
    progress_.throwIfStopped();
    if (depth > mostDepth) throw FileError(say("its objects are nested more than 50 deep"), path_.string());
    const std::string name = nameOf(object);
    BOOL isMesh = 0, isGroup = 0;
    require(NMR::lib3mf_object_ismeshobject(object, &isMesh), object, path_);
    if (isMesh) return addMesh(object, placed, name, within);
    require(NMR::lib3mf_object_iscomponentsobject(object, &isGroup), object, path_);
    if (!isGroup) return;
    if (!name.empty()) within.push_back(name);
    DWORD count = 0;
    require(NMR::lib3mf_componentsobject_getcomponentcount(object, &count), object, path_);
    for (DWORD i = 0; i < count; ++i) {
      const auto part = held<NMR::PLib3MFModelComponent>(
          object, path_, [&](auto** made) { return NMR::lib3mf_componentsobject_getcomponent(object, i, made); });
      const auto inner = held<NMR::PLib3MFModelObjectResource>(
          part.get(), path_, [&](auto** made) { return NMR::lib3mf_component_getobjectresource(part.get(), made); });
      BOOL has = 0;
      require(NMR::lib3mf_component_hastransform(part.get(), &has), part.get(), path_);
      NMR::MODELTRANSFORM transform{};
      if (has) require(NMR::lib3mf_component_gettransform(part.get(), &transform), part.get(), path_);
      addObject(inner.get(), has ? Placed::from(transform).within(placed) : placed, within, depth + 1);
    }
  }

  std::string nameOf(NMR::PLib3MFModelObjectResource* object) const {
    ULONG needed = 0;
    if (NMR::lib3mf_object_getnameutf8(object, nullptr, 0, &needed) != LIB3MF_OK || needed == 0) return {};
    std::string name(needed + 1, '\0');
    require(NMR::lib3mf_object_getnameutf8(object, name.data(), static_cast<ULONG>(name.size()), &needed), object,
            path_);
    name.resize(std::min(name.size(), name.find('\0')));
    return name;
  }

  void addMesh(NMR::PLib3MFModelObjectResource* object, const Placed& placed, const std::string& name,
               const std::vector<std::string>& within) {
    DWORD pointCount = 0, count = 0;
    require(NMR::lib3mf_meshobject_getvertexcount(object, &pointCount), object, path_);
    require(NMR::lib3mf_meshobject_gettrianglecount(object, &count), object, path_);
    total_ += count;
    if (total_ > mostTriangles) throw FileError(say("it has more than 50 million triangles"), path_.string());
    std::vector<NMR::MODELMESHVERTEX> vertices(pointCount);
    std::vector<NMR::MODELMESHTRIANGLE> corners(count);
    DWORD got = 0;
    if (pointCount > 0)
      require(NMR::lib3mf_meshobject_getvertices(object, vertices.data(), pointCount, &got), object, path_);
    if (count > 0)
      require(NMR::lib3mf_meshobject_gettriangleindices(object, corners.data(), count, &got), object, path_);
    std::vector<Point> points;
    points.reserve(pointCount);
    for (const auto& vertex : vertices)
      points.push_back(placed({vertex.m_fPosition[0], vertex.m_fPosition[1], vertex.m_fPosition[2]}));
    std::vector<Mesh::Triangle> triangles;
    triangles.reserve(count);
    for (const auto& triangle : corners) {
      const auto& c = triangle.m_nIndices;
      for (const DWORD corner : c)
        if (corner >= pointCount) {
          bodies_.push_back({.name = name, .broken = say("it has a triangle whose corner is not there")});
          return;
        }
      triangles.push_back(placed.mirrors() ? Mesh::Triangle{c[0], c[2], c[1]} : Mesh::Triangle{c[0], c[1], c[2]});
    }
    std::vector<Paint> paints = paintsOf(object, count);
    const std::set<Paint> used(paints.begin(), paints.end());
    const bool single = used.size() == 1;
    const std::optional<Color> color = single ? kervo::colorOf(*used.begin()) : std::nullopt;
    if (single) paints.clear();
    const Mesh mesh = welded(Mesh(std::move(points), std::move(triangles), {std::move(paints), 0}), 0, false).mesh;
    bodies_.push_back({name, mesh, color, "", within});
  }

  /// Of every triangle; that of the object where it has none of its own.
  std::vector<Paint> paintsOf(NMR::PLib3MFModelObjectResource* object, DWORD count) {
    Paint standard = 0;
    const auto whole = held<NMR::PLib3MFDefaultPropertyHandler>(
        object, path_, [&](auto** made) { return NMR::lib3mf_object_createdefaultpropertyhandler(object, made); });
    NMR::eModelPropertyType type = NMR::MODELPROPERTYTYPE_NONE;
    DWORD group = 0, index = 0;
    if (NMR::lib3mf_defaultpropertyhandler_getpropertytype(whole.get(), &type) == LIB3MF_OK &&
        type == NMR::MODELPROPERTYTYPE_BASEMATERIALS &&
        NMR::lib3mf_defaultpropertyhandler_getbasematerial(whole.get(), &group, &index) == LIB3MF_OK)
      standard = paintOfMaterial(group, index);
    const auto each = held<NMR::PLib3MFPropertyHandler>(
        object, path_, [&](auto** made) { return NMR::lib3mf_meshobject_createpropertyhandler(object, made); });
    std::vector<Paint> paints(count, standard);
    for (DWORD t = 0; t < count; ++t) {
      if (NMR::lib3mf_propertyhandler_getpropertytype(each.get(), t, &type) != LIB3MF_OK) continue;
      if (type == NMR::MODELPROPERTYTYPE_BASEMATERIALS &&
          NMR::lib3mf_propertyhandler_getbasematerial(each.get(), t, &group, &index) == LIB3MF_OK)
        paints[t] = paintOfMaterial(group, index);
      NMR::MODELMESH_TRIANGLECOLOR_SRGB colors{};
      if (type == NMR::MODELPROPERTYTYPE_COLOR &&
          NMR::lib3mf_propertyhandler_getcolor(each.get(), t, &colors) == LIB3MF_OK)
        paints[t] = paintOf(
            {colors.m_Colors[0].m_Red / 255.0, colors.m_Colors[0].m_Green / 255.0, colors.m_Colors[0].m_Blue / 255.0});
    }
    return paints;
  }

  Paint paintOfMaterial(DWORD group, DWORD index) {
    const auto [found, isNew] = materials_.try_emplace({group, index}, 0U);
    if (!isNew) return found->second;
    NMR::PLib3MFModelBaseMaterial* material = nullptr;
    if (NMR::lib3mf_model_getbasematerialbyid(model_.get(), group, &material) != LIB3MF_OK) return 0;
    const Held<NMR::PLib3MFModelBaseMaterial> holder(material);
    std::array<char, 64> name{};
    ULONG length = 0;
    if (NMR::lib3mf_basematerial_getnameutf8(material, index, name.data(), name.size(), &length) == LIB3MF_OK &&
        std::string_view(name.data()) == noMaterial)
      return 0;
    std::array<BYTE, 4> color{};
    if (NMR::lib3mf_basematerial_getdisplaycolor(material, index, &color[0], &color[1], &color[2], &color[3]) ==
        LIB3MF_OK)
      found->second = paintOf({color[0] / 255.0, color[1] / 255.0, color[2] / 255.0});
    return found->second;
  }

  const std::filesystem::path& path_;
  Progress& progress_;
  Held<NMR::PLib3MFModel> model_;
  std::map<std::pair<DWORD, DWORD>, Paint> materials_;
  std::vector<MeshBody> bodies_;
  std::size_t total_ = 0;
};

class Writing {
 public:
  Writing(const std::filesystem::path& path, Progress& progress) : path_(path), progress_(progress) {}

  std::string run(const std::vector<MeshBody>& bodies, const std::string& unit) {
    model_ = held<NMR::PLib3MFModel>(nullptr, path_, [](auto** made) { return NMR::lib3mf_createmodel(made); });
    for (const auto& [number, name] : units())
      if (name == unit) require(NMR::lib3mf_model_setunit(model_.get(), number), model_.get(), path_);
    require(NMR::lib3mf_model_addmetadatautf8(model_.get(), "Application", "Kervo"), model_.get(), path_);
    addMaterials(bodies);
    std::vector<std::vector<std::string>> within;
    for (const MeshBody& body : bodies) within.push_back(body.within);
    for (const BodyTree& part : treeOf(within).parts) {
      Item object = objectOf(part, bodies);
      const auto item = held<NMR::PLib3MFModelBuildItem>(model_.get(), path_, [&](auto** made) {
        return NMR::lib3mf_model_addbuilditem(model_.get(), object.object, object.transform(), made);
      });
    }
    const auto writer = held<NMR::PLib3MFModelWriter>(
        model_.get(), path_, [&](auto** made) { return NMR::lib3mf_model_querywriter(model_.get(), "3mf", made); });
    ULONG64 size = 0;
    require(NMR::lib3mf_writer_getstreamsize(writer.get(), &size), writer.get(), path_);
    std::string bytes(size, '\0');
    require(NMR::lib3mf_writer_writetobuffer(writer.get(), reinterpret_cast<BYTE*>(bytes.data()), size), writer.get(),
            path_);
    return bytes;
  }

 private:
  /// One for each colour that there is. What has none goes without.
  void addMaterials(const std::vector<MeshBody>& bodies) {
    std::set<Paint> used;
    for (const MeshBody& body : bodies) {
      if (body.color) used.insert(paintOf(*body.color));
      used.insert(body.mesh.paints().begin(), body.mesh.paints().end());
    }
    used.erase(0);
    if (used.empty()) return;
    // An object needs a material where its triangles have some.
    used.insert(0);
    const auto group = held<NMR::PLib3MFModelBaseMaterial>(
        model_.get(), path_, [&](auto** made) { return NMR::lib3mf_model_addbasematerialgroup(model_.get(), made); });
    require(NMR::lib3mf_basematerial_getresourceid(group.get(), &group_), group.get(), path_);
    for (const Paint paint : used) {
      const auto color = kervo::colorOf(paint);
      const std::string name = color ? colorText(*color) : noMaterial;
      const Paint shown = color ? paint : paintOf({0.7, 0.7, 0.7});
      const auto part = [&](unsigned shift) { return static_cast<BYTE>(shown >> shift & 255U); };
      DWORD index = 0;
      require(NMR::lib3mf_basematerial_addmaterialutf8(group.get(), name.c_str(), part(16), part(8), part(0), &index),
              group.get(), path_);
      // The library leaves it transparent otherwise.
      require(NMR::lib3mf_basematerial_setdisplaycolorrgba(group.get(), index, part(16), part(8), part(0), 255),
              group.get(), path_);
      materials_[paint] = index;
    }
  }

  using Object = Held<NMR::PLib3MFModelObjectResource>;

  /// An object where it stands.
  struct Item {
    NMR::PLib3MFModelObjectResource* object = nullptr;
    bool moved = false;
    NMR::MODELTRANSFORM place{};

    NMR::MODELTRANSFORM* transform() { return moved ? &place : nullptr; }
  };

  /// The library writes six decimals, with which only turns by right angles are exact.
  static bool isExact(const Motion& motion) {
    for (const Vector& row : motion.rows())
      for (const double each : {row.x, row.y, row.z})
        if (std::abs(each - std::round(each)) > tolerance::relative) return false;
    return true;
  }

  Item bodyItem(std::size_t number, const std::vector<MeshBody>& bodies) {
    const MeshBody& body = bodies[number];
    Item item;
    if (!body.follows || !isExact(body.follows->from)) {
      kept_.push_back(add(body));
      item.object = objects_[number] = kept_.back().get();
      return item;
    }
    item.object = objects_.at(body.follows->first);
    item.moved = true;
    const Vector moving = body.follows->from.moving();
    const std::array<double, 3> way{moving.x, moving.y, moving.z};
    for (std::size_t i = 0; i < 3; ++i) {
      const Vector& row = body.follows->from.rows()[i];
      auto& into = item.place.m_fFields[i];
      into[0] = static_cast<float>(std::round(row.x));
      into[1] = static_cast<float>(std::round(row.y));
      into[2] = static_cast<float>(std::round(row.z));
      into[3] = static_cast<float>(way[i]);
    }
    return item;
  }

  /// A body, or an assembly of those that are in it.
  Item objectOf(const BodyTree& tree, const std::vector<MeshBody>& bodies) {
    progress_.throwIfStopped();
    if (tree.body) return bodyItem(*tree.body, bodies);
    std::vector<Item> parts;
    for (const BodyTree& part : tree.parts) parts.push_back(objectOf(part, bodies));
    Object group(held<NMR::PLib3MFModelComponentsObject>(model_.get(), path_, [&](auto** made) {
                   return NMR::lib3mf_model_addcomponentsobject(model_.get(), made);
                 }).release());
    require(NMR::lib3mf_object_setnameutf8(group.get(), tree.name.c_str()), group.get(), path_);
    for (Item& part : parts) {
      const auto component = held<NMR::PLib3MFModelComponent>(group.get(), path_, [&](auto** made) {
        return NMR::lib3mf_componentsobject_addcomponent(group.get(), part.object, part.transform(), made);
      });
    }
    kept_.push_back(std::move(group));
    Item item;
    item.object = kept_.back().get();
    return item;
  }

  Object add(const MeshBody& body) {
    auto object = held<NMR::PLib3MFModelMeshObject>(
        model_.get(), path_, [&](auto** made) { return NMR::lib3mf_model_addmeshobject(model_.get(), made); });
    require(NMR::lib3mf_object_setnameutf8(object.get(), body.name.c_str()), object.get(), path_);
    std::vector<NMR::MODELMESHVERTEX> vertices;
    vertices.reserve(body.mesh.points().size());
    for (const Point& point : body.mesh.points())
      vertices.push_back({{static_cast<float>(point.x), static_cast<float>(point.y), static_cast<float>(point.z)}});
    std::vector<NMR::MODELMESHTRIANGLE> triangles;
    triangles.reserve(body.mesh.triangles().size());
    for (const Mesh::Triangle& triangle : body.mesh.triangles())
      triangles.push_back({{triangle[0], triangle[1], triangle[2]}});
    require(NMR::lib3mf_meshobject_setgeometry(object.get(), vertices.data(), static_cast<DWORD>(vertices.size()),
                                               triangles.data(), static_cast<DWORD>(triangles.size())),
            object.get(), path_);
    if (group_ != 0) {
      const auto whole = held<NMR::PLib3MFDefaultPropertyHandler>(object.get(), path_, [&](auto** made) {
        return NMR::lib3mf_object_createdefaultpropertyhandler(object.get(), made);
      });
      require(NMR::lib3mf_defaultpropertyhandler_setbasematerial(whole.get(), group_,
                                                                 materials_[body.color ? paintOf(*body.color) : 0]),
              whole.get(), path_);
    }
    const auto each = held<NMR::PLib3MFPropertyHandler>(object.get(), path_, [&](auto** made) {
      return NMR::lib3mf_meshobject_createpropertyhandler(object.get(), made);
    });
    for (std::size_t t = 0; t < triangles.size(); ++t)
      if (const auto color = body.colorOf(t))
        require(NMR::lib3mf_propertyhandler_setbasematerial(each.get(), static_cast<DWORD>(t), group_,
                                                            materials_[paintOf(*color)]),
                each.get(), path_);
    return Object(object.release());
  }

  const std::filesystem::path& path_;
  Progress& progress_;
  Held<NMR::PLib3MFModel> model_;
  DWORD group_ = 0;
  std::map<Paint, DWORD> materials_;
  std::map<std::size_t, NMR::PLib3MFModelObjectResource*> objects_;  ///< by the numbers of the bodies
  std::vector<Object> kept_;
};

}  // namespace

const Format& threemfFormat() {
  static const Format format{.name = "3MF",
                             .extensions = {".3mf"},
                             .mimeTypes = {"model/3mf"},
                             .carries = later("names, colours, assemblies and instances; triangles, in mm"),
                             .triangles = true,
                             .instances = true,
                             .read = readThreemf,
                             .write = writeThreemf};
  return format;
}

FileContents readThreemf(const std::filesystem::path& path, const ReadWishes&, Progress& progress) {
  return Reading(path, progress).run();
}

void writeThreemf(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
                  Progress& progress) {
  // The library writes six decimals, which are enough for millimetres only.
  WriteWishes own = wishes;
  own.unit = "mm";
  const std::vector<MeshBody> written = meshBodies(inTreeOrder(bodies), own, Precision::Single, path, progress);
  const std::string bytes = Writing(path, progress).run(written, own.unit);
  writeAtomically(path, Backup::None, [&](const std::filesystem::path& temporary) {
    writeText(temporary, bytes);
    if (wishes.readBack == ReadBack::Compare)
      requireSame(written, readThreemf(temporary, {}, progress), own.unit, path);
  });
}

}  // namespace kervo
