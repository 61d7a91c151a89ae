#include "app/panels/driven_by.h"

#include <QCoreApplication>
#include <QStringList>
#include <algorithm>

#include "app/texts.h"
#include "base/error.h"
#include "fields/choice_field.h"
#include "fields/drawing_field.h"
#include "fields/number_field.h"

namespace kervo::app {

namespace {

const QString times = QStringLiteral(" × ");

/// All sizes of a body; the most telling number of a cut; a choice if there is no number.
std::vector<const Field*> drivingFields(const Step& step) {
  std::vector<const Field*> sizes, choices;
  std::vector<const NumberField*> numbers;
  for (const Field* field : step.kind().fields()) {
    if (!matters(step, *field)) continue;
    const auto* number = dynamic_cast<const NumberField*>(field);
    if (number && field->well() == Well::Setup) sizes.push_back(field);
    if (number && field->well() != Well::Setup) numbers.push_back(number);
    if (field->telling()) choices.push_back(field);
  }
  if (!sizes.empty()) return sizes;
  for (const NumberField* field : numbers)
    if (!(step.value(*field) == field->standard())) return {field};
  // A number that is zero unless somebody sets it tells less than what the step does.
  for (const NumberField* field : numbers)
    if (field->well() == Well::Reach && field->wanted().rule == NumberRule::Positive) return {field};
  if (!choices.empty()) return {choices.front()};
  for (const NumberField* field : numbers)
    if (field->well() == Well::Reach) return {field};
  return {};
}

const DrawnCurve* onlyCurve(const Step& step) {
  for (const FieldValue& value : step.values())
    if (const auto* drawing = value.asIf<Drawing>())
      return drawing->curves.size() == 1 && !drawing->curves.front().numbers.empty() ? &drawing->curves.front()
                                                                                     : nullptr;
  return nullptr;
}

QString drawingText(const Drawing& drawing) {
  const std::vector<DrawnCurve>& curves = drawing.curves;
  if (!drawing.constraints.empty())
    return drawing.constraints.size() == 1
               ? QCoreApplication::translate("CutList", "1 constraint")
               : QCoreApplication::translate("CutList", "%1 constraints").arg(drawing.constraints.size());
  if (curves.empty()) return QCoreApplication::translate("CutList", "nothing drawn");
  const bool same = std::all_of(curves.begin(), curves.end(),
                                [&](const DrawnCurve& curve) { return curve.kind == curves.front().kind; });
  const QString kind = same ? QString::fromStdString(curves.front().kind) : QStringLiteral("curve");
  return QStringLiteral("%1 %2%3").arg(curves.size()).arg(kind, curves.size() == 1 ? "" : "s");
}

}  // namespace

QString drivenBy(const Step& step) {
  QStringList parts;
  for (const Field* field : drivingFields(step)) parts << QString::fromStdString(field->text(step.value(*field)));
  if (!parts.isEmpty()) return parts.join(times);
  if (const DrawnCurve* curve = onlyCurve(step)) return QString::fromStdString(curve->numbers.back().text());
  for (const Field* field : step.kind().fields()) {
    const FieldValue& value = step.value(*field);
    if (const auto* drawing = value.asIf<Drawing>()) return drawingText(*drawing);
    const bool text = dynamic_cast<const TextField*>(field) && !dynamic_cast<const WordField*>(field);
    if (text) return QString::fromStdString(value.as<std::string>());
  }
  return {};
}

QString drivenByLabel(const Step& step) {
  QStringList parts;
  for (const Field* field : drivingFields(step)) parts << kindText(field->label());
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
    for (const Field* field : step.kind().fields()) {
      const auto* drawing = step.value(*field).asIf<Drawing>();
      if (!drawing || !onlyCurve(step)) continue;
      Drawing changed = *drawing;
      changed.curves.front().numbers.back() = Expression(text.trimmed().toStdString());
      return step.with(*field, changed);
    }
    throw errorOf(QCoreApplication::translate("CutList", "this step is not driven by one value"),
                  QString::fromStdString(name),
                  QCoreApplication::translate("CutList", "Double-click it to edit it on the Bench"));
  }
  const QStringList parts = fields.size() == 1 ? QStringList{text} : text.split(QChar(0xd7));
  if (parts.size() != static_cast<qsizetype>(fields.size()))
    throw errorOf(QCoreApplication::translate("CutList", "\"%1\" is driven by %2 values, not %3")
                      .arg(QString::fromStdString(name))
                      .arg(fields.size())
                      .arg(parts.size()),
                  QCoreApplication::translate("CutList", "Driven by"),
                  QCoreApplication::translate("CutList", "Write them with × between: %1").arg(drivenByLabel(step)));
  Step result = step;
  for (std::size_t i = 0; i < fields.size(); ++i) {
    const std::string part = parts[static_cast<qsizetype>(i)].trimmed().toStdString();
    const Field& field = *fields[i];
    try {
      result = result.with(field, field.fromText(part, name));
    } catch (const Error&) {
      const auto* words = dynamic_cast<const WordField*>(&field);
      if (!words) throw;
      throw errorOf(
          QCoreApplication::translate("CutList", "\"%1\" is none of the choices of %2")
              .arg(QString::fromStdString(part), kindText(field.label())),
          QString::fromStdString(name),
          QCoreApplication::translate("CutList", "Write one of: %1").arg(QString::fromStdString(words->allowed())));
    }
  }
  return result;
}

}  // namespace kervo::app
