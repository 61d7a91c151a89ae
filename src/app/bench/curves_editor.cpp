#include "app/bench/curves_editor.h"

#include <QHBoxLayout>
#include <QMenu>
#include <cmath>

#include "app/icons.h"
#include "app/look.h"
#include "drawing/curve_kind.h"

namespace kervo::app {

namespace {

Expression millimetres(double value) {
  return Expression(formatNumber(std::round(value * 1e6) / 1e6) + " mm");
}

/// A first size that suits what is on screen.
std::vector<Expression> firstNumbers(const std::string& kind, PlanePoint middle) {
  const Expression u = millimetres(middle.u), v = millimetres(middle.v);
  if (kind == "circle") return {u, v, Expression("10 mm")};
  if (kind == "rectangle")
    return {millimetres(middle.u - 10), millimetres(middle.v - 5), Expression("20 mm"), Expression("10 mm")};
  if (kind == "arc") return {u, v, Expression("10 mm"), Expression("0 deg"), Expression("90 deg")};
  return {millimetres(middle.u - 10), v, millimetres(middle.u + 10), v};
}

QString shortName(const char* name) {
  static const std::map<std::string, QString> names{{"centre u", "centre u"}, {"centre v", "v"}, {"radius", "radius"},
                                                    {"corner u", "corner u"}, {"corner v", "v"}, {"from u", "from u"},
                                                    {"from v", "v"},          {"to u", "to u"},  {"to v", "v"}};
  const auto found = names.find(name);
  return found == names.end() ? QString(name) : found->second;
}

}  // namespace

CurvesEditor::CurvesEditor(const CurvesField& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(3);
  auto* tools = new QHBoxLayout;
  tools->setSpacing(2);
  for (const CurveKind& kind : curveKinds()) {
    auto* tool = new QToolButton;
    tool->setObjectName("segment");
    tool->setFocusPolicy(Qt::StrongFocus);
    tool->setIcon(icon(kind.name));
    tool->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    tool->setText(QString(kind.name));
    tool->setProperty("kind", QString(kind.name));
    tool->setAccessibleName(tr("Add a %1").arg(kind.name));
    tool->setToolTip(tr("Add a %1; then type its numbers").arg(kind.name));
    connect(tool, &QToolButton::clicked, this, [this, &field, name = std::string(kind.name)] {
      PlanePoint middle;
      const auto& tried = desk_.trial.result();
      if (const DrawingResult* drawing = tried ? tried->report().drawing() : nullptr) {
        const auto& pick = desk_.trial.step().value(field.plane()).as<PlanePick>();
        if (pick.kind == PlanePick::Kind::OnFace)
          middle = middleOf(pick.face, tried->picturesBefore, drawing->plane).value_or(middle);
      }
      addCurve(name, firstNumbers(name, middle));
      if (!rows_.empty()) rows_.back().numbers.back()->line()->setFocus();
    });
    tools->addWidget(tool);
    tools_.push_back(tool);
  }
  auto* draw = new QToolButton;
  draw->setObjectName("segment");
  draw->setCheckable(true);
  draw->setFocusPolicy(Qt::StrongFocus);
  draw->setPopupMode(QToolButton::InstantPopup);
  draw->setIcon(icon("drawing"));
  draw->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  draw->setText(tr("draw in the view"));
  draw->setToolTip(tr("Press at the centre or a corner in the view and drag"));
  draw->setProperty("drawn", QString());
  auto* menu = new QMenu(draw);
  for (const char* name : {"circle", "rectangle", "line"})
    menu->addAction(icon(name), QString(name), this, [this, draw, name] {
      draw->setProperty("drawn", QString(name));
      draw->setText(tr("drawing a %1").arg(name));
      draw->setChecked(true);
      emit drawingChanged();
    });
  menu->addAction(tr("stop drawing"), this, [this, draw] {
    draw->setProperty("drawn", QString());
    draw->setText(tr("draw in the view"));
    draw->setChecked(false);
    emit drawingChanged();
  });
  draw->setMenu(menu);
  tools->addWidget(draw);
  tools_.push_back(draw);
  tools->addStretch();
  all->addLayout(tools);
  list_ = new QVBoxLayout;
  list_->setSpacing(2);
  all->addLayout(list_);
}

QWidget* CurvesEditor::first() {
  return rows_.empty() ? static_cast<QWidget*>(tools_.front()) : rows_.front().numbers.front()->line();
}

QString CurvesEditor::drawnKind() const {
  return tools_.back()->property("drawn").toString();
}

void CurvesEditor::addDrawn(PlanePoint from, PlanePoint to) {
  const QString kind = drawnKind();
  if (kind == "circle")
    addCurve("circle",
             {millimetres(from.u), millimetres(from.v), millimetres(std::hypot(to.u - from.u, to.v - from.v))});
  else if (kind == "rectangle")
    addCurve("rectangle", {millimetres(std::min(from.u, to.u)), millimetres(std::min(from.v, to.v)),
                           millimetres(std::abs(to.u - from.u)), millimetres(std::abs(to.v - from.v))});
  else if (kind == "line")
    addCurve("line", {millimetres(from.u), millimetres(from.v), millimetres(to.u), millimetres(to.v)});
}

std::string CurvesEditor::freeId(const std::string& kind) const {
  const auto& curves = valueAs<std::vector<DrawnCurve>>();
  for (int number = 1;; ++number) {
    std::string id = kind.substr(0, 1) + std::to_string(number);
    if (std::none_of(curves.begin(), curves.end(), [&](const DrawnCurve& curve) { return curve.id == id; })) return id;
  }
}

void CurvesEditor::addCurve(const std::string& kind, std::vector<Expression> numbers) {
  auto curves = valueAs<std::vector<DrawnCurve>>();
  curves.push_back({freeId(kind), kind, std::move(numbers)});
  set(curves);
}

void CurvesEditor::removeCurve(std::size_t row) {
  auto curves = valueAs<std::vector<DrawnCurve>>();
  curves.erase(curves.begin() + static_cast<std::ptrdiff_t>(row));
  set(curves);
}

void CurvesEditor::changed() {
  auto curves = valueAs<std::vector<DrawnCurve>>();
  for (std::size_t row = 0; row < rows_.size() && row < curves.size(); ++row)
    for (std::size_t i = 0; i < rows_[row].numbers.size(); ++i)
      curves[row].numbers[i] = rows_[row].numbers[i]->expression();
  set(curves);
}

void CurvesEditor::buildRows(const std::vector<DrawnCurve>& curves) {
  for (const Row& row : rows_) {
    row.widget->hide();
    row.widget->deleteLater();
  }
  rows_.clear();
  for (std::size_t index = 0; index < curves.size(); ++index) {
    const CurveKind* kind = findCurveKind(curves[index].kind);
    Row row{new QWidget, {}, curves[index].kind};
    auto* line = new QHBoxLayout(row.widget);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    auto* picture = new QLabel;
    picture->setPixmap(icon(QString::fromStdString(curves[index].kind)).pixmap(16, 16));
    auto* name = new QLabel(QString::fromStdString(curves[index].id));
    name->setMinimumWidth(QFontMetrics(fontOf()).horizontalAdvance("r10"));
    line->addWidget(picture);
    line->addWidget(name);
    for (std::size_t i = 0; kind && i < kind->numbers.size(); ++i) {
      auto* label = new QLabel(shortName(kind->numbers[i].name));
      label->setObjectName("dim");
      label->setFont(fontOf(-1));
      auto* number =
          new ExpressionLine(tr("%1 %2: %3")
                                 .arg(QString::fromStdString(curves[index].kind),
                                      QString::fromStdString(curves[index].id), QString(kind->numbers[i].name)));
      line->addWidget(label);
      line->addWidget(number, 1);
      row.numbers.push_back(number);
      connect(number, &ExpressionLine::edited, this, &CurvesEditor::changed);
    }
    auto* remove = new QToolButton;
    remove->setText("×");
    remove->setFocusPolicy(Qt::StrongFocus);
    remove->setAccessibleName(tr("Remove %1").arg(QString::fromStdString(curves[index].id)));
    connect(remove, &QToolButton::clicked, this, [this, index] { removeCurve(index); });
    line->addWidget(remove);
    list_->addWidget(row.widget);
    rows_.push_back(row);
  }
}

void CurvesEditor::refresh() {
  const auto& curves = valueAs<std::vector<DrawnCurve>>();
  bool same = rows_.size() == curves.size();
  for (std::size_t i = 0; same && i < curves.size(); ++i) same = rows_[i].kind == curves[i].kind;
  if (!same) buildRows(curves);
  for (std::size_t row = 0; row < rows_.size(); ++row) {
    const CurveKind* kind = findCurveKind(curves[row].kind);
    for (std::size_t i = 0; i < rows_[row].numbers.size(); ++i) {
      const Expression& expression = curves[row].numbers[i];
      ExpressionLine* line = rows_[row].numbers[i];
      if (!(line->expression() == expression)) line->setExpression(expression);
      const NumberWanted wanted{kind->numbers[i].dimension, NumberRule::Any};
      line->setProblem(problemOf(wanted, expression, desk_.session.document(), desk_.session.dimensions()));
    }
  }
}

}  // namespace kervo::app
