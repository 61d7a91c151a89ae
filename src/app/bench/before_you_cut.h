// "Before you cut": what the trial found, and the two buttons.
#pragma once

#include <QFrame>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>
#include <vector>

#include "app/desk.h"

namespace kervo::app {

/// Shows as many of its sentences as there is room for, what matters most first; the rest is behind *more*.
class BeforeYouCut : public QWidget {
  Q_OBJECT
 public:
  explicit BeforeYouCut(Desk& desk, QWidget* parent = nullptr);
  void refresh();
  QPushButton* makeButton() { return make_; }
  /// All its lines, as a person reads them, also those behind *more*.
  QStringList lines() const;
  /// What stands behind *more*; the button is hidden if nothing does.
  QToolButton* moreButton() { return more_; }

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  enum class Tone { Plain, Good, Caution, Bad };
  struct Entry {
    QWidget* widget;  ///< a QLabel, or a button with an offer
    QString text;     ///< of a label: all of it
    int rank;         ///< what matters most has the lowest
  };
  /// Puts those entries up that there is room for.
  void arrange();
  void showAll();
  void line(const QString& text, Tone tone);
  void showReport(const Tried& tried);
  void showSection(const SectionCut& section, const Tried& tried);
  void showAudit(const StepResult& result, const Tried& tried);
  /// Of a drawing with regions: a cut with them.
  void offerToCut(const Tried& tried);
  void showOffers(const StepReport& report);
  /// In mm; 0 for none. Says so if it has no value.
  double wallLimit();
  /// In which state surfaces cut that were lifted or made by earlier steps.
  void showStates(const Tried& tried);
  void showWall(const Tried& tried);
  QString namesOf(const std::vector<BodyId>& bodies) const;

  Desk& desk_;
  QWidget* room_;
  QVBoxLayout* lines_;
  QToolButton* more_;
  std::vector<Entry> entries_;
  QLabel* title_;
  QLabel* time_;
  QPushButton* make_;
  QPushButton* putBack_;
  QPushButton* stop_;
  QProgressBar* progress_;
};

}  // namespace kervo::app
