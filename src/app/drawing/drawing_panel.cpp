#include "app/drawing/drawing_panel.h"

#include <QGridLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QStyle>
#include <algorithm>

#include "app/icons.h"
#include "app/look.h"
#include "base/say.h"
#include "drawing/drawing_edits.h"

namespace kervo::app {

namespace {

constexpr int idRole = Qt::UserRole;

}  // namespace

DrawingPanel::DrawingPanel(Desk& desk, QWidget* parent) : Panel(tr("Drawing"), "drawing", parent), desk_(desk) {
  addSettings();
  list_ = new QTreeWidget;
  list_->setAccessibleName(tr("Curves of the drawing"));
  list_->setColumnCount(2);
  list_->setHeaderHidden(true);
  list_->setRootIsDecorated(false);
  list_->setUniformRowHeights(true);
  list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  list_->setFrameShape(QFrame::NoFrame);
  list_->header()->setStretchLastSection(false);
  list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
  list_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
  list_->installEventFilter(this);
  content()->addWidget(list_, 3);
  numbers_ = new DrawingNumbers(desk_);
  content()->addWidget(numbers_, 2);
  connect(list_, &QTreeWidget::itemSelectionChanged, this, [this] {
    if (showing_) return;
    std::vector<std::string> ids;
    for (const QTreeWidgetItem* item : list_->selectedItems())
      ids.push_back(item->data(0, idRole).toString().toStdString());
    std::sort(ids.begin(), ids.end());
    desk_.drawing.select(ids);
  });
  connect(&desk_.drawing, &DrawingDesk::changed, this, &DrawingPanel::refresh);
  connect(&desk_.drawing, &DrawingDesk::selectionChanged, this, &DrawingPanel::showSelected);
}

void DrawingPanel::addSettings() {
  auto* row = new QHBoxLayout;
  row->setSpacing(3);
  grid_ = new QLineEdit;
  grid_->setAccessibleName(tr("Grid of the drawing"));
  grid_->setToolTip(tr("From line to line; empty for none"));
  grid_->setFixedWidth(QFontMetrics(fontOf()).horizontalAdvance("10.00 mm") + 10);
  connect(grid_, &QLineEdit::editingFinished, this, &DrawingPanel::setGrid);
  sides_ = new QSpinBox;
  sides_->setAccessibleName(tr("Sides of a polygon"));
  sides_->setRange(3, 100);
  sides_->setButtonSymbols(QAbstractSpinBox::NoButtons);
  connect(sides_, &QSpinBox::valueChanged, this, [this](int sides) { desk_.drawing.setSides(sides); });
  row->addWidget(new QLabel(tr("grid")));
  row->addWidget(grid_);
  row->addSpacing(6);
  row->addWidget(new QLabel(tr("sides")));
  row->addWidget(sides_);
  row->addStretch();
  auto* file = new QToolButton;
  file->setObjectName("link");
  file->setFocusPolicy(Qt::StrongFocus);
  file->setText(tr("file …"));
  file->setToolTip(tr("Bring in outlines of a DXF or SVG file; they follow nothing"));
  connect(file, &QToolButton::clicked, this, &DrawingPanel::fileWanted);
  row->addWidget(file);
  content()->addLayout(row);
  auto* adding = new QHBoxLayout;
  adding->setSpacing(3);
  auto* label = new QLabel(tr("by numbers"));
  label->setObjectName("dim");
  adding->addWidget(label);
  for (const CurveKind* kind : curveKinds()) {
    if (kind->numbers.empty()) continue;
    auto* tool = new QToolButton;
    tool->setObjectName("segment");
    tool->setFocusPolicy(Qt::StrongFocus);
    tool->setIcon(icon(kind->name));
    tool->setAccessibleName(tr("Add a %1").arg(kind->name));
    tool->setToolTip(tr("Add a %1 and type its numbers, each of them an expression").arg(kind->name));
    tool->setProperty("curve", QString(kind->name));
    connect(tool, &QToolButton::clicked, this, [this, kind] { addCurve(*kind); });
    adding->addWidget(tool);
    numeric_.push_back(tool);
  }
  adding->addStretch();
  content()->addLayout(adding);
  connect(&desk_.drawing, &DrawingDesk::toolChanged, this, &DrawingPanel::showSettings);
  showSettings();
}

void DrawingPanel::showSettings() {
  if (sides_->value() != desk_.drawing.sides()) sides_->setValue(desk_.drawing.sides());
  const auto grid = desk_.drawing.grid();
  if (!grid_->hasFocus()) grid_->setText(grid ? lengthText(*grid, desk_.session.document().made.unit) : QString());
}

void DrawingPanel::setGrid() {
  const QString text = grid_->text().trimmed();
  if (text.isEmpty()) return desk_.drawing.setGrid({});
  const auto value = desk_.drawing.valueOf(Expression(text.toStdString()), lengthDimension);
  const bool good = value && *value > 1e-3 && *value < 1e6;
  grid_->setProperty("bad", !good);
  grid_->style()->polish(grid_);
  if (good) desk_.drawing.setGrid(value);
}

void DrawingPanel::addCurve(const CurveKind& kind) {
  if (!desk_.drawing.open()) return;
  PlanePoint middle;
  const auto& tried = desk_.trial.result();
  if (const DrawingResult* made = tried ? tried->report().drawing() : nullptr) {
    const auto& pick = desk_.trial.step().value(desk_.drawing.field().plane()).as<PlanePick>();
    if (pick.kind == PlanePick::Kind::OnFace)
      middle = middleOf(pick.face, tried->picturesBefore, made->plane).value_or(middle);
  }
  Drawing drawing = desk_.drawing.drawing();
  DrawnCurve curve{freeId(drawing, std::string(1, kind.name[0])), kind.name, {}};
  const std::vector<double> numbers = kind.about(middle);
  for (std::size_t i = 0; i < numbers.size(); ++i)
    curve.numbers.push_back(written(numbers[i], kind.numbers[i].dimension));
  drawing.curves.push_back(std::move(curve));
  desk_.drawing.set(drawing, tr("Add a %1").arg(kind.name));
  // Nothing is selected: the numbers of all are listed.
  desk_.drawing.select({});
  focusNumbers();
}

bool DrawingPanel::eventFilter(QObject* watched, QEvent* event) {
  if (watched == list_ && (event->type() == QEvent::KeyPress || event->type() == QEvent::ShortcutOverride)) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Delete || key == Qt::Key_Backspace) {
      event->accept();
      if (event->type() == QEvent::KeyPress) desk_.drawing.removeSelected();
      return true;
    }
  }
  return Panel::eventFilter(watched, event);
}

void DrawingPanel::changeEvent(QEvent* event) {
  Panel::changeEvent(event);
  // Pictures and states are drawn in the look's colours.
  if (event->type() != QEvent::PaletteChange) return;
  for (QToolButton* tool : numeric_) tool->setIcon(icon(tool->property("curve").toString()));
  refresh();
}

void DrawingPanel::refresh() {
  if (!desk_.drawing.open()) return;
  const Drawing& drawing = desk_.drawing.drawing();
  const Solution& solution = desk_.drawing.solution();
  struct Line {
    std::string id;
    QString name, picture, state;
    bool construction = false, settled = true;
  };
  std::vector<Line> lines;
  for (std::size_t i = 0; i < drawing.curves.size(); ++i) {
    const DrawnCurve& curve = drawing.curves[i];
    const bool settled = curve.points.empty() || (i < solution.settled.size() && solution.settled[i]);
    lines.push_back({curve.id, spoken(drawing, curve.id), QString::fromStdString(curve.kind),
                     curve.points.empty() ? tr("by numbers")
                     : settled            ? tr("settled")
                                          : tr("free"),
                     curve.construction, settled});
  }
  // What is taken along is one line, whatever curves it comes to.
  for (const TakenAlong& taken : desk_.drawing.taken()) {
    std::string id = taken.id;
    for (const TakenCurve& each : desk_.drawing.values().taken)
      if (belongs(each.curve.id, taken.id)) {
        id = each.curve.id;
        break;
      }
    lines.push_back({id, desk_.drawing.originOf(taken), "taken", tr("linked"), taken.construction});
  }
  for (const DrawnCopies& copies : drawing.copies)
    lines.push_back({copies.id, spoken(drawing, copies.id), QString::fromStdString(copies.kind), tr("follows"),
                     copies.construction});
  const int count = static_cast<int>(lines.size());
  setNote(count == 1 ? tr("1 entry") : tr("%1 entries").arg(count));
  showing_ = true;
  while (list_->topLevelItemCount() > count) delete list_->takeTopLevelItem(count);
  while (list_->topLevelItemCount() < count) list_->addTopLevelItem(new QTreeWidgetItem);
  for (int row = 0; row < count; ++row) {
    const Line& line = lines[static_cast<std::size_t>(row)];
    QTreeWidgetItem* item = list_->topLevelItem(row);
    const QString name = line.construction ? tr("%1 · construction").arg(line.name) : line.name;
    item->setText(0, name);
    item->setToolTip(0, desk_.drawing.describe(line.id));
    item->setIcon(0, icon(line.picture));
    item->setData(0, idRole, QString::fromStdString(line.id));
    item->setText(1, line.state);
    item->setForeground(1, line.settled ? look().teal : look().text);
  }
  showing_ = false;
  showSelected();
  numbers_->refresh();
}

void DrawingPanel::showSelected() {
  showing_ = true;
  for (int row = 0; row < list_->topLevelItemCount(); ++row) {
    QTreeWidgetItem* item = list_->topLevelItem(row);
    item->setSelected(desk_.drawing.isSelected(item->data(0, idRole).toString().toStdString()));
  }
  showing_ = false;
}

void DrawingPanel::focusNumbers() {
  numbers_->focusOn({});
}

}  // namespace kervo::app
