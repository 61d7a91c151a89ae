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

/// What stands before a number: the second of a pair is "v" only.
QString shortName(const std::string& name) {
  return name.ends_with(" v") ? QStringLiteral("v") : QString::fromStdString(say(name.c_str()));
}

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
  content()->addWidget(list_, 1);
  auto* inner = new QWidget;
  numbers_ = new QVBoxLayout(inner);
  numbers_->setContentsMargins(0, 0, 4, 0);
  numbers_->setSpacing(4);
  scroll_ = new QScrollArea;
  scroll_->setWidget(inner);
  scroll_->setWidgetResizable(true);
  scroll_->setFrameShape(QFrame::NoFrame);
  scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll_->hide();
  content()->addWidget(scroll_, 2);
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
  const int count = static_cast<int>(drawing.curves.size());
  setNote(count == 1 ? tr("1 curve") : tr("%1 curves").arg(count));
  showing_ = true;
  while (list_->topLevelItemCount() > count) delete list_->takeTopLevelItem(count);
  while (list_->topLevelItemCount() < count) list_->addTopLevelItem(new QTreeWidgetItem);
  for (int row = 0; row < count; ++row) {
    const auto i = static_cast<std::size_t>(row);
    const DrawnCurve& curve = drawing.curves[i];
    QTreeWidgetItem* item = list_->topLevelItem(row);
    QString name = spoken(drawing, curve.id);
    if (curve.construction) name = tr("%1 · construction").arg(name);
    item->setText(0, name);
    item->setIcon(0, icon(QString::fromStdString(curve.kind)));
    item->setData(0, idRole, QString::fromStdString(curve.id));
    const bool settled = curve.points.empty() || (i < solution.settled.size() && solution.settled[i]);
    item->setText(1, curve.points.empty() ? tr("by numbers") : settled ? tr("settled") : tr("free"));
    item->setForeground(1, settled ? look().teal : look().text);
  }
  showing_ = false;
  showSelected();
  std::vector<DrawnCurve> numeric;
  std::copy_if(drawing.curves.begin(), drawing.curves.end(), std::back_inserter(numeric),
               [](const DrawnCurve& curve) { return curve.points.empty(); });
  bool same = rows_.size() == numeric.size();
  for (std::size_t i = 0; same && i < numeric.size(); ++i)
    same = rows_[i].curve.kind == numeric[i].kind && rows_[i].curve.id == numeric[i].id;
  if (!same) buildNumbers(numeric);
  scroll_->setVisible(!rows_.empty());
  for (std::size_t row = 0; row < rows_.size(); ++row) {
    const CurveKind* kind = findCurveKind(numeric[row].kind);
    for (std::size_t i = 0; i < rows_[row].numbers.size(); ++i) {
      const Expression& expression = numeric[row].numbers[i];
      ExpressionLine* line = rows_[row].numbers[i];
      if (!(line->expression() == expression)) line->setExpression(expression);
      const NumberWanted wanted{kind->numbers[i].dimension, NumberRule::Any};
      line->setProblem(problemOf(wanted, expression, desk_.session.document(), desk_.session.dimensions()));
    }
  }
}

void DrawingPanel::showSelected() {
  showing_ = true;
  for (int row = 0; row < list_->topLevelItemCount(); ++row) {
    QTreeWidgetItem* item = list_->topLevelItem(row);
    item->setSelected(desk_.drawing.isSelected(item->data(0, idRole).toString().toStdString()));
  }
  showing_ = false;
}

void DrawingPanel::buildNumbers(const std::vector<DrawnCurve>& curves) {
  for (const Row& row : rows_) {
    row.widget->hide();
    row.widget->deleteLater();
  }
  rows_.clear();
  constexpr int columns = 2;
  for (std::size_t index = 0; index < curves.size(); ++index) {
    const CurveKind* kind = findCurveKind(curves[index].kind);
    Row row{new QWidget, {}, curves[index]};
    auto* grid = new QGridLayout(row.widget);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(3);
    const QString spokenName = spoken(desk_.drawing.drawing(), curves[index].id);
    auto* name = new QLabel(spokenName);
    name->setFont(fontOf(0, QFont::DemiBold));
    auto* remove = new QToolButton;
    remove->setText("×");
    remove->setFocusPolicy(Qt::StrongFocus);
    remove->setAccessibleName(tr("Remove %1").arg(spokenName));
    connect(remove, &QToolButton::clicked, this, [this, id = curves[index].id] { desk_.drawing.remove(id); });
    grid->addWidget(name, 0, 0, 1, 2 * columns - 1);
    grid->addWidget(remove, 0, 2 * columns - 1, Qt::AlignRight);
    for (std::size_t i = 0; kind && i < curves[index].numbers.size(); ++i) {
      auto* label = new QLabel(shortName(kind->numbers[i].name));
      label->setObjectName("dim");
      label->setFont(fontOf(-1));
      auto* number = new ExpressionLine(tr("%1 %2: %3")
                                            .arg(QString::fromStdString(curves[index].kind),
                                                 QString::fromStdString(curves[index].id),
                                                 QString::fromStdString(say(kind->numbers[i].name))));
      const int cell = static_cast<int>(i);
      grid->addWidget(label, 1 + cell / columns, 2 * (cell % columns), Qt::AlignTop);
      label->setContentsMargins(0, 5, 0, 0);
      grid->addWidget(number, 1 + cell / columns, 2 * (cell % columns) + 1);
      row.numbers.push_back(number);
      connect(number, &ExpressionLine::edited, this, [this, index, i] { edit(index, i); });
    }
    for (int column = 0; column < columns; ++column) grid->setColumnStretch(2 * column + 1, 1);
    numbers_->addWidget(row.widget);
    rows_.push_back(row);
  }
  numbers_->addStretch();
}

void DrawingPanel::edit(std::size_t row, std::size_t number) {
  if (!desk_.drawing.open()) return;
  Drawing drawing = desk_.drawing.drawing();
  const auto curve = drawing.curve(rows_[row].curve.id);
  if (!curve) return;
  drawing.curves[*curve].numbers[number] = rows_[row].numbers[number]->expression();
  desk_.drawing.set(drawing, tr("Change %1").arg(spoken(drawing, rows_[row].curve.id)),
                    rows_[row].curve.id + "." + std::to_string(number));
}

void DrawingPanel::focusNumbers() {
  if (rows_.empty() || rows_.back().numbers.empty()) return;
  QLineEdit* line = rows_.back().numbers.back()->line();
  scroll_->ensureWidgetVisible(rows_.back().widget);
  line->setFocus(Qt::OtherFocusReason);
  line->selectAll();
}

}  // namespace kervo::app
