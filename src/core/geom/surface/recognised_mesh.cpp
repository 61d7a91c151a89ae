#include "geom/surface/recognised_mesh.h"

#include <BRep_Builder.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/elementary.h"
#include "geom/kernel/shape_body.h"
#include "geom/measure/soundness.h"
#include "geom/mesh/mesh_pieces.h"
#include "geom/surface/region_faces.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// By how much the volume between facets and their surfaces can be, mm³: each is nowhere farther off than at its middle
/// or at the middle of a side.
double betweenFacets(const Mesh& mesh, const MeshRegions& regions) {
  double sum = 0;
  for (const MeshRegion& region : regions.regions) {
    if (region.surface.IsNull()) continue;
    const GeomAdaptor_Surface surface(region.surface);
    const auto off = [&](const Point& point) {
      const gp_Pnt2d at = parametersOn(surface, toPnt(point)).value_or(gp_Pnt2d());
      return surface.Value(at.X(), at.Y()).Distance(toPnt(point));
    };
    for (const std::uint32_t number : region.triangles) {
      const Mesh::Triangle& t = mesh.triangles()[number];
      const Point &a = mesh.points()[t[0]], &b = mesh.points()[t[1]], &c = mesh.points()[t[2]];
      const double farthest = std::max({off((a + b) * 0.5), off((b + c) * 0.5), off((c + a) * 0.5),
                                        off((a + b + c) * (1.0 / 3)), off(a), off(b), off(c)});
      sum += length(cross(b - a, c - a)) / 2 * farthest;
    }
  }
  return sum;
}

/// The colour of all triangles of a region, if they have one.
std::optional<Color> ownColorOf(const Mesh& mesh, const MeshRegion& region) {
  if (mesh.paints().empty()) return std::nullopt;
  const Paint first = mesh.paints()[region.triangles.front()];
  const bool same = std::all_of(region.triangles.begin(), region.triangles.end(),
                                [&](std::uint32_t each) { return mesh.paints()[each] == first; });
  return same ? colorOf(first) : std::nullopt;
}

/// Whether the piece's triangles are connected with each other, by number of the shell they are in.
std::vector<int> shellsOf(const MeshRegions& regions, const RegionBorders& borders) {
  std::vector<int> shells(regions.regions.size());
  for (std::size_t i = 0; i < shells.size(); ++i) shells[i] = static_cast<int>(i);
  const auto root = [&](std::uint32_t region) {
    int at = static_cast<int>(region);
    while (shells[static_cast<std::size_t>(at)] != at) at = shells[static_cast<std::size_t>(at)];
    return at;
  };
  for (const RegionBorder& border : borders.borders)
    shells[static_cast<std::size_t>(root(border.left))] = root(border.right);
  for (std::uint32_t i = 0; i < shells.size(); ++i) shells[i] = root(i);
  return shells;
}

class Recognising {
 public:
  Recognising(const std::string& name, const FacetRule& rule, Progress& progress)
      : name_(name), rule_(rule), progress_(progress) {
    builder_.MakeCompound(solids_);
    builder_.MakeCompound(sheets_);
  }

  /// One of the separate bodies of a mesh, with the hollows in it.
  void add(const Mesh& mesh) {
    MeshRegions regions = regionsOf(mesh, rule_, progress_);
    RegionBorders borders;
    std::vector<TopoDS_Face> faces;
    for (bool made = false; !made;) {
      try {
        borders = bordersOf(mesh, regions, rule_.tolerance);
        faces = facesWithin(mesh, regions, borders);
        requireValid(faces);
        made = true;
      } catch (const UnmadeRegions& unmade) {
        // Their triangles count as not recognised.
        for (const std::uint32_t region : unmade.regions) regions.regions[region].surface.Nullify();
      }
      progress_.throwIfStopped();
    }
    int left = 0;
    for (const MeshRegion& region : regions.regions) {
      if (!region.surface.IsNull()) {
        result_.off = std::max(result_.off, region.off);
        ++result_.kinds[surfaceNameOf(GeomAdaptor_Surface(region.surface).GetType())];
        continue;
      }
      left += static_cast<int>(region.triangles.size());
      result_.rest = mesh.points()[mesh.triangles()[region.triangles.front()].front()];
    }
    result_.left += left;
    const std::vector<int> shellNumbers = shellsOf(regions, borders);
    std::map<int, TopoDS_Shell> shells;
    for (std::size_t i = 0; i < faces.size(); ++i) {
      if (faces[i].IsNull()) continue;
      TopoDS_Shell& shell = shells[shellNumbers[i]];
      if (shell.IsNull()) builder_.MakeShell(shell);
      builder_.Add(shell, faces[i]);
      builder_.Add(sheets_, faces[i]);
      FaceFacts facts;
      facts.origins = originsOf(name_ + ":face" + std::to_string(++number_));
      if (const auto color = ownColorOf(mesh, regions.regions[i])) facts.color = *color;
      table_.emplace(faces[i], std::move(facts));
    }
    if (left > 0) return;
    TopoDS_Solid solid;
    builder_.MakeSolid(solid);
    for (auto& [number, shell] : shells) {
      shell.Closed(true);
      builder_.Add(solid, shell);
    }
    builder_.Add(solids_, solid);
    allowed_ += betweenFacets(mesh, regions);
  }

  RecognisedMesh result(const Mesh& mesh) {
    if (number_ == 0) return result_;
    result_.shape = makeShape(result_.left > 0 ? sheets_ : solids_, std::move(table_), name_);
    if (result_.left > 0) return result_;
    std::string fault = findFault(result_.shape.body(), progress_);
    const double allowed = allowed_ + tolerance::balance * std::abs(mesh.volume());
    const double change = result_.shape.volume() - mesh.volume();
    if (fault.empty() && std::abs(change) > allowed)
      fault = say("the volume would change by %1 mm³, and facets account for %2 mm³ only", formatNumber(change, 4),
                  formatNumber(allowed, 4));
    if (!fault.empty())
      throw Error(say("the recognised faces do not fit together: %1", fault), "",
                  say("Repair the mesh, or allow more or less"));
    return result_;
  }

 private:
  /// Throws UnmadeRegions for faces that are not valid.
  void requireValid(const std::vector<TopoDS_Face>& faces) const {
    UnmadeRegions::forEach(faces.size(), [&](std::size_t i) {
      if (faces[i].IsNull()) return;
      const Shape sheet = makeShape(faces[i], {}, name_);
      FaceTable table = sheet.body().faces;
      markChecked(sheet.body(), table, progress_);
      if (std::any_of(table.begin(), table.end(), [](const auto& entry) { return entry.second.flawed; }))
        throw UnmadeRegion{static_cast<std::uint32_t>(i)};
    });
  }

  const std::string& name_;
  const FacetRule& rule_;
  Progress& progress_;
  BRep_Builder builder_;
  TopoDS_Compound solids_, sheets_;
  FaceTable table_;
  RecognisedMesh result_;
  double allowed_ = 0;
  int number_ = 0;
};

}  // namespace

RecognisedMesh recognisedMesh(const Mesh& mesh, const std::string& name, double tolerance, double angle,
                              Progress& progress) {
  if (!mesh.watertight())
    throw Error(say("the mesh is not closed: %1 of its edges lie open", mesh.openEdges()), "",
                say("Repair fills its holes"));
  return kernelCall("recognising surfaces", [&] {
    const FacetRule rule{tolerance, angle};
    Recognising recognising(name, rule, progress);
    for (const Mesh& piece : piecesOf(mesh)) recognising.add(piece);
    return recognising.result(mesh);
  });
}

}  // namespace kervo
