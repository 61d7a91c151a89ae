// The view: shows a scene, turns, and says what was pointed at, clicked and dragged.
#pragma once

#include <QElapsedTimer>
#include <QOpenGLWidget>
#include <QTimer>
#include <optional>

#include "view/overlay.h"
#include "view/picker.h"
#include "view/renderer.h"

namespace kervo::app {

class Viewport : public QOpenGLWidget {
  Q_OBJECT
 public:
  explicit Viewport(QWidget* parent = nullptr);
  ~Viewport() override;

  void setScene(const Scene& scene);
  const Scene& scene() const { return scene_; }
  void setGauges(std::vector<Gauge> gauges);
  void setSelected(std::vector<Pick> picks);
  void setFilter(PickFilter filter);
  void setStyle(DrawStyle style);
  DrawStyle style() const { return style_; }
  void setProjection(Projection projection);
  Projection projection() const { return camera_.projection(); }
  /// Text beside the pointer for what a click would take.
  void setDescriber(std::function<QString(const Pick&)> describe) { describe_ = std::move(describe); }
  /// Lights a badge, and the piece it stands for.
  void light(std::optional<std::size_t> piece);

  /// Where badges are, so that nothing else is put there.
  std::vector<QRect> badgeRects() const;
  /// All badges, also where they hide the bodies.
  void setAllBadges(bool all);
  bool allBadges() const { return allBadges_; }

  /// While a plane is set, presses and drags on it are curves being drawn.
  void setDrawingPlane(std::optional<Plane> plane, const QString& curve = {});

  void look(StandardView view);
  void flip();
  void fit();
  void fitSelection();
  void goHome() { look(StandardView::Home); }
  void orbitBy(double dx, double dy);
  void zoomBy(double factor);

  /// Marks the next or previous of all that can be picked: bodies, or faces, then edges, then corners. Space takes it.
  void stepMark(int direction);
  void takeMark(bool add);

  const Camera& camera() const { return camera_; }
  /// Where a point of space is drawn, in widget coordinates.
  QPointF toWidget(Point point) const { return camera_.project(point) / devicePixelRatioF(); }
  std::optional<Pick> hovered() const { return hover_; }
  std::optional<Pick> pickAt(QPointF position) const;
  /// False where the window runs without OpenGL.
  bool drawsPictures() const { return renderer_.initialized(); }

 signals:
  void picked(const kervo::Pick& pick, bool add);
  void pickedNothing();
  void boxPicked(const std::vector<kervo::Pick>& picks, bool add);
  void gaugeMoved(const QString& field, double millimetres);
  void gaugeReleased();
  void gaugeTyped(const QString& field);
  void badgeClicked(int piece);
  /// Badges in a box that was drawn.
  void badgesBoxed(const std::vector<std::size_t>& pieces);
  void menuWanted(const QPoint& globalPosition);
  /// A curve was drawn from one point to another, in the drawing plane's coordinates.
  void curveDrawn(double fromU, double fromV, double toU, double toV);
  void pointed(const std::optional<kervo::Point>& where);
  void moved();  ///< the camera
  void styleChanged();
  void drawingFailed(const kervo::Error& error);

 protected:
  void initializeGL() override;
  void paintGL() override;
  void resizeGL(int width, int height) override;
  bool event(QEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void leaveEvent(QEvent* event) override;

 private:
  enum class Drag { None, Click, Box, Orbit, Pan, Gauge, Curve };

  QPointF pixels(QPointF position) const { return position * devicePixelRatioF(); }
  /// The badges as they are painted now.
  Overlay badgesNow() const;
  std::optional<std::size_t> gaugeAt(QPointF position) const;
  std::optional<std::size_t> badgeAt(QPointF position) const;
  std::optional<PlanePoint> onDrawingPlane(QPointF position) const;
  /// Where the curve being drawn begins and ends.
  std::optional<std::pair<PlanePoint, PlanePoint>> drawnPoints() const;
  void hoverAt(QPointF position);
  void forgetHover();
  void click(QPointF position, Qt::KeyboardModifiers modifiers);
  void cameraMoved();
  Point orbitCentre(QPointF position) const;
  void paintCurvePreview(QPainter& painter);

  Camera camera_;
  Renderer renderer_;
  Picker picker_;
  Scene scene_;
  std::vector<Gauge> gauges_;
  DrawStyle style_ = DrawStyle::ShadedEdges;
  Highlights highlights_;
  std::function<QString(const Pick&)> describe_;

  Drag drag_ = Drag::None;
  QPointF pressed_, last_;
  Point orbitAbout_;
  std::optional<std::size_t> hotGauge_, litPiece_;
  std::optional<Pick> hover_;
  std::optional<Pick> marked_;  ///< where the keyboard stepped last
  std::optional<Plane> drawingPlane_;
  QString drawingCurve_;
  bool allBadges_ = false;
  bool moving_ = false;
  bool pointing_ = true;  ///< the mark follows the pointer, not the keyboard
  bool fitWhenShown_ = true;
  QTimer rest_;

  /// Repeated clicks at one place go through what lies there.
  QPointF stackAt_{-100, -100};
  std::size_t stackNext_ = 0;
};

}  // namespace kervo::app
