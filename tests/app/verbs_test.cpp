// The table of verbs, and the Bench for every kind of step that there is.
#include <QAction>
#include <QCheckBox>
#include <set>

#include "app/icons.h"
#include "steps/registry.h"
#include "support/document_builder.h"
#include "support/window_driver.h"

namespace kervo::test {
namespace {

using Verbs = WindowTest;

TEST_F(Verbs, HaveOneNameAndOneShortcutEach) {
  std::set<QString> keys;
  std::set<QString> shortcuts;
  for (const app::Verb& verb : window->verbs()) {
    EXPECT_TRUE(keys.insert(verb.key).second) << verb.key.toStdString();
    EXPECT_FALSE(verb.text.isEmpty());
    EXPECT_TRUE(bool(verb.run)) << verb.key.toStdString();
    if (!verb.shortcut.isEmpty()) {
      EXPECT_TRUE(shortcuts.insert(verb.shortcut.toString()).second) << verb.shortcut.toString().toStdString();
    }
  }
}

TEST_F(Verbs, AllStandInAMenu) {
  for (const app::Verb& verb : window->verbs())
    EXPECT_NE(window->findChild<QAction*>(verb.key), nullptr) << verb.key.toStdString();
}

TEST_F(Verbs, EveryStepKindStandsOnTheBenchFromItsTable) {
  openDemo();
  for (const StepKind* kind : allStepKinds().all()) {
    window->desk().trial.begin(Step(window->desk().session.document().freeId(kind->key()), *kind, {}));
    settle();
    ASSERT_TRUE(window->desk().trial.active()) << kind->key();
    for (const Field* field : kind->fields()) {
      if (field == piecesFieldOf(*kind)) continue;  // chosen in the list of pieces
      app::FieldEditor* editor = window->bench().editor(field->key());
      ASSERT_NE(editor, nullptr) << kind->key() << "." << field->key();
      EXPECT_EQ(editor->isVisible(), window->desk().trial.matters(*field)) << kind->key() << "." << field->key();
      EXPECT_NE(editor->first(), nullptr);
    }
    key(Qt::Key_Escape);
    if (window->desk().trial.active()) key(Qt::Key_Escape);
    EXPECT_FALSE(window->desk().trial.active()) << kind->key();
  }
}

TEST_F(Verbs, FieldsThatDoNotMatterAreHidden) {
  openDemo();
  window->desk().trial.begin(step("cut1", "cut", {{"profiles", allOf("bore_outline")}}));
  settle();
  EXPECT_FALSE(window->bench().editor("depth")->isVisible());
  EXPECT_FALSE(window->bench().editor("to_face")->isVisible());
  chooseFrom(named<QComboBox>("To"), "distance");
  EXPECT_TRUE(window->bench().editor("depth")->isVisible());
  chooseFrom(named<QComboBox>("To"), "face");
  EXPECT_FALSE(window->bench().editor("depth")->isVisible());
  EXPECT_TRUE(window->bench().editor("to_face")->isVisible());
}

TEST_F(Verbs, FaceFieldTakesAPickAndShowsItAsAChip) {
  openDemo();
  window->desk().trial.begin(step("cut1", "cut", {{"profiles", allOf("bore_outline")}, {"to", std::string("face")}}));
  settle();
  // What is missing takes picks at once.
  ASSERT_NE(window->bench().armed(), nullptr);
  EXPECT_EQ(window->bench().armed()->field().key(), "to_face");
  clickPoint(onFace("clamp/front", "clamp:side:front"));
  const auto& face = window->desk().trial.step().value("to_face").as<FaceReference>();
  EXPECT_EQ(face.name, "clamp:side:front");
  click(named<QAbstractButton>("Remove side front of Clamp, front"));
  EXPECT_TRUE(window->desk().trial.step().value("to_face").as<FaceReference>().empty());
}

TEST_F(Verbs, CurvedFaceIsNoPlaneToSplitBy) {
  openDemo();
  const auto& mast = window->desk().shownPictures.at("mast")->faces;
  for (std::size_t i = 0; i < mast.size(); ++i) {
    window->desk().selection.set({{Pick::Kind::Face, "mast", static_cast<int>(i)}});
    key(Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_TRUE(window->desk().trial.active());
    const auto& cutters = window->desk().trial.step().value("cutters").as<std::vector<CutterPick>>();
    ASSERT_EQ(cutters.size(), 1u);
    EXPECT_EQ(cutters.front().kind == CutterPick::Kind::Plane, mast[i].surfaceName() == "plane");
    key(Qt::Key_Escape);
  }
}

TEST_F(Verbs, RegionsCanBeChosenOneByOne) {
  openDemo();
  window->desk().selection.setStep("bolts");
  key(Qt::Key_Return, Qt::ControlModifier);
  const auto removed = [&] { return window->desk().trial.result()->report().result->audit.volumeRemoved; };
  const double all = removed();
  QList<QCheckBox*> boxes;
  for (QCheckBox* box : window->bench().findChildren<QCheckBox*>())
    if (box->isVisible()) boxes << box;
  ASSERT_EQ(boxes.size(), 4);
  clickAt(boxes[0], QPoint(8, boxes[0]->height() / 2));
  EXPECT_NEAR(removed(), all * 3 / 4, 1e-3 * all);
  EXPECT_EQ(window->desk().trial.step().value("profiles").as<RegionPick>().regions.size(), 3u);
  clickAt(boxes[0], QPoint(8, boxes[0]->height() / 2));
  EXPECT_TRUE(window->desk().trial.step().value("profiles").as<RegionPick>().all);
}

TEST_F(Verbs, StepNameIsEditedOnTheBench) {
  openDemo();
  window->desk().selection.setStep("halves");
  key(Qt::Key_Return, Qt::ControlModifier);
  typeInto(named<QLineEdit>("Name of the step"), "Saw in two");
  key(Qt::Key_Return);
  const Document& document = window->desk().session.document();
  EXPECT_EQ(document.nameOf(*document.find("halves")), "Saw in two");
}

TEST_F(Verbs, FieldsInTheViewLeaveTheBadgesFree) {
  openDemo();
  window->desk().selection.setStep("halves");
  key(Qt::Key_Return, Qt::ControlModifier);
  settle();
  const std::vector<QRect> badges = window->view().badgeRects();
  EXPECT_EQ(badges.size(), 3u);
  for (const char* name : {"Offset, in the view", "Kerf, in the view"}) {
    const QRect field = named<QLineEdit>(name)->parentWidget()->geometry();
    for (const QRect& badge : badges) EXPECT_FALSE(field.intersects(badge)) << name;
  }
}

TEST_F(Verbs, PiecesLightUpInTheView) {
  openDemo();
  window->desk().selection.setStep("halves");
  key(Qt::Key_Return, Qt::ControlModifier);
  ASSERT_EQ(window->bench().pieces()->pieces()->rowCount(), 3);
  auto* pieces = window->bench().pieces();
  const QImage before = window->view().grabFramebuffer();
  QTest::mouseMove(window->windowHandle(),
                   pieces->viewport()->mapTo(window.get(), pieces->visualRect(pieces->model()->index(1, 0)).center()));
  QTest::qWait(100);
  EXPECT_NE(window->view().grabFramebuffer(), before);
  EXPECT_EQ(pieces->model()->index(2, 0).data().toString(), "Clamp, kerf");
}

TEST_F(Verbs, MeasureSaysSizesOfTheSelection) {
  openDemo();
  const auto measured = [&] {
    QStringList texts;
    for (QLabel* label : window->sides().widget(2)->findChildren<QLabel*>())
      if (label->isVisible()) texts << label->text();
    return texts.join("|");
  };
  window->desk().selection.set({{Pick::Kind::Body, "mast", 0}});
  settle();
  EXPECT_TRUE(measured().contains("361.9 cm³")) << measured().toStdString();
  EXPECT_TRUE(measured().contains("977.2 g")) << measured().toStdString();
  // Of the cylinder itself, not of what is drawn of it.
  EXPECT_TRUE(measured().contains("Size x|48.00 mm|Size y|48.00 mm|Size z|200.0 mm")) << measured().toStdString();
  clickPoint(onFace("clamp/front", "clamp:side:front"));
  EXPECT_TRUE(measured().contains("28.80 cm²"));
}

TEST(Icons, AreDrawnForEveryVerb) {
  for (const char* name : {"block", "cut", "split", "shield-on", "eye", "no such picture"})
    for (const int size : {16, 40}) {
      const QImage image = app::icon(name, Qt::black).pixmap(size, size).toImage();
      int drawn = 0;
      for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) drawn += image.pixelColor(x, y).alpha() > 100;
      EXPECT_GT(drawn, size / 2) << name;
    }
  EXPECT_FALSE(app::applicationIcon().isNull());
}

}  // namespace
}  // namespace kervo::test
