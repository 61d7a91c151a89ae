// The view: shows a scene, and lets its tools (view/tools) turn it, pick, drag and draw in it.
#pragma once

#include <QOpenGLWidget>
#include <QTimer>
#include <array>
#include <optional>

#include "view/renderer.h"
#include "view/tools/body_snaps.h"
#include "view/tools/draw_tool.h"
#include "view/tools/drawing_tool.h"
#include "view/tools/gauge_tool.h"
#include "view/tools/navigate_tool.h"
#include "view/tools/section_tool.h"
#include "view/tools/select_tool.h"
#include "view/tools/trim_tool.h"

namespace kervo::app {

class Viewport : public QOpenGLWidget, private ToolSpace {
  Q_OBJECT
 public:
  explicit Viewport(QWidget* parent = nullptr);
  ~Viewport() override;

  void setScene(const Scene& scene);
  const Scene& scene() const { return scene_; }
  /// A section of the scene as it is being moved.
  void setSection(std::size_t number, const SectionCut& cut);
  ViewCamera lookedFrom() const { return camera_.lookedFrom(); }
  void lookFrom(const ViewCamera& view);
  /// The section whose plane is dragged at the right edge; nothing: none.
  void setRuler(const std::optional<RulerMark>& mark);
  /// Where its mark stands, and where the ruler is.
  QPointF rulerTip() const { return section_.tip(); }
  QRectF rulerBar() const { return section_.bar(); }
  void setGauges(std::vector<Gauge> gauges);
  void setSelected(std::vector<Pick> picks);
  void setFilter(PickFilter filter);
  void setStyle(DrawStyle style);
  DrawStyle style() const { return style_; }
  void setProjection(Projection projection);
  Projection projection() const { return camera_.projection(); }
  /// Text beside the pointer for what a click would take.
  void setDescriber(std::function<QString(const Pick&)> describe) { select_.describe = std::move(describe); }
  /// Lights a badge, and the piece it stands for.
  void light(std::optional<std::size_t> piece) { badges_.light(piece); }
  /// Where badges are, so that nothing else is put there.
  std::vector<QRect> badgeRects() const { return badges_.rects(); }
  /// All badges, also where they hide the bodies.
  void setAllBadges(bool all) { badges_.setAll(all); }
  bool allBadges() const { return badges_.all(); }

  /// The drawing whose points can be dragged; nothing: none.
  void setDrawing(std::optional<EditedDrawing> edited);
  /// Whether it takes clicks; otherwise bodies are being picked.
  void setDrawingTakes(bool takes) { drawing_.setTakes(takes); }
  /// mm from line to line of the grid it is drawn on; nothing: no grid.
  void setGrid(std::optional<double> grid);
  /// While a plane is set, presses and drags on it are curves being drawn. `sides`: of polygons.
  void setDrawingPlane(std::optional<Plane> plane, const StrokeKind* kind = nullptr, int sides = 6);
  /// What presses on curves of the drawing do instead of selecting them.
  void setTrim(TrimMode mode);
  /// Stretches of a curve that are listed, and the one that is pointed at there.
  void listPieces(std::vector<CurvePiece> pieces, std::optional<std::size_t> lit);
  /// Text beside the pointer for a part of the drawing.
  void setRegionDescriber(std::function<QString(const std::string&)> describe) {
    drawing_.describeRegion = std::move(describe);
  }
  void setPartDescriber(std::function<QString(const std::string&)> describe) {
    drawing_.describe = std::move(describe);
  }
  DrawTool& drawTool() { return draw_; }
  DrawingTool& drawingTool() { return drawing_; }

  /// Takes the other's way of looking, and gives it its own.
  void exchangeLook(Viewport& other);

  /// Numbers that stay in the view, each where it was measured.
  void setPins(std::vector<MeasureMark> pins);
  const std::vector<MeasureMark>& pins() const { return pins_; }
  /// A distance that is shown over the bodies, or none.
  void setMeasured(std::optional<MeasureMark> mark);
  const std::optional<MeasureMark>& measured() const { return measured_; }

  /// Straight at a plane; the box is what shall be seen. `back`: to where one looked from before.
  void lookAt(const Plane& plane, const Box& box);
  void lookBack();

  void look(StandardView view);
  void flip();
  void fit();
  void fitSelection();
  /// Moves to a place from where one looks now, with so many mm around it in sight.
  void goTo(Point place, double reach);
  void goHome() { look(StandardView::Home); }
  void zoomBy(double factor) { navigate_.zoomBy(factor); }

  const Camera& camera() const { return camera_; }
  /// Where a point of space is drawn, in widget coordinates.
  QPointF toWidget(Point point) const { return camera_.project(point) / devicePixelRatioF(); }
  std::optional<Pick> hovered() const { return select_.hovered(); }
  std::optional<Pick> pickAt(QPointF position) const { return select_.pickAt(position); }
  /// False where the window runs without OpenGL.
  bool drawsPictures() const { return renderer_.initialized(); }

 signals:
  /// The plane of a section is dragged to a place, mm; `done`: it was let go there.
  void sectionMoved(const kervo::StepId& section, double value, bool done);
  /// What stands where in the view may have changed: it is of another size, or shows something else.
  void arranged();
  void picked(const kervo::Pick& pick, bool add);
  void pickedNothing();
  void boxPicked(const std::vector<kervo::Pick>& picks, bool add);
  void gaugeMoved(const QString& field, double millimetres);
  void gaugeTyped(const QString& field);
  void badgeClicked(int piece);
  /// Badges in a box that was drawn.
  void badgesBoxed(const std::vector<std::size_t>& pieces);
  void menuWanted(const QPoint& globalPosition);
  /// A curve was drawn from one point to another, in the drawing plane's coordinates.
  void strokeDrawn(const kervo::Stroke& stroke);
  void lastLineDropped();  ///< the line that was drawn last is to go
  /// Points of the drawing were dragged, one of them perhaps onto another: then both are named.
  void drawingMoved(const kervo::Drawing& drawing, const std::vector<std::string>& together);
  void partsPicked(const std::vector<std::string>& ids, bool add);
  void partsRemoved();
  /// Trims of the drawing by keys: S, T, L or J.
  void trimKeyed(int key);
  /// Regions of the drawing were clicked or boxed.
  void regionsPicked(const std::vector<std::string>& names);
  /// Stretches of curves were swept over, or ends pointed at, each at a place.
  void partsSwept(const std::vector<std::pair<std::string, kervo::PlanePoint>>& places);
  /// A dimension of the drawing is to be typed where it stands.
  void partTyped(const std::string& id);
  /// A number is typed while something is drawn.
  void sizeTyped(const QString& text);
  /// What can be typed while drawing has changed.
  void strokeChanged();
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
  void cutScene(const std::shared_ptr<const CutFaces>& before);
  // What tools see of it.
  Camera& eye() override { return camera_; }
  const Scene& shown() const override { return scene_; }
  const Picker& picks() const override { return picker_; }
  const ViewLook& colors() const override;
  qreal pixelRatio() const override { return devicePixelRatioF(); }
  QFontMetricsF letters() const override;
  QSizeF room() const override { return QSizeF(size()); }
  Overlay emptyOverlay() const override;
  void turned() override;
  void redraw() override { update(); }

  void connectTools();
  Pointer pointerOf(const QMouseEvent& event) const;
  void hoverAt(QPointF position);
  Highlights highlights() const;
  /// The points among what is selected and pointed at.
  std::vector<Point> markedCorners() const;

  Camera camera_;
  std::optional<Camera> before_;  ///< where one looked from before a drawing
  Renderer renderer_;
  Picker picker_;
  Scene scene_;
  DrawStyle style_ = DrawStyle::ShadedEdges;
  /// Of the scene, for the plane that is drawn on; made when they are asked for.
  std::optional<std::pair<Plane, BodySnaps>> bodySnaps_;
  std::vector<Pick> selected_;
  std::optional<MeasureMark> measured_;
  std::vector<MeasureMark> pins_;

  NavigateTool navigate_{*this};
  SectionTool section_{*this};
  GaugeTool gauges_{*this};
  DrawTool draw_{*this};
  DrawingTool drawing_{*this};
  TrimTool trim_{*this, drawing_};
  BadgeTool badges_{*this};
  SelectTool select_{*this, badges_};
  /// In the order in which they are asked.
  const std::array<Tool*, 8> tools_{&section_, &draw_, &gauges_, &trim_, &drawing_, &navigate_, &badges_, &select_};
  Tool* dragging_ = nullptr;  ///< has the mouse until it is released
  QPointF pressed_, last_;

  bool moving_ = false;
  bool fitWhenShown_ = true;
  QTimer rest_;
};

}  // namespace kervo::app
