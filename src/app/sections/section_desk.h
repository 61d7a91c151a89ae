// The document's sections: which there are, which one is on the ruler, and edits of them. Editing them rebuilds
// nothing.
#pragma once

#include <QObject>
#include <QTimer>
#include <optional>
#include <vector>

#include "app/session.h"
#include "app/trial.h"
#include "view/tools/section_tool.h"

namespace kervo::app {

class SectionDesk : public QObject {
  Q_OBJECT
 public:
  SectionDesk(Session& session, Trial& trial);

  struct Entry {
    StepId id;
    QString letter, name;
    bool on = true;
    QString scope;             ///< "all but Stair"
    std::optional<Error> why;  ///< it cuts nothing
  };
  std::vector<Entry> entries() const;
  /// "A stair", or "A".
  QString titleOf(const StepId& section) const;

  /// The one on the ruler; empty if there is none.
  const StepId& current() const { return current_; }
  void setCurrent(const StepId& section);
  /// The ruler of the current one; nothing while that is off or has no plane.
  std::optional<RulerMark> ruler() const;
  /// What it takes out of sight with its plane at another place.
  std::optional<SectionCut> at(double value) const;

  void switchOn(const StepId& section, bool on);
  void flip(const StepId& section);
  void remove(const StepId& section);
  /// How far its plane lies along its normal, as it is typed.
  void setOffset(const StepId& section, const Expression& offset);
  void setOffset(const StepId& section, double millimetres);
  /// Bodies that are not closed where a section cuts them, as the view found.
  void setUnsound(std::vector<BodyId> bodies);
  /// Whether that expression has a value; what is wrong with it otherwise.
  QString problemOf(const Expression& offset) const;
  /// Puts it on the Bench.
  void edit(const StepId& section);

  /// Moves the current plane up and down until it is stopped.
  void sweep(bool on);
  bool sweeping() const { return timer_.isActive(); }

 signals:
  void changed();
  /// The plane is shown at another place for now.
  void swept(double value);
  void sweepChanged();

 private:
  std::shared_ptr<const Step> stepOf(const StepId& section) const;
  /// What was found out about it last; null if it is not made yet.
  const StepReport* reportOf(const StepId& section) const;
  void replace(const Step& step, const QString& what);
  void follow();

  Session& session_;
  Trial& trial_;
  StepId current_;
  std::vector<StepId> known_;
  std::vector<BodyId> unsound_;
  QTimer timer_;
  double place_ = 0;
  int way_ = 1;
  std::pair<double, double> span_;
};

}  // namespace kervo::app
