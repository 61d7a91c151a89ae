#include "app/drawing/drawing_words.h"

#include <QCoreApplication>
#include <algorithm>
#include <string_view>

#include "base/say.h"
#include "drawing/constraint_kind.h"

namespace kervo::app {

namespace {

class DrawingWords {
  Q_DECLARE_TR_FUNCTIONS(DrawingWords)
};

}  // namespace

QString spoken(const Drawing& drawing, const std::string& id) {
  if (id == originId) return DrawingWords::tr("origin");
  if (id == uAxisId) return DrawingWords::tr("u axis");
  if (id == vAxisId) return DrawingWords::tr("v axis");
  const std::string head = id.substr(0, id.find('.'));
  const QString part = head.size() == id.size()
                           ? QString()
                           : QStringLiteral(" · %1").arg(QString::fromStdString(id.substr(head.size() + 1)));
  // "l12" is line 12; an id that somebody wrote is its own name.
  const bool numbered =
      head.size() > 1 && std::all_of(head.begin() + 1, head.end(), [](char c) { return c >= '0' && c <= '9'; });
  const QString number = QString::fromStdString(head.substr(1));
  if (const auto curve = drawing.curve(head)) {
    const std::string& kind = drawing.curves[*curve].kind;
    if (!numbered || head[0] != kind[0]) return QString::fromStdString(head) + part;
    QString name = QString::fromStdString(say(kind.c_str()));
    return DrawingWords::tr("%1 %2").arg(name.replace('_', ' '), number) + part;
  }
  if (drawing.point(head) && numbered && head[0] == 'p') return DrawingWords::tr("point %1").arg(number);
  for (const DrawnCopies& copies : drawing.copies)
    if (copies.id == id && id.starts_with(copies.kind))
      return DrawingWords::tr("%1 %2").arg(QString::fromStdString(say(copies.kind.c_str())),
                                           QString::fromStdString(id.substr(copies.kind.size())));
  // "taken2.lid_top" is a curve that was taken along: the second thing, where it meets the face "lid:top".
  constexpr std::string_view prefix = "taken";
  const std::string count = head.starts_with(prefix) ? head.substr(prefix.size()) : std::string();
  if (!count.empty() && std::all_of(count.begin(), count.end(), [](char c) { return c >= '0' && c <= '9'; }))
    return DrawingWords::tr("taken %1").arg(QString::fromStdString(count)) + part;
  return QString::fromStdString(id);
}

QString spokenList(const Drawing& drawing, const std::vector<std::string>& ids) {
  QStringList names;
  for (const std::string& id : ids) names << spoken(drawing, id);
  if (names.size() < 2) return names.join(QString());
  const QString last = names.takeLast();
  return DrawingWords::tr("%1 and %2").arg(names.join(", "), last);
}

QString inWords(const Drawing& drawing, const DrawnConstraint& constraint) {
  const ConstraintKind* kind = findConstraintKind(constraint.kind);
  const QString label = QString::fromStdString(kind ? say(kind->label) : constraint.kind);
  return DrawingWords::tr("%1: %2").arg(label, spokenList(drawing, constraint.on));
}

QString spokenConstraints(const Drawing& drawing, const std::vector<std::string>& ids) {
  QStringList words;
  for (const std::string& id : ids)
    for (const DrawnConstraint& constraint : drawing.constraints)
      if (constraint.id == id) words << inWords(drawing, constraint);
  return words.join("; ");
}

}  // namespace kervo::app
