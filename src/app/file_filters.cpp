#include "app/file_filters.h"

#include <QObject>
#include <QStringList>

#include "base/say.h"

namespace kervo::app {

namespace {

QString patternsOf(const Format& format) {
  QStringList patterns;
  for (const std::string& extension : format.extensions) patterns << "*" + QString::fromStdString(extension);
  return patterns.join(' ');
}

}  // namespace

QString filters(Direction direction, std::optional<Format::Holds> holds, const QString& together) {
  QStringList all, each;
  for (const Format* format : allFormats()) {
    if (!allows(*format, direction) || (holds && format->holds != *holds)) continue;
    all << patternsOf(*format);
    each << QStringLiteral("%1 (%2)").arg(QString::fromStdString(say(format->name.c_str())), patternsOf(*format));
  }
  if (!together.isEmpty()) each.prepend(QStringLiteral("%1 (%2)").arg(together, all.join(' ')));
  return each.join(";;");
}

QString bringInFilters() {
  const QString bodies = filters(Direction::Read, Format::Holds::Bodies);
  const QString curves = filters(Direction::Read, Format::Holds::Curves);
  QStringList all;
  for (const Format* format : allFormats())
    if (allows(*format, Direction::Read) && format->holds != Format::Holds::Document) all << patternsOf(*format);
  return QStringLiteral("%1 (%2);;%3;;%4").arg(QObject::tr("Bodies and curves"), all.join(' '), bodies, curves);
}

QString pictureFilters() {
  QStringList each;
  for (const Format* format : allFormats())
    if (format->writePicture)
      each << QStringLiteral("%1 (%2)").arg(QString::fromStdString(say(format->name.c_str())), patternsOf(*format));
  return each.join(";;");
}

}  // namespace kervo::app
