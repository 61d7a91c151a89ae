// Editors for the fields of a step, one for each type of field. The Bench makes them from a step kind's table.
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QWidget>
#include <memory>

#include "app/desk.h"
#include "view/picker.h"

namespace kervo::app {

/// A line for an expression with its value beside it and what is wrong below it.
class ExpressionLine : public QWidget {
  Q_OBJECT
 public:
  explicit ExpressionLine(const QString& name, QWidget* parent = nullptr);
  void setExpression(const Expression& expression);
  Expression expression() const;
  void setValueText(const QString& text);
  void setProblem(const QString& problem);
  QLineEdit* line() { return line_; }

 signals:
  void edited();

 private:
  QLineEdit* line_;
  QLabel* value_;
  QLabel* problem_;
};

class WellCard;

class FieldEditor : public QWidget {
  Q_OBJECT
 public:
  FieldEditor(const Field& field, Desk& desk, QWidget* parent);

  const Field& field() const { return field_; }
  /// Shows the value that the step on the Bench has.
  virtual void refresh() = 0;
  /// The widget that gets the keyboard first.
  virtual QWidget* first() = 0;
  /// What can be picked in the view for it; nothing for fields without picks.
  virtual std::optional<PickFilter> filter() const { return std::nullopt; }
  /// Whether planes of the world can be picked for it: they are drawn then.
  virtual bool takesPlanes() const { return false; }
  /// … and axes of the world.
  virtual bool takesAxes() const { return false; }
  /// Takes picks from the view. `add`: beside those there are, where there can be several.
  virtual void take(const std::vector<Pick>& picks, bool add);
  virtual bool isEmpty() const { return false; }
  /// True if the editor needs room, e.g. for a table.
  virtual bool wide() const { return false; }
  /// Whether its label stands before it; otherwise the editor says itself what it is for.
  virtual bool labelled() const { return true; }
  virtual void setArmed(bool armed);
  /// Cards that stand beside its own, if it takes more than one.
  virtual std::vector<WellCard*> cards() { return {}; }
  bool armed() const { return armed_; }

 signals:
  /// It wants to take picks from the view now; or no longer, if it does.
  void armWanted(kervo::app::FieldEditor* editor);
  /// It wants to take picks from the view, whether it did already or not.
  void pickWanted(kervo::app::FieldEditor* editor);
  /// It has the one thing that it holds.
  void filled(kervo::app::FieldEditor* editor);

 protected:
  const FieldValue& value() const { return desk_.trial.step().value(field_); }
  template <class T>
  const T& valueAs() const {
    return value().as<T>();
  }
  void set(const FieldValue& value) { desk_.trial.setField(field_.key(), value); }

  const Field& field_;
  Desk& desk_;
  bool armed_ = false;
};

/// The editor for a field's type; null for one that is edited in the list of pieces.
FieldEditor* makeFieldEditor(const Field& field, Desk& desk, QWidget* parent);

/// The name of a body as it is before the step on the Bench.
QString bodyName(const Desk& desk, const BodyId& id);
/// The name of a face or an edge: "face3 of Lid".
QString faceName(const Desk& desk, const FaceReference& face);
QString edgeName(const Desk& desk, const EdgeReference& edge);
/// "= 24.00 mm" if the text is more than a number; empty otherwise.
/// A value that is measured, as one would write it: in mm or degrees.
Expression written(double value, Dimensionality dimension);

QString valueHint(const NumberWanted& wanted, const Expression& expression, const Desk& desk);

}  // namespace kervo::app
