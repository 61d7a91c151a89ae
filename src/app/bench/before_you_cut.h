// "Before you cut": what the trial found, and the two buttons.
#pragma once

#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QVBoxLayout>
#include <QWidget>

#include "app/desk.h"

namespace kervo::app {

class BeforeYouCut : public QWidget {
  Q_OBJECT
 public:
  explicit BeforeYouCut(Desk& desk, QWidget* parent = nullptr);
  void refresh();
  QPushButton* makeButton() { return make_; }
  /// All its lines, as a person reads them.
  QStringList lines() const;

 private:
  enum class Tone { Plain, Good, Caution, Bad };
  void line(const QString& text, Tone tone);
  void showReport(const Tried& tried);
  void showAudit(const StepResult& result, const Tried& tried);
  void showOffers(const StepReport& report);
  void showWall(const Tried& tried);
  QString namesOf(const std::vector<BodyId>& bodies) const;

  Desk& desk_;
  QVBoxLayout* lines_;
  QLabel* time_;
  QPushButton* make_;
  QPushButton* putBack_;
  QPushButton* stop_;
  QProgressBar* progress_;
};

}  // namespace kervo::app
