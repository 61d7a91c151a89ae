// Sections in the real window: added, dragged on the ruler, typed, stepped, flipped, swept, picked on and undone.
#include <gmock/gmock.h>

#include <QInputDialog>
#include <QTimer>
#include <QTreeWidget>

#include "app/panels/sections_panel.h"
#include "support/trial_driver.h"
#include "view/cut_faces.h"

namespace kervo::test {
namespace {

class SectionTest : public TrialTest {
 protected:
  void SetUp() override {
    TrialTest::SetUp();
    start(documentOf({block("b", "100", "60", "40")}));
  }
  const Document& document() { return window->desk().session.document(); }
  std::string offset(const StepId& section = "section1") {
    const auto step = document().find(section);
    return step ? step->value("offset").as<Expression>().text() : "none";
  }
  QTreeWidget* list() { return named<QTreeWidget>("Sections"); }
  const Scene& scene() { return window->view().scene(); }
  /// Where the first section cuts now, as the view shows it.
  double placeSeen() { return scene().sections.empty() ? NAN : scene().sections[0].cut->plane->origin.y; }
  void addSection() {
    click(button("+ add", "Add a section"));
    settle();
    key(Qt::Key_Return);
    settle();
  }
  QToolButton* button(const QString& text, const QString& accessible) {
    for (QToolButton* each : window->findChildren<QToolButton*>())
      if (each->text() == text && each->accessibleName() == accessible) return each;
    return nullptr;
  }
  using WindowTest::button;
};

TEST_F(SectionTest, IsAddedOnTheBenchAndChangesOnlyWhatIsSeen) {
  const MadeHalf before = document().made;
  click(button("+ add", "Add a section"));
  settle();
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_EQ(window->desk().trial.step().kind().key(), "section");
  // It cuts the view while it is tried, and is in no document yet.
  ASSERT_EQ(scene().sections.size(), 1u);
  EXPECT_TRUE(document().seen.sections.empty());
  typeInto(named<QLineEdit>("Offset"), "-30 mm");
  settle();
  EXPECT_NEAR(placeSeen(), 30, 1e-9);
  key(Qt::Key_Return);
  settle();
  ASSERT_EQ(document().seen.sections.size(), 1u);
  EXPECT_TRUE(document().made.sameAs(before));
  EXPECT_EQ(list()->topLevelItemCount(), 1);
  EXPECT_EQ(list()->topLevelItem(0)->text(0), "A");
  // Undone apart from the model.
  key(Qt::Key_Z, Qt::ControlModifier);
  settle();
  EXPECT_TRUE(document().seen.sections.empty());
  EXPECT_TRUE(scene().sections.empty());
  EXPECT_TRUE(document().made.sameAs(before));
}

TEST_F(SectionTest, IsDraggedOnTheRulerAndStepped) {
  addSection();
  auto& view = window->view();
  ASSERT_EQ(scene().sections.size(), 1u);
  const QRectF bar = view.rulerBar();
  const QPoint tip = view.rulerTip().toPoint();
  ASSERT_TRUE(bar.adjusted(-20, 0, 0, 0).contains(QPointF(tip)));
  // Up by a quarter: towards the plane's normal, which is −y.
  const double before = placeSeen();
  drag(&view, tip + QPoint(4, 0), QPoint(tip.x() + 4, static_cast<int>(tip.y() - bar.height() / 4)));
  settle();
  EXPECT_LT(placeSeen(), before - 1);
  EXPECT_THAT(offset(), testing::HasSubstr("mm"));
  EXPECT_NEAR(-placeSeen(), std::stod(offset()), 1e-6) << "what is seen is what is written";
  // Page Down goes back by a step, with Shift by a tenth of one.
  view.setFocus();
  const double dragged = placeSeen();
  key(Qt::Key_PageDown);
  settle();
  const double step = placeSeen() - dragged;
  EXPECT_GT(step, 0);
  key(Qt::Key_PageDown, Qt::ShiftModifier);
  settle();
  EXPECT_NEAR(placeSeen() - dragged - step, step / 10, step / 10 + 1e-9);
  EXPECT_TRUE(window->desk().session.upToDate());
}

TEST_F(SectionTest, ItsPlaceIsTypedAsAnExpression) {
  window->desk().session.apply(document().withDimension("depth", Expression("24 mm")), "dimension");
  settle();
  addSection();
  auto* field = named<QLineEdit>("Place of the section");
  ASSERT_TRUE(field->isVisible());
  typeInto(field, "-depth / 2");
  key(Qt::Key_Return);
  settle();
  EXPECT_EQ(offset(), "-depth / 2");
  EXPECT_NEAR(placeSeen(), 12, 1e-9);
  // The dimension drives it.
  window->desk().session.apply(document().withDimension("depth", Expression("40 mm")), "dimension");
  settle();
  EXPECT_NEAR(placeSeen(), 20, 1e-9);
  // What has no value is said, and nothing moves.
  typeInto(field, "-width");
  key(Qt::Key_Return);
  settle();
  EXPECT_TRUE(field->property("bad").toBool());
  EXPECT_EQ(offset(), "-depth / 2");
}

TEST_F(SectionTest, TheListSwitchesFlipsEditsAndDeletesWithKeys) {
  addSection();
  auto* field = named<QLineEdit>("Place of the section");
  typeInto(field, "-30 mm");
  key(Qt::Key_Return);
  settle();
  const auto hides = [&](Point point) { return scene().sections.at(0).cut->clip.hides(point); };
  EXPECT_TRUE(hides({50, 10, 10}));
  list()->setFocus();
  list()->setCurrentItem(list()->topLevelItem(0));
  key(Qt::Key_F);
  settle();
  EXPECT_FALSE(hides({50, 10, 10}));
  EXPECT_TRUE(hides({50, 50, 10}));
  key(Qt::Key_Space);
  settle();
  EXPECT_TRUE(scene().sections.empty());
  EXPECT_EQ(list()->topLevelItem(0)->text(1), "off");
  EXPECT_FALSE(field->isVisible());
  key(Qt::Key_Space);
  settle();
  ASSERT_EQ(scene().sections.size(), 1u);
  key(Qt::Key_Return);
  settle();
  ASSERT_TRUE(window->desk().trial.active());
  typeInto(named<QLineEdit>("Name of the step"), "stair");
  key(Qt::Key_Return);
  settle();
  EXPECT_EQ(list()->topLevelItem(0)->text(0), "A stair");
  list()->setFocus();
  key(Qt::Key_Delete);
  settle();
  EXPECT_TRUE(document().seen.sections.empty());
  key(Qt::Key_Z, Qt::ControlModifier);
  settle();
  EXPECT_EQ(list()->topLevelItem(0)->text(0), "A stair");
}

TEST_F(SectionTest, FlipIsClicked) {
  addSection();
  const QRect flip = list()->visualItemRect(list()->topLevelItem(0));
  clickAt(list()->viewport(), QPoint(list()->viewport()->width() - 12, flip.center().y()));
  settle();
  EXPECT_EQ(document().find("section1")->value("goes").as<std::string>(), "back");
}

TEST_F(SectionTest, ACutFaceIsPointedAtAndSelected) {
  addSection();
  typeInto(named<QLineEdit>("Place of the section"), "-30 mm");
  key(Qt::Key_Return);
  settle();
  click(button("Front"));
  settle();
  clickAt(&window->view(), window->view().toWidget({50, 30, 20}).toPoint());
  ASSERT_EQ(window->desk().selection.picks().size(), 1u);
  EXPECT_EQ(window->desk().selection.picks()[0].kind, Pick::Kind::Cut);
  // 100 × 40 mm.
  const auto shows = [&](const QString& value) {
    for (QLabel* label : window->findChildren<QLabel*>())
      if (label->isVisible() && label->text() == value) return true;
    return false;
  };
  EXPECT_TRUE(QTest::qWaitFor([&] { return shows("40.00 cm²"); }, 5000));
  EXPECT_TRUE(shows("280.0 mm"));
  // How thick it is where it was clicked, and from there to a second place.
  EXPECT_TRUE(shows("Thickness there"));
  ASSERT_TRUE(window->view().measured());
  EXPECT_EQ(window->view().measured()->text, "40.00 mm");
  clickAt(&window->view(), window->view().toWidget({20, 30, 20}).toPoint(), Qt::ControlModifier);
  ASSERT_EQ(window->desk().selection.picks().size(), 2u);
  EXPECT_TRUE(QTest::qWaitFor([&] { return shows("Between the points"); }, 5000));
  EXPECT_TRUE(shows("40.00 cm²")) << "it is one face all the same";
  ASSERT_TRUE(window->view().measured());
  EXPECT_NEAR(distance(window->view().measured()->from, window->view().measured()->to), 30, 0.5);
  // The section goes, and with it what was selected of it.
  window->desk().sections.remove("section1");
  settle();
  EXPECT_TRUE(window->desk().selection.picks().empty());
}

TEST_F(SectionTest, CutFacesOfBoxesAndBodiesAreMeasuredToo) {
  const auto shows = [&](const QString& value) {
    for (QLabel* label : window->findChildren<QLabel*>())
      if (label->isVisible() && label->text() == value) return true;
    return false;
  };
  // A box takes the front half of the right half away.
  start(documentOf({block("b", "100", "60", "40"), step("section1", "section",
                                                        {{"with", text("box")},
                                                         {"left", Expression("50 mm")},
                                                         {"right", Expression("150 mm")},
                                                         {"front", Expression("-10 mm")},
                                                         {"back", Expression("30 mm")},
                                                         {"bottom", Expression("-10 mm")},
                                                         {"top", Expression("100 mm")}})}));
  click(button("Front"));
  settle();
  clickAt(&window->view(), window->view().toWidget({75, 30, 20}).toPoint());
  ASSERT_EQ(window->desk().selection.count(Pick::Kind::Cut), 1u);
  EXPECT_TRUE(QTest::qWaitFor([&] { return shows("20.00 cm²"); }, 5000)) << "50 × 40 mm of its wall";
  // A closed body takes its inside away.
  start(documentOf({block("b", "100", "60", "40"), block("by", "30", "40", "60", {"35", "-10", "-10"}),
                    step("section1", "section", {{"with", text("body")}, {"body", bodies({"by"})}})}));
  window->desk().session.edit("hide", [](const Document& d) { return d.withLook("by", {.visible = false}); });
  settle();
  click(button("Front"));
  settle();
  clickAt(&window->view(), window->view().toWidget({50, 30, 20}).toPoint());
  ASSERT_EQ(window->desk().selection.count(Pick::Kind::Cut), 1u);
  EXPECT_TRUE(QTest::qWaitFor([&] { return shows("12.00 cm²"); }, 5000)) << "30 × 40 mm";
  EXPECT_TRUE(shows("140.0 mm"));
}

TEST_F(SectionTest, BodiesInOnePlaceAreMarkedOnWhatAClosedBodyCuts) {
  // They have 20 × 60 × 40 mm in common; the section takes the front half of both.
  start(documentOf(
      {block("b", "100", "60", "40"), block("c", "50", "60", "40", {"80", "0", "0"}),
       block("by", "300", "60", "60", {"-50", "-30", "-10"}),
       step("section1", "section", {{"with", text("body")}, {"body", bodies({"by"})}, {"hides", text("inside")}})}));
  ASSERT_TRUE(scene().cuts);
  double area = 0;
  for (const CutMark& mark : scene().cuts->overlaps())
    for (std::size_t i = 0; i + 2 < mark.triangles.size(); i += 3) {
      area += length(cross(mark.triangles[i + 1] - mark.triangles[i], mark.triangles[i + 2] - mark.triangles[i])) / 2;
      EXPECT_NEAR(mark.triangles[i].y, 30, 1e-6);
    }
  EXPECT_NEAR(area, 20 * 40, 1e-3);
  // Touching is no overlap.
  window->desk().session.edit("move", [](const Document& d) {
    return d.withReplaced(block("c", "50", "60", "40", {"100", "0", "0"}));
  });
  settle();
  ASSERT_TRUE(scene().cuts);
  EXPECT_TRUE(scene().cuts->overlaps().empty());
}

TEST_F(SectionTest, AHatchIsChosenByItsSwatch) {
  click(button("+ add", "Add a section"));
  settle();
  click(button("hatch", "Filled: hatch"));
  auto* timber = button("timber", "Hatch: timber");
  ASSERT_NE(timber, nullptr);
  ASSERT_TRUE(timber->isVisible());
  EXPECT_FALSE(timber->icon().isNull());
  timber->setFocus();
  key(Qt::Key_Space);
  settle();
  EXPECT_EQ(window->desk().trial.step().value("hatch").as<std::string>(), "timber");
  EXPECT_EQ(scene().sections.at(0).cut->fill.hatch, "timber");
}

TEST_F(SectionTest, IsKeptAndSentOutFromTheBench) {
  click(button("+ add", "Add a section"));
  settle();
  auto* draw = button("Draw a section …", "");
  ASSERT_NE(draw, nullptr);
  bool seen = false;
  QTimer asked;
  QObject::connect(&asked, &QTimer::timeout, [&] {
    auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget());
    if (!dialog) return;
    seen = dialog->windowTitle() == "Draw a section";
    dialog->reject();
  });
  asked.start(50);
  draw->setFocus();
  key(Qt::Key_Space);
  settle();
  EXPECT_TRUE(seen);
  EXPECT_EQ(document().seen.sections.size(), 1u) << "what is sent out is in the document";
}

TEST_F(SectionTest, ATrialIsClippedAndNotRestarted) {
  start(documentOf({block("b", "100", "60", "40"), step("section1", "section", {{"offset", Expression("-30 mm")}})}));
  window->desk().trial.begin(step("split1", "split", {{"stock", bodies({"b"})}, {"cutters", cutBy("yz")}}));
  settle();
  ASSERT_TRUE(window->desk().trial.active());
  const auto result = window->desk().trial.result();
  ASSERT_EQ(scene().sections.size(), 1u);
  for (const SceneBody& body : scene().bodies) EXPECT_EQ(body.cutBy.size(), body.isGuide() ? 0u : 1u) << body.id;
  window->desk().sections.setOffset("section1", -20.0);
  settle();
  EXPECT_TRUE(window->desk().trial.active());
  EXPECT_EQ(window->desk().trial.result()->after->steps.back().result, result->after->steps.back().result)
      << "the trial is the same one";
  EXPECT_NEAR(placeSeen(), 20, 1e-9);
}

TEST_F(SectionTest, SweepsAndComesBack) {
  addSection();
  const double place = placeSeen();
  click(button("sweep"));
  EXPECT_TRUE(QTest::qWaitFor([&] { return std::abs(placeSeen() - place) > 1; }, 5000));
  const std::string written = offset();
  click(button("stop"));
  settle();
  EXPECT_NEAR(placeSeen(), place, 1e-9);
  EXPECT_EQ(offset(), written) << "nothing was edited";
}

class ViewsTest : public SectionTest {
 protected:
  const std::vector<SavedView>& views() { return document().seen.views; }
  QToolButton* chip(const QString& name) { return named<QToolButton>("View " + name); }
  /// Keeps the way one looks now, its name typed into the dialog that asks.
  void keep(const QString& name) {
    QTimer::singleShot(100, window.get(), [name] {
      auto* dialog = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
      ASSERT_TRUE(dialog);
      dialog->setTextValue(name);
      QTest::keyClick(dialog, Qt::Key_Return);
    });
    click(button("+ keep this view"));
    // Without a window manager nobody gives the window the keyboard back.
    window->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(window.get()));
    settle();
  }
  ViewCamera eye() { return window->view().lookedFrom(); }
};

TEST_F(ViewsTest, AreKeptAndLookedAtWithMouseAndKeys) {
  addSection();
  click(button("Front"));
  keep("Stair");
  ASSERT_EQ(views().size(), 1u);
  EXPECT_TRUE(chip("Stair")->isChecked());
  const ViewCamera front = eye();
  // Another one: from above, the section off, the body hidden.
  click(button("Top"));
  EXPECT_FALSE(chip("Stair")->isChecked()) << "one looks another way now";
  window->desk().sections.switchOn("section1", false);
  click(button("Clear"));
  settle();
  keep("Plan");
  ASSERT_EQ(views().size(), 2u);
  const auto result = window->desk().session.made()->model;
  click(chip("Stair"));
  settle();
  EXPECT_NEAR(length(eye().towardsEye - front.towardsEye), 0, 1e-9);
  EXPECT_NEAR(eye().height, front.height, 1e-9);
  EXPECT_EQ(scene().sections.size(), 1u);
  EXPECT_EQ(window->view().style(), DrawStyle::ShadedEdges);
  EXPECT_TRUE(chip("Stair")->isChecked());
  key(Qt::Key_2, Qt::ControlModifier | Qt::AltModifier);
  settle();
  EXPECT_NEAR(eye().towardsEye.z, 1, 1e-9);
  EXPECT_TRUE(scene().sections.empty());
  EXPECT_EQ(window->view().style(), DrawStyle::Clear);
  EXPECT_TRUE(chip("Plan")->isChecked());
  // Looking is nothing to undo: the newest edit is that a view was kept.
  EXPECT_THAT(window->desk().session.undoText().toStdString(), testing::HasSubstr("Plan"));
  EXPECT_TRUE(window->desk().session.made()->model->steps.front().fromMemo);
}

TEST_F(ViewsTest, AreMovedUpdatedDuplicatedAndDeletedWithKeys) {
  keep("One");
  keep("Two");
  const auto names = [&] {
    std::string all;
    for (const SavedView& view : views()) all += view.name + " ";
    return all;
  };
  chip("One")->setFocus();
  key(Qt::Key_Right, Qt::AltModifier);
  settle();
  EXPECT_EQ(names(), "Two One ");
  EXPECT_EQ(QApplication::focusWidget(), chip("One")) << "the keyboard stays on it";
  click(button("Top"));
  window->views().update(views()[1].id);
  settle();
  EXPECT_NEAR(views()[1].camera.towardsEye.z, 1, 1e-9);
  window->views().duplicate(views()[1].id);
  settle();
  EXPECT_EQ(names(), "Two One One, copy ");
  chip("Two")->setFocus();
  key(Qt::Key_Delete);
  settle();
  EXPECT_EQ(names(), "One One, copy ");
  key(Qt::Key_Z, Qt::ControlModifier);
  settle();
  EXPECT_EQ(names(), "Two One One, copy ");
  // Dragged past its neighbour.
  const QToolButton* one = chip("One");
  drag(chip("Two"), chip("Two")->rect().center(),
       chip("Two")->mapFrom(window.get(), one->mapTo(window.get(), one->rect().center() + QPoint(8, 0))));
  settle();
  EXPECT_EQ(names(), "One Two One, copy ");
}

}  // namespace
}  // namespace kervo::test
