#include "app/viewport.h"

#include <QCursor>
#include <QGuiApplication>
#include <QMouseEvent>
#include <QNativeGestureEvent>
#include <QPainter>
#include <QWheelEvent>
#include <cmath>

#include "app/look.h"
#include "base/error.h"
#include "view/mark_walk.h"

namespace kervo::app {

namespace {

constexpr double clickSlack = 4;       // pixels that a click may move
constexpr double pickTolerance = 4;    // pixels around the pointer
constexpr double handleReach = 11;     // pixels around a gauge's bead
constexpr int restMilliseconds = 180;  // after the last movement the picture is drawn in full quality

}  // namespace

Viewport::Viewport(QWidget* parent) : QOpenGLWidget(parent) {
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setMinimumSize(240, 180);
  setAccessibleName(tr("View"));
  setAccessibleDescription(
      tr("The bodies. Arrow keys turn, plus and minus zoom, N and P mark faces, Space takes one."));
  rest_.setSingleShot(true);
  rest_.setInterval(restMilliseconds);
  connect(&rest_, &QTimer::timeout, this, [this] {
    moving_ = false;
    if (pointing_ && underMouse() && drag_ == Drag::None) {
      last_ = mapFromGlobal(QCursor::pos());
      hoverAt(last_);
    }
    update();
  });
}

Viewport::~Viewport() {
  if (!isValid()) return;
  makeCurrent();
  renderer_.release();
  doneCurrent();
}

void Viewport::setScene(const Scene& scene) {
  const bool wasEmpty = scene_.bodies.empty();
  scene_ = scene;
  picker_.setScene(scene_);
  camera_.setScene(scene_.box());
  if (isValid()) {
    makeCurrent();
    renderer_.setScene(scene_);
    doneCurrent();
  }
  hover_.reset();
  highlights_.hover.reset();
  stackNext_ = 0;
  if ((wasEmpty && !scene_.bodies.empty()) || fitWhenShown_) {
    camera_.look(StandardView::Home, scene_.box());
    fitWhenShown_ = scene_.bodies.empty();
  }
  update();
}

void Viewport::setGauges(std::vector<Gauge> gauges) {
  gauges_ = std::move(gauges);
  if (hotGauge_ && *hotGauge_ >= gauges_.size()) hotGauge_.reset();
  update();
}

void Viewport::setSelected(std::vector<Pick> picks) {
  highlights_.selected = std::move(picks);
  update();
}

void Viewport::setFilter(PickFilter filter) {
  picker_.setFilter(filter);
  hover_.reset();
  highlights_.hover.reset();
  update();
}

void Viewport::setStyle(DrawStyle style) {
  style_ = style;
  emit styleChanged();
  update();
}

void Viewport::setProjection(Projection projection) {
  camera_.setProjection(projection);
  cameraMoved();
}

void Viewport::light(std::optional<std::size_t> piece) {
  if (litPiece_ == piece) return;
  litPiece_ = piece;
  update();
}

void Viewport::setDrawingPlane(std::optional<Plane> plane, const QString& curve) {
  drawingPlane_ = plane;
  drawingCurve_ = curve;
  setCursor(plane ? Qt::CrossCursor : Qt::ArrowCursor);
}

void Viewport::look(StandardView view) {
  camera_.look(view, scene_.box());
  cameraMoved();
}

void Viewport::flip() {
  camera_.flip(scene_.box());
  cameraMoved();
}

void Viewport::fit() {
  camera_.fit(scene_.box());
  cameraMoved();
}

void Viewport::fitSelection() {
  Box box;
  for (const Pick& pick : highlights_.selected) {
    const SceneBody* body = scene_.find(pick.body);
    if (!body) continue;
    const BodyMesh& mesh = body->picture->mesh;
    const auto add = [&](const std::vector<float>& points, const BodyMesh::Range& range) {
      for (std::size_t i = 0; i < range.count; ++i) {
        const float* p = &points[3 * (range.first + i)];
        box.add(Point{p[0], p[1], p[2]});
      }
    };
    const auto index = static_cast<std::size_t>(pick.index);
    if (pick.kind == Pick::Kind::Face && index < mesh.faceVertices.size()) add(mesh.points, mesh.faceVertices[index]);
    if (pick.kind == Pick::Kind::Edge && index < mesh.edges.size()) add(mesh.edgePoints, mesh.edges[index]);
    if (pick.kind == Pick::Kind::Body) box.add(mesh.box);
  }
  camera_.fit(box.empty() ? scene_.box() : box);
  cameraMoved();
}

void Viewport::orbitBy(double dx, double dy) {
  camera_.orbit(scene_.box().empty() ? Point{} : scene_.box().centre(), dx, dy);
  cameraMoved();
}

void Viewport::zoomBy(double factor) {
  camera_.zoomAt(QPointF(camera_.viewport().width(), camera_.viewport().height()) / 2, factor);
  cameraMoved();
}

void Viewport::cameraMoved() {
  moving_ = true;
  rest_.start();
  emit moved();
  update();
}

void Viewport::initializeGL() {
  try {
    renderer_.initialize();
    renderer_.setScene(scene_);
  } catch (const Error& error) {
    emit drawingFailed(error);
  }
}

void Viewport::resizeGL(int, int) {
  camera_.setViewport(size() * devicePixelRatioF());
  if (fitWhenShown_) camera_.look(StandardView::Home, scene_.box());
}

void Viewport::paintGL() {
  if (!renderer_.initialized()) return;
  camera_.setViewport(size() * devicePixelRatioF());
  const ViewLook& colors = app::look().view;
  renderer_.draw({camera_, style_, moving_, devicePixelRatioF(), colors, highlights_});

  QPainter painter(this);
  painter.setFont(fontOf());
  Overlay overlay = badgesNow();
  overlay.gauges = gauges_;
  overlay.hotGauge = hotGauge_;
  if (hover_ && describe_ && drag_ == Drag::None) {
    overlay.label = describe_(*hover_);
    overlay.labelAt = last_;
  }
  if (drag_ == Drag::Box) {
    overlay.box = QRectF(pressed_, last_);
    overlay.boxTouches = last_.x() < pressed_.x();
  }
  std::vector<Pick> corners = highlights_.selected;
  if (hover_) corners.push_back(*hover_);
  for (const Pick& pick : corners) {
    const SceneBody* body = pick.kind == Pick::Kind::Corner ? scene_.find(pick.body) : nullptr;
    const auto at = static_cast<std::size_t>(pick.index) * 3;
    if (!body || at + 2 >= body->picture->mesh.corners.size()) continue;
    const auto& c = body->picture->mesh.corners;
    overlay.markedCorners.push_back({c[at], c[at + 1], c[at + 2]});
  }
  paint(painter, overlay);
  if (drag_ == Drag::Curve) paintCurvePreview(painter);
  if (scene_.bodies.empty() && scene_.lines.empty()) {
    painter.setPen(app::look().dim);
    painter.drawText(rect(), Qt::AlignCenter,
                     tr("Nothing here yet.\nStart on the Bench, or drop a Kervo or STEP file here."));
  }
  if (hasFocus()) {
    painter.setPen(QPen(colors.teal, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(rect().adjusted(1, 1, -1, -1));
  }
}

std::optional<PlanePoint> Viewport::onDrawingPlane(QPointF position) const {
  if (!drawingPlane_) return std::nullopt;
  const auto [from, direction] = camera_.sight(pixels(position));
  const double across = dot(direction, drawingPlane_->normal);
  if (std::abs(across) < 1e-3) return std::nullopt;
  const Point at = from - direction * (drawingPlane_->signedDistance(from) / across);
  const Vector local = drawingPlane_->coordinates(at);
  return PlanePoint{snapped(local.x, camera_), snapped(local.y, camera_)};
}

std::optional<std::pair<PlanePoint, PlanePoint>> Viewport::drawnPoints() const {
  const auto from = onDrawingPlane(pressed_);
  auto to = onDrawingPlane(last_);
  if (!from || !to) return std::nullopt;
  // Of a circle the radius is to be round, not the point that it goes through.
  if (drawingCurve_ == "circle")
    to = PlanePoint{from->u + snapped(std::hypot(to->u - from->u, to->v - from->v), camera_), from->v};
  return std::pair(*from, *to);
}

void Viewport::paintCurvePreview(QPainter& painter) {
  const auto points = drawnPoints();
  if (!points || !drawingPlane_) return;
  const auto& [from, to] = *points;
  Polyline line;
  if (drawingCurve_ == "circle") {
    line = outlineOf({"", CircleCurve{from, std::hypot(to.u - from.u, to.v - from.v)}}, *drawingPlane_);
  } else if (drawingCurve_ == "rectangle") {
    for (const auto& [u, v] : {std::pair(from.u, from.v), std::pair(to.u, from.v), std::pair(to.u, to.v),
                               std::pair(from.u, to.v), std::pair(from.u, from.v)})
      line.push_back(drawingPlane_->at(u, v));
  } else {
    line = {drawingPlane_->at(from.u, from.v), drawingPlane_->at(to.u, to.v)};
  }
  QPolygonF shape;
  for (const Point& point : line) shape << toWidget(point);
  painter.setPen(QPen(app::look().view.axes[2], 2));
  painter.drawPolyline(shape);
  const double size = std::hypot(to.u - from.u, to.v - from.v);
  painter.setPen(app::look().view.text);
  painter.drawText(last_ + QPointF(14, -8),
                   drawingCurve_ == "rectangle"
                       ? tr("%1 × %2 mm").arg(std::abs(to.u - from.u)).arg(std::abs(to.v - from.v))
                       : tr("%1 mm").arg(size, 0, 'g', 5));
}

std::optional<std::size_t> Viewport::gaugeAt(QPointF position) const {
  for (std::size_t i = 0; i < gauges_.size(); ++i)
    if (takes(shapeOf(gauges_[i], camera_), pixels(position), handleReach * devicePixelRatioF())) return i;
  return std::nullopt;
}

Overlay Viewport::badgesNow() const {
  Overlay overlay{camera_,
                  app::look().view,
                  devicePixelRatioF(),
                  QSizeF(size()),
                  scene_.badges,
                  allBadges_,
                  {},
                  {},
                  {},
                  {},
                  {},
                  false,
                  {}};
  for (Badge& badge : overlay.badges) badge.lit = litPiece_ == badge.piece;
  return overlay;
}

void Viewport::setAllBadges(bool all) {
  allBadges_ = all;
  update();
}

std::vector<QRect> Viewport::badgeRects() const {
  const Overlay overlay = badgesNow();
  const QFontMetricsF metrics(fontOf());
  std::vector<QRect> rects;
  for (const std::size_t i : shownBadges(overlay, metrics))
    rects.push_back(badgeRect(overlay.badges[i], camera_, devicePixelRatioF(), metrics).toAlignedRect());
  return rects;
}

std::optional<std::size_t> Viewport::badgeAt(QPointF position) const {
  const Overlay overlay = badgesNow();
  const QFontMetricsF metrics(fontOf());
  for (const std::size_t i : shownBadges(overlay, metrics))
    if (badgeRect(scene_.badges[i], camera_, devicePixelRatioF(), metrics).contains(position))
      return scene_.badges[i].piece;
  return std::nullopt;
}

std::optional<Pick> Viewport::pickAt(QPointF position) const {
  const auto hits = picker_.at(pixels(position), pickTolerance * devicePixelRatioF(), camera_);
  return hits.empty() ? std::nullopt : std::optional(hits.front().pick);
}

void Viewport::forgetHover() {
  // What was pointed at before the view turned is not pointed at any more.
  pointing_ = true;
  hover_.reset();
  highlights_.hover.reset();
}

void Viewport::hoverAt(QPointF position) {
  pointing_ = true;
  hotGauge_ = gaugeAt(position);
  const auto hits = picker_.at(pixels(position), pickTolerance * devicePixelRatioF(), camera_);
  std::optional<Pick> now;
  if (!hotGauge_ && !drawingPlane_ && !hits.empty()) {
    // What the next click takes: after repeated clicks, something further back.
    const bool stacked = QLineF(position, stackAt_).length() <= clickSlack;
    now = hits[stacked ? stackNext_ % hits.size() : 0].pick;
  }
  light(badgeAt(position));
  emit pointed(hits.empty() ? std::nullopt : std::optional(hits.front().point));
  if (now != hover_ || now) update();
  hover_ = now;
  highlights_.hover = now;
}

Point Viewport::orbitCentre(QPointF position) const {
  const auto hits = picker_.at(pixels(position), pickTolerance, camera_);
  if (!hits.empty()) return hits.front().point;
  return scene_.box().empty() ? Point{} : scene_.box().centre();
}

void Viewport::mousePressEvent(QMouseEvent* event) {
  setFocus(Qt::MouseFocusReason);
  pressed_ = last_ = event->position();
  forgetHover();
  const bool turnKey = event->modifiers().testFlag(Qt::AltModifier);
  if (event->button() == Qt::RightButton ||
      (event->button() == Qt::LeftButton && turnKey && !(event->modifiers() & Qt::ShiftModifier))) {
    drag_ = Drag::Orbit;
    orbitAbout_ = orbitCentre(pressed_);
  } else if (event->button() == Qt::MiddleButton || (event->button() == Qt::LeftButton && turnKey)) {
    drag_ = Drag::Pan;
  } else if (event->button() == Qt::LeftButton) {
    hotGauge_ = gaugeAt(pressed_);
    drag_ = hotGauge_ ? Drag::Gauge : drawingPlane_ ? Drag::Curve : Drag::Click;
  }
  update();
}

void Viewport::mouseMoveEvent(QMouseEvent* event) {
  const QPointF now = event->position(), step = (now - last_) * devicePixelRatioF();
  switch (drag_) {
    case Drag::None:
      last_ = now;
      return hoverAt(now);
    case Drag::Click:
      if (QLineF(pressed_, now).length() > clickSlack) drag_ = Drag::Box;
      break;
    case Drag::Orbit:
      if (QLineF(pressed_, now).length() > clickSlack || moving_) {
        camera_.orbit(orbitAbout_, step.x(), step.y());
        cameraMoved();
      }
      break;
    case Drag::Pan:
      camera_.pan(step.x(), step.y());
      cameraMoved();
      break;
    case Drag::Gauge:
      if (hotGauge_ && *hotGauge_ < gauges_.size()) {
        Gauge& gauge = gauges_[*hotGauge_];
        if (const auto value = dragged(gauge, pixels(now), camera_)) {
          const bool fine = event->modifiers().testFlag(Qt::ShiftModifier);
          gauge.value = fine                               ? *value
                        : gauge.kind == Gauge::Kind::Angle ? snappedAngle(*value)
                                                           : snapped(*value, camera_);
          emit gaugeMoved(QString::fromStdString(gauge.field), gauge.value);
        }
      }
      break;
    case Drag::Box:
    case Drag::Curve:
      break;
  }
  last_ = now;
  update();
}

void Viewport::mouseReleaseEvent(QMouseEvent* event) {
  const Drag was = std::exchange(drag_, Drag::None);
  last_ = event->position();
  const bool still = QLineF(pressed_, last_).length() <= clickSlack;
  if (was == Drag::Click) click(last_, event->modifiers());
  if (was == Drag::Box) {
    const auto inclusion = last_.x() < pressed_.x() ? Picker::Inclusion::Touching : Picker::Inclusion::Inside;
    std::vector<std::size_t> badges;
    const QFontMetricsF metrics(fontOf());
    for (const Badge& badge : scene_.badges)
      if (QRectF(pressed_, last_)
              .normalized()
              .contains(badgeRect(badge, camera_, devicePixelRatioF(), metrics).center()))
        badges.push_back(badge.piece);
    if (!badges.empty()) emit badgesBoxed(badges);
    emit boxPicked(picker_.in(QRectF(pixels(pressed_), pixels(last_)), inclusion, camera_),
                   event->modifiers().testFlag(Qt::ControlModifier));
  }
  if (was == Drag::Orbit && still && event->button() == Qt::RightButton)
    emit menuWanted(event->globalPosition().toPoint());
  if (was == Drag::Gauge) {
    if (still && hotGauge_)
      emit gaugeTyped(QString::fromStdString(gauges_[*hotGauge_].field));
    else
      emit gaugeReleased();
  }
  if (was == Drag::Curve && drawingPlane_) {
    if (const auto points = drawnPoints(); points && !still)
      emit curveDrawn(points->first.u, points->first.v, points->second.u, points->second.v);
  }
  update();
}

void Viewport::click(QPointF position, Qt::KeyboardModifiers modifiers) {
  if (const auto badge = badgeAt(position)) return emit badgeClicked(static_cast<int>(*badge));
  const Overlay overlay = badgesNow();
  const QFontMetricsF metrics(fontOf());
  const QString note = badgesNote(overlay, shownBadges(overlay, metrics).size());
  if (!note.isEmpty() && badgesNoteRect(overlay, note, metrics).contains(position)) return setAllBadges(true);
  const auto hits = picker_.at(pixels(position), pickTolerance * devicePixelRatioF(), camera_);
  if (hits.empty()) {
    stackAt_ = {-100, -100};
    return emit pickedNothing();
  }
  const bool again = QLineF(position, stackAt_).length() <= clickSlack;
  if (!again) stackNext_ = 0;
  stackAt_ = position;
  emit picked(hits[stackNext_ % hits.size()].pick, modifiers.testFlag(Qt::ControlModifier));
  ++stackNext_;
}

void Viewport::mouseDoubleClickEvent(QMouseEvent* event) {
  mousePressEvent(event);
}

void Viewport::wheelEvent(QWheelEvent* event) {
  forgetHover();
  const bool touchpad =
      !event->pixelDelta().isNull() && event->device() && event->device()->type() == QInputDevice::DeviceType::TouchPad;
  if (touchpad && !(event->modifiers() & Qt::ControlModifier)) {
    const QPointF step = QPointF(event->pixelDelta()) * devicePixelRatioF();
    if (event->modifiers() & Qt::ShiftModifier)
      camera_.pan(step.x(), step.y());
    else
      camera_.orbit(orbitCentre(event->position()), step.x() * 0.6, step.y() * 0.6);
  } else {
    camera_.zoomAt(pixels(event->position()), std::pow(1.0015, event->angleDelta().y()));
  }
  cameraMoved();
  event->accept();
}

bool Viewport::event(QEvent* event) {
  if (event->type() == QEvent::NativeGesture) {
    const auto* gesture = static_cast<QNativeGestureEvent*>(event);
    if (gesture->gestureType() == Qt::ZoomNativeGesture) {
      camera_.zoomAt(pixels(gesture->position()), 1 + gesture->value());
      cameraMoved();
      return true;
    }
  }
  return QOpenGLWidget::event(event);
}

void Viewport::stepMark(int direction) {
  pointing_ = false;
  // A pick may have changed what is shown: the keyboard goes on from where it was.
  const auto next = nextPick(scene_, picker_.filter(), hover_ ? hover_ : marked_, direction);
  if (!next) return;
  hover_ = marked_ = next;
  highlights_.hover = hover_;
  // The label stands at the middle of what is marked.
  if (const SceneBody* body = scene_.find(hover_->body)) last_ = toWidget(middleOf(*hover_, *body));
  update();
}

void Viewport::takeMark(bool add) {
  if (hover_) emit picked(*hover_, add);
}

void Viewport::keyPressEvent(QKeyEvent* event) {
  constexpr double turn = 12, step = 30;
  const bool pan = event->modifiers().testFlag(Qt::ControlModifier);
  const auto go = [&](double dx, double dy) {
    if (pan) {
      camera_.pan(dx * step * devicePixelRatioF(), dy * step * devicePixelRatioF());
      cameraMoved();
    } else {
      orbitBy(dx * turn, dy * turn);
    }
  };
  switch (event->key()) {
    case Qt::Key_Left:
      return go(-1, 0);
    case Qt::Key_Right:
      return go(1, 0);
    case Qt::Key_Up:
      return go(0, -1);
    case Qt::Key_Down:
      return go(0, 1);
    case Qt::Key_Plus:
    case Qt::Key_Equal:
      return zoomBy(1.2);
    case Qt::Key_Minus:
      return zoomBy(1 / 1.2);
    case Qt::Key_N:
      return stepMark(1);
    case Qt::Key_P:
      return stepMark(-1);
    case Qt::Key_Space:
      return takeMark(pan);
    default:
      QOpenGLWidget::keyPressEvent(event);
  }
}

void Viewport::leaveEvent(QEvent*) {
  hover_.reset();
  highlights_.hover.reset();
  light(std::nullopt);
  emit pointed(std::nullopt);
  update();
}

}  // namespace kervo::app
