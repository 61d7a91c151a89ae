// Threads: what is cut away by formula, on rods and in holes, through and blind; marks; refusals.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "geom/curves/curve_body.h"
#include "model/document_edits.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::Contains;
using testing::HasSubstr;
using testing::SizeIs;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

std::vector<Step> rod(const char* radius, const char* height) {
  return {step("b", "cylinder", {{"radius", expression(radius)}, {"height", expression(height)}})};
}
/// A block with a hole in its middle, from above.
std::vector<Step> drilled(const char* radius, const char* depth) {
  return {
      block("w", "20 mm", "20 mm", "20 mm"),
      step("h", "cylinder",
           {{"radius", expression(radius)}, {"height", expression("30 mm")}, {"at", point("10 mm", "10 mm", depth)}}),
      step("c", "combine", {{"verb", text("subtract")}, {"stock", bodies({"w"})}, {"cutters", bodies({"h"})}})};
}
Model threaded(std::vector<Step> steps, const char* body, const char* face, Fields fields) {
  fields.emplace("faces", std::vector<FaceReference>{{body, face, std::nullopt}});
  steps.push_back(step("t", "thread", std::move(fields)));
  return made(documentOf(steps));
}

/// Of each mm of length: a groove between two radii, as wide as said at the first, its flanks at 30°.
double takenPerMm(double pitch, double from, double to, double halfWidth) {
  const double lean = std::tan(pi / 6) * (from < to ? 1 : -1);
  const double low = std::min(from, to), high = std::max(from, to);
  const double atLow = from < to ? halfWidth : halfWidth + std::abs(lean) * (high - low);
  // ∫ r · 2w(r) dr
  const double slope = lean, base = atLow - slope * low;
  const auto integral = [&](double r) { return base * r * r + 2 * slope * r * r * r / 3; };
  return 2 * pi / pitch * (integral(high) - integral(low));
}

TEST(ThreadStep, ARodLosesWhatTheProfileTakes) {
  const Model model = threaded(rod("3 mm", "8 mm"), "b", "b:side", {{"looks", text("cut")}});
  ASSERT_EQ(errorOf(model, "t"), "no error");
  const double core = 3 - 1.0825 / 2, taken = takenPerMm(1, core, 3, 1.0 / 8);
  EXPECT_NEAR(volume(model, "b"), 8 * (9 * pi - taken), 1e-3);
  EXPECT_THAT(report(model, "t").result->audit.notes, Contains(HasSubstr("M6, pitch 1 mm, right-handed, 8 mm long")));
  const Model left = threaded(rod("3 mm", "8 mm"), "b", "b:side", {{"looks", text("cut")}, {"hand", text("left")}});
  ASSERT_EQ(errorOf(left, "t"), "no error");
  EXPECT_NEAR(volume(left, "b"), volume(model, "b"), 1e-4);
}

TEST(ThreadStep, AHoleIsThreadedThroughAndBlind) {
  const Model model = threaded(drilled("2.5 mm", "-5 mm"), "w", "h:side", {{"looks", text("cut")}});
  ASSERT_EQ(errorOf(model, "t"), "no error");
  const double taken = takenPerMm(1, 3, 2.5, 1.0 / 16);
  EXPECT_NEAR(volume(model, "w"), 20.0 * 20 * 20 - 20 * (6.25 * pi + taken), 2e-3);
  const Model blind = threaded(drilled("2.5 mm", "8 mm"), "w", "h:side", {{"looks", text("cut")}});
  ASSERT_EQ(errorOf(blind, "t"), "no error");
  // One turn short of the bottom, where the groove ends at its middle.
  EXPECT_NEAR(volume(blind, "w"), 20.0 * 20 * 20 - 12 * 6.25 * pi - 11 * taken, 1.2 * taken);
  EXPECT_GT(volume(blind, "w"), 20.0 * 20 * 20 - 12 * 6.25 * pi - 12 * taken);
}

TEST(ThreadStep, AMarkChangesNothing) {
  const Model model = threaded(rod("3 mm", "8 mm"), "b", "b:side", {});
  ASSERT_EQ(errorOf(model, "t"), "no error");
  EXPECT_NEAR(volume(model, "b"), 72 * pi, 1e-6);
  const Shape mark = (*model.find("t/1")).shape();
  EXPECT_EQ(mark.kind(), BodyKind::Curve);
  const double helix = 8 * std::hypot(6 * pi, 1), circles = 2 * pi * (6 - 1.2269);
  EXPECT_NEAR(lengthOfCurve(mark), helix + circles, 1e-2);
  EXPECT_EQ(report(model, "t").result->made.front().name, "M6 thread");
}

TEST(ThreadStep, OnPartOfAFaceOnly) {
  const Fields part{{"reach", text("a length")}, {"length", expression("4 mm")}};
  const Model model = threaded(rod("3 mm", "20 mm"), "b", "b:side", part);
  ASSERT_EQ(errorOf(model, "t"), "no error");
  EXPECT_NEAR((*model.find("t/1")).form.box().high.z - (*model.find("t/1")).form.box().low.z, 4, 1e-3);
  EXPECT_THAT(report(model, "t").result->gauges, SizeIs(1u));
}

TEST(ThreadStep, WhatCannotBeIsRefused) {
  EXPECT_THAT(errorOf(threaded(rod("3.6 mm", "20 mm"), "b", "b:side", {}), "t"),
              HasSubstr("no common screw has a diameter of 7.2 mm"));
  EXPECT_THAT(errorOf(threaded(rod("3 mm", "20 mm"), "b", "b:side", {{"size", text("M8")}}), "t"),
              HasSubstr("M8 wants 8 mm, and the face is 6 mm wide"));
  EXPECT_THAT(errorOf(threaded(rod("3 mm", "20 mm"), "b", "b:top", {}), "t"), HasSubstr("plane face gets no thread"));
  EXPECT_THAT(errorOf(threaded(rod("3 mm", "100 mm"), "b", "b:side", {{"looks", text("cut")}}), "t"),
              HasSubstr("100 turns"));
  const Model own =
      threaded(rod("3.6 mm", "20 mm"), "b", "b:side", {{"size", text("own pitch")}, {"pitch", expression("0.8 mm")}});
  EXPECT_EQ(errorOf(own, "t"), "no error");
}

}  // namespace
}  // namespace kervo
