// Openings of bodies that came as STEP, with no history at all: shifted out and back, resized, closed, against volumes
// by hand.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "exchange/body_file.h"
#include "geom/openings/openings.h"
#include "support/document_builder.h"
#include "support/foreign_walls.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;

class ForeignOpenings : public testing::Test {
 protected:
  void bring(const TopoDS_Shape& shape) {
    const std::filesystem::path path = folder_.path() / "part.step";
    writeForeignStep(shape, path);
    Progress progress;
    document_ = withBroughtIn({}, readBodies(path, progress), "part.step", allStepKinds());
    const Model model = made(document_);
    body_ = model.bodies.front().id;
    before_ = model.bodies.front().shape();
  }
  /// A face of the body near a place.
  std::vector<FaceReference> at(Point place) {
    for (const Face& face : facesOf(before_))
      if (face.distanceTo(place) < 1e-3) return {{body_, face.origins().front(), std::nullopt}};
    ADD_FAILURE() << "no face there";
    return {};
  }
  void change(const char* id, const char* kind, std::map<std::string, FieldValue> fields) {
    document_ = document_.withStep(step(id, kind, std::move(fields)));
  }
  Shape after(const char* id) {
    const Model model = made(document_);
    EXPECT_EQ(errorOf(model, id), "no error");
    const Body* body = model.find(body_);
    return body ? body->shape() : before_;
  }
  /// Shifted and back again it is what it was.
  void expectThereAndBack(Point place, const char* along, const char* back) {
    const Document start = document_;
    change("there", "shift_opening", {{"openings", at(place)}, {"along", Expression(along)}});
    const Shape there = after("there");
    EXPECT_TRUE(there.valid());
    change("back", "shift_opening", {{"openings", at(place)}, {"along", Expression(back)}});
    const Shape again = after("back");
    EXPECT_NEAR(again.volume(), before_.volume(), 1e-8 * before_.volume());
    EXPECT_EQ(again.faceCount(), before_.faceCount());
    EXPECT_NEAR(again.area(), before_.area(), 1e-7 * before_.area());
    document_ = start;
  }
  double volumeClosed(Point place) {
    const Document start = document_;
    change("close", "close_opening", {{"openings", at(place)}});
    const double volume = after("close").volume();
    document_ = start;
    return volume;
  }

  TemporaryFolder folder_;
  Document document_;
  BodyId body_;
  Shape before_;
};

TEST_F(ForeignOpenings, AWallWithATaperANotchAndACounterbore) {
  using Wall = ForeignWall;
  bring(Wall::shape());
  const double open = Wall::solid - Wall::window - Wall::door - Wall::pipe();
  ASSERT_NEAR(before_.volume(), open, 1e-6 * open);
  EXPECT_EQ(openingsOf(before_).size(), 3U);
  const Point window{350, 150, 1500}, door{3000, 150, 1000}, pipe{2400 + 55, 150, 500};
  expectThereAndBack(window, "150 mm", "-150 mm");
  expectThereAndBack(door, "-120 mm", "120 mm");
  expectThereAndBack(pipe, "60 mm", "-60 mm");
  EXPECT_NEAR(volumeClosed(window), open + Wall::window, 1e-9 * open);
  EXPECT_NEAR(volumeClosed(door), open + Wall::door, 1e-9 * open);
  EXPECT_NEAR(volumeClosed(pipe), open + Wall::pipe(), 1e-9 * open);
  // The door grows and keeps its foot.
  change("wide", "resize_opening",
         {{"openings", at(door)}, {"width_becomes", text("to")}, {"width", Expression("1.2 m")}});
  EXPECT_NEAR(after("wide").volume(), open - 200.0 * 300 * 2100, 1e-9 * open);
}

TEST_F(ForeignOpenings, AHousingWithRoundsAndACounterbore) {
  using Housing = ForeignHousing;
  bring(Housing::shape());
  const double open = Housing::solid() - Housing::pocket() - Housing::bolt();
  ASSERT_NEAR(before_.volume(), open, 1e-7 * open);
  EXPECT_EQ(openingsOf(before_).size(), 2U);
  const Point pocket{110, 60, 50}, bolt{36, 60, 40};
  expectThereAndBack(pocket, "8 mm", "-8 mm");
  expectThereAndBack(bolt, "5 mm", "-5 mm");
  EXPECT_NEAR(volumeClosed(pocket), open + Housing::pocket(), 1e-8 * open);
  EXPECT_NEAR(volumeClosed(bolt), open + Housing::bolt(), 1e-8 * open);
  // Wider by 10, its rounds as they are.
  change("wide", "resize_opening", {{"openings", at(pocket)}, {"width", Expression("10 mm")}});
  const double gone = open - after("wide").volume();
  EXPECT_TRUE(std::abs(gone - 10.0 * 60 * 30) < 1e-3 || std::abs(gone - 10.0 * 100 * 30) < 1e-3) << gone;
  // What does not fit says how much room there is.
  change("far", "shift_opening", {{"openings", at(pocket)}, {"along", Expression("60 mm")}});
  EXPECT_THAT(errorOf(made(document_), "far"), HasSubstr("mm"));
}

TEST_F(ForeignOpenings, AWallOfABSpline) {
  bring(ForeignCurvedWall::shape());
  EXPECT_EQ(openingsOf(before_).size(), 1U);
  const Point window{1600, 200, 1000};
  Progress progress;
  const double closed = volumeClosed(window);
  EXPECT_GT(closed, before_.volume() + 0.5 * 800 * 900 * 300);
  expectThereAndBack(window, "100 mm", "-100 mm");
}

}  // namespace
}  // namespace kervo
