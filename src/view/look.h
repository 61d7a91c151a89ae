// The view's colours, for light and dark desktops.
#pragma once

#include <QColor>
#include <algorithm>
#include <array>

#include "geom/shape.h"

namespace kervo {

struct ViewLook {
  QColor backgroundTop, backgroundBottom;
  QColor ink;  ///< edges
  QColor text, textBack;
  QColor teal, violet, ochre, ochreLight, vermilion;
  std::array<QColor, 3> axes;  ///< x, y, z

  bool operator==(const ViewLook&) const = default;

  static ViewLook light() {
    return {QColor("#f3f4f2"),
            QColor("#dfe4e4"),
            QColor("#1d2b33"),
            QColor("#1d2b33"),
            QColor("#ffffff"),
            QColor("#1f8a80"),
            QColor("#7b4fb5"),
            QColor("#b7791f"),
            QColor("#f0dcae"),
            QColor("#c8452c"),
            {QColor("#b5482f"), QColor("#4f8a3c"), QColor("#3568a8")}};
  }
  static ViewLook dark() {
    return {QColor("#2b363c"),
            QColor("#1b2429"),
            QColor("#0d1417"),
            QColor("#e8ecec"),
            QColor("#27333a"),
            QColor("#4fb8ad"),
            QColor("#ab8be0"),
            QColor("#d9a04a"),
            QColor("#f0dcae"),
            QColor("#e8745c"),
            {QColor("#e07a60"), QColor("#86bd72"), QColor("#78a6e0")}};
  }

  /// The n-th of so many bands: from dark to light, so that they are told apart without their colours.
  static QColor band(int n, int count) {
    static const std::array<QColor, 3> tones{QColor("#46307a"), QColor("#2f948a"), QColor("#f5e6bd")};
    const double at = count < 2 ? 1 : 2.0 * n / (count - 1);
    const auto low = std::min(static_cast<std::size_t>(at), std::size_t{1});
    const double share = at - static_cast<double>(low);
    const auto mix = [&](float a, float b) { return a + (b - a) * static_cast<float>(share); };
    const QColor &a = tones[low], &b = tones[low + 1];
    return QColor::fromRgbF(mix(a.redF(), b.redF()), mix(a.greenF(), b.greenF()), mix(a.blueF(), b.blueF()));
  }

  /// Fill of the n-th piece, and the stronger tone of its badge.
  static QColor pieceFill(int n) {
    static const std::array<QColor, 6> fills{QColor("#9fc3bd"), QColor("#b7a7cd"), QColor("#a9bddb"),
                                             QColor("#c3cf9f"), QColor("#dcb6ae"), QColor("#b9c0c6")};
    return fills[static_cast<std::size_t>(n) % fills.size()];
  }
  static QColor pieceBadge(int n) {
    static const std::array<QColor, 6> tones{QColor("#2f6f66"), QColor("#6a4d93"), QColor("#35588c"),
                                             QColor("#66752b"), QColor("#9a4a3c"), QColor("#4f5b64")};
    return tones[static_cast<std::size_t>(n) % tones.size()];
  }
};

}  // namespace kervo
