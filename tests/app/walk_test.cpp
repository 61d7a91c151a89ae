// The thinnest path a person walks: open, pick, draw, cut, change, undo, save, send out.
#include "support/window_driver.h"

#include <sys/stat.h>
#include <unistd.h>

#include <QProcess>
#include <chrono>
#include <filesystem>
#include <fstream>

#include "exchange/body_file.h"

namespace kervo::test {
namespace {

constexpr std::size_t demoSteps = 9;

class Walk : public WindowTest {
 protected:
  /// From the demo: a circle of 10 mm on the front of the clamp, on the Bench.
  void drawCircleOnFront() {
    openDemo();
    clickPoint(onFace("clamp/front", "clamp:side:front"));
    click(button("Cut through it"));
    click(named<QToolButton>("Add a circle"));
    // In the middle of the face.
    EXPECT_EQ(named<QLineEdit>("circle c1: centre u")->text(), "0 mm");
    EXPECT_EQ(named<QLineEdit>("circle c1: centre v")->text(), "20 mm");
  }
};

TEST_F(Walk, OpensTheDemo) {
  openDemo();
  EXPECT_EQ(model().bodies.size(), 3u);
  EXPECT_NEAR(volume("clamp/front"), 83571.744, 0.01);
  EXPECT_EQ(window->cutList().model()->rowCount(), 9);
  EXPECT_EQ(window->cutList().model()->index(8, 2).data().toString(), "kerf");
  EXPECT_TRUE(window->desk().session.saved());
}

TEST_F(Walk, PicksTheFaceThatIsClicked) {
  openDemo();
  clickPoint(onFace("clamp/front", "clamp:side:front"));
  ASSERT_EQ(window->desk().selection.picks().size(), 1u);
  const auto face = app::faceReference(window->desk().selection.picks().front(), window->desk().shownPictures);
  ASSERT_TRUE(face);
  EXPECT_EQ(face->name, "clamp:side:front");
  EXPECT_EQ(face->body, "clamp/front");
  key(Qt::Key_Escape);
  EXPECT_TRUE(window->desk().selection.empty());
}

TEST_F(Walk, CutsThroughWithExactVolumesAndShowsThemBefore) {
  drawCircleOnFront();
  typeInto(named<QLineEdit>("circle c1: radius"), "5 mm");
  EXPECT_TRUE(hasLine("1 region"));
  key(Qt::Key_Return);
  // The cut is on the Bench by itself now, through both halves, and nothing is changed yet.
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_EQ(window->desk().trial.step().kind().key(), "cut");
  ASSERT_NE(window->bench().pieces(), nullptr);
  EXPECT_EQ(window->bench().pieces()->pieces()->rowCount(), 4);
  EXPECT_TRUE(hasLine("volume balances"));
  EXPECT_TRUE(hasLine("shielded: Mast"));
  EXPECT_NEAR(volume("clamp/front"), 83571.744, 0.01);
  const auto tried = window->desk().trial.result();
  const double removed = tried->report().result->audit.volumeRemoved;
  EXPECT_GT(removed, 0);
  key(Qt::Key_Return);
  EXPECT_FALSE(window->desk().trial.active());
  EXPECT_NEAR(volume("clamp/front") + volume("clamp/back"), 2 * 83571.744 - removed, 0.02);
  // Making it computed nothing.
  EXPECT_TRUE(model().steps.back().fromMemo);
}

TEST_F(Walk, BlindCutRemovesCircleTimesDepth) {
  drawCircleOnFront();
  typeInto(named<QLineEdit>("circle c1: radius"), "4");
  key(Qt::Key_Return);
  chooseFrom(named<QComboBox>("To"), "distance");
  typeInto(named<QLineEdit>("Depth"), "wall / 4");
  const double removed = window->desk().trial.result()->report().result->audit.volumeRemoved;
  EXPECT_NEAR(removed, 3.14159265358979 * 16 * 3, 1e-6);
  EXPECT_TRUE(hasLine("removes 1.51 cm³") || hasLine("removes 0.15 cm³"));
  EXPECT_TRUE(hasLine("not met: Clamp, back"));
}

TEST_F(Walk, WrongFieldSaysWhatIsWrongAndCannotBeMade) {
  drawCircleOnFront();
  key(Qt::Key_Return);
  chooseFrom(named<QComboBox>("To"), "distance");
  typeInto(named<QLineEdit>("Depth"), "-3 mm");
  EXPECT_EQ(named<QLineEdit>("Depth")->accessibleDescription(), "must be more than zero");
  const auto steps = window->desk().session.document().made.steps.size();
  key(Qt::Key_Return);
  EXPECT_TRUE(window->desk().trial.active());
  EXPECT_EQ(window->desk().session.document().made.steps.size(), steps);
  typeInto(named<QLineEdit>("Depth"), "nothing + 3 mm");
  EXPECT_TRUE(named<QLineEdit>("Depth")->accessibleDescription().contains("nothing"));
}

TEST_F(Walk, EscapeLeavesTheDrawingAndPutsTheCutBack) {
  drawCircleOnFront();
  const auto steps = window->desk().session.document().made.steps.size();
  // What was drawn is kept, and nothing else is begun.
  key(Qt::Key_Escape);
  EXPECT_FALSE(window->desk().trial.active());
  EXPECT_EQ(window->desk().session.document().made.steps.size(), steps + 1);
  click(button("Cut with Drawing on side front of Clamp, front"));
  ASSERT_TRUE(window->desk().trial.active());
  while (window->bench().armed()) key(Qt::Key_Escape);
  key(Qt::Key_Escape);
  EXPECT_FALSE(window->desk().trial.active());
  EXPECT_EQ(window->desk().session.document().made.steps.size(), steps + 1);
  key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(window->desk().session.document().made.steps.size(), steps);
  EXPECT_TRUE(window->desk().session.saved());
}

TEST_F(Walk, DimensionEditRebuildsUndoAndRedoGoBackAndForth) {
  openDemo();
  auto* sheet = window->dimensions().sheet();
  // Row 9 is the kerf.
  ASSERT_EQ(sheet->model()->index(9, 0).data().toString(), "kerf");
  const double before = volume("clamp/front");
  editCell(sheet, 9, 1, "4 mm");
  const double after = volume("clamp/front");
  EXPECT_LT(after, before - 1000);
  EXPECT_FALSE(window->desk().session.saved());
  key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_NEAR(volume("clamp/front"), before, 1e-6);
  EXPECT_TRUE(window->desk().session.saved());
  key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
  EXPECT_NEAR(volume("clamp/front"), after, 1e-6);
}

TEST_F(Walk, DrivenByIsEditedInPlace) {
  openDemo();
  const double before = volume("clamp/front");
  editCell(window->cutList().sheet(), 8, app::CutListModel::DrivenBy, "kerf * 3");
  EXPECT_LT(volume("clamp/front"), before);
  EXPECT_EQ(window->cutList().model()->index(8, 2).data().toString(), "kerf * 3");
}

TEST_F(Walk, SavesReopensAndSendsOut) {
  TemporaryFolder folder;
  openDemo();
  editCell(window->dimensions().sheet(), 9, 1, "3 mm");
  const double front = volume("clamp/front");
  const std::string path = (folder / "clamp.kervo").string();
  window->files().saveTo(QString::fromStdString(path));
  settle();
  EXPECT_TRUE(window->desk().session.saved());
  const std::string step = (folder.path() / "clamp.step").string();
  window->files().sendOutTo(QString::fromStdString(step));
  settle();
  Progress progress;
  const FileContents sent = readBodies(step, progress);
  ASSERT_EQ(sent.bodies.size(), 3u);
  EXPECT_NEAR(sent.bodies[1].shape.volume(), front, 1e-3);

  restart();
  open(path);
  EXPECT_NEAR(volume("clamp/front"), front, 1e-6);
  EXPECT_TRUE(window->files().recent().contains(QString::fromStdString(path)));
}

TEST_F(Walk, OpensAStepFileInAProcessOfItsOwn) {
  TemporaryFolder folder;
  openDemo();
  const std::string step = (folder.path() / "part.step").string();
  window->files().sendOutTo(QString::fromStdString(step));
  settle();
  const double front = volume("clamp/front");
  restart();
  open(step);
  EXPECT_EQ(model().bodies.size(), 3u);
  EXPECT_NEAR(volume("import1.2"), front, 1e-3);
  EXPECT_FALSE(window->desk().session.saved());
  // A second file joins the first.
  window->files().bringIn(QString::fromStdString(step));
  settle();
  EXPECT_EQ(model().bodies.size(), 6u);
}

TEST_F(Walk, ADamagedBodyIsShownAndRepaired) {
  open("/usr/share/opencascade/data/occ/Top.brep");
  EXPECT_TRUE(window->message().text().contains("is not valid")) << window->message().text().toStdString();
  const auto marked = [&] {
    const auto& lines = window->view().scene().lines;
    return std::any_of(lines.begin(), lines.end(),
                       [](const SceneLine& line) { return line.style == SceneLine::Style::Fault; });
  };
  EXPECT_TRUE(marked());
  click(button("Show it"));
  EXPECT_FALSE(window->message().isVisible());
  const auto& picks = window->desk().selection.picks();
  ASSERT_EQ(picks.size(), 1u);
  EXPECT_EQ(picks[0].kind, Pick::Kind::Face);
  click(button("Repair it …"));
  EXPECT_FALSE(marked()) << "the trial shows the body as it will be";
  key(Qt::Key_Return);
  EXPECT_EQ(window->cutList().model()->rowCount(), 2);
  ASSERT_EQ(model().bodies.size(), 1u);
  EXPECT_TRUE(model().bodies[0].shape().valid());
  EXPECT_FALSE(marked());
}

TEST_F(Walk, BrokenFileIsToldAndNothingIsLost) {
  TemporaryFolder folder;
  openDemo();
  for (const char* name : {"broken.step", "broken.kervo"}) {
    const auto path = folder.path() / name;
    std::ofstream(path) << "ISO-10303-21; this is not a model";
    window->files().bringIn(QString::fromStdString(path.string()));
    if (path.extension() == ".kervo") window->files().open(QString::fromStdString(path.string()));
    settle();
    EXPECT_TRUE(window->message().isVisible());
    EXPECT_TRUE(window->message().text().contains(name)) << window->message().text().toStdString();
    EXPECT_EQ(model().bodies.size(), 3u);
    click(button("Close"));
    EXPECT_FALSE(window->message().isVisible());
  }
}

TEST_F(Walk, ReadingThatTakesTooLongIsEnded) {
  TemporaryFolder folder;
  openDemo();
  const std::string step = (folder / "part.step").string();
  window->files().sendOutTo(QString::fromStdString(step));
  settle();
  window->files().reader().setLimit(0);
  window->files().bringIn(QString::fromStdString(step));
  settle();
  EXPECT_TRUE(window->message().text().contains("took longer")) << window->message().text().toStdString();
  EXPECT_EQ(model().bodies.size(), 3u);
}

/// A stored shape can hang who reads it: what no Kervo has read before is read by the reader first.
TEST_F(Walk, ShapesOfADocumentAreReadByTheReaderFirst) {
  TemporaryFolder folder;
  openDemo();
  const std::string step = (folder / "part.step").string(), document = (folder / "part.kervo").string();
  window->files().sendOutTo(QString::fromStdString(step));
  settle();
  QProcess convert;
  convert.start(QApplication::applicationDirPath() + "/kervo-cli",
                {"convert", QString::fromStdString(step), QString::fromStdString(document)});
  ASSERT_TRUE(convert.waitForFinished(60'000));
  ASSERT_EQ(convert.exitCode(), 0);
  window->files().reader().setLimit(0);
  open(document);
  EXPECT_TRUE(window->message().text().contains("took longer")) << window->message().text().toStdString();
  EXPECT_EQ(window->desk().session.document().made.steps.size(), demoSteps) << "the demo is still there";
  window->files().reader().setLimit(60);
  open(document);
  EXPECT_EQ(window->desk().session.document().made.steps.size(), 1u);
  EXPECT_EQ(model().bodies.size(), 3u);
  // Now they are known: the reader is not needed any more, not even by the next window.
  restart();
  window->files().reader().setLimit(0);
  open(document);
  EXPECT_EQ(model().bodies.size(), 3u);
  EXPECT_FALSE(window->message().isVisible()) << window->message().text().toStdString();
}

TEST_F(Walk, AShapeThatCannotBeReadLeavesTheWindowAsItIs) {
  TemporaryFolder folder;
  std::filesystem::create_directory(folder / "shapes");
  std::ofstream(folder / "document.json")
      << R"({"format":"kervo","version":1,"unit":"mm","dimensions":[],"steps":[{"id":"import1","kind":"bring-in","fields":)"
      << R"({"source":"a","unit":"mm","bodies":[{"shape":"bad","name":"Bad"}]}}]})";
  std::ofstream(folder / "shapes/bad.brep") << "no shape at all";
  openDemo();
  open((folder / "document.json").string());
  EXPECT_TRUE(window->message().text().contains("bad.brep")) << window->message().text().toStdString();
  EXPECT_EQ(window->desk().session.document().made.steps.size(), demoSteps);
}

/// How many processes of that name this one started and has not seen end.
int childrenCalled(const std::string& name) {
  int count = 0;
  for (const auto& entry : std::filesystem::directory_iterator("/proc")) {
    // "pid (name) state parent …"
    std::ifstream file(entry.path() / "stat");
    std::string pid, called, state;
    pid_t parent = 0;
    if (file >> pid >> called >> state >> parent && parent == getpid() && called == "(" + name + ")") ++count;
  }
  return count;
}

TEST_F(Walk, ClosingEndsTheReader) {
  TemporaryFolder folder;
  const auto pipe = folder / "endless.step";
  ASSERT_EQ(mkfifo(pipe.c_str(), 0600), 0);
  window->files().bringIn(QString::fromStdString(pipe.string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return childrenCalled("kervo-cli") == 1; }));
  const auto started = std::chrono::steady_clock::now();
  window.reset();
  EXPECT_LT(std::chrono::steady_clock::now() - started, std::chrono::seconds(10));
  EXPECT_EQ(childrenCalled("kervo-cli"), 0) << "the reader is still there";
}

}  // namespace
}  // namespace kervo::test
