// What file dialogs offer, from the table of formats.
#pragma once

#include <QString>
#include <optional>

#include "exchange/formats.h"

namespace kervo::app {

/// One entry a format, and before them one for all together where a text for it is given. `holds`: only formats of
/// that; nothing for all.
QString filters(Direction direction, std::optional<Format::Holds> holds, const QString& together = {});

/// What can be brought in: all of it together, then each format of bodies and of curves.
QString bringInFilters();

/// Each format to which pictures are written.
QString pictureFilters();

}  // namespace kervo::app
