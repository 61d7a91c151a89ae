// Volume, area, centroid and inertia of 100 bodies, made here and elsewhere, exact and loose, wherever they stand.
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "corpus/ray_oracle.h"
#include "exchange/body_file.h"
#include "geom/display/tessellate.h"
#include "geom/divide/boolean.h"
#include "geom/measure/mass_properties.h"
#include "geom/motion.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

struct Part {
  std::string name;
  Shape shape;
};

class Random {
 public:
  explicit Random(unsigned seed) : engine_(seed) {}
  double in(double low, double high) { return std::uniform_real_distribution<double>(low, high)(engine_); }

 private:
  std::mt19937 engine_;
};

/// That nobody here made, many of them loose.
void addForeignParts(std::vector<Part>& parts) {
  Progress progress;
  for (const char* file :
       {"occ/Axis_of_bearing.brep", "occ/Ball.brep", "occ/Bottom.brep", "occ/CrankArm.brep", "occ/MODERN_Chair_1.brep",
        "occ/MODERN_Sink_1.brep", "occ/MODERN_Refrigerator_1.brep", "occ/Motor-c.brep", "occ/Pump_Nut.brep",
        "occ/Pump_TopCover.brep", "occ/bottle.brep", "occ/mal_tige.brep", "occ/mal_vis.brep", "occ/mal_ecrou.brep",
        "occ/wedge_ok.brep", "step/screw.step", "step/linkrods.step"})
    for (const FileBody& body : readBodies(std::string("/usr/share/opencascade/data/") + file, progress).bodies)
      if (body.shape.kind() == BodyKind::Solid) parts.push_back({body.name, body.shape});
}

/// Cut, curved and slanted in several ways; tight, as Kervo makes them.
void addPartsMadeHere(std::vector<Part>& parts) {
  Progress progress;
  Random random(20261127);
  for (int i = 0; i < 28; ++i) {
    const Plane place = Plane::through({random.in(2, 18), random.in(2, 12), random.in(2, 8)},
                                       {random.in(-1, 1), random.in(-1, 1), random.in(0.2, 1)});
    const Shape cutter = i % 4 == 0   ? makeCylinder("c", place, random.in(2, 4), 30)
                         : i % 4 == 1 ? makeSphere("c", place, random.in(4, 7))
                         : i % 4 == 2 ? makeCone("c", place, random.in(3, 5), random.in(0.5, 2), 9)
                                      : makeTorus("c", place, random.in(4, 6), random.in(1, 2));
    const Division division = divide(makeBlock("b", {}, 20, 14, 10), {cutter}, progress);
    for (const Shape* side : {&division.inside, &division.outside})
      for (const Shape& piece : side->pieces()) parts.push_back({"cut " + std::to_string(i), piece});
  }
}

std::vector<Part> allParts() {
  std::vector<Part> parts;
  addForeignParts(parts);
  addPartsMadeHere(parts);
  return parts;
}

void expectNear(Vector found, Vector wanted, double by, const std::string& what) {
  EXPECT_NEAR(found.x, wanted.x, by) << what;
  EXPECT_NEAR(found.y, wanted.y, by) << what;
  EXPECT_NEAR(found.z, wanted.z, by) << what;
}

double sum(Vector v) {
  return v.x + v.y + v.z;
}

// One of them measured 18 387 mm³ here and 18 354 mm³ when it was moved by a metre.
TEST(Measures, AreTheSameWhereverTheBodyStands) {
  Progress progress;
  Random random(4);
  const std::vector<Part> parts = allParts();
  EXPECT_GE(parts.size(), 100u);
  for (const auto& [name, part] : parts) {
    const double factor = std::pow(10, random.in(-2, 2));
    const Motion motion =
        Motion::by(Point{} - part.roughBox().centre())
            .then(Motion::scale({}, factor))
            .then(Motion::turn({}, {random.in(-1, 1), random.in(-1, 1), random.in(0.1, 1)}, random.in(0, 6)))
            .then(Motion::by({random.in(-1e4, 1e4), random.in(-1e4, 1e4), random.in(-1e4, 1e4)}));
    const MassProperties here = massProperties(part, progress);
    const MassProperties there = massProperties(moved(part, motion), progress);
    // What doubles resolve 10 m away, as a share of the body's size.
    const double size = factor * part.roughBox().diagonal();
    const double resolved = 1e-9 + 1e-11 * 1e4 / size;
    EXPECT_NEAR(there.volume / (here.volume * std::pow(factor, 3)), 1, 10 * resolved) << name << " × " << factor;
    EXPECT_NEAR(there.area / (here.area * factor * factor), 1, 10 * resolved) << name << " × " << factor;
    const double loose = here.volumeError / here.volume;
    expectNear(there.centroid - Point{}, motion(here.centroid) - Point{}, size * (resolved + loose), name);
    // The sum of the moments does not change with a turn.
    EXPECT_NEAR(sum(there.moments) / (sum(here.moments) * std::pow(factor, 5)), 1, 10 * resolved + loose) << name;
  }
}

// Meshes of half the deflection are about four times as near: V ≈ V₂ + (V₂ − V₁)/3.
TEST(Measures, AreThoseOfMeshes) {
  Progress progress;
  Random random(5);
  for (const auto& [name, part] : allParts()) {
    const double factor = std::pow(10, random.in(-2, 2));
    const Motion motion =
        Motion::by(Point{} - part.roughBox().centre())
            .then(Motion::scale({}, factor))
            .then(Motion::turn({}, {random.in(-1, 1), random.in(-1, 1), random.in(0.1, 1)}, random.in(0, 6)));
    const Shape turned = moved(part, motion);
    const double size = factor * part.roughBox().diagonal();
    // Each from a body of its own, since meshes stay with faces.
    const auto meshed = [&](double share, double shift) {
      return tessellate(moved(turned, Motion::by({shift * size, 0, 0})), {share * size, 0.4}, progress);
    };
    const BodyMesh coarseMesh = meshed(1e-3, 0.1), fineMesh = meshed(2.5e-4, 0.2);
    const corpus::MeshMoments coarse = corpus::momentsOf(coarseMesh), fine = corpus::momentsOf(fineMesh);
    const MassProperties exact = massProperties(moved(turned, Motion::by({0.2 * size, 0, 0})), progress);
    const auto expect = [&](double found, double rough, double finer, double slack, const char* what) {
      EXPECT_NEAR(found, finer + (finer - rough) / 3, 2 * std::abs(finer - rough) + slack) << name << ": " << what;
    };
    const double bound = exact.volumeError, skin = 2e-5 * size * exact.area;
    expect(exact.volume, coarse.volume, fine.volume, bound + skin, "volume");
    expect(exact.area, corpus::areaOf(coarseMesh), corpus::areaOf(fineMesh), 1e-3 * exact.area, "area");
    const double off = (bound + skin) / exact.volume * size;
    expectNear(exact.centroid - fine.centroid, {},
               off + 2 * std::abs(fine.volume - coarse.volume) / exact.volume * size, name);
    expect(sum(exact.moments), sum(coarse.moments), sum(fine.moments), (bound + skin) * size * size, "inertia");
    EXPECT_LT(bound, 1e-2 * exact.volume) << name;
  }
}

}  // namespace
}  // namespace kervo
