// The Bench: offers verbs that fit the selection, or shows the step on it from well to well.
//
// A field that takes picks is armed; while one is, the view shows the bodies as they are before the step. A field that
// holds one thing is armed until it has it; the next one that lacks something follows.
#pragma once

#include <QStackedWidget>
#include <QWidget>
#include <vector>

#include "app/bench/before_you_cut.h"
#include "app/bench/drawing_editor.h"
#include "app/bench/field_editor.h"
#include "app/bench/pieces_chooser.h"
#include "app/bench/well_card.h"
#include "app/desk.h"
#include "app/verbs.h"

namespace kervo::app {

class Bench : public QWidget {
  Q_OBJECT
 public:
  Bench(Desk& desk, const std::vector<Verb>& verbs, QWidget* parent = nullptr);

  /// The field that takes picks from the view now; null for none.
  FieldEditor* armed() const { return armed_; }
  void arm(FieldEditor* editor);
  FieldEditor* editor(const std::string& key) const;
  /// Puts the keyboard into a field, e.g. when its gauge was clicked.
  void focusField(const QString& key);
  void focusFirst();
  PiecesList* pieces() const { return pieces_ ? pieces_->list() : nullptr; }
  PiecesChooser* chooser() const { return pieces_; }
  BeforeYouCut* before() const { return before_; }
  void lightPiece(int row);
  /// One step back: stops picking, puts the step back. False if there was nothing to step back from.
  bool stepBack();

 signals:
  void armedChanged();
  /// Picks are to be made now: the view should have the keyboard.
  void viewWanted();
  void pieceLit(int row);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  /// As arm(), on a person's wish.
  void armByHand(FieldEditor* editor);
  /// The next field that still needs a pick takes picks; if there is none, what the step does is shown.
  void moveOn(FieldEditor* filled);
  /// What is missing takes picks right away, unless another field does.
  void armWanting();
  /// The first of the fields on show that needs a pick; null if there is none.
  FieldEditor* wanting() const;
  void showOffers();
  void showStep();
  void refreshFields();
  /// The wells of a step that makes something.
  void addWells(const StepKind& kind);
  void addWell(Well well, const QString& title, const QString& subtitle, QColor Look::*edge);
  /// Of a section: the verbs that draw it.
  void addSendOut();
  /// Stops waiting for picks that the step can do without.
  void disarmUnneeded();
  /// Null for a field that has no editor of its own.
  FieldEditor* addRow(WellCard* card, const Field& field);

  void hideEmptyWells();

  struct FieldRow {
    FieldEditor* editor;
    QWidget* row;
    WellCard* card;
  };
  struct WellOnShow {
    WellCard* card;
    QWidget* arrow;  ///< to it from the one before
    bool always;
  };

  Desk& desk_;
  const std::vector<Verb>& verbs_;
  QLabel* title_;
  QLabel* note_;
  QLabel* keys_;
  QLineEdit* name_;
  QStackedWidget* pages_;
  QWidget* offers_ = nullptr;
  QWidget* step_ = nullptr;
  QHBoxLayout* wells_ = nullptr;
  std::vector<FieldRow> rows_;
  std::vector<WellOnShow> cards_;
  PiecesChooser* pieces_ = nullptr;
  BeforeYouCut* before_ = nullptr;
  FieldEditor* armed_ = nullptr;
  bool armedByItself_ = false;  ///< since it was empty, not by a person
};

}  // namespace kervo::app
