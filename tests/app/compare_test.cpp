// What a change did, what would break, what bodies are made of, how far sets of them are apart, and numbers that stay.
#include <QClipboard>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QTreeWidget>

#include "app/compare/compare_dialog.h"
#include "app/panels/clearance_dialog.h"
#include "app/panels/materials_dialog.h"
#include "app/panels/measure_panel.h"
#include "app/shop/view_out_dialog.h"
#include "exchange/kervo_file.h"
#include "support/temporary_folder.h"
#include "support/trial_driver.h"

namespace kervo::test {
namespace {

class CompareTest : public TrialTest {
 protected:
  void waitFor(const std::function<bool()>& done) { ASSERT_TRUE(QTest::qWaitFor(done, 20'000)); }
  Document bored(const char* length) {
    return documentOf({block("plate", "length", "60", "10"),
                       drawing("d", test::onFace("plate", "plate:top"), {circle("c", "40", "30", "8")}),
                       step("bore", "cut", {{"stock", bodies({"plate"})}, {"profiles", allOf("d")}})},
                      {{"length", Expression(length)}});
  }
  void pressButton(QWidget& within, const QString& text) {
    for (auto* button : within.findChildren<QPushButton*>())
      if (button->text() == text) {
        QTest::mouseClick(button, Qt::LeftButton);
        return settle();
      }
    ADD_FAILURE() << "no button " << text.toStdString();
  }
  std::size_t count(Role role) {
    const auto& bodies = window->view().scene().bodies;
    return static_cast<std::size_t>(
        std::count_if(bodies.begin(), bodies.end(), [&](const SceneBody& each) { return each.role == role; }));
  }
};

TEST_F(CompareTest, WhatADimensionDidIsOneClickAway) {
  start(bored("100 mm"));
  editCell(window->dimensions().sheet(), 0, 1, "120 mm");
  ASSERT_EQ(volume("plate"), volume("plate"));
  QToolButton* link = nullptr;
  for (auto* each : window->dimensions().findChildren<QToolButton*>())
    if (each->accessibleName() == "What changed") link = each;
  ASSERT_NE(link, nullptr);
  click(link);
  auto* dialog = window->findChild<app::CompareDialog*>();
  ASSERT_NE(dialog, nullptr);
  waitFor([&] { return !dialog->busy(); });
  ASSERT_EQ(dialog->list()->topLevelItemCount(), 1) << dialog->sum().toStdString();
  EXPECT_EQ(dialog->list()->topLevelItem(0)->text(1), "12.00 cm³");
  EXPECT_EQ(dialog->list()->topLevelItem(0)->text(2), QStringLiteral("–"));
  EXPECT_EQ(count(Role::Added), 1u) << "it is seen in the view";
  EXPECT_EQ(count(Role::Waste), 0u);
  // It follows: taken back, the change is the other way round.
  window->desk().session.edit("shorter",
                              [](const Document& d) { return d.withDimension("length", Expression("90 mm")); });
  settle();
  waitFor([&] {
    return !dialog->busy() && dialog->list()->topLevelItemCount() == 1 &&
           dialog->list()->topLevelItem(0)->text(2) == "18.00 cm³";
  });
  EXPECT_EQ(count(Role::Waste), 1u);
  dialog->close();
  settle();
  EXPECT_EQ(count(Role::Waste), 0u) << "the model is back";
  EXPECT_EQ(count(Role::Plain), 1u);
}

TEST_F(CompareTest, AFileIsComparedToo) {
  TemporaryFolder folder;
  Progress progress;
  writeDocument(folder / "old.kervo", bored("80 mm"), progress);
  start(bored("100 mm"));
  app::CompareDialog dialog(window->desk(), window->files(), window.get());
  dialog.show();
  dialog.compareWith(app::CompareDialog::With::File, QString::fromStdString((folder / "old.kervo").string()));
  waitFor([&] { return !dialog.busy() && dialog.list()->topLevelItemCount() == 1; });
  EXPECT_EQ(dialog.list()->topLevelItem(0)->text(1), "12.00 cm³");
  dialog.compareWith(app::CompareDialog::With::LastEdit);
  EXPECT_TRUE(dialog.sum().contains("Nothing was changed")) << dialog.sum().toStdString();
}

TEST_F(CompareTest, DeletingWhatOthersUseIsAskedFirst) {
  start(bored("100 mm"));
  window->desk().selection.setStep("plate");
  window->cutList().sheet()->setFocus();
  settle();
  key(Qt::Key_Delete);
  EXPECT_EQ(window->desk().session.document().made.steps.size(), 3u);
  EXPECT_TRUE(window->message().text().contains("would fail without it")) << window->message().text().toStdString();
  pressButton(window->message(), "Keep it");
  EXPECT_EQ(window->desk().session.document().made.steps.size(), 3u);
  window->cutList().sheet()->setFocus();
  key(Qt::Key_Delete);
  pressButton(window->message(), "Delete it");
  EXPECT_EQ(window->desk().session.document().made.steps.size(), 2u);
  key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_EQ(window->desk().session.document().made.steps.size(), 3u);
  // What nobody uses goes at once.
  window->desk().selection.setStep("bore");
  window->cutList().sheet()->setFocus();
  settle();
  key(Qt::Key_Delete);
  EXPECT_EQ(window->desk().session.document().made.steps.size(), 2u);
}

TEST_F(CompareTest, AMaterialGivesTheMass) {
  start(documentOf({plate()}));
  window->desk().selection.set({body("plate")});
  settle();
  QComboBox* list = nullptr;
  for (auto* each : window->bodies().findChildren<QComboBox*>())
    if (each->accessibleName().startsWith("Material")) list = each;
  ASSERT_NE(list, nullptr);
  chooseFrom(list, "steel");
  EXPECT_EQ(window->desk().session.document().seen.bodies.at("plate").material, "steel");
  EXPECT_NEAR(model().find("plate")->density, 7850, 1e-9);
  QString mass;
  const auto labels = window->findChild<app::MeasurePanel*>()->findChildren<QLabel*>();
  for (qsizetype i = 0; i + 1 < labels.size(); ++i)
    if (labels[i]->text() == "Mass") mass = labels[i + 1]->text();
  EXPECT_EQ(mass, "471.0 g");
  // The list is edited, a wrong density refused.
  app::MaterialsDialog dialog(window->desk(), window.get());
  dialog.show();
  EXPECT_EQ(dialog.table()->item(0, 3)->text(), "471.0 g");
  dialog.table()->item(0, 1)->setText("light");
  pressButton(dialog, "OK");
  EXPECT_TRUE(dialog.isVisible());
  EXPECT_TRUE(dialog.trouble().contains("no density")) << dialog.trouble().toStdString();
  dialog.table()->item(0, 1)->setText("8000");
  pressButton(dialog, "OK");
  EXPECT_FALSE(dialog.isVisible());
  settle();
  EXPECT_NEAR(model().find("plate")->density, 8000, 1e-9);
  key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_NEAR(model().find("plate")->density, 7850, 1e-9);
}

TEST_F(CompareTest, TwoSetsTellTheirClearanceAndOverlap) {
  start(documentOf({plate(), block("post", "10", "10", "20", {"-5", "-5", "5"}),
                    block("far", "10", "10", "20", {"-5", "-5", "40"})}));
  window->desk().selection.set({body("plate")});
  app::ClearanceDialog dialog(window->desk(), window.get());
  std::optional<MeasureMark> mark;
  QObject::connect(&dialog, &app::ClearanceDialog::markWanted, [&](const std::optional<MeasureMark>& m) { mark = m; });
  std::pair<BodyId, BodyId> overlap;
  QObject::connect(&dialog, &app::ClearanceDialog::overlapWanted, [&](const BodyId& a, const BodyId& b) {
    overlap = {a, b};
  });
  dialog.show();
  waitFor([&] { return !dialog.busy(); });
  ASSERT_EQ(dialog.list()->topLevelItemCount(), 2);
  EXPECT_TRUE(dialog.sum().startsWith("1 pairs overlap")) << dialog.sum().toStdString();
  EXPECT_EQ(dialog.list()->topLevelItem(0)->text(3), "0.50 cm³");
  EXPECT_EQ(dialog.list()->topLevelItem(1)->text(2), "30.00 mm");
  QTest::mouseClick(dialog.list()->viewport(), Qt::LeftButton, {},
                    dialog.list()->visualItemRect(dialog.list()->topLevelItem(1)).center());
  ASSERT_TRUE(mark);
  EXPECT_EQ(mark->text, "30.00 mm");
  dialog.list()->setCurrentItem(dialog.list()->topLevelItem(0));
  pressButton(dialog, "Overlap as a body …");
  EXPECT_EQ(overlap.first, BodyId("plate"));
  EXPECT_EQ(overlap.second, BodyId("post"));
}

TEST_F(CompareTest, AMeasureIsKeptInTheViewAndDrivesALaterStep) {
  start(documentOf({plate(), block("post", "10", "10", "20", {"-5", "-5", "25"})}));
  window->desk().selection.set({body("plate"), body("post")});
  settle();
  auto* panel = window->findChild<app::MeasurePanel*>();
  QToolButton* keep = nullptr;
  waitFor([&] {
    for (auto* each : panel->findChildren<QToolButton*>())
      if (each->accessibleName() == "Keep Clearance") keep = each;
    return keep != nullptr;
  });
  // All numbers as text.
  for (auto* each : panel->findChildren<QToolButton*>())
    if (each->text() == "copy") click(each);
  EXPECT_TRUE(QApplication::clipboard()->text().contains("Clearance\t15.00 mm"))
      << QApplication::clipboard()->text().toStdString();
  click(keep);
  ASSERT_TRUE(window->desk().trial.active());
  typeByKeys("Dimension", "room");
  key(Qt::Key_Return);
  settle();
  ASSERT_FALSE(window->desk().trial.active()) << window->message().text().toStdString();
  ASSERT_EQ(model().steps.size(), 3u);
  ASSERT_EQ(errorOf(model(), model().steps.back().id), "no error");
  ASSERT_EQ(window->view().pins().size(), 1u);
  EXPECT_EQ(window->view().pins()[0].text, "room = 15.00 mm");
  // It stands among the dimensions, and later steps use it.
  auto* sheet = window->dimensions().sheet();
  ASSERT_EQ(sheet->model()->rowCount(), 1);
  EXPECT_EQ(sheet->model()->index(0, 2).data().toString(), "15.00 mm");
  window->desk().session.edit("more",
                              [&](const Document& d) { return d.withStep(block("spacer", "10", "10", "room")); });
  settle();
  EXPECT_NEAR(volume("spacer"), 1500, 1e-6);
  // Renamed in its row, it is renamed in the step and where it is used.
  editCell(sheet, 0, 0, "clear");
  EXPECT_NEAR(volume("spacer"), 1500, 1e-6);
  EXPECT_EQ(window->view().pins()[0].text, "clear = 15.00 mm");
}

TEST_F(CompareTest, TheThinnestWallIsFoundOnRequest) {
  start(bored("100 mm"));
  window->desk().selection.set({body("plate")});
  settle();
  auto* panel = window->findChild<app::MeasurePanel*>();
  for (auto* each : panel->findChildren<QToolButton*>())
    if (each->text() == "find the thinnest wall") click(each);
  waitFor([&] { return window->view().measured().has_value(); });
  ASSERT_TRUE(window->view().measured());
  EXPECT_EQ(window->view().measured()->text, "10.00 mm");
}

TEST_F(CompareTest, AViewIsDrawnAtScale) {
  TemporaryFolder folder;
  start(documentOf({plate(), block("post", "10", "10", "20", {"-5", "-5", "10"})}));
  key(Qt::Key_3, Qt::ControlModifier);
  app::ViewOutDialog dialog(window->desk(), window->views().now("now"), window.get());
  dialog.show();
  waitFor([&] { return dialog.ready(); });
  EXPECT_TRUE(dialog.notes().startsWith("2 bodies, 120 × ")) << dialog.notes().toStdString();
  QStringList files;
  QObject::connect(&dialog, &app::FlatOutDialog::written, [&](const QStringList& paths) { files = paths; });
  dialog.writeTo(QString::fromStdString((folder / "x.pdf").string()));
  waitFor([&] { return files.size() == 1; });
  EXPECT_GT(std::filesystem::file_size(folder / "x.pdf"), 500u);
}

}  // namespace
}  // namespace kervo::test
