// Texts between the core, whose are in std::string, and the window, whose go through tr().
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

/// An error that the window found out itself.
template <class Kind = Error>
Kind errorOf(const QString& happened, const QString& where = {}, const QString& help = {}) {
  return Kind(happened.toStdString(), where.toStdString(), help.toStdString());
}

}  // namespace kervo::app
