#include "app/drawing/regions_card.h"

#include <QHBoxLayout>
#include <QToolButton>
#include <algorithm>

#include "app/look.h"
#include "drawing/loose_ends.h"

namespace kervo::app {

RegionsCard::RegionsCard(Desk& desk, QWidget* parent)
    : WellCard(tr("Regions"), tr("what it encloses"), &Look::vermilion, parent), desk_(desk) {
  setShare(9);
  lines_ = new QVBoxLayout;
  lines_->setSpacing(2);
  content()->addLayout(lines_);
  content()->addStretch();
  connect(&desk_.drawing, &DrawingDesk::changed, this, &RegionsCard::refresh);
  refresh();
}

void RegionsCard::refresh() {
  if (!desk_.drawing.open()) return;
  const auto& result = desk_.trial.result();
  const DrawingResult* made = result ? result->report().drawing() : nullptr;
  const std::vector<LooseEnd> loose =
      looseEnds(desk_.drawing.drawing(), desk_.drawing.values(), desk_.drawing.solution());
  QStringList texts;
  constexpr std::size_t most = 6;
  if (made) {
    std::vector<double> areas;
    for (const Region& region : made->regions) areas.push_back(region.area());
    std::sort(areas.rbegin(), areas.rend());
    for (std::size_t i = 0; i < areas.size() && i < most; ++i) texts << areaText(areas[i]);
    if (areas.size() > most) texts << tr("and %1 more").arg(areas.size() - most);
  }
  QStringList ends;
  for (const LooseEnd& end : loose) ends << QString::fromStdString(end.point);
  const QString state = texts.join('|') + "#" + ends.join('|');
  if (property("shows").toString() == state) return;
  setProperty("shows", state);
  while (QLayoutItem* item = lines_->takeAt(0)) {
    item->widget()->hide();
    item->widget()->deleteLater();
    delete item;
  }
  const std::size_t count = made ? made->regions.size() : 0;
  setNote(count == 1 ? tr("1 found") : tr("%1 found").arg(count));
  int number = 0;
  for (const QString& text : texts) {
    auto* line = new QLabel(text.startsWith(tr("and")) ? text : tr("%1 · %2").arg(++number).arg(text));
    lines_->addWidget(line);
  }
  if (count == 0) {
    auto* line = new QLabel(tr("Nothing is enclosed yet."));
    line->setObjectName("dim");
    line->setWordWrap(true);
    lines_->addWidget(line);
  }
  std::size_t shown = 0;
  for (const LooseEnd& end : loose) {
    if (++shown > 3) break;
    auto* row = new QWidget;
    auto* layout = new QHBoxLayout(row);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(3);
    const QString name = spoken(desk_.drawing.drawing(), end.point);
    auto* label = new QLabel(end.other.empty() ? tr("%1 is loose").arg(name)
                                               : tr("%1: gap of %2").arg(name, lengthText(end.gap, "mm")));
    label->setObjectName("caution");
    label->setWordWrap(true);
    layout->addWidget(label, 1);
    const auto link = [&](const QString& text, const QString& help, std::function<void()> run) {
      auto* button = new QToolButton;
      button->setObjectName("link");
      button->setFocusPolicy(Qt::StrongFocus);
      button->setText(text);
      button->setToolTip(help);
      button->setAccessibleName(QStringLiteral("%1 %2").arg(text, name));
      connect(button, &QToolButton::clicked, this, std::move(run));
      layout->addWidget(button);
    };
    link(tr("show"), tr("Selects it"), [this, id = end.point] { desk_.drawing.select({id}); });
    if (!end.other.empty())
      link(tr("close"), tr("Makes both ends one point"), [this, end] { desk_.drawing.join(end.point, end.other); });
    lines_->addWidget(row);
  }
  if (loose.size() > 3) {
    auto* more = new QLabel(tr("%1 loose ends in all").arg(loose.size()));
    more->setObjectName("caution");
    lines_->addWidget(more);
  }
}

}  // namespace kervo::app
