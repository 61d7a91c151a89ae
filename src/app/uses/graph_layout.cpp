#include "app/uses/graph_layout.h"

#include <gvc.h>

#include <QObject>
#include <memory>
#include <string>

#include "app/texts.h"
#include "base/error.h"

namespace kervo::app {

namespace {

constexpr double perInch = 72;

struct Closing {
  GVC_t* context;
  void operator()(Agraph_t* graph) const {
    gvFreeLayout(context, graph);
    agclose(graph);
  }
};

/// The library takes texts that it does not change, but not as such.
char* text(const char* constant) {
  return const_cast<char*>(constant);
}

}  // namespace

GraphLayout laidOut(const std::vector<QSizeF>& sizes, const std::vector<std::pair<std::size_t, std::size_t>>& edges) {
  // One context for good: it keeps the library's plugins.
  static GVC_t* const context = gvContext();
  const std::unique_ptr<Agraph_t, Closing> graph(agopen(text("uses"), Agdirected, nullptr), Closing{context});
  agattr(graph.get(), AGRAPH, text("rankdir"), text("LR"));
  agattr(graph.get(), AGRAPH, text("nodesep"), text("0.16"));
  agattr(graph.get(), AGRAPH, text("ranksep"), text("0.45"));
  agattr(graph.get(), AGNODE, text("shape"), text("box"));
  agattr(graph.get(), AGNODE, text("fixedsize"), text("true"));
  agattr(graph.get(), AGNODE, text("label"), text(""));
  for (const char* key : {"width", "height"}) agattr(graph.get(), AGNODE, text(key), text("1"));
  std::vector<Agnode_t*> nodes;
  for (std::size_t i = 0; i < sizes.size(); ++i) {
    nodes.push_back(agnode(graph.get(), std::to_string(i).data(), 1));
    agset(nodes.back(), text("width"), std::to_string(sizes[i].width() / perInch).data());
    agset(nodes.back(), text("height"), std::to_string(sizes[i].height() / perInch).data());
  }
  std::vector<Agedge_t*> arrows;
  for (const auto& [from, to] : edges) arrows.push_back(agedge(graph.get(), nodes[from], nodes[to], nullptr, 1));
  if (gvLayout(context, graph.get(), "dot") != 0)
    throw errorOf(QObject::tr("the graph could not be laid out"), {}, QObject::tr("Look at fewer steps"));
  GraphLayout layout;
  const auto at = [](const pointf& point) { return QPointF(point.x, -point.y); };
  for (std::size_t i = 0; i < nodes.size(); ++i) {
    QRectF box(QPointF(), sizes[i]);
    box.moveCenter(at(ND_coord(nodes[i])));
    layout.boxes.push_back(box);
  }
  for (std::size_t i = 0; i < edges.size(); ++i) {
    GraphLayout::Edge edge{.from = edges[i].first, .to = edges[i].second};
    const splines* curves = ED_spl(arrows[i]);
    if (!curves || curves->size < 1) continue;
    const bezier& curve = curves->list[0];
    edge.path.moveTo(at(curve.list[0]));
    for (std::size_t k = 1; k + 2 < static_cast<std::size_t>(curve.size); k += 3)
      edge.path.cubicTo(at(curve.list[k]), at(curve.list[k + 1]), at(curve.list[k + 2]));
    edge.before = edge.path.currentPosition();
    edge.tip = curve.eflag ? at(curve.ep) : edge.before;
    layout.edges.push_back(std::move(edge));
  }
  return layout;
}

}  // namespace kervo::app
