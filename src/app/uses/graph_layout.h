// Where the boxes and arrows of a graph go: laid out in layers by the Graphviz library.
#pragma once

#include <QPainterPath>
#include <QRectF>
#include <vector>

namespace kervo::app {

struct GraphLayout {
  struct Edge {
    std::size_t from = 0, to = 0;
    QPainterPath path = {};         ///< without its head
    QPointF before = {}, tip = {};  ///< where the head begins and ends
  };
  std::vector<QRectF> boxes;
  std::vector<Edge> edges;
};

/// Boxes of these sizes in pixels, arrows from left to right. Throws Error if the library cannot lay it out.
GraphLayout laidOut(const std::vector<QSizeF>& sizes, const std::vector<std::pair<std::size_t, std::size_t>>& edges);

}  // namespace kervo::app
