// Drives the real window with mouse and key events that arrive as the window system's.
#pragma once

#include <gtest/gtest.h>

#include <QAbstractButton>
#include <QApplication>
#include <QComboBox>
#include <QCursor>
#include <QFile>
#include <QPointer>
#include <QSettings>
#include <QSignalSpy>
#include <QTest>
#include <filesystem>
#include <memory>

#include "app/main_window.h"
#include "support/temporary_folder.h"

namespace kervo::test {

class WindowTest : public testing::Test {
 protected:
  void SetUp() override {
    // What an earlier test folded or moved is not this one's.
    QSettings().clear();
    restart();
  }

  void restart() {
    window.reset();
    window = std::make_unique<app::MainWindow>();
    window->resize(1280, 800);
    window->show();
    window->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(window.get()));
    ASSERT_TRUE(QTest::qWaitForWindowActive(window.get()));
    // The display's own pointer stands in the middle of the screen, where the view would take notice of it.
    QCursor::setPos(window->mapToGlobal(QPoint(3, 3)));
    settle();
  }

  /// Waits until nothing is read, computed or about to be shown.
  void settle() {
    const auto quiet = [&] { return !window->desk().worker.busy() && !window->files().reader().busy(); };
    for (int round = 0; round < 3; ++round) {
      ASSERT_TRUE(QTest::qWaitFor(quiet, 60'000));
      QTest::qWait(4);
    }
  }

  void open(const std::string& path) {
    window->files().open(QString::fromStdString(path));
    settle();
  }
  void openDemo() { open(KERVO_SOURCE_DIR "/demo/mast-clamp.kervo"); }

  void clickAt(QWidget* widget, QPoint at, Qt::KeyboardModifiers modifiers = {},
               Qt::MouseButton button = Qt::LeftButton) {
    QTest::mouseClick(window->windowHandle(), button, modifiers, widget->mapTo(window.get(), at));
    settle();
  }
  void click(QWidget* widget) {
    // What was just made has no place yet.
    const QPointer<QWidget> there(widget);
    const auto reached = [&] {
      return there && there->isVisible() && window->rect().contains(there->mapTo(window.get(), there->rect().center()));
    };
    ASSERT_TRUE(QTest::qWaitFor(reached, 5'000)) << "nothing to click on";
    clickAt(widget, widget->rect().center());
  }
  /// Clicks in the view where a point of space is drawn.
  void clickPoint(Point point, Qt::KeyboardModifiers modifiers = {}) {
    clickAt(&window->view(), window->view().toWidget(point).toPoint(), modifiers);
  }
  void drag(QWidget* widget, QPoint from, QPoint to, Qt::MouseButton button = Qt::LeftButton,
            Qt::KeyboardModifiers modifiers = {}) {
    const auto at = [&](QPoint p) { return widget->mapTo(window.get(), p); };
    QTest::mousePress(window->windowHandle(), button, modifiers, at(from));
    for (int i = 1; i <= 4; ++i) {
      QTest::mouseMove(window->windowHandle(), at(from + (to - from) * i / 4));
      QTest::qWait(10);
    }
    QTest::mouseRelease(window->windowHandle(), button, modifiers, at(to));
    settle();
  }
  void key(Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
    QTest::keyClick(window->windowHandle(), key, modifiers);
    settle();
  }
  void type(const QString& text) {
    for (const QChar c : text) QTest::keyClick(window->windowHandle(), c.toLatin1());
    settle();
  }
  /// Replaces what stands in a line by clicking into it and typing.
  void typeInto(QLineEdit* line, const QString& text) {
    click(line);
    key(Qt::Key_A, Qt::ControlModifier);
    type(text);
  }

  /// Chooses from a list with the keyboard: opened, gone to by its first letters, taken.
  void chooseFrom(QComboBox* list, const QString& text) {
    ASSERT_NE(list, nullptr);
    list->setFocus();
    for (int i = 0; i < list->count() && list->currentText() != text; ++i)
      key(list->findText(text) > list->currentIndex() ? Qt::Key_Down : Qt::Key_Up);
    ASSERT_EQ(list->currentText(), text);
  }

  /// The button of that text that can be seen.
  QAbstractButton* button(const QString& text) {
    for (QAbstractButton* each : window->findChildren<QAbstractButton*>())
      if (each->isVisible() && each->text() == text) return each;
    ADD_FAILURE() << "no button " << text.toStdString();
    return nullptr;
  }
  template <class T>
  T* named(const QString& accessibleName) {
    for (T* each : window->findChildren<T*>())
      if (each->isVisible() && each->accessibleName() == accessibleName) return each;
    ADD_FAILURE() << "nothing is called " << accessibleName.toStdString();
    return nullptr;
  }
  bool hasLine(const QString& text) {
    return window->bench().before() && window->bench().before()->lines().join("\n").contains(text);
  }

  const Model& model() { return *window->desk().session.made()->model; }
  double volume(const BodyId& id) {
    const Body* body = model().find(id);
    return body ? body->shape().volume() : -1;
  }
  /// The middle of the face of that name, as the view shows it.
  Point onFace(const BodyId& body, const std::string& name) {
    const auto& pictures = window->desk().shownPictures;
    const auto picture = pictures.find(body);
    if (picture != pictures.end())
      for (const Face& face : picture->second->faces)
        if (face.origins().front() == name) return face.samplePoint();
    ADD_FAILURE() << "no face " << name << " on " << body;
    return {};
  }
  /// Edits a cell of a sheet in place.
  void editCell(QTableView* sheet, int row, int column, const QString& text) {
    const QModelIndex index = sheet->model()->index(row, column);
    sheet->scrollTo(index);
    clickAt(sheet->viewport(), sheet->visualRect(index).center());
    sheet->setCurrentIndex(index);
    key(Qt::Key_F2);
    key(Qt::Key_A, Qt::ControlModifier);
    type(text);
    key(Qt::Key_Return);
  }

  std::unique_ptr<app::MainWindow> window;
};

}  // namespace kervo::test
