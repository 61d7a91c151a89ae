#include "app/trial.h"

#include <algorithm>
#include <stdexcept>
#include <utility>

#include "app/texts.h"
#include "fields/number_field.h"
#include "fields/pieces_field.h"
#include "model/shown.h"

namespace kervo::app {

namespace {

double evaluated(const NumberWanted& wanted, const Expression& expression, const Document& document,
                 const DimensionTable& dimensions) {
  const double value = expression.evaluateAs(wanted.dimension, unitNamed(document.made.unit),
                                             [&](const std::string& name) { return dimensions.lookup(name); });
  if (!wanted.allows(value))
    throw errorOf(wanted.rule == NumberRule::Positive ? Trial::tr("must be more than zero")
                                                      : Trial::tr("must not be negative"));
  return value;
}

}  // namespace

QString problemOf(const NumberWanted& wanted, const Expression& expression, const Document& document,
                  const DimensionTable& dimensions) {
  try {
    evaluated(wanted, expression, document, dimensions);
    return {};
  } catch (const Error& error) {
    return QString::fromStdString(error.happened());
  }
}

std::optional<double> valueOf(const NumberWanted& wanted, const Expression& expression, const Document& document,
                              const DimensionTable& dimensions) {
  try {
    return evaluated(wanted, expression, document, dimensions);
  } catch (const Error&) {
    // problemOf() tells what is wrong; here only the value is missing.
    return std::nullopt;
  }
}

Trial::Trial(Session& session, Worker& worker, QObject* parent) : QObject(parent), session_(session), worker_(worker) {
  connect(&worker_, &Worker::tried, this, [this](const std::shared_ptr<const Tried>& result) {
    if (!step_ || result->step != step_->id()) return;
    const auto wanted = document().find(step_->id());
    const auto was = result->document.find(step_->id());
    // Of older values: the newer ones are on their way.
    if (!wanted || !was || wanted->values() != was->values()) return;
    take(result);
    upToDate_ = true;
    emit tried();
    if (std::exchange(makeWhenTried_, false)) makeIt();
  });
  connect(&worker_, &Worker::stopped, this, [this] {
    if (!step_ || upToDate_) return;
    stopped_ = true;
    makeWhenTried_ = false;
    emit tried();
  });
  // A dimension edited or a body shielded while a step is on the Bench.
  connect(&session_, &Session::documentChanged, this, [this] {
    if (!step_) return;
    if (!isNew_ && !session_.document().find(step_->id())) return putBack();
    tryIt();
  });
  connect(&session_, &Session::seenChanged, this, &Trial::followSeen);
}

void Trial::take(const std::shared_ptr<const Tried>& result) {
  const SeenHalf seen = document().seen;
  result_ = result;
  if (result->document.seen == seen) return;
  auto again = std::make_shared<Tried>(*result);
  again->document.seen = seen;
  again->before = std::make_shared<const Model>(shown(*result->before, seen));
  again->after = std::make_shared<const Model>(shown(*result->after, seen));
  result_ = std::move(again);
}

void Trial::followSeen() {
  if (!step_) return;
  const auto& names = session_.document().seen.steps;
  const auto known = names.find(step_->id());
  const std::string name = known == names.end() ? std::string() : known->second;
  if (!isNew_ && name != nameInList_) {
    name_ = nameInList_ = name;
    emit renamed();
  }
  if (!result_) return;
  take(result_);
  emit tried();
}

void Trial::begin(const Step& step, std::function<void()> then, std::string name) {
  if (step_) putBack();
  forgetEdits();
  step_ = step;
  name_ = std::move(name);
  nameInList_.clear();
  isNew_ = true;
  then_ = std::move(then);
  result_.reset();
  emit opened();
  tryIt();
}

void Trial::edit(const StepId& id) {
  const auto step = session_.document().find(id);
  if (!step) return;
  if (step_) putBack();
  forgetEdits();
  step_ = step->switched(true);
  const auto& names = session_.document().seen.steps;
  const auto known = names.find(id);
  name_ = nameInList_ = known == names.end() ? std::string() : known->second;
  isNew_ = false;
  then_ = {};
  result_.reset();
  emit opened();
  tryIt();
}

const Step& Trial::step() const {
  if (!step_) throw std::logic_error("nothing is tried");  // for the machine
  return *step_;
}

Document Trial::document() const {
  const Document& now = session_.document();
  if (!step_) return now;
  return (isNew_ ? now.withStep(*step_) : now.withReplaced(*step_)).withStepNamed(step_->id(), name_);
}

void Trial::setField(const std::string& key, const FieldValue& value, const QString& action,
                     const std::string& merged) {
  if (!step_ || step_->value(key) == value) return;
  const Field* field = step_->kind().field(key);
  const QString label = field ? kindText(field->label()) : QString();
  change(step_->with(key, value), action.isEmpty() ? tr("Change: %1").arg(label) : action,
         action.isEmpty() ? key : merged);
}

void Trial::setFields(const std::map<std::string, FieldValue>& values, const QString& action) {
  if (!step_) return;
  Step changed = *step_;
  for (const auto& [key, value] : values) changed = changed.with(key, value);
  for (const auto& [key, value] : values)
    if (!(step_->value(key) == value)) return change(changed, action, {});
}

void Trial::change(const Step& changed, const QString& action, const std::string& merged) {
  if (!step_) return;
  const bool goesOn = !merged.empty() && !undo_.empty() && undo_.back().merged == merged && redo_.empty();
  if (!goesOn) undo_.push_back({*step_, action, merged});
  redo_.clear();
  step_ = changed;
  emit edited();
  tryIt();
}

void Trial::travel(std::vector<Edit>& from, std::vector<Edit>& to) {
  if (!step_ || from.empty()) return;
  to.push_back({*step_, from.back().action, {}});
  step_ = from.back().step;
  from.pop_back();
  // What is edited next is another edit.
  if (!undo_.empty()) undo_.back().merged.clear();
  emit edited();
  tryIt();
}

void Trial::undo() {
  travel(undo_, redo_);
}

void Trial::redo() {
  travel(redo_, undo_);
}

void Trial::forgetEdits() {
  undo_.clear();
  redo_.clear();
}

bool Trial::hasPieceChoice() const {
  return step_ && piecesFieldOf(step_->kind());
}

void Trial::choosePieces(const std::map<BodyId, bool>& stay) {
  if (!step_ || !hasPieceChoice() || !result_ || !result_->report().result || stay.empty()) return;
  const PiecesField& field = *piecesFieldOf(step_->kind());
  PieceChoice choice = step_->value(field).as<PieceChoice>();
  for (const auto& [key, stays] : stay) {
    std::erase(choice.keep, key);
    std::erase(choice.drop, key);
    (stays ? choice.keep : choice.drop).push_back(key);
  }
  choice.known.clear();
  for (const Piece& piece : result_->report().result->pieces) choice.known.push_back(piece.key);
  setField(field.key(), choice);
}

void Trial::accept(const Offer& offer) {
  if (!step_) return;
  Step changed = *step_;
  for (const auto& [key, value] : offer.fields) changed = changed.with(key, value);
  change(changed, QString::fromStdString(offer.label), {});
}

void Trial::setName(const QString& name) {
  if (!step_) return;
  const std::string text = name.trimmed().toStdString();
  name_ = text == step_->kind().label() ? std::string() : text;
}

void Trial::tryIt() {
  if (!step_) return;
  upToDate_ = false;
  stopped_ = false;
  makeWhenTried_ = false;
  worker_.tryStep(document(), step_->id());
}

void Trial::tryAgain() {
  if (!step_) return;
  tryIt();
  emit edited();
}

void Trial::makeIt() {
  if (!step_) return;
  if (!upToDate_) {
    makeWhenTried_ = true;
    if (stopped_) tryAgain();
    return;
  }
  if (const auto& error = result_->report().error) {
    emit refused(*error);
    return;
  }
  const Document result = document();
  const StepId id = step_->id();
  const QString what = QString::fromStdString(name());
  const std::function<void()> then = then_;
  step_.reset();
  result_.reset();
  worker_.dropTrial();
  session_.apply(result, what);
  emit closed();
  emit made(id);
  if (then) then();
}

void Trial::makeItAnd(std::function<void()> then) {
  then_ = std::move(then);
  makeIt();
}

void Trial::putBack() {
  if (!step_) return;
  step_.reset();
  result_.reset();
  then_ = {};
  makeWhenTried_ = false;
  worker_.dropTrial();
  emit closed();
}

bool Trial::matters(const Field& field) const {
  return step_ && kervo::matters(*step_, field);
}

QString Trial::problem(const std::string& key) const {
  if (!step_) return {};
  const auto* field = dynamic_cast<const NumberField*>(step_->kind().field(key));
  if (!field || !matters(*field)) return {};
  return problemOf(field->wanted(), step_->value(*field).as<Expression>(), session_.document(), session_.dimensions());
}

std::optional<double> Trial::value(const std::string& key) const {
  if (!step_) return std::nullopt;
  const auto* field = dynamic_cast<const NumberField*>(step_->kind().field(key));
  if (!field) return std::nullopt;
  return valueOf(field->wanted(), step_->value(*field).as<Expression>(), session_.document(), session_.dimensions());
}

}  // namespace kervo::app
