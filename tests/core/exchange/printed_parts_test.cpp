// The pod's shell in two keyed and marked parts, and the float hollowed out, drained and cut for a printer of 120 mm.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "exchange/body_file.h"
#include "exchange/kervo_file.h"
#include "geom/divide/boolean.h"
#include "support/document_builder.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::Contains;
using testing::HasSubstr;

Document demo(const std::string& name) {
  Progress progress;
  return readDocument(KERVO_SOURCE_DIR "/demo/" + name + ".kervo", allStepKinds(), progress);
}

TEST(PodShell, IsKeyedAndMarkedAndWeighsWhatItDid) {
  const Model model = made(demo("pod-shell"));
  ASSERT_FALSE(model.failed()) << errorOf(model, "keys") << errorOf(model, "marking");
  double sum = 0;
  int fillings = 0;
  for (const Body& body : model.bodies) {
    sum += body.form.volume();
    fillings += body.id.step() == "marking" ? 1 : 0;
    EXPECT_TRUE(body.shape().watertight() && body.shape().valid()) << body.name;
  }
  const TemporaryFolder folder;
  Progress progress;
  EXPECT_NO_THROW(writeBodies(folder / "pod.stl", bodiesOf(model), "mm", progress)) << "triangles that close";
  EXPECT_EQ(fillings, 6) << "POD 7, a ring and a dot";
  // Fillings are flush: all that was taken away is the room around the pegs.
  const double shell = report(model, "shell").volumeChange, room = report(model, "keys").volumeChange;
  EXPECT_LT(room, 0);
  EXPECT_NEAR(sum, shell + room, 1e-6 * shell);
  EXPECT_THAT(report(model, "keys").result->audit.notes, Contains(HasSubstr("4 round pegs")));
  EXPECT_TRUE(intersect({model.find("pod/front")->shape(), model.find("pod/back")->shape()}, progress).empty());
}

TEST(FloatParts, FitThePrinterAndWeighWhatTheFloatDoes) {
  const Model model = made(demo("float-parts"));
  ASSERT_FALSE(model.failed()) << errorOf(model, "space") << errorOf(model, "parts");
  ASSERT_EQ(model.bodies.size(), 12u);
  double sum = 0;
  const TemporaryFolder folder;
  Progress progress;
  EXPECT_NO_THROW(writeBodies(folder / "float.3mf", bodiesOf(model), "mm", progress));
  for (const Body& body : model.bodies) {
    EXPECT_TRUE(body.form.watertight()) << body.name;
    const Vector size = body.form.box().high - body.form.box().low;
    for (const double each : {size.x, size.y, size.z}) EXPECT_LT(each, 120) << body.name;
    EXPECT_NEAR(body.form.box().low.z, 0, 1e-6) << "it lies";
    sum += body.form.volume();
  }
  const double hollow = report(model, "space").result->audit.volumeAfter;
  EXPECT_NEAR(sum, hollow + report(model, "parts").volumeChange, 1e-6 * hollow);
  // Numbers and clearances take little.
  EXPECT_NEAR(sum, hollow, 100);
  // Two drains of 8 mm go through a wall of about 5 mm at its lowest places.
  EXPECT_THAT(report(model, "space").result->audit.notes, Contains(HasSubstr("mm thick, measured at")));
}

}  // namespace
}  // namespace kervo
