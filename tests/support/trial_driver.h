// The window with a step on the Bench: what it tried, and ways to fill its wells with the keyboard alone.
#pragma once

#include "app/look.h"
#include "support/document_builder.h"
#include "support/window_driver.h"

namespace kervo::test {

/// A window with small documents in which steps are tried and made.
class TrialTest : public WindowTest {
 protected:
  /// A document on the desk, as if just opened.
  void start(const Document& document) {
    window->desk().session.start(document, {}, true);
    settle();
    window->view().goHome();
    settle();
  }
  Step plate() { return block("plate", "100", "60", "10", {"-50", "-30", "0"}); }
  static DrawnCurve line(const std::string& id, const std::string& u, const std::string& v, const std::string& toU,
                         const std::string& toV) {
    return {id, "line", {Expression(u), Expression(v), Expression(toU), Expression(toV)}};
  }
  const StepResult& tried() {
    static const StepResult none;
    const auto& result = window->desk().trial.result();
    if (result && result->report().result) return *result->report().result;
    ADD_FAILURE() << "the trial has no result: "
                  << (result && result->report().error ? result->report().error->what() : "not tried");
    return none;
  }
  std::vector<BodyId> kept() {
    std::vector<BodyId> ids;
    for (const Piece& piece : tried().pieces)
      if (piece.kept) ids.push_back(piece.key);
    return ids;
  }
  /// A key that computes nothing, such as one that goes on: nothing is waited for.
  void press(Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
    QTest::keyClick(window->windowHandle(), key, modifiers);
  }
  /// Goes with Tab until that control has the keyboard.
  void tabTo(const QString& accessibleName) {
    for (int i = 0; i < 80; ++i) {
      if (QApplication::focusWidget() && QApplication::focusWidget()->accessibleName() == accessibleName)
        return settle();
      press(Qt::Key_Tab);
    }
    ADD_FAILURE() << "Tab does not reach " << accessibleName.toStdString();
  }
  /// Fills a well from the view with N and Space, and comes back to it.
  void pickByKeys(const QString& field, const std::vector<Pick>& picks) {
    tabTo(field + ": pick in the view");
    key(Qt::Key_Space);
    ASSERT_TRUE(window->view().hasFocus());
    for (const Pick& pick : picks) {
      for (int i = 0; i < 100 && window->view().hovered() != pick; ++i) press(Qt::Key_N);
      ASSERT_EQ(window->view().hovered(), pick) << pick.body;
      key(Qt::Key_Space);
    }
    // A well that holds one thing has ended picking by itself.
    if (window->bench().armed()) key(Qt::Key_Escape);
  }
  static Pick body(const BodyId& id) { return {Pick::Kind::Body, id, 0}; }
  /// A face of a shown body by its name.
  Pick face(const BodyId& id, const std::string& name) {
    const auto& faces = window->desk().shownPictures.at(id)->faces;
    for (std::size_t i = 0; i < faces.size(); ++i)
      if (faces[i].origins().front() == name) return {Pick::Kind::Face, id, static_cast<int>(i)};
    ADD_FAILURE() << "no face " << name << " on " << id;
    return {};
  }
  /// Types into the line of that name, gone to with Tab.
  void typeByKeys(const QString& field, const QString& text) {
    tabTo(field);
    key(Qt::Key_A, Qt::ControlModifier);
    type(text);
  }
  /// Chooses in the list of that name, gone to with Tab.
  void chooseByKeys(const QString& field, const QString& text) {
    tabTo(field);
    auto* list = qobject_cast<QComboBox*>(QApplication::focusWidget());
    ASSERT_NE(list, nullptr) << field.toStdString();
    for (int i = 0; i < list->count(); ++i) key(Qt::Key_Up);
    for (int i = 0; i < list->count() && list->currentText() != text; ++i) key(Qt::Key_Down);
    ASSERT_EQ(list->currentText(), text);
  }
  /// Where the badge of a piece stands in the view.
  QPoint badgeOf(const BodyId& key) {
    const auto& pieces = tried().pieces;
    const app::Viewport& view = window->view();
    for (const Badge& badge : view.scene().badges)
      if (pieces[badge.piece].key == key)
        return badgeRect(badge, view.camera(), view.devicePixelRatioF(), QFontMetricsF(app::fontOf()))
            .center()
            .toPoint();
    ADD_FAILURE() << "no badge of " << key;
    return {};
  }
};

}  // namespace kervo::test
