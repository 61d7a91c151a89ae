#include "view/tools/drawing_marks.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

#include "base/error.h"
#include "drawing/constraint_kind.h"
#include "drawing/drawing_result.h"

namespace kervo {

namespace {

constexpr double offset = 22;    // pixels from what is measured to its dimension
constexpr double jaw = 6;        // half a jaw, pixels
constexpr double signSize = 17;  // pixels
constexpr std::size_t mostSigns = 150;

QPointF unit(QPointF way) {
  const double size = std::hypot(way.x(), way.y());
  return size > 0 ? way / size : QPointF(1, 0);
}

QPointF leftOf(QPointF way) {
  return {way.y(), -way.x()};
}

class Layout {
 public:
  Layout(const EditedDrawing& edited, const Solution& solution, ToolSpace& space)
      : edited_(edited), solution_(solution), space_(space), ids_(edited.drawing) {
    try {
      for (PlanarCurve& curve : curvesOf(edited.drawing, edited.values, solution, true))
        curves_.emplace(curve.id, std::move(curve));
    } catch (const Error&) {
      // A curve that is none at present: marks stand on points only.
      curves_.clear();
    }
  }

  std::vector<DrawingMark> all() {
    for (std::size_t i = 0; i < edited_.drawing.constraints.size(); ++i) {
      const DrawnConstraint& constraint = edited_.drawing.constraints[i];
      const ConstraintKind* kind = findConstraintKind(constraint.kind);
      if (!kind || constraint.on.empty()) continue;
      DrawingMark mark{constraint.id, kind->dimension, QString::fromUtf8(kind->sign), {}};
      mark.state = stateOf(constraint);
      // Of very many signs, only those on what is selected are of use.
      if (!kind->dimension && edited_.drawing.constraints.size() > mostSigns && !isOnSelected(constraint)) continue;
      if (kind->dimension)
        measure(mark, constraint, *kind, i);
      else
        sign(mark, constraint);
    }
    return std::move(marks_);
  }

 private:
  bool isOnSelected(const DrawnConstraint& constraint) const {
    const auto selected = [&](const std::string& id) {
      return std::find(edited_.selected.begin(), edited_.selected.end(), id) != edited_.selected.end();
    };
    return selected(constraint.id) || std::any_of(constraint.on.begin(), constraint.on.end(), selected);
  }

  DrawingMark::State stateOf(const DrawnConstraint& constraint) const {
    for (const Conflict& conflict : solution_.conflicts)
      if (conflict.constraint == constraint.id ||
          std::find(conflict.with.begin(), conflict.with.end(), constraint.id) != conflict.with.end())
        return DrawingMark::State::Contradicts;
    const auto& known = solution_.alreadyTrue;
    if (std::find(known.begin(), known.end(), constraint.id) != known.end()) return DrawingMark::State::AlreadyTrue;
    return constraint.reference ? DrawingMark::State::Reference : DrawingMark::State::Holds;
  }

  QPointF seen(PlanePoint at) const { return space_.toWidget(edited_.plane.at(at.u, at.v)); }

  std::optional<PlanePoint> pointOf(const std::string& id) const {
    if (id == originId) return PlanePoint{};
    if (const auto index = ids_.point(id)) return solution_.points.at(*index);
    // An end of a curve that is given by numbers.
    const std::size_t dot = id.find_last_of('.');
    if (dot == std::string::npos) return std::nullopt;
    const auto curve = curves_.find(id.substr(0, dot));
    if (curve == curves_.end()) return std::nullopt;
    const std::string part = id.substr(dot + 1);
    if (part == "from") return curve->second.geometry->at(0);
    if (part == "to") return curve->second.geometry->at(1);
    const auto carrier = curve->second.geometry->carrier();
    return carrier && carrier->radius > 0 ? std::optional(carrier->centre) : std::nullopt;
  }
  const PlaneCurve* curveOf(const std::string& id) const {
    const auto found = curves_.find(id);
    return found == curves_.end() ? nullptr : found->second.geometry.get();
  }
  std::optional<std::pair<PlanePoint, PlanePoint>> lineOf(const std::string& id) const {
    if (id == uAxisId) return std::pair(PlanePoint{0, 0}, PlanePoint{1, 0});
    if (id == vAxisId) return std::pair(PlanePoint{0, 0}, PlanePoint{0, 1});
    const PlaneCurve* curve = curveOf(id);
    const auto carrier = curve ? curve->carrier() : std::nullopt;
    if (!carrier || carrier->radius > 0) return std::nullopt;
    return std::pair(carrier->from, carrier->to);
  }

  /// Where it stands: beside the middle of a curve, or beside a point.
  void sign(DrawingMark& mark, const DrawnConstraint& constraint) {
    QPointF at, away(0.7, -0.7);
    const std::string& first = constraint.on.front();
    if (const PlaneCurve* curve = curveOf(first)) {
      const PlanePoint middle = curve->at(0.5), next = middle + curve->tangentAt(0.5);
      at = seen(middle);
      away = leftOf(unit(seen(next) - at));
    } else if (const auto point = pointOf(first)) {
      at = seen(*point);
    } else {
      return;
    }
    place(mark, at + away * 15, QSizeF(std::max(signSize, space_.letters().horizontalAdvance(mark.text) + 8), signSize),
          away);
  }

  void measure(DrawingMark& mark, const DrawnConstraint& constraint, const ConstraintKind& kind, std::size_t index) {
    const QString text = constraint.value ? QString::fromStdString(constraint.value->text()) : QString();
    const bool round = constraint.kind == "radius" || constraint.kind == "diameter";
    mark.text = round ? QStringLiteral("%1 %2").arg(mark.text, text) : text;
    const double measured = index < solution_.measured.size() ? solution_.measured[index] : 0;
    // What is more than a number says what it comes to.
    const bool plain = std::all_of(text.begin(), text.end(), [](QChar c) {
      return c.isDigit() || c == '.' || c == '-' || c == ' ' || c == 'm' || c == 'd' || c == 'e' || c == 'g';
    });
    if (!plain || constraint.reference) {
      const double shown = kind.measures == angleDimension ? measured * 180 / std::numbers::pi : measured;
      mark.text += QStringLiteral(" = %1").arg(QString::number(std::round(shown * 1e4) / 1e4));
    }
    if (constraint.reference) mark.text = QStringLiteral("(%1)").arg(mark.text);
    if (round) return measureRound(mark, constraint);
    if (constraint.kind == "angle") return measureAngle(mark, constraint);
    const auto ends = endsOf(constraint);
    if (!ends) return;
    QPointF a = seen(ends->first), b = seen(ends->second);
    const QPointF way = unit(b - a);
    QPointF away = leftOf(way);
    if (away.y() > 0.1 || (std::abs(away.y()) <= 0.1 && away.x() < 0)) away = -away;
    const QPointF from = a + away * offset, to = b + away * offset;
    mark.leaders = {QLineF(a, from), QLineF(b, to)};
    mark.lines = {QLineF(from, to), QLineF(from - away * jaw, from + away * jaw),
                  QLineF(to - away * jaw, to + away * jaw)};
    label(mark, (from + to) / 2 + away * 13, away);
  }

  std::optional<std::pair<PlanePoint, PlanePoint>> endsOf(const DrawnConstraint& constraint) const {
    const std::string& first = constraint.on.front();
    if (constraint.on.size() == 1) return lineOf(first);
    const std::string& second = constraint.on[1];
    const auto p = pointOf(first), q = pointOf(second);
    const auto l = lineOf(first), m = lineOf(second);
    const auto foot = [](PlanePoint point, const std::pair<PlanePoint, PlanePoint>& line) {
      const PlanePoint way = line.second - line.first;
      return line.first + way * (dot(point - line.first, way) / dot(way, way));
    };
    if (p && q) {
      if (constraint.kind == "horizontal_distance") return std::pair(*p, PlanePoint{q->u, p->v});
      if (constraint.kind == "vertical_distance") return std::pair(*p, PlanePoint{p->u, q->v});
      return std::pair(*p, *q);
    }
    if (p && m) return std::pair(*p, foot(*p, *m));
    if (l && q) return std::pair(*q, foot(*q, *l));
    if (l && m) {
      const PlanePoint middle = (l->first + l->second) * 0.5;
      return std::pair(middle, foot(middle, *m));
    }
    return std::nullopt;
  }

  void measureRound(DrawingMark& mark, const DrawnConstraint& constraint) {
    const PlaneCurve* curve = curveOf(constraint.on.front());
    const auto carrier = curve ? curve->carrier() : std::nullopt;
    if (!curve || !carrier) return;
    const PlanePoint rim = curve->closed() ? carrier->centre + PlanePoint{0.8, 0.6} * carrier->radius : curve->at(0.5);
    const QPointF centre = seen(carrier->centre), to = seen(rim), way = unit(to - centre), across = leftOf(way);
    const QPointF from = constraint.kind == "diameter" && curve->closed() ? centre * 2 - to : centre;
    mark.lines = {QLineF(from, to), QLineF(to - across * jaw, to + across * jaw)};
    if (from != centre) mark.lines.emplace_back(from - across * jaw, from + across * jaw);
    label(mark, to + way * 16, way);
  }

  void measureAngle(DrawingMark& mark, const DrawnConstraint& constraint) {
    const auto l = lineOf(constraint.on.front());
    if (!l) return;
    const auto m = constraint.on.size() > 1 ? lineOf(constraint.on[1]) : std::nullopt;
    // With one line: from the u axis.
    const PlanePoint corner = m ? meeting(*l, *m).value_or(l->first) : l->first;
    const QPointF at = seen(corner);
    const double size = 34;
    const auto rayTo = [&](const std::pair<PlanePoint, PlanePoint>& line) {
      return at + unit(seen(line.second) - seen(line.first)) * size;
    };
    const QPointF one = m ? rayTo(*l) : at + unit(seen(corner + PlanePoint{1, 0}) - at) * size;
    const QPointF other = m ? rayTo(*m) : rayTo(*l);
    const QPointF middle = at + unit((one + other) / 2 - at) * size;
    mark.lines = {QLineF(one, middle), QLineF(middle, other)};
    mark.leaders = {QLineF(at, one), QLineF(at, other)};
    label(mark, at + unit(middle - at) * (size + 18), unit(middle - at));
  }

  static std::optional<PlanePoint> meeting(const std::pair<PlanePoint, PlanePoint>& a,
                                           const std::pair<PlanePoint, PlanePoint>& b) {
    const PlanePoint p = a.second - a.first, q = b.second - b.first;
    const double across = cross(p, q);
    if (std::abs(across) < 1e-9 * length(p) * length(q)) return std::nullopt;
    return a.first + p * (cross(b.first - a.first, q) / across);
  }

  void label(DrawingMark& mark, QPointF at, QPointF away) {
    place(mark, at, QSizeF(space_.letters().horizontalAdvance(mark.text) + 14, space_.letters().height() + 6), away);
  }

  /// Moves away until it covers nothing, if that is not far.
  void place(DrawingMark& mark, QPointF at, QSizeF size, QPointF away) {
    // A wide text moves out by as much of its width as it lies in the way.
    at += QPointF(away.x() * std::max(0.0, size.width() / 2 - 8), 0);
    QRectF rect(at - QPointF(size.width() / 2, size.height() / 2), size);
    for (int i = 0; i < 6 && covers(rect); ++i) {
      const double by = std::abs(away.x()) > std::abs(away.y()) ? size.width() : size.height();
      rect.translate(away * (by + 2) * 0.8);
    }
    mark.rect = rect;
    marks_.push_back(std::move(mark));
  }
  bool covers(const QRectF& rect) const {
    return std::any_of(marks_.begin(), marks_.end(),
                       [&](const DrawingMark& other) { return other.rect.intersects(rect); });
  }

  const EditedDrawing& edited_;
  const Solution& solution_;
  ToolSpace& space_;
  DrawingIds ids_;
  std::map<std::string, PlanarCurve> curves_;
  std::vector<DrawingMark> marks_;
};

}  // namespace

std::vector<DrawingMark> marksOf(const EditedDrawing& edited, const Solution& solution, ToolSpace& space) {
  return Layout(edited, solution, space).all();
}

void paint(QPainter& painter, const std::vector<DrawingMark>& marks, const EditedDrawing& edited,
           const std::string& hot, const ViewLook& look) {
  for (const DrawingMark& mark : marks) {
    const bool selected =
        std::find(edited.selected.begin(), edited.selected.end(), mark.constraint) != edited.selected.end();
    const bool bad = mark.state == DrawingMark::State::Contradicts;
    const bool quiet = mark.state == DrawingMark::State::AlreadyTrue || mark.state == DrawingMark::State::Reference;
    const QColor color = bad ? look.vermilion : mark.dimension ? look.violet : look.text;
    QColor thin = color;
    thin.setAlphaF(0.45F);
    painter.setPen(QPen(thin, 1));
    painter.drawLines(QList<QLineF>(mark.leaders.begin(), mark.leaders.end()));
    painter.setPen(QPen(color, selected || hot == mark.constraint ? 2.6 : 1.6));
    painter.drawLines(QList<QLineF>(mark.lines.begin(), mark.lines.end()));
    QPen frame(selected ? look.teal : color, selected || hot == mark.constraint ? 2 : 1);
    if (quiet) frame.setStyle(Qt::DashLine);
    painter.setPen(frame);
    painter.setBrush(look.textBack);
    const double radius = mark.dimension ? 4 : mark.rect.height() / 2;
    painter.drawRoundedRect(mark.rect, radius, radius);
    painter.setPen(bad ? look.vermilion : look.text);
    painter.drawText(mark.rect, Qt::AlignCenter, mark.text);
    if (bad) {
      // Struck through in zigzag: not by colour alone.
      QPolygonF zigzag;
      const double step = 4, y = mark.rect.bottom() + 3;
      const int teeth = static_cast<int>(mark.rect.width() / step);
      for (int i = 0; i <= teeth; ++i) zigzag << QPointF(mark.rect.left() + i * step, y + (i % 2 ? 3 : 0));
      painter.setPen(QPen(look.vermilion, 1.4));
      painter.drawPolyline(zigzag);
    }
  }
  painter.setBrush(Qt::NoBrush);
}

}  // namespace kervo
