// The step on the Bench: tried in the worker while it is edited, then made or put back.
//
// Every edit of a field tries the document with that step: first up to it, for the picture and Before you cut, then
// all of it, so that making the step finds everything in the memo.
#pragma once

#include <QObject>
#include <functional>
#include <map>
#include <optional>
#include <vector>

#include "app/session.h"
#include "app/worker.h"

namespace kervo::app {

class Trial : public QObject {
  Q_OBJECT
 public:
  Trial(Session& session, Worker& worker, QObject* parent = nullptr);

  bool active() const { return step_.has_value(); }
  /// @throws std::logic_error if nothing is tried.
  const Step& step() const;
  bool isNew() const { return isNew_; }
  /// The newest result, perhaps of values before the last edit; null until there is one.
  const std::shared_ptr<const Tried>& result() const { return result_; }
  bool upToDate() const { return upToDate_; }
  bool wasStopped() const { return stopped_; }

  /// What the step is called.
  const std::string& name() const { return name_.empty() ? step().kind().label() : name_; }
  /// Puts a new step on the Bench. `then` is called when it was made. An empty name: called like its kind.
  void begin(const Step& step, std::function<void()> then = {}, std::string name = {});
  /// Brings a step of the Cut list back.
  void edit(const StepId& id);
  /// `action`: what it is called when it is undone. Edits in a row with the same `merged` are undone at once: somebody
  /// types into one line.
  void setField(const std::string& key, const FieldValue& value, const QString& action = {},
                const std::string& merged = {});
  /// Several of them as one edit.
  void setFields(const std::map<std::string, FieldValue>& values, const QString& action);
  void setName(const QString& name);
  /// Whether the pieces of this step can be chosen.
  bool hasPieceChoice() const;
  /// Lets pieces stay (true) or go, by their keys. They stay chosen by name when the model is rebuilt.
  void choosePieces(const std::map<BodyId, bool>& stay);
  /// Changes fields as an offer of the step says.
  void accept(const Offer& offer);
  /// Makes the step, as soon as its trial is there. refused() if it failed.
  void makeIt();
  /// … and something else after it than what was to come; nothing: only that.
  void makeItAnd(std::function<void()> then);
  void putBack();
  /// Back to before the last edit of the step on the Bench, and forwards again.
  bool canUndo() const { return step_ && !undo_.empty(); }
  bool canRedo() const { return step_ && !redo_.empty(); }
  QString undoText() const { return canUndo() ? undo_.back().action : QString(); }
  QString redoText() const { return canRedo() ? redo_.back().action : QString(); }
  void undo();
  void redo();
  void tryAgain();

  /// The document that making it would give.
  Document document() const;
  /// True if a field matters with the present choices.
  bool matters(const Field& field) const;
  /// What is wrong with a number field's own text; empty if nothing.
  QString problem(const std::string& key) const;
  /// The field's value, in mm, radians or as a plain number.
  std::optional<double> value(const std::string& key) const;

 signals:
  void opened();  ///< another step is on the Bench
  void closed();
  void edited();   ///< a field changed
  void tried();    ///< there is a new result, or it is seen otherwise
  void renamed();  ///< in the Cut list
  void made(kervo::StepId id);
  void refused(const kervo::Error& error);

 private:
  /// The step as it was before an edit.
  struct Edit {
    Step step;
    QString action;
    std::string merged;
  };
  void change(const Step& changed, const QString& action, const std::string& merged);
  void travel(std::vector<Edit>& from, std::vector<Edit>& to);
  void forgetEdits();
  void tryIt();
  /// Takes a result, seen as things are seen now.
  void take(const std::shared_ptr<const Tried>& result);
  void followSeen();

  Session& session_;
  Worker& worker_;
  std::optional<Step> step_;
  std::string name_;
  std::string nameInList_;  ///< what the document calls the step
  bool isNew_ = false;
  bool upToDate_ = false;
  bool stopped_ = false;
  bool makeWhenTried_ = false;
  std::function<void()> then_;
  std::vector<Edit> undo_, redo_;
  std::shared_ptr<const Tried> result_;
};

/// What is wrong with an expression in a field; empty if nothing.
QString problemOf(const NumberWanted& wanted, const Expression& expression, const Document& document,
                  const DimensionTable& dimensions);
/// Its value; nothing if it has none.
std::optional<double> valueOf(const NumberWanted& wanted, const Expression& expression, const Document& document,
                              const DimensionTable& dimensions);

}  // namespace kervo::app
