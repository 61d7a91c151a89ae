// Texts of the core, for people: what kinds of step and their fields say of themselves, in the language of the window.
#pragma once

#include <QCoreApplication>
#include <QString>
#include <string>

namespace kervo::app {

/// A label, a help text or a choice of a kind's table. All of them stand in kind_texts.cpp, for translators.
inline QString kindText(const std::string& text) {
  return QCoreApplication::translate("Kinds", text.c_str());
}

}  // namespace kervo::app
