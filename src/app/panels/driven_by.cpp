#include "app/panels/driven_by.h"

#include <QCoreApplication>
#include <QStringList>
#include <algorithm>

#include "base/error.h"

namespace kervo::app {

namespace {

const QString times = QStringLiteral(" × ");

bool isNumber(const FieldSpec& field) {
  return field.type == FieldType::Length || field.type == FieldType::Angle || field.type == FieldType::Number;
}

/// All sizes of a body; the most telling number of a cut; a choice if there is no number.
std::vector<const FieldSpec*> drivingFields(const Step& step) {
  std::vector<const FieldSpec*> sizes, numbers, choices;
  for (const FieldSpec& field : step.kind().fields()) {
    if (!matters(step, field)) continue;
    if (isNumber(field) && field.well == Well::Setup) sizes.push_back(&field);
    if (isNumber(field) && field.well != Well::Setup) numbers.push_back(&field);
    if (field.type == FieldType::Choice && field.well == Well::Reach) choices.push_back(&field);
  }
  if (!sizes.empty()) return sizes;
  for (const FieldSpec* field : numbers)
    if (step.value(field->key) != defaultValue(*field)) return {field};
  // A number that is zero unless somebody sets it tells less than what the step does.
  for (const FieldSpec* field : numbers)
    if (field->well == Well::Reach && field->rule == NumberRule::Positive) return {field};
  for (const char* key : {"to", "verb", "way"})
    for (const FieldSpec* field : choices)
      if (field->key == key) return {field};
  for (const FieldSpec* field : numbers)
    if (field->well == Well::Reach) return {field};
  return {};
}

const DrawnCurve* onlyCurve(const Step& step) {
  for (const FieldSpec& field : step.kind().fields())
    if (const auto* curves = std::get_if<std::vector<DrawnCurve>>(&step.value(field.key)))
      return curves->size() == 1 ? &curves->front() : nullptr;
  return nullptr;
}

QString curvesText(const std::vector<DrawnCurve>& curves) {
  if (curves.empty()) return QCoreApplication::translate("CutList", "nothing drawn");
  const bool same = std::all_of(curves.begin(), curves.end(),
                                [&](const DrawnCurve& curve) { return curve.kind == curves.front().kind; });
  const QString kind = same ? QString::fromStdString(curves.front().kind) : QStringLiteral("curve");
  return QStringLiteral("%1 %2%3").arg(curves.size()).arg(kind, curves.size() == 1 ? "" : "s");
}

}  // namespace

QString drivenBy(const Step& step) {
  QStringList parts;
  for (const FieldSpec* field : drivingFields(step)) {
    const FieldValue& value = step.value(field->key);
    if (const auto* expression = std::get_if<Expression>(&value)) parts << QString::fromStdString(expression->text());
    if (const auto* choice = std::get_if<std::string>(&value)) parts << QString::fromStdString(*choice);
  }
  if (!parts.isEmpty()) return parts.join(times);
  if (const DrawnCurve* curve = onlyCurve(step))
    if (!curve->numbers.empty()) return QString::fromStdString(curve->numbers.back().text());
  for (const FieldSpec& field : step.kind().fields()) {
    const FieldValue& value = step.value(field.key);
    if (const auto* curves = std::get_if<std::vector<DrawnCurve>>(&value)) return curvesText(*curves);
    if (field.type == FieldType::Text)
      if (const auto* text = std::get_if<std::string>(&value)) return QString::fromStdString(*text);
  }
  return {};
}

QString drivenByLabel(const Step& step) {
  QStringList parts;
  for (const FieldSpec* field : drivingFields(step)) parts << QString::fromStdString(field->label);
  if (!parts.isEmpty()) return parts.join(times);
  if (const DrawnCurve* curve = onlyCurve(step))
    return QCoreApplication::translate("CutList", "%1: last number").arg(QString::fromStdString(curve->kind));
  return {};
}

bool drivenByEditable(const Step& step) {
  return !drivingFields(step).empty() || onlyCurve(step);
}

Step withDrivenBy(const Step& step, const std::string& name, const QString& text) {
  const auto fields = drivingFields(step);
  if (fields.empty()) {
    for (const FieldSpec& field : step.kind().fields()) {
      const auto* curves = std::get_if<std::vector<DrawnCurve>>(&step.value(field.key));
      if (!curves || curves->size() != 1 || curves->front().numbers.empty()) continue;
      auto changed = *curves;
      changed.front().numbers.back() = Expression(text.trimmed().toStdString());
      return step.with(field.key, changed);
    }
    throw Error("this step is not driven by one value", name, "Double-click it to edit it on the Bench");
  }
  const QStringList parts = fields.size() == 1 ? QStringList{text} : text.split(QChar(0xd7));
  if (parts.size() != static_cast<qsizetype>(fields.size()))
    throw Error("\"" + name + "\" is driven by " + std::to_string(fields.size()) + " values, not " +
                    std::to_string(parts.size()),
                "Driven by", "Write them with × between: " + drivenByLabel(step).toStdString());
  Step result = step;
  for (std::size_t i = 0; i < fields.size(); ++i) {
    const std::string part = parts[static_cast<qsizetype>(i)].trimmed().toStdString();
    if (fields[i]->type != FieldType::Choice) {
      result = result.with(fields[i]->key, Expression(part));
      continue;
    }
    const auto& choices = fields[i]->choices;
    if (std::find(choices.begin(), choices.end(), part) == choices.end()) {
      std::string list;
      for (const std::string& choice : choices) list += (list.empty() ? "" : ", ") + choice;
      throw Error("\"" + part + "\" is none of the choices of " + fields[i]->label, name, "Write one of: " + list);
    }
    result = result.with(fields[i]->key, part);
  }
  return result;
}

}  // namespace kervo::app
