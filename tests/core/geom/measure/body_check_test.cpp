// What a check finds in bodies whose faults are made on purpose.
#include "geom/measure/body_check.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "geom/surface/sheet.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;

BodyCheck check(const Shape& shape, const CheckLimits& limits = {}) {
  Progress progress;
  return checkBody(shape, limits, progress);
}
int count(const BodyCheck& check, BodyFinding::Kind kind) {
  int sum = 0;
  for (const BodyFinding& finding : check.findings) sum += finding.kind == kind;
  return sum;
}

TEST(BodyCheckTest, CountsABlockAndABoredOne) {
  const BodyCheck block = check(makeBlock("b", at(0, 0, 0), 10, 20, 30));
  EXPECT_EQ(block.solids, 1);
  EXPECT_EQ(block.shells, 1);
  EXPECT_EQ(block.faces, 6);
  EXPECT_EQ(block.loops, 6);
  EXPECT_EQ(block.edges, 12);
  EXPECT_EQ(block.points, 8);
  EXPECT_EQ(block.points - block.edges + block.faces, 2) << "Euler";
  EXPECT_TRUE(block.valid);
  EXPECT_TRUE(block.closed);
  EXPECT_TRUE(block.findings.empty());
  Progress progress;
  const BodyCheck bored = check(
      divide(makeBlock("b", at(0, 0, 0), 10, 20, 30), {makeCylinder("h", at(5, 10, -5), 2, 50)}, progress).outside);
  EXPECT_EQ(bored.faces, 7);
  EXPECT_EQ(bored.loops, 9) << "top and bottom have two, the side one that uses its seam twice";
  EXPECT_TRUE(bored.findings.empty());
}

TEST(BodyCheckTest, OpenEdgesAreToldWithTheirGaps) {
  const Shape block = makeBlock("b", at(0, 0, 0), 10, 20, 30);
  std::vector<Face> five;
  for (const Face& face : facesOf(block))
    if (face.origins().front() != "b:top") five.push_back(face);
  const BodyCheck open = check(lifted(five));
  EXPECT_FALSE(open.closed);
  EXPECT_EQ(count(open, BodyFinding::Kind::OpenEdge), 4);
  for (const BodyFinding& finding : open.findings)
    if (finding.kind == BodyFinding::Kind::OpenEdge) {
      EXPECT_NEAR(finding.place.z, 30, 1e-9);
    }
}

TEST(BodyCheckTest, SmallEdgesAndFacesAreToldBelowTheirLimits) {
  Progress progress;
  // A step of 0.004 mm on a block.
  const Shape stepped =
      divide(makeBlock("b", at(0, 0, 0), 10, 10, 10), {makeBlock("c", at(5, -1, 9.996), 10, 12, 5)}, progress).outside;
  const BodyCheck found = check(stepped, {.edge = 0.01, .face = 0.05});
  EXPECT_EQ(count(found, BodyFinding::Kind::SmallEdge), 2);
  EXPECT_EQ(count(found, BodyFinding::Kind::SmallFace), 1);
  EXPECT_TRUE(found.valid);
  EXPECT_TRUE(check(stepped, {.edge = 0.003, .face = 0.03}).findings.empty());
  for (const BodyFinding& finding : found.findings)
    if (finding.kind == BodyFinding::Kind::SmallEdge) {
      EXPECT_NEAR(finding.size, 0.004, 1e-9);
    }
}

TEST(BodyCheckTest, NothingIsNothing) {
  EXPECT_TRUE(check(Shape()).findings.empty());
}

}  // namespace
}  // namespace kervo
