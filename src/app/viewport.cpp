#include "app/viewport.h"

#include <QCursor>
#include <QMouseEvent>
#include <QNativeGestureEvent>
#include <QPainter>
#include <QWheelEvent>

#include "app/look.h"
#include "base/error.h"

namespace kervo::app {

namespace {

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
    if (select_.follows() && underMouse() && !dragging_) {
      last_ = mapFromGlobal(QCursor::pos());
      hoverAt(last_);
    }
    update();
  });
  connectTools();
}

void Viewport::connectTools() {
  navigate_.menuWanted = [this](const QPoint& at) { emit menuWanted(at); };
  gauges_.moved = [this](const std::string& field, double value) {
    emit gaugeMoved(QString::fromStdString(field), value);
  };
  gauges_.typed = [this](const std::string& field) { emit gaugeTyped(QString::fromStdString(field)); };
  draw_.drawn = [this](const Stroke& stroke) { emit strokeDrawn(stroke); };
  draw_.snap = [this](QPointF position, std::optional<PlanePoint> from, bool infer) {
    return drawing_.snapAt(position, from, infer);
  };
  draw_.lastLine = [this]() -> std::optional<std::pair<Snap, Snap>> {
    const auto& edited = drawing_.edited();
    if (!edited || edited->drawing.curves.empty() || edited->drawing.curves.back().points.size() < 2)
      return std::nullopt;
    const auto snapTo = [&](const std::string& id) {
      return Snap{edited->solution.points.at(edited->drawing.pointAt(id)), SnapTo::Point, {id}};
    };
    const std::vector<std::string>& points = edited->drawing.curves.back().points;
    return std::pair(snapTo(points.front()), snapTo(points.back()));
  };
  draw_.dropLast = [this] { emit lastLineDropped(); };
  drawing_.bodies = [this](PlanePoint at, double reach) -> std::optional<Snap> {
    const auto& edited = drawing_.edited();
    if (!edited) return std::nullopt;
    if (!bodySnaps_ || !(bodySnaps_->first == edited->plane))
      bodySnaps_.emplace(edited->plane, BodySnaps(scene_, edited->plane));
    return bodySnaps_->second.at(at, reach);
  };
  draw_.typing = [this](const QString& text) { emit sizeTyped(text); };
  draw_.changed = [this] { emit strokeChanged(); };
  drawing_.moved = [this](const Drawing& drawing, const std::vector<std::string>& together) {
    emit drawingMoved(drawing, together);
  };
  drawing_.selected = [this](const std::vector<std::string>& ids, bool add) { emit partsPicked(ids, add); };
  section_.moved = [this](const StepId& section, double value, bool done) { emit sectionMoved(section, value, done); };
  trim_.swept = [this](const std::vector<std::pair<std::string, PlanePoint>>& places) { emit partsSwept(places); };
  drawing_.trimKeyed = [this](int key) { emit trimKeyed(key); };
  drawing_.removed = [this] { emit partsRemoved(); };
  drawing_.regionsPicked = [this](const std::vector<std::string>& names) { emit regionsPicked(names); };
  drawing_.typed = [this](const std::string& id) { emit partTyped(id); };
  badges_.clicked = [this](std::size_t piece) { emit badgeClicked(static_cast<int>(piece)); };
  badges_.boxed = [this](const std::vector<std::size_t>& pieces) { emit badgesBoxed(pieces); };
  select_.picked = [this](const Pick& pick, bool add) { emit picked(pick, add); };
  select_.pickedNothing = [this] { emit pickedNothing(); };
  select_.boxed = [this](const std::vector<Pick>& picks, bool add) { emit boxPicked(picks, add); };
  select_.pointed = [this](const std::optional<Point>& where) { emit pointed(where); };
}

Viewport::~Viewport() {
  if (!isValid()) return;
  makeCurrent();
  renderer_.release();
  doneCurrent();
}

void Viewport::setScene(const Scene& scene) {
  const bool wasEmpty = scene_.bodies.empty();
  const std::shared_ptr<const CutFaces> before = scene_.cuts;
  scene_ = scene;
  bodySnaps_.reset();
  cutScene(before);
  picker_.setScene(scene_);
  camera_.setScene(scene_.box());
  if (isValid()) {
    makeCurrent();
    renderer_.setScene(scene_);
    doneCurrent();
  }
  select_.sceneChanged();
  if ((wasEmpty && !scene_.bodies.empty()) || fitWhenShown_) {
    camera_.look(StandardView::Home, scene_.box());
    fitWhenShown_ = scene_.bodies.empty();
  }
  emit arranged();
  update();
}

void Viewport::cutScene(const std::shared_ptr<const CutFaces>& before) {
  scene_.cuts.reset();
  if (scene_.sections.empty()) return;
  auto cuts = before ? std::make_shared<CutFaces>(*before) : std::make_shared<CutFaces>();
  cuts->update(scene_);
  scene_.cuts = std::move(cuts);
}

void Viewport::setSection(std::size_t number, const SectionCut& cut) {
  if (number >= scene_.sections.size()) return;
  scene_.sections[number].cut = std::make_shared<const SectionCut>(cut);
  cutScene(scene_.cuts);
  picker_.setScene(scene_);
  if (isValid()) {
    makeCurrent();
    renderer_.setScene(scene_);
    doneCurrent();
  }
  update();
}

void Viewport::setRuler(const std::optional<RulerMark>& mark) {
  section_.set(mark);
  update();
}

void Viewport::setGauges(std::vector<Gauge> gauges) {
  gauges_.set(std::move(gauges));
  update();
}

void Viewport::setSelected(std::vector<Pick> picks) {
  selected_ = std::move(picks);
  update();
}

void Viewport::setFilter(PickFilter filter) {
  picker_.setFilter(filter);
  select_.unmark();
  update();
}

void Viewport::setStyle(DrawStyle style) {
  style_ = style;
  emit styleChanged();
  update();
}

void Viewport::setProjection(Projection projection) {
  camera_.setProjection(projection);
  turned();
}

void Viewport::setDrawing(std::optional<EditedDrawing> edited) {
  drawing_.set(std::move(edited));
  update();
}

void Viewport::setGrid(std::optional<double> grid) {
  drawing_.setGrid(grid);
  update();
}

void Viewport::setDrawingPlane(std::optional<Plane> plane, const StrokeKind* kind, int sides) {
  draw_.set(plane, kind, sides);
  setCursor(plane && kind ? Qt::CrossCursor : Qt::ArrowCursor);
}

void Viewport::listPieces(std::vector<CurvePiece> pieces, std::optional<std::size_t> lit) {
  trim_.list(std::move(pieces), lit);
}

void Viewport::setTrim(TrimMode mode) {
  trim_.set(mode);
  if (mode != TrimMode::None) setCursor(Qt::CrossCursor);
}

void Viewport::lookAt(const Plane& plane, const Box& box) {
  if (!before_) before_ = camera_.kept();
  // An empty scene does not take the view away from it again.
  fitWhenShown_ = false;
  camera_.lookAt(plane, box.empty() ? scene_.box() : box);
  turned();
}

void Viewport::lookBack() {
  if (!before_) return;
  Camera before = *before_;
  before_.reset();
  before.setViewport(camera_.viewport());
  before.setScene(scene_.box());
  camera_ = before;
  turned();
}

void Viewport::look(StandardView view) {
  // It may have another size than when it was drawn last.
  camera_.setViewport(size() * devicePixelRatioF());
  camera_.look(view, scene_.box());
  turned();
}

void Viewport::lookFrom(const ViewCamera& view) {
  camera_.lookFrom(view);
  turned();
}

void Viewport::flip() {
  camera_.flip(scene_.box());
  turned();
}

void Viewport::fit() {
  camera_.fit(scene_.box());
  turned();
}

void Viewport::goTo(Point place, double reach) {
  Box box;
  box.add(place);
  camera_.fit(box.enlarged(std::max(reach, 1e-3)));
  turned();
}

void Viewport::fitSelection() {
  Box box;
  for (const Pick& pick : selected_) {
    const SceneBody* body = scene_.find(pick.body);
    if (!body) continue;
    const BodyMesh& mesh = body->picture->mesh;
    const auto add = [&](const std::vector<float>& points, const BodyMesh::Range& range) {
      for (std::size_t i = 0; i < range.count; ++i) {
        const float* p = &points[3 * (range.first + i)];
        box.add(Point{p[0], p[1], p[2]});
      }
    };
    const std::vector<std::size_t> parts = drawnParts(pick, *body);
    if (parts.empty()) continue;
    const std::size_t index = parts.front();
    if (pick.kind == Pick::Kind::Face && index < mesh.faceVertices.size()) add(mesh.points, mesh.faceVertices[index]);
    if (pick.kind == Pick::Kind::Edge && index < mesh.edges.size()) add(mesh.edgePoints, mesh.edges[index]);
    if (pick.kind == Pick::Kind::Body || pick.kind == Pick::Kind::Guide) box.add(mesh.box);
  }
  camera_.fit(box.empty() ? scene_.box() : box);
  turned();
}

void Viewport::turned() {
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
  emit arranged();
}

void Viewport::paintGL() {
  if (!renderer_.initialized()) return;
  camera_.setViewport(size() * devicePixelRatioF());
  const ViewLook& colors = this->colors();
  renderer_.draw({camera_, style_, moving_, devicePixelRatioF(), colors, highlights()});

  QPainter painter(this);
  painter.setFont(fontOf());
  Overlay overlay = emptyOverlay();
  for (const Tool* tool : tools_) tool->mark(overlay, dragging_ != nullptr);
  overlay.markedCorners = markedCorners();
  overlay.measured = pins_;
  overlay.paint = scene_.paint;
  if (measured_) overlay.measured.push_back(*measured_);
  // Who is asked first lies on top.
  for (auto tool = tools_.rbegin(); tool != tools_.rend(); ++tool) (*tool)->paint(painter);
  paint(painter, overlay);
  if (scene_.bodies.empty() && scene_.lines.empty() && !drawing_.edited()) {
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

void Viewport::setPins(std::vector<MeasureMark> pins) {
  pins_ = std::move(pins);
  update();
}

void Viewport::exchangeLook(Viewport& other) {
  std::swap(camera_, other.camera_);
  std::swap(before_, other.before_);
  std::swap(style_, other.style_);
  std::swap(fitWhenShown_, other.fitWhenShown_);
  for (Viewport* each : {this, &other}) {
    each->camera_.setScene(each->scene_.box());
    each->select_.forget();
    emit each->styleChanged();
    emit each->moved();
    each->update();
  }
}

void Viewport::setMeasured(std::optional<MeasureMark> mark) {
  measured_ = std::move(mark);
  update();
}

const ViewLook& Viewport::colors() const {
  return app::look().view;
}

QFontMetricsF Viewport::letters() const {
  return QFontMetricsF(fontOf());
}

Overlay Viewport::emptyOverlay() const {
  Overlay overlay{camera_, colors(), devicePixelRatioF(), QSizeF(size()), scene_.badges};
  badges_.dress(overlay);
  return overlay;
}

Highlights Viewport::highlights() const {
  Highlights highlights;
  highlights.selected = selected_;
  highlights.hover = select_.hovered();
  return highlights;
}

std::vector<Point> Viewport::markedCorners() const {
  std::vector<Point> corners;
  std::vector<Pick> marked = selected_;
  if (const auto& hover = select_.hovered()) marked.push_back(*hover);
  for (const Pick& pick : marked) {
    const SceneBody* body = pick.kind == Pick::Kind::Corner ? scene_.find(pick.body) : nullptr;
    if (!body) continue;
    const auto& c = body->picture->mesh.corners;
    for (const std::size_t corner : drawnParts(pick, *body))
      if (3 * corner + 2 < c.size()) corners.push_back({c[3 * corner], c[3 * corner + 1], c[3 * corner + 2]});
  }
  return corners;
}

Pointer Viewport::pointerOf(const QMouseEvent& event) const {
  return {event.position(), last_, pressed_, event.globalPosition().toPoint(), event.button(), event.modifiers()};
}

void Viewport::hoverAt(QPointF position) {
  const Pointer pointer{position, position, pressed_};
  bool taken = false;
  for (Tool* tool : tools_) taken = tool->point(pointer, taken);
}

void Viewport::mousePressEvent(QMouseEvent* event) {
  setFocus(Qt::MouseFocusReason);
  pressed_ = last_ = event->position();
  // What was pointed at before the view turns is not pointed at any more.
  select_.forget();
  const Pointer pointer = pointerOf(*event);
  dragging_ = nullptr;
  for (Tool* tool : tools_)
    if (!dragging_ && tool->press(pointer)) dragging_ = tool;
  update();
}

void Viewport::mouseMoveEvent(QMouseEvent* event) {
  const Pointer pointer = pointerOf(*event);
  last_ = event->position();
  if (!dragging_) return hoverAt(last_);
  dragging_->drag(pointer);
  update();
}

void Viewport::mouseReleaseEvent(QMouseEvent* event) {
  const Pointer pointer = pointerOf(*event);
  last_ = event->position();
  if (Tool* tool = std::exchange(dragging_, nullptr)) tool->release(pointer);
  update();
}

void Viewport::mouseDoubleClickEvent(QMouseEvent* event) {
  const Pointer pointer = pointerOf(*event);
  for (Tool* tool : tools_)
    if (tool->doublePress(pointer)) return update();
  mousePressEvent(event);
}

void Viewport::wheelEvent(QWheelEvent* event) {
  select_.forget();
  navigate_.wheel(*event);
  event->accept();
}

bool Viewport::event(QEvent* event) {
  if (event->type() == QEvent::ShortcutOverride && drawing_.edited()) {
    // Of the drawing while one is edited, not of the Cut list.
    const auto* key = static_cast<QKeyEvent*>(event);
    if (key->key() == Qt::Key_Delete || key->key() == Qt::Key_Backspace || key->key() == Qt::Key_F2) event->accept();
  }
  if (event->type() == QEvent::NativeGesture) {
    const auto* gesture = static_cast<QNativeGestureEvent*>(event);
    if (gesture->gestureType() == Qt::ZoomNativeGesture) {
      navigate_.zoomAt(gesture->position(), 1 + gesture->value());
      return true;
    }
  }
  return QOpenGLWidget::event(event);
}

void Viewport::keyPressEvent(QKeyEvent* event) {
  for (Tool* tool : tools_)
    if (tool->key(event->key(), event->modifiers()) || tool->text(event->text())) return;
  QOpenGLWidget::keyPressEvent(event);
}

void Viewport::leaveEvent(QEvent*) {
  for (Tool* tool : tools_) tool->forget();
  emit pointed(std::nullopt);
  update();
}

}  // namespace kervo::app
