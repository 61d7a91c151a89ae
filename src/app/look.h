// The window's colours and fonts, for light and dark desktops.
#pragma once

#include <QColor>
#include <QFont>
#include <QString>

#include "view/look.h"

class QApplication;

namespace kervo::app {

enum class LookChoice { FollowDesktop, Light, Dark };

struct Look {
  bool dark = false;
  QColor strip, stripText, stripDim, stripField;
  QColor panel, bench, card, status, line;
  QColor field, fieldLine, text, dim;
  QColor teal, tealSoft, violet, violetSoft, ochre, ochreSoft, vermilion, vermilionSoft, onStrong;
  ViewLook view;
};

/// The look in use. Valid once setUpLook() was called.
const Look& look();

/// Loads Inter from the application, sets palette, font and style. `choice` is kept for the next start.
void setUpLook(QApplication& application);
void chooseLook(LookChoice choice);
LookChoice lookChoice();

/// The application's font, smaller or larger by some steps of a twelfth, and with tabular figures.
QFont fontOf(int steps = 0, QFont::Weight weight = QFont::Normal);

}  // namespace kervo::app
