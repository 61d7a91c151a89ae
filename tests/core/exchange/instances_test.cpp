// One part at several places: kept once in memory, in documents and in files that can hold it.
#include "exchange/instances.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <fstream>
#include <numbers>
#include <regex>

#include "exchange/atomic_file.h"
#include "exchange/document_json.h"
#include "exchange/kervo_file.h"
#include "exchange/reload.h"
#include "fields/brought_field.h"
#include "geom/divide/boolean.h"
#include "geom/instance.h"
#include "geom/primitives.h"
#include "geom/topology.h"
#include "support/document_builder.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;

constexpr double boltVolume = std::numbers::pi * (16 * 20 + 36 * 4);

/// A shaft with a head, standing on the origin.
Shape bolt() {
  Progress progress;
  return unite({makeCylinder("shaft", {}, 4, 20), makeCylinder("head", Plane::through({0, 0, 20}, {0, 0, 1}), 6, 4)},
               progress)
      .shape;
}

/// The plane turned about z and put at a place.
Plane standing(Point at, double degrees) {
  const double angle = degrees * std::numbers::pi / 180;
  return {at, {std::cos(angle), std::sin(angle), 0}, {-std::sin(angle), std::cos(angle), 0}, {0, 0, 1}};
}

/// A lid and four bolts, one of them lying, in a crate.
std::vector<FileBody> crate() {
  const Shape part = bolt();
  std::vector<FileBody> bodies{{"Lid", makeBlock("lid", {}, 100, 80, 5), std::nullopt, ""}};
  for (const Plane& place : {standing({10, 10, 5}, 0), standing({90, 10, 5}, 90), standing({90, 70, 5}, 180),
                             Plane{{50, 40, 20}, {0, 1, 0}, {0, 0, 1}, {1, 0, 0}}})
    bodies.push_back({"Bolt", placed(part, place), Color{0.5, 0.5, 0.5}, ""});
  for (FileBody& body : bodies) body.within = {"Crate"};
  return bodies;
}

std::size_t countOf(const std::string& text, const std::string& what) {
  std::size_t count = 0;
  for (std::size_t at = text.find(what); at != std::string::npos; at = text.find(what, at + 1)) ++count;
  return count;
}

class Instances : public testing::Test {
 protected:
  FileContents throughFile(const std::string& name, const std::vector<FileBody>& bodies) {
    writeBodies(folder_ / name, bodies, "mm", progress_);
    return readBodies(folder_ / name, progress_);
  }
  std::string text(const std::string& name) const { return readWhole(folder_ / name, 10'000'000); }

  /// As they were written, whatever their order.
  static void expectCrate(const FileContents& read, double exactness) {
    ASSERT_EQ(read.bodies.size(), 5u);
    const std::vector<FileBody> wanted = crate();
    for (std::size_t i = 0; i < wanted.size(); ++i) {
      EXPECT_EQ(read.bodies[i].name, wanted[i].name);
      EXPECT_EQ(read.bodies[i].within, wanted[i].within);
      const Box a = read.bodies[i].shape.box(), b = wanted[i].shape.box();
      EXPECT_NEAR(distance(a.low, b.low) + distance(a.high, b.high), 0, exactness) << i;
    }
  }

  TemporaryFolder folder_;
  Progress progress_;
};

TEST_F(Instances, FollowTheFirstOfTheirKind) {
  std::vector<FileBody> bodies = crate();
  auto found = followersIn(bodies);
  EXPECT_FALSE(found[0] || found[1]);
  for (const std::size_t i : {2u, 3u, 4u}) {
    ASSERT_TRUE(found[i]);
    EXPECT_EQ(found[i]->first, 1u);
  }
  EXPECT_NEAR(distance(found[2]->from({10, 10, 5}), {90, 10, 5}), 0, 1e-9);
  // Those that look another way are parts of their own.
  bodies[2].name = "Long bolt";
  bodies[3].color = Color{1, 0, 0};
  bodies[4].shape = withFaceColors(bodies[4].shape, {{1, Color{0, 1, 0}}});
  found = followersIn(bodies);
  EXPECT_FALSE(found[2] || found[3] || found[4]);
}

TEST_F(Instances, AreOnePartInStep) {
  const FileContents read = throughFile("crate.step", crate());
  EXPECT_EQ(countOf(text("crate.step"), "MANIFOLD_SOLID_BREP("), 2u);
  expectCrate(read, 1e-5);
  for (const std::size_t i : {2u, 3u, 4u}) {
    EXPECT_NEAR(read.bodies[i].shape.volume(), boltVolume, 1e-9 * boltVolume);
    EXPECT_EQ(identityOfPart(read.bodies[i].shape), identityOfPart(read.bodies[1].shape)) << "read as one, too";
    EXPECT_EQ(read.bodies[i].color, (read.bodies[1].color));
  }
  // Called by another name, one has a part of its own.
  std::vector<FileBody> named = crate();
  named[2].name = "Long bolt";
  const FileContents again = throughFile("named.step", named);
  EXPECT_EQ(countOf(text("named.step"), "MANIFOLD_SOLID_BREP("), 3u);
  EXPECT_EQ(again.bodies[2].name, "Long bolt");
}

TEST_F(Instances, AreOneMeshInGlbAndThreemf) {
  expectCrate(throughFile("crate.glb", crate()), 0.02);
  EXPECT_EQ(countOf(text("crate.glb"), "\"primitives\""), 2u);
  EXPECT_EQ(countOf(text("crate.glb"), "\"matrix\""), 3u);
  expectCrate(throughFile("crate.3mf", crate()), 0.02);
  // Turned by an angle that its numbers do not hold exactly, one is an object of its own in 3MF.
  std::vector<FileBody> turned = crate();
  turned[3].shape = placed(bolt(), standing({90, 70, 5}, 31));
  turned[4].shape = placed(partOf(turned[1].shape), standing({50, 40, 20}, 31));
  const FileContents read = throughFile("turned.3mf", turned);
  ASSERT_EQ(read.bodies.size(), 5u);
  EXPECT_NEAR(read.bodies[4].shape.volume(), read.bodies[1].shape.volume(), 1e-3 * boltVolume);
}

TEST_F(Instances, AreSeveralBodiesWhereAFormatHasNone) {
  for (const char* name : {"crate.igs", "crate.brep", "crate.stl", "crate.obj"}) {
    const FileContents read = throughFile(name, crate());
    double volume = 0;
    for (const FileBody& body : read.bodies) volume += body.shape.volume();
    EXPECT_NEAR(volume, 100 * 80 * 5 + 4 * boltVolume, 0.02 * boltVolume) << name;
  }
}

TEST_F(Instances, AreStoredOnceInADocument) {
  const Document document = withBroughtIn({}, {crate(), "mm", {}}, "crate.step", allStepKinds());
  EXPECT_EQ(document.made.shapes.size(), 2u);
  const auto check = [](const Document& each) {
    const Model model = made(each);
    ASSERT_EQ(model.bodies.size(), 5u);
    const std::vector<FileBody> wanted = crate();
    for (std::size_t i = 0; i < wanted.size(); ++i) {
      const Box a = model.bodies[i].form.box(), b = wanted[i].shape.box();
      EXPECT_NEAR(distance(a.low, b.low) + distance(a.high, b.high), 0, 1e-5);
    }
    EXPECT_EQ(identityOfPart(*model.bodies[1].form.kept()), identityOfPart(*model.bodies[4].form.kept()));
    EXPECT_EQ(facesOf(model.bodies[4].shape()).front().origins().front(), "import1.5:face1");
  };
  check(document);
  writeDocument(folder_ / "crate.kervo", document, progress_);
  const Document read = readDocument(folder_ / "crate.kervo", allStepKinds(), progress_);
  EXPECT_EQ(read.made.shapes.size(), 2u);
  EXPECT_EQ(documentToJson(read), documentToJson(document)) << "to the last bit";
  check(read);
}

TEST_F(Instances, AreCutAlone) {
  Document document = withBroughtIn({}, {crate(), "mm", {}}, "crate.step", allStepKinds());
  // The bolt at 90, 10 loses its upper half.
  document = document.withStep(step(
      "s", "split", {{"stock", bodies({"import1.3"})}, {"cutters", cutBy("xy")}, {"offset", expression("17 mm")}}));
  const Model model = made(document);
  ASSERT_FALSE(model.failed());
  EXPECT_NEAR(report(model, "s").result->audit.balance, 0, 1e-6);
  EXPECT_NEAR(volume(model, "import1.3/back"), std::numbers::pi * 16 * 12, 1e-6);
  EXPECT_NEAR(volume(model, "import1.2"), boltVolume, 1e-6) << "the others stay whole";
  EXPECT_EQ(identityOfPart(*model.find("import1.2")->form.kept()),
            identityOfPart(*model.find("import1.4")->form.kept()));
}

TEST_F(Instances, AreFoundAgainWhenTheirFileIsReloaded) {
  const Document before = withBroughtIn({}, {crate(), "mm", {}}, "crate.step", allStepKinds());
  std::vector<FileBody> bodies = crate();
  bodies[3].shape = placed(partOf(bodies[1].shape), standing({85, 70, 5}, 180));
  const Reloaded result =
      reloaded(before, "import1", withBroughtIn({}, {bodies, "mm", {}}, "crate.step", allStepKinds()));
  ASSERT_EQ(result.bodies.size(), 5u);
  for (const std::size_t i : {0u, 1u, 2u, 4u}) EXPECT_EQ(result.bodies[i].how, ReloadedBody::How::Same) << i;
  EXPECT_EQ(result.bodies[3].how, ReloadedBody::How::Changed);
  EXPECT_TRUE(result.lost.empty());
  EXPECT_NEAR(made(result.document).bodies[3].form.box().high.x, 91, 1e-6);
}

TEST_F(Instances, SayWhatIsWrongWithAPlace) {
  const auto error = [](const std::string& place) {
    try {
      documentFromJson(
          R"({"format": "kervo", "version": 2, "steps": [{"id": "i", "kind": "bring-in", "fields": {"bodies":
                       [{"shape": "s", "name": "a", "place": )" +
              place + "}]}}]}",
          allStepKinds(), "doc.json");
    } catch (const FileError& failure) {
      return std::string(failure.what());
    }
    return std::string("no error");
  };
  EXPECT_EQ(error(R"({"at": [1, 2, 3]})"), "no error");
  EXPECT_THAT(error(R"({"x": [1, 1, 0]})"), HasSubstr("unit length at right angles"));
  EXPECT_THAT(error(R"({"x": [0, 1, 0]})"), HasSubstr("unit length at right angles"));
  EXPECT_THAT(error(R"({"z": [0, 0, 1]})"), HasSubstr("place"));
}

}  // namespace
}  // namespace kervo
