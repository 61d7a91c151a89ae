// Meshes and assemblies in the window: a scan is brought in, repaired, split and pegged; a crate's tree is folded,
// filtered and chosen from.
#include <gmock/gmock.h>

#include <QComboBox>
#include <QDialog>
#include <QInputDialog>
#include <QLabel>
#include <QPushButton>
#include <QTableView>
#include <QTimer>
#include <cstring>
#include <fstream>

#include "app/panels/bodies_panel.h"
#include "app/parts_dialog.h"
#include "app/report_dialog.h"
#include "app/unit_dialog.h"
#include "exchange/body_file.h"
#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "support/meshes.h"
#include "support/trial_driver.h"

namespace kervo::test {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using Rows = app::BodiesModel;

class MeshWindow : public TrialTest {
 protected:
  /// As a scanner writes it: no unit, a hole, dust beside it.
  static void writeScan(const std::filesystem::path& path) {
    const Mesh scan = together({withHoles(ballMesh({0, 0, 0}, 5, 30), 500, 4000), boxMesh({9, 0, 0}, {9.1, 0.1, 0.1})});
    std::ofstream file(path, std::ios::binary);
    file << std::string(80, ' ');
    const auto put = [&](const auto& value) { file.write(reinterpret_cast<const char*>(&value), sizeof value); };
    put(static_cast<std::uint32_t>(scan.triangles().size()));
    for (const Mesh::Triangle& triangle : scan.triangles()) {
      for (int i = 0; i < 3; ++i) put(0.0F);
      for (const std::uint32_t corner : triangle)
        for (const double value : {scan.points()[corner].x, scan.points()[corner].y, scan.points()[corner].z})
          put(static_cast<float>(value));
      put(std::uint16_t{0});
    }
  }
  void find(const QString& verb) {
    key(Qt::Key_K, Qt::ControlModifier);
    type(verb);
    key(Qt::Key_Return);
  }
  QTableView* sheet() { return window->bodies().sheet(); }
  QString cell(int row, int column) {
    return sheet()->model()->index(row, column).data().toString().remove(QChar(0xA0));
  }
  std::vector<std::string> names() {
    std::vector<std::string> result;
    for (int row = 0; row < sheet()->model()->rowCount(); ++row) result.push_back(cell(row, Rows::Name).toStdString());
    return result;
  }
  void clickCell(int row, int column, Qt::KeyboardModifiers modifiers = {}) {
    clickAt(sheet()->viewport(), sheet()->visualRect(sheet()->model()->index(row, column)).center(), modifiers);
  }
  static Document crate() {
    std::vector<FileBody> bodies;
    const auto add = [&](const char* name, double x, std::vector<std::string> within) {
      bodies.push_back({name, makeBlockAt(x), std::nullopt, ""});
      bodies.back().within = std::move(within);
    };
    add("Lid", 0, {"Crate"});
    for (int i = 1; i <= 9; ++i) add(("Screw " + std::to_string(i)).c_str(), 20.0 * i, {"Crate", "Screws"});
    add("Stand", 300, {});
    return withBroughtIn({}, {bodies, "mm", {}}, "crate.step", allStepKinds());
  }
  static Shape makeBlockAt(double x) { return Shape(boxMesh({x, 0, 0}, {x + 10, 10, 10})); }
};

TEST_F(MeshWindow, AScanIsBroughtInRepairedSplitAndPegged) {
  const TemporaryFolder folder;
  writeScan(folder / "scan.stl");
  bool asked = false;
  QTimer wait;
  QObject::connect(&wait, &QTimer::timeout, window.get(), [&] {
    auto* dialog = qobject_cast<app::UnitDialog*>(QApplication::activeModalWidget());
    if (!dialog || asked) return;
    asked = true;
    auto* unit = dialog->findChild<QComboBox*>();
    unit->setFocus();
    EXPECT_EQ(unit->currentText(), "mm");
    QTest::keyClick(unit, Qt::Key_Down);
    EXPECT_EQ(dialog->unit(), "cm");
    QTest::keyClick(dialog, Qt::Key_Return);
  });
  wait.start(20);
  window->files().bringIn(QString::fromStdString((folder / "scan.stl").string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return asked && !model().bodies.empty(); }, 20'000));
  // Without a window manager nobody gives the keyboard back after a dialog.
  window->activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(window.get()));
  settle();
  const BodyId scan = model().bodies.front().id;
  EXPECT_NEAR(model().find(scan)->form.box().high.z, 50, 1e-3) << "centimetres";
  EXPECT_FALSE(model().find(scan)->form.watertight());
  EXPECT_EQ(cell(0, Rows::Kind), "mesh");
  // Repaired, with what was done on the Bench before it is made.
  clickCell(0, Rows::Name);
  ASSERT_EQ(window->desk().selection.bodies(), std::vector<BodyId>{scan});
  find("Repair bodies");
  ASSERT_TRUE(window->desk().trial.active()) << window->message().text().toStdString();
  ASSERT_EQ(window->desk().trial.step().kind().key(), "repair");
  tabTo("Keep the largest part only");
  key(Qt::Key_Space);
  EXPECT_THAT(tried().audit.notes.front(), HasSubstr("1 hole was filled"));
  EXPECT_TRUE(hasLine("1 smaller part went"));
  key(Qt::Key_Return);
  const double whole = model().find(scan)->form.volume();
  EXPECT_NEAR(whole, 1000 * ballMesh({0, 0, 0}, 5, 30).volume(), 1e-4 * whole);
  // A click in the view takes the whole of it, and its measures are told.
  window->desk().selection.clear();
  window->view().goHome();
  clickPoint({0, 0, 0});
  EXPECT_EQ(window->desk().selection.picks(), (std::vector<Pick>{{Pick::Kind::Body, scan, 0}}));
  const auto told = [&] {
    QStringList texts;
    for (const QLabel* label : window->findChildren<QLabel*>())
      if (label->isVisible()) texts << label->text();
    return texts;
  };
  EXPECT_TRUE(QTest::qWaitFor([&] { return told().contains("Triangles") && told().contains("Volume"); }))
      << told().join(" · ").toStdString();
  // Split, with both pieces as badges.
  clickCell(0, Rows::Name);
  find("Split");
  EXPECT_EQ(tried().pieces.size(), 2u);
  const QPoint one = badgeOf(tried().pieces[0].key), other = badgeOf(tried().pieces[1].key);
  EXPECT_GT((one - other).manhattanLength(), 40) << "each badge on its own half";
  EXPECT_NEAR(tried().audit.balance, 0, 1e-6 * whole);
  key(Qt::Key_Return);
  ASSERT_EQ(model().bodies.size(), 2u);
  EXPECT_NEAR(model().bodies[0].form.volume() + model().bodies[1].form.volume(), whole, 1e-6 * whole);
  // Pegged by an exact cylinder.
  window->desk().session.edit("peg", [](const Document& now) {
    return now.withStep(
        step("peg", "cylinder",
             {{"radius", expression("8 mm")}, {"height", expression("30 mm")}, {"at", point("0", "0", "-15 mm")}}));
  });
  settle();
  const double before = model().bodies[0].form.volume();
  clickCell(0, Rows::Name);
  clickCell(2, Rows::Name, Qt::ControlModifier);
  find("Combine");
  EXPECT_TRUE(hasLine("meshed within")) << "how exactly the cylinder is taken stands beside";
  key(Qt::Key_Return);
  EXPECT_FALSE(model().failed());
  EXPECT_LT(model().bodies[0].form.volume(), before);
  EXPECT_EQ(model().bodies[0].form.kind(), BodyKind::Mesh);
}

TEST_F(MeshWindow, ATreeIsFoldedFilteredAndChosenFrom) {
  start(crate());
  EXPECT_EQ(names().size(), 13u);
  EXPECT_EQ(names()[0], "Crate");
  EXPECT_EQ(names()[2], "Screws");
  EXPECT_EQ(cell(0, Rows::Kind), "10");
  // An assembly stands for all that is in it.
  clickCell(2, Rows::Eye);
  EXPECT_EQ(window->desk().selection.bodies().size(), 9u);
  EXPECT_FALSE(model().bodies[3].visible);
  clickCell(2, Rows::Eye);
  EXPECT_TRUE(model().bodies[3].visible);
  // Folded, and unfolded by what is picked elsewhere.
  clickCell(2, Rows::Swatch);
  EXPECT_THAT(names(), ElementsAre("Crate", "Lid", "Screws", "Stand"));
  window->view().setFocus();
  window->desk().selection.set({{Pick::Kind::Body, model().bodies[5].id, 0}});
  settle();
  EXPECT_EQ(names().size(), 13u);
  // Filtered by typing; assemblies of what is found stay.
  auto* filter = named<QLineEdit>("Filter the bodies");
  typeInto(filter, "screw 3");
  EXPECT_THAT(names(), ElementsAre("Crate", "Screws", "Screw 3"));
  click(filter);
  key(Qt::Key_A, Qt::ControlModifier);
  key(Qt::Key_Delete);
  EXPECT_EQ(names().size(), 13u);
  // All of the same size as one of them; only those are shown.
  clickCell(1, Rows::Name);
  window->bodies().selectAlike(app::BodiesPanel::Alike::Size);
  EXPECT_EQ(window->desk().selection.bodies().size(), 11u);
  clickCell(2, Rows::Name);
  window->bodies().showOnlySelected();
  settle();
  EXPECT_EQ(std::count_if(model().bodies.begin(), model().bodies.end(), [](const Body& body) { return body.visible; }),
            9);
}

// Of a file with a broken body the others are chosen from; nothing comes in before that.
TEST_F(MeshWindow, OfABrokenFileWhatCanBeReadIsChosenFrom) {
  const TemporaryFolder folder;
  const auto object = [](const char* name, int first) {
    std::string text = std::string("o ") + name + "\nv 0 0 0\nv 10 0 0\nv 0 10 0\nv 0 0 10\n";
    for (const auto& [a, b, c] : {std::tuple(1, 3, 2), std::tuple(1, 2, 4), std::tuple(2, 3, 4), std::tuple(3, 1, 4)}) {
      text += "f";
      for (const int corner : {a, b, c}) text += " " + std::to_string(first + corner);
      text += "\n";
    }
    return text;
  };
  std::ofstream(folder / "set.obj") << "# Kervo, lengths in mm\n"
                                    << object("Lid", 0) << object("Pin", 4) << "o Bolt\nf 1 2 999\n"
                                    << object("Nut", 8);
  window->files().bringIn(QString::fromStdString((folder / "set.obj").string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return window->message().text().contains("Bolt"); }, 20'000));
  EXPECT_TRUE(model().bodies.empty());
  click(button("Choose from what can be read …"));
  app::PartsDialog* dialog = nullptr;
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return (dialog = qobject_cast<app::PartsDialog*>(QApplication::activeModalWidget())) != nullptr; },
      20'000));
  auto* list = dialog->findChild<QTreeWidget*>();
  ASSERT_EQ(list->topLevelItemCount(), 4);
  EXPECT_EQ(list->topLevelItem(0)->text(1).toStdString(), "mesh, 4 triangles");
  EXPECT_TRUE(list->topLevelItem(3)->text(0).contains("Bolt")) << "what is lost stands below";
  // The second one is not wanted.
  QTest::keyClick(list, Qt::Key_Down);
  QTest::keyClick(list, Qt::Key_Space);
  EXPECT_EQ(dialog->chosen(), (std::vector<std::size_t>{0, 2}));
  QTest::mouseClick(dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok), Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !model().bodies.empty(); }, 20'000));
  window->activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(window.get()));
  settle();
  EXPECT_THAT(names(), ElementsAre("Lid", "Nut"));
}

TEST_F(MeshWindow, BodiesAreFadedAndTakePart) {
  start(documentOf({block("a", "10", "10", "10"), block("b", "10", "10", "10", {"20 mm", "0", "0"})}));
  const auto role = [&](const BodyId& id) {
    for (const SceneBody& each : window->view().scene().bodies)
      if (each.id == id) return each.role;
    return Role::Waste;
  };
  window->desk().selection.set({body("a")});
  settle();
  find("Fade");
  EXPECT_TRUE(model().bodies[0].faded);
  EXPECT_EQ(role("a"), Role::Behind);
  EXPECT_EQ(role("b"), Role::Plain);
  EXPECT_EQ(sheet()->model()->index(0, Rows::Eye).data(Qt::AccessibleTextRole).toString().toStdString(), "faded");
  find("Unfade");
  EXPECT_EQ(role("a"), Role::Plain);
}

TEST_F(MeshWindow, BodiesArePutIntoAssembliesWhichAreRenamed) {
  start(documentOf({block("a", "10", "10", "10"), block("b", "10", "10", "10", {"20 mm", "0", "0"}),
                    block("c", "10", "10", "10", {"40 mm", "0", "0"})}));
  const auto put = [&](const std::vector<const char*>& bodies, const QString& path) {
    std::vector<Pick> picks;
    for (const char* id : bodies) picks.push_back(body(id));
    window->desk().selection.set(picks);
    settle();
    QTimer answer;
    QObject::connect(&answer, &QTimer::timeout, [&] {
      auto* dialog = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
      if (!dialog) return;
      answer.stop();
      dialog->setTextValue(path);
      QTest::keyClick(dialog, Qt::Key_Return);
    });
    answer.start(50);
    find("Put into an assembly");
    EXPECT_FALSE(answer.isActive()) << "nobody asked";
    window->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(window.get()));
    settle();
  };
  put({"a", "b"}, "Crate / Lid");
  EXPECT_THAT(names(), ElementsAre("Crate", "Lid", "Block", "Block", "Block"));
  put({"c"}, "Crate");
  EXPECT_THAT(model().bodies[2].within, ElementsAre("Crate"));
  // Renamed in its row, for all that is in it.
  auto* list = window->bodies().findChild<QTableView*>();
  ASSERT_TRUE(list);
  list->model()->setData(list->model()->index(0, Rows::Name), "Chest", Qt::EditRole);
  settle();
  EXPECT_THAT(model().bodies[0].within, ElementsAre("Chest", "Lid"));
  EXPECT_THAT(model().bodies[2].within, ElementsAre("Chest"));
  put({"a"}, "");
  EXPECT_TRUE(model().bodies[0].within.empty());
  key(Qt::Key_Z, Qt::ControlModifier);
  settle();
  EXPECT_THAT(model().bodies[0].within, ElementsAre("Chest", "Lid"));
}

// A supplier sends a plate again, longer and with another hole: what was done on it holds, and the report says what
// changed.
TEST_F(MeshWindow, AFileIsReloadedAndReported) {
  const TemporaryFolder folder;
  const auto write = [&](double length, double hole) {
    Progress progress;
    const Shape plate = makeBlock("p", {}, length, 60, 10);
    const Shape drilled =
        divide(plate, {makeCylinder("d", Plane::through({hole, 30, -1}, {0, 0, 1}), 5, 12)}, progress).outside;
    writeBodies(folder / "plate.step", {{"Plate", drilled, std::nullopt, ""}}, "mm", progress);
  };
  write(100, 30);
  window->files().bringIn(QString::fromStdString((folder / "plate.step").string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return !model().bodies.empty(); }, 20'000));
  settle();
  window->desk().session.edit("halve", [](const Document& now) {
    return now.withStep(
        step("halve", "split",
             {{"stock", bodies({"import1"})}, {"cutters", cutBy("xz")}, {"offset", Expression("-30 mm")}}));
  });
  settle();
  EXPECT_EQ(model().bodies.size(), 2u);
  write(140, 30);
  clickCell(0, Rows::Name);
  find("Reload from its file");
  ASSERT_TRUE(QTest::qWaitFor([&] { return window->message().text().contains("Reload plate.step"); }, 20'000));
  settle();
  EXPECT_TRUE(window->message().text().contains("1 body changed")) << window->message().text().toStdString();
  double volume = 0;
  for (const Body& body : model().bodies) volume += body.form.volume();
  EXPECT_NEAR(volume, 140 * 60 * 10 - 250 * std::numbers::pi, 1e-4);
  EXPECT_FALSE(model().failed());
  click(button("Show the report"));
  auto* report = window->findChild<app::ReportDialog*>();
  ASSERT_NE(report, nullptr);
  ASSERT_EQ(report->list()->topLevelItemCount(), 1);
  EXPECT_EQ(report->list()->topLevelItem(0)->text(0), "Plate");
  EXPECT_TRUE(report->list()->topLevelItem(0)->text(1).startsWith("changed"))
      << report->list()->topLevelItem(0)->text(1).toStdString();
  report->close();
  key(Qt::Key_Z, Qt::ControlModifier);
  volume = 0;
  for (const Body& body : model().bodies) volume += body.form.volume();
  EXPECT_NEAR(volume, 100 * 60 * 10 - 250 * std::numbers::pi, 1e-4) << "taken back";
}

}  // namespace
}  // namespace kervo::test
