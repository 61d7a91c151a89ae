#include "app/uses/uses_dialog.h"

#include <QDialogButtonBox>
#include <QGraphicsRectItem>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/look.h"

namespace kervo::app {

UsesDialog::UsesDialog(Desk& desk, QWidget* parent)
    : QDialog(parent), desk_(desk), graph_(new QGraphicsView), words_(new QLabel) {
  setWindowTitle(tr("Where used"));
  words_->setWordWrap(true);
  graph_->setAccessibleName(tr("Graph of what depends on what"));
  graph_->setRenderHint(QPainter::Antialiasing);
  graph_->setDragMode(QGraphicsView::ScrollHandDrag);
  graph_->setScene(new QGraphicsScene(graph_));
  graph_->viewport()->installEventFilter(this);
  graph_->installEventFilter(this);
  auto* buttons = new QDialogButtonBox;
  auto* all = buttons->addButton(tr("The whole document"), QDialogButtonBox::ActionRole);
  buttons->addButton(QDialogButtonBox::Close);
  auto* column = new QVBoxLayout(this);
  column->addWidget(words_);
  column->addWidget(graph_, 1);
  column->addWidget(buttons);
  resize(820, 460);
  connect(all, &QPushButton::clicked, this, [this] { showOf({}); });
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::close);
  connect(&desk_.session, &Session::modelChanged, this, [this] { showOf(node_); });
}

QString UsesDialog::nameOf(const UsesNode& node) const {
  if (node.what == UsesNode::What::Dimension) return QString::fromStdString(node.id);
  const auto step = desk_.session.document().find(StepId(node.id));
  return step ? stepName(desk_, *step) : QString::fromStdString(node.id);
}

QString UsesDialog::saidOf(const UsesNode& node, const Uses& uses) const {
  const auto names = [&](const std::vector<UsesNode>& nodes) {
    QStringList all;
    constexpr std::size_t most = 6;
    for (std::size_t i = 0; i < nodes.size() && i < most; ++i) all << QStringLiteral("\"%1\"").arg(nameOf(nodes[i]));
    if (nodes.size() > most) all << tr("%1 more").arg(nodes.size() - most);
    return all.join(", ");
  };
  const auto named = uses.namedIn(node), far = uses.dependents(node), meet = uses.worksOn(node);
  QStringList lines;
  lines << (far.empty() ? tr("Nothing depends on \"%1\".").arg(nameOf(node))
                        : tr("A change of \"%1\" is felt by %2.").arg(nameOf(node), names(far)));
  if (!named.empty()) lines << tr("If it were deleted, %1 would break, since they name it.").arg(names(named));
  if (!meet.empty()) lines << tr("%1 would go on without it: they work on all bodies.").arg(names(meet));
  return lines.join(' ');
}

void UsesDialog::showOf(std::optional<UsesNode> node) {
  const Uses uses = Uses::of(desk_.session.document());
  const auto& known = uses.nodes();
  if (node && std::find(known.begin(), known.end(), *node) == known.end()) node.reset();
  node_ = node;
  shown_.clear();
  if (node) {
    const auto before = uses.sources(*node), behind = uses.dependents(*node);
    for (const UsesNode& each : known)
      if (each == *node || std::find(before.begin(), before.end(), each) != before.end() ||
          std::find(behind.begin(), behind.end(), each) != behind.end())
        shown_.push_back(each);
  } else {
    shown_ = known;
  }
  words_->setText(node ? saidOf(*node, uses)
                       : tr("All steps and dimensions. A click shows where one is used, a double click goes to it."));
  const QFont font = fontOf(), bold = fontOf(0, QFont::DemiBold);
  const QFontMetricsF metrics(bold);
  std::vector<QSizeF> sizes;
  for (const UsesNode& each : shown_)
    sizes.emplace_back(metrics.horizontalAdvance(nameOf(each)) + 20, metrics.height() + 10);
  std::vector<std::pair<std::size_t, std::size_t>> edges;
  for (std::size_t user = 0; user < shown_.size(); ++user)
    for (const UsesNode& used : uses.usedBy(shown_[user]))
      if (const auto at = std::find(shown_.begin(), shown_.end(), used); at != shown_.end())
        edges.emplace_back(static_cast<std::size_t>(at - shown_.begin()), user);
  QGraphicsScene& scene = *graph_->scene();
  scene.clear();
  graph_->setBackgroundBrush(look().panel);
  try {
    layout_ = laidOut(sizes, edges);
  } catch (const Error& error) {
    layout_ = {};
    words_->setText(QString::fromStdString(error.what()));
    return;
  }
  for (const GraphLayout::Edge& edge : layout_.edges) {
    scene.addPath(edge.path, QPen(look().dim, 1.3));
    const QPointF way = edge.tip - edge.before, across(-way.y() * 0.4, way.x() * 0.4);
    scene.addPolygon(QPolygonF({edge.tip, edge.before + across, edge.before - across}), Qt::NoPen, look().dim);
  }
  const auto& reports = desk_.session.made()->model->steps;
  for (std::size_t i = 0; i < shown_.size(); ++i) {
    const UsesNode& each = shown_[i];
    const bool dimension = each.what == UsesNode::What::Dimension, chosen = node == each;
    const auto report = std::find_if(reports.begin(), reports.end(),
                                     [&](const StepReport& r) { return !dimension && r.id == each.id; });
    const bool failed = report != reports.end() && report->state == StepState::Failed;
    const bool off = report != reports.end() && report->state == StepState::Off;
    QPainterPath box;
    box.addRoundedRect(layout_.boxes[i], dimension ? layout_.boxes[i].height() / 2 : 4,
                       dimension ? layout_.boxes[i].height() / 2 : 4);
    const QColor line = failed ? look().vermilion : dimension ? look().violet : look().teal;
    const QColor fill = chosen ? line : failed ? look().vermilionSoft : dimension ? look().violetSoft : look().card;
    auto* item = scene.addPath(box, QPen(off ? look().line : line, chosen || failed ? 2 : 1.2), fill);
    item->setToolTip(off ? tr("switched off") : nameOf(each));
    if (report != reports.end())
      if (const auto& error = report->error) item->setToolTip(QString::fromStdString(error->what()));
    auto* text = scene.addSimpleText(nameOf(each), chosen ? bold : font);
    text->setBrush(chosen ? look().onStrong : off ? look().dim : look().text);
    text->setPos(layout_.boxes[i].center() - text->boundingRect().center());
  }
  graph_->setSceneRect(scene.itemsBoundingRect().adjusted(-16, -16, 16, 16));
  if (node)
    for (std::size_t i = 0; i < shown_.size(); ++i)
      if (shown_[i] == *node) graph_->centerOn(layout_.boxes[i].center());
}

QRect UsesDialog::rectOf(const UsesNode& node) const {
  for (std::size_t i = 0; i < shown_.size() && i < layout_.boxes.size(); ++i)
    if (shown_[i] == node) return graph_->mapFromScene(layout_.boxes[i]).boundingRect();
  return {};
}

void UsesDialog::choose(const UsesNode& node) {
  if (node.what == UsesNode::What::Step)
    emit stepWanted(StepId(node.id));
  else
    emit dimensionWanted(QString::fromStdString(node.id));
}

/// To the next or the one before, in the order of the document.
void UsesDialog::step(int by) {
  if (shown_.empty()) return;
  const auto at = node_ ? std::find(shown_.begin(), shown_.end(), *node_) - shown_.begin() : -1;
  const auto count = static_cast<std::ptrdiff_t>(shown_.size());
  showOf(shown_[static_cast<std::size_t>((at + by + count) % count)]);
}

bool UsesDialog::eventFilter(QObject* watched, QEvent* event) {
  if (watched == graph_ && event->type() == QEvent::KeyPress) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_N || key == Qt::Key_P) {
      step(key == Qt::Key_N ? 1 : -1);
      return true;
    }
    if ((key == Qt::Key_Return || key == Qt::Key_Enter) && node_) {
      choose(*node_);
      return true;
    }
  }
  const bool doubled = event->type() == QEvent::MouseButtonDblClick;
  if (watched == graph_->viewport() && (event->type() == QEvent::MouseButtonPress || doubled)) {
    const QPoint at = static_cast<QMouseEvent*>(event)->position().toPoint();
    for (const UsesNode& node : shown_)
      if (rectOf(node).contains(at)) {
        const UsesNode hit = node;
        if (doubled)
          choose(hit);
        else
          showOf(hit);
        return true;
      }
  }
  return QDialog::eventFilter(watched, event);
}

void UsesDialog::changeEvent(QEvent* event) {
  QDialog::changeEvent(event);
  if (event->type() == QEvent::PaletteChange) showOf(node_);
}

}  // namespace kervo::app
