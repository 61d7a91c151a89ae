// What the window measures of what is selected, and shows in the view.
#include <QLabel>

#include "app/panels/measure_panel.h"
#include "support/trial_driver.h"

namespace kervo::test {
namespace {

class MeasureTest : public TrialTest {
 protected:
  /// What stands beside a name in the Measure panel; empty if it is not there.
  QString measured(const QString& name) {
    settle();
    const auto labels = window->findChild<app::MeasurePanel*>()->findChildren<QLabel*>();
    for (qsizetype i = 0; i + 1 < labels.size(); ++i)
      if (labels[i]->text() == name) return labels[i + 1]->text();
    return {};
  }
  void select(std::vector<Pick> picks) {
    window->desk().selection.set(std::move(picks));
    settle();
  }
};

TEST_F(MeasureTest, TwoFacesAreClickedAndTheirDistanceIsShown) {
  start(documentOf({plate(), block("post", "10", "10", "20", {"-5", "-5", "25"})}));
  clickPoint(onFace("post", "post:top"));
  clickPoint(onFace("plate", "plate:top"), Qt::ControlModifier);
  EXPECT_EQ(measured("Distance"), "35.00 mm");
  EXPECT_EQ(measured("Between planes"), "35.00 mm");
  EXPECT_EQ(measured("Along x, y, z"), "0, 0, -35");
  ASSERT_TRUE(window->view().measured());
  EXPECT_EQ(window->view().measured()->text, "35.00 mm");
  // Another selection, another measure; and it goes with the selection.
  select({face("plate", "plate:top"), face("plate", "plate:front")});
  EXPECT_EQ(measured("Angle"), "90.00°");
  EXPECT_FALSE(window->view().measured()) << "they touch";
  select({});
  EXPECT_EQ(measured("Distance"), "");
}

TEST_F(MeasureTest, TwoBodiesTellClearanceOrOverlap) {
  start(documentOf({plate(), block("post", "10", "10", "gap", {"-5", "-5", "25"})}, {{"gap", Expression("20 mm")}}));
  select({body("plate"), body("post")});
  EXPECT_EQ(measured("Clearance"), "15.00 mm");
  start(documentOf({plate(), block("post", "10", "10", "20", {"-5", "-5", "5"})}));
  select({body("plate"), body("post")});
  EXPECT_EQ(measured("Clearance"), "0.00 mm");
  EXPECT_EQ(measured("Overlap"), "0.50 cm³");
}

TEST_F(MeasureTest, OneBodyTellsItsCentreAndARoundPartItsRadius) {
  start(documentOf(
      {plate(), step("pin", "cylinder", {{"radius", Expression("4 mm")}, {"height", Expression("30 mm")}})}));
  select({body("plate")});
  EXPECT_EQ(measured("Centre"), "0, 0, 5");
  select({face("pin", "pin:side")});
  EXPECT_EQ(measured("Radius"), "4.00 mm");
  EXPECT_EQ(measured("Diameter"), "8.00 mm");
}

}  // namespace
}  // namespace kervo::test
