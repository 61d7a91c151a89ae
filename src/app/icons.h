// Kervo's line pictures, drawn on a grid of 16 × 16 in the text's colour.
#pragma once

#include <QIcon>
#include <QString>

namespace kervo::app {

/// The picture of that name ("block", "cut", "eye", …). A plain square for an unknown one.
QIcon icon(const QString& name);
/// In another colour than the text's.
QIcon icon(const QString& name, const QColor& color);
/// The application's own sign, in colours.
QIcon applicationIcon();

}  // namespace kervo::app
