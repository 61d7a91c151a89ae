// Lists and panels, Find, files left open, and what survives a crash.
#include <QDropEvent>
#include <QJsonDocument>
#include <QJsonObject>
#include <QLockFile>
#include <QMessageBox>
#include <QMimeData>
#include <QProcess>
#include <QRegularExpression>
#include <QScreen>
#include <QTableWidget>
#include <QTimer>

#include "app/find_box.h"
#include "app/look.h"
#include "app/panels/driven_by.h"
#include "exchange/document_json.h"
#include "exchange/kervo_file.h"
#include "steps/registry.h"
#include "support/document_builder.h"
#include "support/window_driver.h"

namespace kervo::test {
namespace {

using WindowPanels = WindowTest;

TEST_F(WindowPanels, StepsAreSwitchedRenamedMovedAndDeleted) {
  openDemo();
  auto* sheet = window->cutList().sheet();
  const double whole = volume("clamp/front");
  window->desk().selection.setStep("rounds");
  key(Qt::Key_T, Qt::ControlModifier);
  EXPECT_GT(volume("clamp/front"), whole);
  key(Qt::Key_T, Qt::ControlModifier);
  EXPECT_NEAR(volume("clamp/front"), whole, 1e-6);

  editCell(sheet, 7, app::CutListModel::Name, "Soft edges");
  EXPECT_EQ(sheet->model()->index(7, 1).data().toString(), "Soft edges");

  // The bore's drawing cannot come after the cut that uses it.
  window->desk().selection.setStep("bore_outline");
  key(Qt::Key_Down, Qt::ControlModifier | Qt::ShiftModifier);
  EXPECT_TRUE(window->message().isVisible());
  EXPECT_TRUE(window->message().text().contains("cannot stand after \"Cut through\""));
  EXPECT_EQ(window->cutList().model()->rowOf("bore_outline"), 3);

  // But the mast may come after the clamp.
  window->desk().selection.setStep("mast");
  key(Qt::Key_Down, Qt::ControlModifier | Qt::ShiftModifier);
  EXPECT_EQ(window->cutList().model()->rowOf("mast"), 1);

  sheet->setFocus();
  window->desk().selection.setStep("halves");
  key(Qt::Key_Delete);
  EXPECT_EQ(window->cutList().model()->rowCount(), 8);
  EXPECT_EQ(model().bodies.size(), 2u);
}

TEST_F(WindowPanels, FailedStepSaysSoInItsOwnWords) {
  openDemo();
  editCell(window->dimensions().sheet(), 8, 1, "300 mm");
  EXPECT_TRUE(model().failed());
  EXPECT_EQ(window->cutList().model()->index(7, 3).data().toString(), "failed");
  bool told = false;
  for (QLabel* label : window->cutList().findChildren<QLabel*>("bad"))
    told = told || (label->isVisible() && label->text().startsWith("Round edges"));
  EXPECT_TRUE(told);
}

TEST_F(WindowPanels, DimensionIsAddedRenamedEverywhereAndRefusedWhenWrong) {
  openDemo();
  auto* sheet = window->dimensions().sheet();
  editCell(sheet, 0, 0, "pole");
  EXPECT_EQ(sheet->model()->index(3, 1).data().toString(), "pole + 2 * wall");
  EXPECT_NEAR(volume("clamp/front"), 83571.744, 0.01);
  editCell(sheet, 0, 0, "wall");
  EXPECT_TRUE(window->message().text().contains("already a dimension"));
  EXPECT_EQ(sheet->model()->index(0, 0).data().toString(), "pole");
  sheet->setCurrentIndex(sheet->model()->index(2, 0));
  sheet->setFocus();
  key(Qt::Key_Delete);
  EXPECT_TRUE(window->message().text().contains("in use"));
  editCell(sheet, 1, 1, "1 mm + 2 deg");
  EXPECT_EQ(sheet->model()->index(1, 2).data().toString(), "no value");
}

TEST_F(WindowPanels, BodiesAreHiddenRenamedAndLayered) {
  openDemo();
  auto* sheet = window->bodies().sheet();
  clickAt(sheet->viewport(), sheet->visualRect(sheet->model()->index(0, 1)).center());
  EXPECT_EQ(window->desk().selection.bodies(), std::vector<BodyId>{"mast"});
  clickAt(sheet->viewport(), sheet->visualRect(sheet->model()->index(0, 3)).center());
  EXPECT_FALSE(model().find("mast")->visible);
  EXPECT_EQ(window->view().scene().bodies.size(), 2u);
  editCell(sheet, 0, 1, "Pole");
  EXPECT_EQ(model().find("mast")->name, "Pole");
  EXPECT_TRUE(sheet->hasFocus()) << "the list keeps the keyboard";
  typeInto(named<QLineEdit>("Layer of the selected bodies"), "poles");
  key(Qt::Key_Return);
  EXPECT_EQ(model().find("mast")->layer, "poles");
}

TEST_F(WindowPanels, FirstClickInAnInactiveWindowSelectsTheBody) {
  openDemo();
  QWidget other;
  other.show();
  other.activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(&other));
  ASSERT_FALSE(window->isActiveWindow());
  QTableView* sheet = window->bodies().sheet();
  clickAt(sheet->viewport(), sheet->visualRect(sheet->model()->index(1, app::BodiesModel::Name)).center());
  EXPECT_EQ(window->desk().selection.bodies(), std::vector<BodyId>{model().bodies[1].id});
}

TEST_F(WindowPanels, PickInTheViewIsFoundInALongListOfBodies) {
  std::vector<Step> blocks;
  for (int i = 0; i < 40; ++i)
    blocks.push_back(block("b" + std::to_string(i), "8", "8", "8", {std::to_string(10 * i), "0", "0"}));
  window->desk().session.start(documentOf(blocks), {}, true);
  settle();
  window->view().fit();
  settle();
  QTableView* sheet = window->bodies().sheet();
  for (const int row : {39, 0, 20}) {
    const std::string id = "b" + std::to_string(row);
    clickPoint(onFace(id, id + ":top"));
    ASSERT_EQ(window->desk().selection.bodies(), std::vector<BodyId>{id});
    const QRect shown = sheet->visualRect(sheet->model()->index(row, 0));
    EXPECT_TRUE(sheet->viewport()->rect().contains(shown.center())) << id;
  }
}

TEST_F(WindowPanels, StatusLineSaysWhatCanBeDoneNow) {
  const auto says = [&](const char* text) {
    const QString line = window->statusBar()->findChild<QLabel*>()->text();
    EXPECT_TRUE(line.contains(text)) << line.toStdString();
  };
  says("Choose how to start");
  openDemo();
  says("Right drag turns");
  clickPoint(onFace("clamp/front", "clamp:side:front"));
  says("Choose a verb on the Bench");
  click(button("Split along it"));
  says("Click a numbered piece");
  window->bench().arm(window->bench().editor("stock"));
  settle();
  says("Esc ends picking");
  key(Qt::Key_Escape);
  says("Click a numbered piece");
  key(Qt::Key_Escape);
  window->view().setFocus();
  QTest::mouseMove(window->windowHandle(), window->view().mapTo(window.get(), QPoint(2, 2)));
  settle();
  const auto labels = window->statusBar()->findChildren<QLabel*>();
  EXPECT_EQ(labels.last()->text(), "mm") << "nothing is pointed at";
}

TEST_F(WindowPanels, BoxSelectsInsideToTheRightAndTouchingToTheLeft) {
  openDemo();
  window->stage().setFilter({true, true, false, false});
  auto& view = window->view();
  const Box clamp = window->desk().shownPictures.at("clamp/front")->mesh.box;
  QRectF around;
  for (int i = 0; i < 8; ++i) around |= QRectF(view.toWidget(clamp.corner(i)), QSizeF(1, 1));
  const QRect box = around.toAlignedRect().adjusted(-4, -4, 4, 4);
  drag(&view, box.topLeft(), box.bottomRight());
  const auto inside = window->desk().selection.bodies();
  EXPECT_NE(std::find(inside.begin(), inside.end(), "clamp/front"), inside.end());
  EXPECT_EQ(std::find(inside.begin(), inside.end(), "mast"), inside.end());
  drag(&view, box.bottomRight(), box.topLeft());
  EXPECT_EQ(window->desk().selection.bodies().size(), 3u);
}

TEST_F(WindowPanels, RepeatedClickGoesThroughWhatLiesBehind) {
  openDemo();
  const Point at = onFace("clamp/front", "clamp:side:front");
  clickPoint(at);
  const auto first = window->desk().selection.picks();
  clickPoint(at);
  const auto second = window->desk().selection.picks();
  ASSERT_EQ(second.size(), 1u);
  EXPECT_NE(first, second);
}

TEST_F(WindowPanels, FindLeadsToVerbsBodiesStepsAndDimensions) {
  EXPECT_GE(app::matchRank("Round edges", "edges rou"), 0);
  EXPECT_LT(app::matchRank("Round edges", "split"), 0);
  EXPECT_LT(app::matchRank("Split", "spl"), app::matchRank("Unsplit", "spl"));
  openDemo();
  key(Qt::Key_K, Qt::ControlModifier);
  type("clamp, back");
  key(Qt::Key_Return);
  EXPECT_EQ(window->desk().selection.bodies(), std::vector<BodyId>{"clamp/back"});
  key(Qt::Key_K, Qt::ControlModifier);
  type("cut to face");
  key(Qt::Key_Return);
  EXPECT_EQ(window->desk().selection.step(), "bolts");
}

TEST_F(WindowPanels, KeyboardStaysWhereItCanBeExpected) {
  // The Bench's first offer has it at first; the demo puts other offers there.
  EXPECT_TRUE(window->bench().isAncestorOf(QApplication::focusWidget()));
  openDemo();
  EXPECT_EQ(QApplication::focusWidget(), &window->view());
  window->bench().focusFirst();
  window->desk().selection.set({{Pick::Kind::Body, "mast", 0}});
  EXPECT_TRUE(window->bench().isAncestorOf(QApplication::focusWidget()));
  // Find opens its list when it is asked, not when Tab passes by.
  window->find().setFocus(Qt::TabFocusReason);
  for (QListWidget* list : window->findChildren<QListWidget*>()) EXPECT_FALSE(list->isVisible());
}

TEST_F(WindowPanels, ViewsAndProjectionKeepTheModelInSight) {
  openDemo();
  auto& view = window->view();
  for (const char* word : {"Top", "Front", "Side", "Flip", "Home"}) {
    click(button(word));
    for (int i = 0; i < 8; ++i)
      EXPECT_TRUE(QRectF(view.rect()).contains(view.toWidget(view.scene().box().corner(i)))) << word;
  }
  key(Qt::Key_6, Qt::ControlModifier);
  EXPECT_EQ(view.projection(), Projection::Perspective);
  const auto pick = view.pickAt(view.toWidget(onFace("clamp/front", "clamp:side:front")));
  ASSERT_TRUE(pick);
  EXPECT_EQ(pick->body, "clamp/front");
}

TEST_F(WindowPanels, DroppedFilesAreOpenedOrBroughtIn) {
  const auto drop = [&](const std::string& path) {
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(QString::fromStdString(path))});
    QDragEnterEvent enter(QPoint(640, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(window.get(), &enter);
    ASSERT_TRUE(enter.isAccepted());
    QDropEvent event(QPointF(640, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(window.get(), &event);
    settle();
  };
  drop(KERVO_SOURCE_DIR "/demo/mast-clamp.kervo");
  EXPECT_EQ(model().bodies.size(), 3u);
  TemporaryFolder folder;
  window->files().sendOutTo(QString::fromStdString((folder / "more.step").string()));
  settle();
  drop((folder / "more.step").string());
  EXPECT_EQ(model().bodies.size(), 6u);
}

TEST_F(WindowPanels, EverythingTheKeyboardReachesHasAName) {
  openDemo();
  window->desk().selection.setStep("halves");
  key(Qt::Key_Return, Qt::ControlModifier);
  ASSERT_TRUE(window->desk().trial.active());
  for (QWidget* each : window->findChildren<QWidget*>()) {
    if (!each->isVisible() || !(each->focusPolicy() & Qt::TabFocus) || qobject_cast<QLabel*>(each)) continue;
    const auto* button = qobject_cast<QAbstractButton*>(each);
    const bool inside = each->parentWidget() && each->parentWidget()->focusProxy() == each;
    EXPECT_TRUE(!each->accessibleName().isEmpty() || (button && !button->text().isEmpty()) || inside ||
                each->focusProxy())
        << each->metaObject()->className() << " " << each->objectName().toStdString();
  }
}

TEST_F(WindowPanels, FoldedPanelsStayFolded) {
  openDemo();
  window->dimensions().setFolded(true);
  key(Qt::Key_F8);
  EXPECT_FALSE(window->bodies().isVisible());
  restart();
  EXPECT_TRUE(window->dimensions().folded());
  window->dimensions().setFolded(false);
}

TEST_F(WindowPanels, LightAndDarkAreWholeLooks) {
  openDemo();
  const auto averageAt = [&](QWidget* widget) {
    const QImage image = widget->grab().toImage();
    return image.scaled(1, 1, Qt::IgnoreAspectRatio, Qt::SmoothTransformation).pixelColor(0, 0).lightnessF();
  };
  app::chooseLook(app::LookChoice::Dark);
  settle();
  EXPECT_LT(averageAt(&window->bodies()), 0.35);
  EXPECT_LT(averageAt(&window->bench()), 0.35);
  EXPECT_LT(window->view().grabFramebuffer().pixelColor(5, 5).lightnessF(), 0.35);
  app::chooseLook(app::LookChoice::Light);
  settle();
  EXPECT_GT(averageAt(&window->bodies()), 0.75);
  EXPECT_GT(averageAt(&window->bench()), 0.75);
}

TEST_F(WindowPanels, UnsavedChangesAreAskedAbout) {
  openDemo();
  editCell(window->dimensions().sheet(), 9, 1, "3 mm");
  QString asked;
  QTimer::singleShot(200, [&] {
    auto* question = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
    ASSERT_NE(question, nullptr);
    asked = question->text();
    for (QAbstractButton* each : question->buttons())
      if (each->text() == "Stay here") QTest::mouseClick(each, Qt::LeftButton);
  });
  window->files().newDocument();
  settle();
  EXPECT_TRUE(asked.contains("mast-clamp.kervo"));
  EXPECT_EQ(model().bodies.size(), 3u);
}

TEST_F(WindowPanels, WorkSurvivesACrash) {
  window.reset();
  QProcess crashing;
  crashing.start(QApplication::applicationFilePath(), {"--make-and-die"});
  ASSERT_TRUE(crashing.waitForFinished(60'000));
  ASSERT_EQ(crashing.exitStatus(), QProcess::CrashExit);
  restart();
  window->offerRecovery();
  settle();
  ASSERT_TRUE(window->message().isVisible());
  EXPECT_TRUE(window->message().text().contains("mast-clamp.kervo")) << window->message().text().toStdString();
  click(button("Recover"));
  EXPECT_EQ(window->desk().session.document().made.dimensions.back().expression.text(), "5 mm");
  EXPECT_LT(volume("clamp/front"), 83571 - 1000);
  EXPECT_FALSE(window->desk().session.saved());
  EXPECT_EQ(window->desk().session.fileName(), "mast-clamp.kervo");
  // It is not offered again.
  EXPECT_TRUE(abandonedJournals(app::journalHome()).empty());
}

TEST_F(WindowPanels, DisplaysWithoutOpenGlGetEverythingButThePicture) {
  for (const char* platform : {"offscreen", "minimal"}) {
    QProcess other;
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert("QT_QPA_PLATFORM", platform);
    other.setProcessEnvironment(environment);
    other.start(QApplication::applicationFilePath(), {"--open-and-count"});
    ASSERT_TRUE(other.waitForFinished(60'000)) << platform;
    EXPECT_EQ(other.exitStatus(), QProcess::NormalExit) << platform;
    EXPECT_EQ(other.exitCode(), 0) << platform << other.readAllStandardError().toStdString();
    const QByteArray said = other.readAllStandardOutput();
    EXPECT_TRUE(said.contains("3 bodies")) << platform << ": " << said.toStdString();
  }
}

TEST_F(WindowPanels, TheWindowFitsTheScreenWithItsFrame) {
  QProcess other;
  other.start("xvfb-run", {"-a", "-s", "-screen 0 1280x800x24", "sh", "-c",
                           "openbox & sleep 1; " + QApplication::applicationFilePath() + " --report-frame; kill $!"});
  ASSERT_TRUE(other.waitForFinished(60'000));
  const QString said = other.readAllStandardOutput();
  const auto found = QRegularExpression("title (\\d+), out by 0 x 0").match(said);
  ASSERT_TRUE(found.hasMatch()) << said.toStdString() << other.readAllStandardError().toStdString();
  EXPECT_GT(found.captured(1).toInt(), 10) << "there is no frame, so that nothing was tested";
}

TEST_F(WindowPanels, ClosingWaitsForNothingThatCannotBeStopped) {
  QProcess hanging;
  hanging.start(QApplication::applicationFilePath(), {"--close-while-hung"});
  ASSERT_TRUE(hanging.waitForFinished(20'000)) << "it is still there";
  EXPECT_EQ(hanging.exitStatus(), QProcess::NormalExit);
  EXPECT_EQ(hanging.exitCode(), 0);
  EXPECT_TRUE(abandonedJournals(app::journalHome()).empty()) << "nothing was unsaved";
}

/// Whatever goes wrong in the interface is told, and the document stays.
TEST_F(WindowPanels, AnExceptionIsToldAndEndsNothing) {
  openDemo();
  class Throws : public QObject {
    bool event(QEvent* event) override {
      if (event->type() == QEvent::User) throw std::out_of_range("no such key");
      return QObject::event(event);
    }
  } throws;
  QCoreApplication::postEvent(&throws, new QEvent(QEvent::User));
  settle();
  ASSERT_TRUE(window->message().isVisible());
  EXPECT_TRUE(window->message().text().contains("no such key")) << window->message().text().toStdString();
  EXPECT_EQ(model().bodies.size(), 3u);
}

class TwoWindows : public WindowTest {
 protected:
  /// The demo in a place of its own.
  QString copyOfDemo() {
    const auto file = folder / "clamp.kervo";
    std::filesystem::copy_file(KERVO_SOURCE_DIR "/demo/mast-clamp.kervo", file);
    return QString::fromStdString(file.string());
  }
  void openFile(const QString& path) {
    window->files().open(path);
    settle();
  }
  void changeKerf(const std::string& value) {
    window->desk().session.edit(
        "Change kerf", [&](const Document& document) { return document.withDimension("kerf", Expression(value)); });
    settle();
  }
  /// What another window would have saved.
  void saveElsewhere(const QString& path, const std::string& wall) {
    Progress progress;
    const Document document = readDocument(path.toStdString(), allStepKinds(), progress);
    writeDocument(path.toStdString(), document.withDimension("wall", Expression(wall)), progress);
  }
  std::string onDisk(const QString& path, const std::string& dimension) {
    Progress progress;
    for (const DimensionRow& row : readDocument(path.toStdString(), allStepKinds(), progress).made.dimensions)
      if (row.name == dimension) return row.expression.text();
    return {};
  }
  bool says(const char* text) { return window->message().text().contains(text); }
  TemporaryFolder folder;
};

TEST_F(TwoWindows, WhoHasTheDocumentOpenIsTold) {
  const QString path = copyOfDemo();
  QLockFile other(QString::fromStdString((folder / ".clamp.kervo.lock").string()));
  ASSERT_TRUE(other.tryLock(0));
  openFile(path);
  ASSERT_TRUE(says("open in another Kervo")) << window->message().text().toStdString();
  EXPECT_TRUE(window->message().text().contains(QString::number(QCoreApplication::applicationPid())));
  click(button("Work on a copy"));
  EXPECT_EQ(window->desk().session.path(), "");
  EXPECT_FALSE(window->desk().session.saved());
  EXPECT_EQ(model().bodies.size(), 3u);
  other.unlock();
  window->desk().session.start({}, {}, true);
  settle();
  openFile(path);
  EXPECT_FALSE(window->message().isVisible()) << window->message().text().toStdString();
  // As long as it is open here, another one is told.
  EXPECT_FALSE(other.tryLock(0));
}

TEST_F(TwoWindows, WhatSomebodyElseSavedIsNotOverwrittenUnasked) {
  const QString path = copyOfDemo();
  openFile(path);
  changeKerf("4 mm");
  saveElsewhere(path, "9 mm");
  window->files().save();
  settle();
  ASSERT_TRUE(says("Saving would replace")) << window->message().text().toStdString();
  EXPECT_EQ(onDisk(path, "wall"), "9 mm") << "nothing is written before the answer";
  // Compare shows what differs, and asks again.
  QStringList seen;
  QTimer::singleShot(1500, [&] {
    auto* dialog = QApplication::activeModalWidget();
    ASSERT_NE(dialog, nullptr);
    const auto* table = dialog->findChild<QTableWidget*>();
    ASSERT_NE(table, nullptr);
    for (int row = 0; row < table->rowCount(); ++row)
      seen << table->item(row, 0)->text() + "|" + table->item(row, 1)->text() + "|" + table->item(row, 2)->text();
    QTest::keyClick(dialog, Qt::Key_Escape);
  });
  click(button("Compare"));
  EXPECT_TRUE(seen.contains("dimension kerf|4 mm|2 mm")) << seen.join("\n").toStdString();
  EXPECT_TRUE(seen.filter("dimension wall|").size() == 1 && seen.filter("|9 mm").size() == 1);
  EXPECT_EQ(seen.size(), 2);
  ASSERT_TRUE(says("Saving would replace"));
  click(button("Overwrite"));
  EXPECT_EQ(onDisk(path, "kerf"), "4 mm");
  EXPECT_NE(onDisk(path, "wall"), "9 mm");
  EXPECT_TRUE(window->desk().session.saved());
  // Its own saves are no change of somebody else's.
  changeKerf("5 mm");
  window->files().save();
  settle();
  EXPECT_FALSE(says("replace")) << window->message().text().toStdString();
  EXPECT_EQ(onDisk(path, "kerf"), "5 mm");
}

TEST_F(TwoWindows, AChangeOnTheDiskIsNoticedWhileItIsOpen) {
  const QString path = copyOfDemo();
  openFile(path);
  saveElsewhere(path, "9 mm");
  ASSERT_TRUE(QTest::qWaitFor([&] { return says("was changed on the disk by another program"); }, 10'000));
  click(button("Open what is there"));
  std::string wall;
  for (const DimensionRow& row : window->desk().session.document().made.dimensions)
    if (row.name == "wall") wall = row.expression.text();
  EXPECT_EQ(wall, "9 mm");
}

/// Leaves a journal behind, as a crash does.
void leaveJournal(const std::string& name, const std::string& line) {
  const auto folder = app::journalHome() / ("session-" + name);
  std::filesystem::create_directories(folder / "shapes");
  std::ofstream(folder / "edits.jsonl") << line << "\n";
}

std::string lineOf(const std::string& file, const std::string& width) {
  const std::string document = documentToJson(documentOf({test::block("b", width, "10", "10")}));
  const QJsonObject line{{"file", QString::fromStdString(file)}, {"document", QString::fromStdString(document)}};
  return QJsonDocument(line).toJson(QJsonDocument::Compact).toStdString();
}

TEST_F(WindowPanels, AllAbandonedWorkIsOfferedAndStaysUntilAnswered) {
  leaveJournal("1", lineOf("/tmp/first.kervo", "10"));
  leaveJournal("2", lineOf("/tmp/second.kervo", "20"));
  leaveJournal("3", "[]");
  leaveJournal("4", "{\"file\":3}");
  window->offerRecovery();
  // A document that is opened, and any other message, take no question away.
  openDemo();
  window->files().open("/tmp/there-is-no-such-file.kervo");
  settle();
  std::set<std::string> offered;
  int kept = 0, recovered = 0;
  for (int i = 0; i < 4; ++i) {
    ASSERT_TRUE(window->message().isVisible()) << i;
    const std::string text = window->message().text().toStdString();
    if (text.find("was kept in") != std::string::npos) {
      ++kept;
      click(button("Close"));
    } else if (text.find("second.kervo") != std::string::npos) {
      EXPECT_NE(text.find("1 step,"), std::string::npos) << text;
      ++recovered;
      click(button("Recover"));
      EXPECT_NEAR(volume("b"), 2000, 1e-6);
    } else {
      EXPECT_NE(text.find("first.kervo"), std::string::npos) << text;
      click(button("Throw away"));
    }
  }
  EXPECT_EQ(kept, 2);
  EXPECT_EQ(recovered, 1);
  EXPECT_FALSE(window->message().text().contains("was not saved"));
  EXPECT_TRUE(abandonedJournals(app::journalHome()).empty());
  for (const char* name : {"aside-session-3", "aside-session-4"})
    EXPECT_TRUE(std::filesystem::remove_all(app::journalHome() / name) > 0);
}

TEST_F(WindowPanels, RecoveringAsksAboutUnsavedEditsFirst) {
  leaveJournal("5", lineOf("/tmp/crashed.kervo", "10"));
  openDemo();
  editCell(window->dimensions().sheet(), 8, 1, "7 mm");
  ASSERT_FALSE(window->desk().session.saved());
  window->offerRecovery();
  settle();
  const auto answer = [&](const QString& text) {
    QTimer::singleShot(300, [text] {
      auto* question = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
      ASSERT_NE(question, nullptr) << "nothing was asked";
      for (QAbstractButton* each : question->buttons())
        if (each->text() == text) QTest::mouseClick(each, Qt::LeftButton);
    });
    click(button("Recover"));
  };
  answer("Stay here");
  EXPECT_EQ(model().bodies.size(), 3u) << "the edits are still there";
  ASSERT_TRUE(window->message().text().contains("crashed.kervo")) << "and so is the offer";
  answer("Drop the changes");
  EXPECT_NEAR(volume("b"), 1000, 1e-6);
}

TEST(DrivenBy, NamesWhatDrivesAStepAndTakesItBack) {
  const Step block = test::block("b", "width", "2 * width", "40 mm");
  EXPECT_EQ(app::drivenBy(block), QString("width × 2 * width × 40 mm"));
  const Step changed = app::withDrivenBy(block, "Block", "10 × 20 × 30");
  EXPECT_EQ(changed.value("depth").as<Expression>().text(), "20");
  EXPECT_THROW(app::withDrivenBy(block, "Block", "10 × 20"), Error);
  const Step combine = step("c", "combine");
  EXPECT_EQ(app::drivenBy(combine), "subtract");
  EXPECT_THROW(app::withDrivenBy(combine, "Combine", "glue"), Error);
}

}  // namespace
}  // namespace kervo::test
