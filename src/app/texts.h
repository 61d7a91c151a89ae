// Texts between the core, whose go through say(), and the window, whose go through tr().
#pragma once

#include <QCoreApplication>
#include <QString>
#include <string>

#include "base/error.h"

namespace kervo::app {

/// A label, a help text or a choice of a kind's table, in the language of the window. All of them stand in
/// kind_texts.cpp, for translators.
inline QString kindText(const std::string& text) {
  return QCoreApplication::translate("Kinds", text.c_str());
}

/// What say() asks: the translation of a text of the core, or else of a kind's table.
inline std::string coreText(const char* english) {
  const QString text = QCoreApplication::translate("Core", english);
  return text == QString::fromUtf8(english) ? kindText(english).toStdString() : text.toStdString();
}

/// An error that the window found out itself.
template <class Kind = Error>
Kind errorOf(const QString& happened, const QString& where = {}, const QString& help = {}) {
  return Kind(happened.toStdString(), where.toStdString(), help.toStdString());
}

}  // namespace kervo::app
