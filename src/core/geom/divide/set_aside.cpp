#include "geom/divide/set_aside.h"

#include <BRepTopAdaptor_FClass2d.hxx>
#include <ElSLib.hxx>
#include <TopoDS_Iterator.hxx>
#include <numeric>
#include <utility>

#include "base/parallel.h"
#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/divide/obstacles.h"
#include "geom/measure/soundness.h"

namespace kervo {

namespace {

/// Smaller bodies are intersected faster than they are searched.
constexpr int fewFaces = 40;
/// With fewer faces to set aside, nothing is gained.
constexpr std::size_t worthwhile = 16;

/// Numbers that are joined into sets.
class Sets {
 public:
  explicit Sets(std::size_t count) : parent_(count) { std::iota(parent_.begin(), parent_.end(), 0); }
  std::size_t of(std::size_t i) {
    while (parent_[i] != i) i = parent_[i] = parent_[parent_[i]];
    return i;
  }
  void join(std::size_t a, std::size_t b) { parent_[of(a)] = of(b); }

 private:
  std::vector<std::size_t> parent_;
};

/// Of a circle: the kernel takes ten times as long.
Box boxOf(const gp_Circ& circle) {
  const gp_XYZ centre = circle.Location().XYZ(), axis = circle.Axis().Direction().XYZ();
  const auto reach = [&](double along) { return circle.Radius() * std::sqrt(std::max(0.0, 1 - along * along)); };
  const gp_XYZ half(reach(axis.X()), reach(axis.Y()), reach(axis.Z()));
  Box box;
  box.add(fromPnt(centre - half));
  box.add(fromPnt(centre + half));
  return box.enlarged(tolerance::looseEdge);
}

Box boxOfWire(const TopoDS_Wire& wire) {
  TopoDS_Iterator edges(wire);
  if (edges.More()) {
    const BRepAdaptor_Curve first(TopoDS::Edge(edges.Value()));
    edges.Next();
    if (!edges.More() && first.GetType() == GeomAbs_Circle) return boxOf(first.Circle());
  }
  Bnd_Box bounds;
  BRepBndLib::Add(wire, bounds, false);
  Box box;
  if (bounds.IsVoid()) return box;
  box.add(fromPnt(bounds.CornerMin()));
  box.add(fromPnt(bounds.CornerMax()));
  return box;
}

gp_Pnt pointOnWire(const TopoDS_Wire& wire) {
  const BRepAdaptor_Curve curve(TopoDS::Edge(TopExp_Explorer(wire, TopAbs_EDGE).Current()));
  return curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2);
}

/// The face without its wires, or with others.
TopoDS_Face emptyCopy(const TopoDS_Face& face) {
  TopoDS_Face copy = TopoDS::Face(face.EmptyCopied());
  copy.Orientation(TopAbs_FORWARD);
  return copy;
}

/// The solids of a topology, shell by shell, with the faces that `place` puts into each shell for a face of it.
template <class Place>
TopoDS_Shape rebuiltShells(const TopoDS_Shape& topology, const Place& place) {
  BRep_Builder builder;
  TopoDS_Compound compound;
  builder.MakeCompound(compound);
  for (TopExp_Explorer solids(topology, TopAbs_SOLID); solids.More(); solids.Next()) {
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    for (TopExp_Explorer shells(solids.Current(), TopAbs_SHELL); shells.More(); shells.Next()) {
      TopoDS_Shell shell;
      builder.MakeShell(shell);
      for (TopExp_Explorer it(shells.Current(), TopAbs_FACE); it.More(); it.Next())
        place(it.Current(), [&](const TopoDS_Shape& face) { builder.Add(shell, face); });
      shell.Closed(true);
      builder.Add(solid, shell);
    }
    builder.Add(compound, solid);
  }
  return compound;
}

}  // namespace

/// Finds the features. Faces are joined to components, except across inner outlines of flat faces ("mouths"); a
/// component that nothing comes near and that hangs on the rest by mouths only may go.
class SetAside::Search {
 public:
  explicit Search(const Shape& solid) : solid_(solid) {
    numberOf_.reserve(solid.body().faces.size());
    uses_.reserve(4 * solid.body().faces.size());
    for (TopExp_Explorer it(solid.body().topology, TopAbs_FACE); it.More(); it.Next()) {
      const auto [place, isNew] = numberOf_.emplace(it.Current(), faces_.size());
      valid_ &= isNew;
      faces_.push_back(it.Current());
    }
    findMouths();
    joinFaces();
  }

  std::vector<Feature> features(const Obstacles& obstacles, Inside inside) {
    if (!valid_ || openings_.empty()) return {};
    decide(obstacles, inside);
    return collected();
  }

 private:
  struct Opening {
    Mouth mouth;
    Box box;
    std::size_t host = 0;   // face
    std::size_t guest = 0;  // a face beyond the outline
    bool isMouth = true;
  };

  struct Use {
    std::size_t face;
    int opening;  // −1: not on an inner outline of a flat face
  };

  void findMouths() {
    for (std::size_t f = 0; f < faces_.size(); ++f) {
      const TopoDS_Face face = TopoDS::Face(faces_[f].Oriented(TopAbs_FORWARD));
      std::vector<std::pair<Box, TopoDS_Wire>> wires;
      for (TopoDS_Iterator it(face); it.More(); it.Next())
        if (it.Value().ShapeType() == TopAbs_WIRE) wires.emplace_back(Box(), TopoDS::Wire(it.Value()));
      const bool flat = wires.size() > 1 && BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane;
      std::size_t outer = 0;
      if (flat) {
        for (auto& [box, wire] : wires) box = boxOfWire(wire);
        const auto smaller = [](const auto& a, const auto& b) { return a.first.diagonal() < b.first.diagonal(); };
        outer = static_cast<std::size_t>(std::max_element(wires.begin(), wires.end(), smaller) - wires.begin());
      }
      for (std::size_t w = 0; w < wires.size(); ++w) {
        int opening = -1;
        if (flat && w != outer) {
          opening = static_cast<int>(openings_.size());
          const TopoDS_Wire& wire = wires[w].second;
          openings_.push_back({{wire, TopoDS::Face(faces_[f]), pointOnWire(wire)}, wires[w].first, f, f, true});
        }
        for (TopExp_Explorer it(wires[w].second, TopAbs_EDGE); it.More(); it.Next())
          uses_[it.Current()].push_back({f, opening});
      }
    }
    for (const auto& [edge, uses] : uses_)
      for (const Use& use : uses) {
        if (use.opening < 0) continue;
        Opening& opening = openings_[static_cast<std::size_t>(use.opening)];
        const Use* beyond = uses.size() == 2 ? &uses[&use == &uses[0] ? 1 : 0] : nullptr;
        if (beyond && beyond->opening < 0 && beyond->face != use.face)
          opening.guest = beyond->face;
        else
          opening.isMouth = false;
      }
  }

  void joinFaces() {
    components_ = Sets(faces_.size());
    const auto mouthOf = [&](const Use& use) -> const Opening* {
      const Opening* opening = use.opening < 0 ? nullptr : &openings_[static_cast<std::size_t>(use.opening)];
      return opening && opening->isMouth ? opening : nullptr;
    };
    for (const auto& [edge, uses] : uses_)
      for (const Use& use : uses)
        for (const Use& other : uses) {
          if (&other == &use || mouthOf(other)) continue;
          // All that lies beyond one mouth goes or stays together.
          const Opening* mouth = mouthOf(use);
          components_.join(mouth ? mouth->guest : use.face, other.face);
        }
    std::erase_if(openings_, [](const Opening& opening) { return !opening.isMouth; });
  }

  std::size_t hostOf(const Opening& opening) { return components_.of(opening.host); }
  std::size_t guestOf(const Opening& opening) { return components_.of(opening.guest); }

  void decide(const Obstacles& obstacles, Inside inside) {
    std::vector<Box> boxes(faces_.size());
    std::vector<Box> faceBoxes;
    for (std::size_t f = 0; f < faces_.size(); ++f) {
      faceBoxes.push_back(factsOf(solid_, faces_[f]).box);
      boxes[components_.of(f)].add(faceBoxes.back());
    }
    goes_.assign(faces_.size(), false);
    for (const Opening& opening : openings_) {
      const std::size_t guest = guestOf(opening);
      if (guest == hostOf(opening)) continue;
      goes_[guest] =
          inside == Inside::MayGo ? obstacles.facesKeepClearOf(boxes[guest]) : obstacles.keepClearOf(boxes[guest]);
    }
    bool changed = true;
    const auto stay = [&](std::size_t component) { changed |= std::exchange(goes_[component], false); };
    while (changed) {
      changed = false;
      for (const Opening& opening : openings_)
        if (!goes_[guestOf(opening)]) stay(hostOf(opening));
      std::vector<std::size_t> staying;
      for (std::size_t f = 0; f < faces_.size(); ++f)
        if (!goes_[components_.of(f)]) staying.push_back(f);
      // What closes a mouth must not run into another face.
      for (const Opening& opening : openings_) {
        if (!goes_[guestOf(opening)] || goes_[hostOf(opening)]) continue;
        const Box box = opening.box.enlarged(tolerance::looseEdge);
        const bool runsIntoOne = std::any_of(staying.begin(), staying.end(), [&](std::size_t f) {
          return f != opening.host && faceBoxes[f].overlaps(box);
        });
        if (runsIntoOne) stay(guestOf(opening));
      }
      keepTogether(stay);
    }
  }

  /// A feature that joins two parts of the body, e.g. a hole from outside into a hollow, has to stay.
  template <class Stay>
  void keepTogether(const Stay& stay) {
    Sets rest(faces_.size()), gone(faces_.size());
    for (const Opening& opening : openings_) {
      const std::size_t host = hostOf(opening), guest = guestOf(opening);
      if (!goes_[guest]) rest.join(host, guest);
      if (goes_[guest] && goes_[host]) gone.join(host, guest);
    }
    std::map<std::size_t, std::size_t> held;  // feature → what it hangs on
    for (const Opening& opening : openings_) {
      const std::size_t host = hostOf(opening), guest = guestOf(opening);
      if (!goes_[guest] || goes_[host]) continue;
      const auto [place, isNew] = held.emplace(gone.of(guest), rest.of(host));
      if (!isNew && place->second != rest.of(host)) stay(guest);
    }
    // What hangs on nothing that stays cannot be put back.
    for (const Opening& opening : openings_)
      if (goes_[guestOf(opening)] && !held.contains(gone.of(guestOf(opening)))) stay(guestOf(opening));
  }

  std::vector<Feature> collected() {
    Sets together(faces_.size());
    for (const Opening& opening : openings_)
      if (goes_[guestOf(opening)] && goes_[hostOf(opening)]) together.join(hostOf(opening), guestOf(opening));
    std::map<std::size_t, Feature> features;
    std::size_t count = 0;
    for (std::size_t f = 0; f < faces_.size(); ++f)
      if (goes_[components_.of(f)]) {
        features[together.of(components_.of(f))].faces.push_back(faces_[f]);
        ++count;
      }
    if (count < worthwhile) return {};
    for (const Opening& opening : openings_)
      if (goes_[guestOf(opening)] && !goes_[hostOf(opening)])
        features[together.of(guestOf(opening))].mouths.push_back(opening.mouth);
    std::vector<Feature> result;
    for (auto& [component, feature] : features) result.push_back(std::move(feature));
    return result;
  }

  const Shape& solid_;
  std::vector<TopoDS_Shape> faces_;
  ShapeMap<std::size_t> numberOf_;
  bool valid_ = true;
  ShapeMap<std::vector<Use>> uses_;
  std::vector<Opening> openings_;
  Sets components_{0};
  std::vector<char> goes_;  // a component, by its first face
};

SetAside::SetAside(const Shape& solid, const std::vector<Shape>& others, Inside inside) : solid_(solid) {
  if (solid.faceCount() < fewFaces || solid.solidCount() != 1) return;
  features_ = Search(solid).features(Obstacles(others), inside);
  if (features_.empty()) return;
  ShapeMap<bool> gone, closed;
  for (const Feature& feature : features_) {
    for (const TopoDS_Shape& face : feature.faces) gone[face] = true;
    for (const Mouth& mouth : feature.mouths) closed[mouth.wire] = closed[mouth.host] = true;
  }
  FaceTable table = solid.body().faces;
  BRep_Builder builder;
  const TopoDS_Shape topology = rebuiltShells(solid.body().topology, [&](const TopoDS_Shape& face, const auto& add) {
    if (gone.contains(face)) return;
    if (!closed.contains(face)) return add(face);
    TopoDS_Face whole = emptyCopy(TopoDS::Face(face));
    for (TopoDS_Iterator it(face.Oriented(TopAbs_FORWARD)); it.More(); it.Next())
      if (!closed.contains(it.Value())) builder.Add(whole, it.Value());
    const FaceFacts& old = table.at(face);
    table.emplace(whole, FaceFacts{old.origins, old.color, old.sound});
    add(whole.Oriented(face.Orientation()));
  });
  plain_ = makeShape(topology, std::move(table), "face:");
}

/// The parts with their features, while they are found their places.
class SetAside::Rebuilding {
 public:
  Rebuilding(const Shape& solid, const std::vector<Shape>& parts) : solid_(solid), parts_(parts) {
    for (std::size_t p = 0; p < parts.size(); ++p) {
      if (parts[p].empty()) continue;
      std::size_t shell = 0;
      for (TopExp_Explorer shells(parts[p].body().topology, TopAbs_SHELL); shells.More(); shells.Next(), ++shell)
        for (TopExp_Explorer it(shells.Current(), TopAbs_FACE); it.More(); it.Next()) {
          const TopoDS_Face face = TopoDS::Face(it.Current());
          TopLoc_Location location;
          const Handle(Geom_Surface)& surface = BRep_Tool::Surface(face, location);
          hosts_[surface.get()].push_back({face, location, p, shell, nullptr, {}, {}});
        }
    }
  }

  void place(const Feature& feature) {
    Host& first = hostFor(feature.mouths.front());
    for (const Mouth& mouth : feature.mouths) {
      Host& host = hostFor(mouth);
      host.wires.push_back(&mouth);
      if (first.part != host.part || first.shell != host.shell)
        throw Unsound{say("a feature was torn apart by a cut that does not touch it")};
    }
    first.features.push_back(&feature);
  }

  std::vector<Shape> result(Progress& progress) {
    std::vector<ShapeMap<const Host*>> changed(parts_.size());
    for (const auto& [surface, hosts] : hosts_)
      for (const Host& host : hosts)
        if (!host.wires.empty()) changed[host.part].emplace(host.face, &host);
    std::vector<Shape> shapes = parts_;
    inParallel(parts_.size(), [&](std::size_t p) {
      if (!changed[p].empty()) shapes[p] = rebuilt(parts_[p], changed[p], progress);
    });
    return shapes;
  }

 private:
  struct Host {
    TopoDS_Face face;
    TopLoc_Location location;
    std::size_t part, shell;
    std::unique_ptr<BRepTopAdaptor_FClass2d> classifier;
    std::vector<const Mouth*> wires;
    std::vector<const Feature*> features;
  };

  Host& hostFor(const Mouth& mouth) {
    TopLoc_Location location;
    const Handle(Geom_Surface)& surface = BRep_Tool::Surface(mouth.host, location);
    double u, v;
    ElSLib::Parameters(BRepAdaptor_Surface(mouth.host, false).Plane(), mouth.point, u, v);
    std::vector<Host*> near;
    const auto candidates = hosts_.find(surface.get());
    if (candidates != hosts_.end())
      for (Host& host : candidates->second)
        if (host.location == location && factsOf(parts_[host.part], host.face).box.contains(fromPnt(mouth.point)))
          near.push_back(&host);
    // The rest of the old face was divided among its parts: where only one is near, it is that one. Whether the feature
    // lies within its outline is checked with the whole body.
    if (near.size() == 1) return *near.front();
    Host* found = nullptr;
    for (Host* host : near) {
      if (!host->classifier) host->classifier = std::make_unique<BRepTopAdaptor_FClass2d>(host->face, tolerance::point);
      if (host->classifier->Perform(gp_Pnt2d(u, v)) != TopAbs_IN) continue;
      if (found) throw Unsound{say("a feature has two places after a cut that does not touch it")};
      found = host;
    }
    if (!found) throw Unsound{say("a feature has no place after a cut that does not touch it")};
    return *found;
  }

  Shape rebuilt(const Shape& part, const ShapeMap<const Host*>& hosts, Progress& progress) const {
    FaceTable table = part.body().faces;
    BRep_Builder builder;
    const TopoDS_Shape topology = rebuiltShells(part.body().topology, [&](const TopoDS_Shape& face, const auto& add) {
      const auto found = hosts.find(face);
      if (found == hosts.end()) return add(face);
      const Host& host = *found->second;
      TopoDS_Face open = emptyCopy(TopoDS::Face(face));
      for (TopoDS_Iterator it(face.Oriented(TopAbs_FORWARD)); it.More(); it.Next()) builder.Add(open, it.Value());
      FaceFacts facts = table.at(face);
      for (const Mouth* mouth : host.wires) {
        builder.Add(open, mouth->wire);
        facts.sound = facts.sound && factsOf(solid_, mouth->host).sound;
      }
      facts.measured = false;
      table.emplace(open, facts);
      add(open.Oriented(face.Orientation()));
      for (const Feature* feature : host.features)
        for (const TopoDS_Shape& own : feature->faces) {
          table.emplace(own, factsOf(solid_, own));
          add(own);
        }
    });
    Shape shape = makeShape(topology, std::move(table), "face:");
    if (const std::string fault = findFault(shape.body(), progress); !fault.empty()) throw Unsound{fault};
    return shape;
  }

  const Shape& solid_;
  const std::vector<Shape>& parts_;
  std::map<const Geom_Surface*, std::vector<Host>> hosts_;
};

std::vector<Shape> SetAside::putBack(const std::vector<Shape>& parts, Progress& progress) const {
  Rebuilding rebuilding(solid_, parts);
  for (const Feature& feature : features_) {
    progress.throwIfStopped();
    rebuilding.place(feature);
  }
  return rebuilding.result(progress);
}

}  // namespace kervo
