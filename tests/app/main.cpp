// Runs tests in one application with folders of its own, so that nobody's settings and journals are touched.
#include <gtest/gtest.h>
#include <signal.h>
#include <unistd.h>

#include <QApplication>
#include <QTemporaryDir>
#include <QTest>
#include <chrono>
#include <cstdio>
#include <cstring>
#include <thread>

#include "app/application.h"
#include "app/main_window.h"
#include "exchange/kervo_file.h"

namespace {

/// What the crash test kills: opens the demo, changes a dimension, makes a block, and dies without a word.
int makeAndDie() {
  kervo::app::MainWindow window;
  window.show();
  const auto settle = [&] {
    for (int round = 0; round < 3; ++round) {
      if (!QTest::qWaitFor([&] { return !window.desk().worker.busy() && !window.files().reader().busy(); }, 30'000))
        _exit(3);
      QTest::qWait(20);
    }
  };
  window.files().open(KERVO_SOURCE_DIR "/demo/mast-clamp.kervo");
  settle();
  window.desk().session.edit("Change kerf", [](const kervo::Document& document) {
    return document.withDimension("kerf", kervo::Expression("5 mm"));
  });
  kill(getpid(), SIGKILL);
  return 4;
}

/// What the kill test kills while it edits: prints how often it did.
int editUntilKilled() {
  kervo::app::MainWindow window;
  window.show();
  for (int i = 1;; ++i) {
    window.desk().session.edit("Change kerf", [i](const kervo::Document& document) {
      return document.withDimension("kerf", kervo::Expression(std::to_string(i) + " mm"));
    });
    std::printf("%d\n", i);
    std::fflush(stdout);
    QTest::qWait(1);
  }
}

/// … while it saves.
int saveUntilKilled(const char* path) {
  for (int i = 1;; ++i) {
    kervo::Progress progress;
    kervo::Document document;
    document.made.dimensions.push_back({"kerf", kervo::Expression(std::to_string(i) + " mm")});
    kervo::writeDocument(path, document, progress);
    std::printf("%d\n", i);
    std::fflush(stdout);
  }
}

/// Opens the demo, for displays that have no OpenGL: prints how many bodies there are.
int openAndCount() {
  kervo::app::MainWindow window;
  window.show();
  window.files().open(KERVO_SOURCE_DIR "/demo/mast-clamp.kervo");
  for (int round = 0; round < 3; ++round) {
    if (!QTest::qWaitFor([&] { return !window.desk().worker.busy() && !window.files().reader().busy(); }, 30'000))
      return 3;
    QTest::qWait(50);
  }
  // Work that would move or redraw the view.
  window.view().fit();
  window.desk().selection.set({{kervo::Pick::Kind::Body, "mast", 0}});
  window.view().fitSelection();
  QTest::qWait(50);
  std::printf("%zu bodies\n", window.desk().session.made()->model->bodies.size());
  return 0;
}

/// For a display with a window manager: prints by how much the window with its frame sticks out of the screen.
int reportFrame() {
  kervo::app::MainWindow window;
  window.show();
  QTest::qWait(1500);
  const QRect room = window.screen()->availableGeometry(), frame = window.frameGeometry();
  const int title = window.geometry().top() - frame.top();
  const QRect all = room.united(frame);
  std::printf("title %d, out by %d x %d\n", title, all.width() - room.width(), all.height() - room.height());
  return 0;
}

/// Closes the window while something is done that cannot be stopped.
int closeWhileHung() {
  {
    kervo::app::MainWindow window;
    window.show();
    window.desk().worker.run("Hanging",
                             [](kervo::Progress&) -> kervo::app::Worker::Then {
                               std::this_thread::sleep_for(std::chrono::minutes(5));
                               return {};
                             },
                             {});
    QTest::qWait(300);
    window.close();
  }
  return 5;
}

}  // namespace

int main(int argc, char** argv) {
  const auto asked = [&](const char* what) { return argc > 1 && std::strcmp(argv[1], what) == 0; };
  const bool dies = asked("--make-and-die"), hangs = asked("--close-while-hung"), counts = asked("--open-and-count"),
             reports = asked("--report-frame"), edits = asked("--edit-until-killed");
  if (asked("--save-until-killed")) return saveUntilKilled(argv[2]);
  testing::InitGoogleTest(&argc, argv);
  QTemporaryDir home;
  if (!dies && !edits)
    for (const char* name :
         {"HOME", "XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_STATE_HOME", "XDG_CACHE_HOME", "XDG_RUNTIME_DIR"})
      qputenv(name, home.path().toLocal8Bit());
  kervo::app::prepareSurface();
  kervo::app::Application application(argc, argv);
  kervo::app::prepareApplication(application);
  QApplication::setQuitOnLastWindowClosed(false);
  return dies      ? makeAndDie()
         : edits   ? editUntilKilled()
         : hangs   ? closeWhileHung()
         : counts  ? openAndCount()
         : reports ? reportFrame()
                   : RUN_ALL_TESTS();
}
