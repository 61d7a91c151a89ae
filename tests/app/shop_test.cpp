// Cut sheets, drawn sections and the simulated cutter in the window.
#include <QComboBox>
#include <QListWidget>
#include <QSettings>
#include <QSlider>

#include "app/shop/cutter_panel.h"
#include "app/shop/flat_out_dialog.h"
#include "app/shop/printer_panel.h"
#include "geom/primitives.h"
#include "support/temporary_folder.h"
#include "support/trial_driver.h"

namespace kervo::test {
namespace {

class ShopTest : public TrialTest {
 protected:
  Document sliced() {
    return documentOf({plate(), step("s", "slices",
                                     {{"gives", text("faces")},
                                      {"count", Expression("3")},
                                      {"spacing", Expression("3 mm")},
                                      {"start", Expression("2 mm")},
                                      {"numbers", text("as curves")}})});
  }
  void waitFor(const std::function<bool()>& done) { ASSERT_TRUE(QTest::qWaitFor(done, 20'000)); }
  void typeInto(QWidget& dialog, const QString& name, const QString& text) {
    for (auto* line : dialog.findChildren<QLineEdit*>()) {
      if (line->accessibleName() != name) continue;
      QTest::mouseClick(line, Qt::LeftButton);
      QTest::keyClick(line, Qt::Key_A, Qt::ControlModifier);
      QTest::keyClicks(line, text);
      return;
    }
    ADD_FAILURE() << "no line " << name.toStdString();
  }
};

TEST_F(ShopTest, SheetsAreLaidOutWrittenAndPlayed) {
  TemporaryFolder folder;
  QSettings().remove("sheet");
  start(sliced());
  app::SheetsDialog dialog(window->desk(), model().bodies, window.get());
  dialog.show();
  waitFor([&] { return dialog.ready(); });
  EXPECT_EQ(dialog.notes(), "3 parts on one sheet, 7.5 % used") << dialog.notes().toStdString();
  // A sheet for one plate only; a wrong size is told and nothing can be written.
  typeInto(dialog, "Sheet width", "110 mm");
  typeInto(dialog, "Sheet height", "70 mm");
  waitFor([&] { return dialog.ready() && dialog.notes().contains("3 sheets"); });
  auto* pages = dialog.findChild<QComboBox*>();
  ASSERT_TRUE(pages->isVisible());
  EXPECT_EQ(pages->count(), 3);
  typeInto(dialog, "Kerf", "lots");
  waitFor([&] { return !dialog.ready() && dialog.notes().contains("lots"); });
  typeInto(dialog, "Kerf", "0.4 mm");
  waitFor([&] { return dialog.ready(); });
  QStringList files;
  QObject::connect(&dialog, &app::FlatOutDialog::written, [&](const QStringList& paths) { files = paths; });
  dialog.writeTo(QString::fromStdString((folder / "x.dxf").string()));
  waitFor([&] { return files.size() == 3; });
  // Played from the dialog: the file of the sheet that is shown.
  for (auto* button : dialog.findChildren<QPushButton*>())
    if (button->text() == "Play the cuts") QTest::mouseClick(button, Qt::LeftButton);
  auto* played = dialog.findChild<app::CutterPanel*>();
  ASSERT_NE(played, nullptr);
  EXPECT_TRUE(played->isVisible());
  EXPECT_EQ(played->windowTitle(), "x-1.dxf");
  EXPECT_EQ(played->run().freed.size(), 1u);

  app::CutterPanel cutter;
  cutter.open(files.front());
  cutter.show();
  ASSERT_EQ(cutter.run().freed.size(), 1u);
  EXPECT_TRUE(cutter.run().findings.empty());
  auto* list = cutter.findChild<QListWidget*>();
  ASSERT_EQ(list->count(), 1);
  // What falls is gone to from the list, and played from the start.
  cutter.setTime(0);
  list->setCurrentRow(0);
  QTest::keyClick(list, Qt::Key_Return);
  EXPECT_NEAR(cutter.time(), cutter.run().freed[0].at, 1e-9);
  QTest::mouseClick(cutter.findChild<QPushButton*>(), Qt::LeftButton);
  waitFor([&] { return cutter.time() > 0.1 && cutter.time() < cutter.run().seconds; });
  QTest::mouseClick(cutter.findChild<QPushButton*>(), Qt::LeftButton);
  const double stopped = cutter.time();
  QTest::qWait(100);
  EXPECT_EQ(cutter.time(), stopped);
}

TEST_F(ShopTest, APrintIsPlayedLayerByLayer) {
  TemporaryFolder folder;
  const std::filesystem::path path = folder / "table.3mf";
  Progress progress;
  const auto part = [](const std::string& name, Point at, double width, double height) {
    return FileBody{name, makeBlock(name, Plane::through(at, {0, 0, 1}), width, width, height), Color{0.8, 0.6, 0.3},
                    ""};
  };
  writeBodies(path, {part("leg", {8, 8, 0}, 4, 6), part("floats", {30, 0, 4}, 5, 2)}, "mm", progress);
  app::Worker worker;
  app::PrinterPanel panel(worker);
  panel.resize(900, 600);
  panel.open(QString::fromStdString(path.string()));
  panel.show();
  waitFor([&] { return panel.run() != nullptr; });
  ASSERT_EQ(panel.run()->layers.size(), 30u);
  // What begins in the air is gone to from the list.
  auto* list = panel.findChild<QListWidget*>();
  ASSERT_EQ(list->count(), 2);
  list->setFocus();
  list->setCurrentRow(1);
  QTest::keyClick(list, Qt::Key_Return);
  EXPECT_EQ(panel.layer(), 20u);
  // The slider with keys, then played from there, and held.
  auto* slider = panel.findChild<QSlider*>();
  QTest::keyClick(slider, Qt::Key_Home);
  EXPECT_EQ(panel.layer(), 0u);
  auto* play = panel.findChild<QPushButton*>();
  QTest::mouseClick(play, Qt::LeftButton);
  waitFor([&] { return panel.layer() > 2; });
  QTest::mouseClick(play, Qt::LeftButton);
  const std::size_t held = panel.layer();
  QTest::qWait(150);
  EXPECT_EQ(panel.layer(), held);
  // Higher layers are fewer.
  for (auto* box : panel.findChildren<QDoubleSpinBox*>())
    if (box->accessibleName() == "Layer") {
      box->setFocus();
      box->selectAll();
      QTest::keyClicks(box, "0.5");
      QTest::keyClick(box, Qt::Key_Return);
    }
  waitFor([&] { return panel.run() && panel.run()->layers.size() == 12; });
}

TEST_F(ShopTest, SheetsBeginWithTheSizesOfTheLastOnes) {
  start(sliced());
  QSettings().remove("sheet");
  {
    app::SheetsDialog dialog(window->desk(), model().bodies, window.get());
    dialog.show();
    typeInto(dialog, "Sheet width", "300 mm");
    waitFor([&] { return dialog.ready() && QSettings().value("sheet/width").toString() == "300 mm"; });
    typeInto(dialog, "Sheet width", "wide");
    waitFor([&] { return !dialog.ready(); });
  }
  app::SheetsDialog next(window->desk(), model().bodies, window.get());
  const auto lines = next.findChildren<QLineEdit*>();
  const auto width = std::find_if(lines.begin(), lines.end(),
                                  [](const QLineEdit* line) { return line->accessibleName() == "Sheet width"; });
  ASSERT_NE(width, lines.end());
  EXPECT_EQ((*width)->text(), "300 mm") << "what was no length is not kept";
  QSettings().remove("sheet");
}

TEST_F(ShopTest, ASectionIsDrawnAtScale) {
  TemporaryFolder folder;
  start(documentOf(
      {plate(), step("a", "section", {{"plane", PlanePick::standard("xy")}, {"offset", Expression("5 mm")}})}));
  app::SectionOutDialog dialog(window->desk(), window.get());
  dialog.show();
  waitFor([&] { return dialog.ready(); });
  EXPECT_TRUE(dialog.notes().contains("60.00 cm²")) << dialog.notes().toStdString();
  typeInto(dialog, "Scale", "1:0");
  waitFor([&] { return !dialog.ready() && dialog.notes().contains("no scale"); });
  typeInto(dialog, "Scale", "2:1");
  waitFor([&] { return dialog.ready(); });
  EXPECT_NEAR(dialog.view().picture().width, 2 * 100 + 20, 1e-6);
  QStringList files;
  QObject::connect(&dialog, &app::FlatOutDialog::written, [&](const QStringList& paths) { files = paths; });
  dialog.writeTo(QString::fromStdString((folder / "x.pdf").string()));
  waitFor([&] { return files.size() == 1; });
  EXPECT_TRUE(std::filesystem::exists(folder / "x.pdf"));
}

}  // namespace
}  // namespace kervo::test
