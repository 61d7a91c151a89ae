#include "app/panels/measure_panel.h"

#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QPointer>
#include <QScrollArea>
#include <QToolButton>
#include <algorithm>
#include <numbers>

#include "app/icons.h"
#include "app/look.h"
#include "geom/curves/curve_body.h"
#include "geom/divide/clipped.h"
#include "geom/flat/section_face.h"
#include "geom/measure/box_along.h"
#include "geom/measure/thickness.h"
#include "geom/tolerances.h"
#include "view/cut_faces.h"

namespace kervo::app {

namespace {

/// Between bodies with more faces than this a distance takes long, and is found when asked for.
constexpr int mostFacesAtOnce = 400;
constexpr int mostRows = 40;

/// To a thousandth of a millimetre, as far as people read them.
Vector rounded(Vector v) {
  const auto part = [](double x) { return std::round(x * 1000) / 1000; };
  return {part(v.x), part(v.y), part(v.z)};
}

QString angleText(double radians) {
  return QStringLiteral("%1°").arg(radians * 180 / std::numbers::pi, 0, 'f', 2);
}

}  // namespace

MeasurePanel::MeasurePanel(Desk& desk, QWidget* parent)
    : Panel(tr("Measure"), "measure", parent), desk_(desk), meter_(desk) {
  auto* all = new QWidget;
  rows_ = new QGridLayout(all);
  rows_->setContentsMargins(4, 0, 4, 0);
  rows_->setVerticalSpacing(4);
  rows_->setColumnStretch(0, 1);
  rows_->setRowStretch(mostRows, 1);
  auto* scrolled = new QScrollArea;
  scrolled->setFrameShape(QFrame::NoFrame);
  scrolled->setWidgetResizable(true);
  scrolled->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scrolled->setFocusPolicy(Qt::NoFocus);
  scrolled->setWidget(all);
  content()->addWidget(scrolled);
  copy_ = addLink(tr("copy"));
  copy_->setToolTip(tr("All of these numbers as text"));
  connect(copy_, &QToolButton::clicked, this, &MeasurePanel::copy);
  connect(&desk_.selection, &Selection::changed, this, &MeasurePanel::showState);
  connect(&desk_.session, &Session::modelChanged, this, &MeasurePanel::showState);
  connect(&meter_, &Meter::found, this, &MeasurePanel::showState);
  showState();
}

void MeasurePanel::copy() {
  QStringList lines;
  for (const auto& [name, value] : texts_) lines << name + '\t' + value;
  QApplication::clipboard()->setText(lines.join('\n'));
}

void MeasurePanel::link(const QString& text, const std::function<void()>& act) {
  auto* find = new QToolButton;
  find->setObjectName("link");
  find->setFocusPolicy(Qt::StrongFocus);
  find->setText(text);
  connect(find, &QToolButton::clicked, this, act);
  rows_->addWidget(find, shown_++, 0, 1, 3, Qt::AlignLeft);
}

void MeasurePanel::row(const QString& name, const QString& value, const char* what) {
  texts_.emplace_back(name, value);
  const int at = shown_++;
  auto* left = new QLabel(name);
  auto* right = new QLabel(value);
  right->setFont(fontOf(0, QFont::DemiBold));
  right->setAlignment(Qt::AlignRight);
  right->setTextInteractionFlags(Qt::TextSelectableByMouse);
  rows_->addWidget(left, at, 0);
  rows_->addWidget(right, at, 1);
  if (!*what) return;
  auto* keep = new QToolButton;
  keep->setObjectName("link");
  keep->setFocusPolicy(Qt::StrongFocus);
  keep->setIcon(icon("pin"));
  keep->setIconSize({12, 12});
  keep->setAccessibleName(tr("Keep %1").arg(name));
  keep->setToolTip(tr("Keep this number in the view, and name it for expressions"));
  connect(keep, &QToolButton::clicked, this, [this, what] { emit keepWanted(what); });
  rows_->addWidget(keep, at, 2);
}

void MeasurePanel::showState() {
  while (QLayoutItem* item = rows_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  shown_ = 0;
  texts_.clear();
  const auto& picks = desk_.selection.picks();
  copy_->setVisible(!picks.empty());
  setNote(picks.empty() ? tr("nothing selected") : picks.size() == 1 ? QString() : countText(picks));
  emit marked({});
  if (desk_.selection.count(Pick::Kind::Cut) > 0) return measureCuts();
  if (picks.size() == 2 && measureBetween()) return;
  if (desk_.selection.count(Pick::Kind::Face) > 0) return measureFaces();
  if (desk_.selection.count(Pick::Kind::Edge) > 0) return measureEdges();
  if (const std::vector<BodyId> guides = desk_.selection.guides(); guides.size() == 1 && picks.size() == 1)
    if (const Guide* guide = desk_.session.made()->model->guide(guides.front())) return measureGuide(*guide);
  if (!picks.empty()) measureBodies();
}

void MeasurePanel::measureBodies() {
  double volume = 0, unsure = 0, area = 0, mass = 0;
  bool weighed = true, closed = true, solid = false;
  std::vector<Shape> shapes, walled;
  Box meshes;
  std::size_t triangles = 0;
  double within = 0;
  for (const BodyId& id : desk_.selection.bodies()) {
    const Body* body = desk_.session.made()->model->find(id);
    const auto picture = desk_.session.made()->pictures.find(id);
    if (!body || picture == desk_.session.made()->pictures.end()) continue;
    solid = solid || body->form.anyShape().hasInside();
    if (const Mesh* mesh = body->form.mesh()) {
      meshes.add(mesh->box().low), meshes.add(mesh->box().high);
      triangles += mesh->triangles().size();
      within = std::max(within, mesh->tolerance());
      walled.push_back(body->form.anyShape());
    }
    volume += body->form.volume();
    unsure += body->form.volumeError();
    area += body->form.area();
    mass += body->form.volume() * 1e-9 * body->density;
    weighed = weighed && body->density > 0;
    closed = closed && picture->second->mesh.closed;
    if (const Shape* shape = body->form.shape(); shape && !shape->empty()) {
      shapes.push_back(*shape);
      walled.push_back(*shape);
    }
  }
  if (shapes.empty() && meshes.empty()) return;
  // Below this share the digits that are shown hold anyway.
  constexpr double telling = 1e-6;
  const QString error = unsure > telling * volume ? tr(" ± %1").arg(volumeText(unsure)) : QString();
  if (meshes.empty() &&
      std::all_of(shapes.begin(), shapes.end(), [](const Shape& each) { return each.kind() == BodyKind::Curve; })) {
    double length = 0;
    for (const Shape& each : shapes) length += lengthOfCurve(each);
    row(tr("Length"), lengthText(length, desk_.session.document().made.unit), "length");
    return sizeRows(shapes, {});
  }
  row(tr("Volume"), solid ? volumeText(volume) + error : tr("none, not a solid"), solid ? "volume" : "");
  row(tr("Area"), areaText(area), "area");
  if (weighed && solid) row(tr("Mass"), massText(mass));
  sizeRows(shapes, meshes);
  if (triangles > 0) row(tr("Triangles"), QString::number(triangles));
  if (within > 0) row(tr("Exact within"), lengthText(within, desk_.session.document().made.unit));
  row(tr("Watertight"), closed ? tr("yes") : tr("no"));
  if (walled.size() == 1 && walled.front().hasInside()) wallRow(walled.front());
  if (shapes.size() == 1 && shapes.front().kind() == BodyKind::Solid)
    massRows(shapes.front(), weighed ? mass / (volume * 1e-9) : 0);
}

void MeasurePanel::sizeRows(const std::vector<Shape>& shapes, const Box& meshes) {
  std::erase_if(extents_, [&](const auto& entry) {
    return std::none_of(shapes.begin(), shapes.end(), [&](const Shape& s) { return &s.body() == entry.first; });
  });
  std::vector<Shape> unknown;
  bool all = true, failed = false;
  // Of meshes along other axes only what is certain: none.
  Box box = meshes;
  if (!meshes.empty() && frame_) failed = true, all = false;
  for (const Shape& shape : shapes) {
    const auto [place, isNew] = extents_.emplace(&shape.body(), Extent{shape, std::nullopt, false});
    const Extent& extent = place->second;
    if (isNew) unknown.push_back(shape);
    all = all && extent.box;
    failed = failed || extent.failed;
    if (extent.box) box.add(*extent.box);
  }
  if (!unknown.empty()) askForBoxes(unknown);
  const std::string& unit = desk_.session.document().made.unit;
  const Vector size = box.high - box.low;
  const struct {
    QString name;
    double length;
    const char* what;
  } sizes[] = {{tr("Size x"), size.x, "size_x"}, {tr("Size y"), size.y, "size_y"}, {tr("Size z"), size.z, "size_z"}};
  for (const auto& [name, length, what] : sizes)
    row(name, all ? lengthText(length, unit) : failed ? tr("not known") : tr("…"), what);
  frameRow();
}

void MeasurePanel::frameRow() {
  std::vector<std::pair<BodyId, Plane>> planes;
  QStringList names;
  for (const Guide& guide : desk_.session.made()->model->guides)
    if (const auto* plane = guide.datum() ? std::get_if<Plane>(guide.datum()) : nullptr) {
      planes.emplace_back(guide.id, *plane);
      names << QString::fromStdString(guide.name);
    }
  const auto now = std::find_if(planes.begin(), planes.end(),
                                [&](const auto& each) { return frame_ && each.first == frame_->first; });
  if (planes.empty()) return;
  auto* along = new QComboBox;
  along->setAccessibleName(tr("Along which axes the size is taken"));
  along->addItem(tr("along the world's axes"));
  for (const QString& name : names) along->addItem(tr("along those of %1").arg(name));
  along->setCurrentIndex(now == planes.end() ? 0 : static_cast<int>(now - planes.begin()) + 1);
  connect(along, &QComboBox::activated, this, [this, planes](int index) {
    frame_ = index > 0 ? std::optional(planes[static_cast<std::size_t>(index) - 1]) : std::nullopt;
    extents_.clear();
    // The list that was chosen from goes with the rows.
    QMetaObject::invokeMethod(this, &MeasurePanel::showState, Qt::QueuedConnection);
  });
  rows_->addWidget(along, shown_++, 0, 1, 3);
}

void MeasurePanel::wallRow(const Shape& solid) {
  const std::string& unit = desk_.session.document().made.unit;
  if (!meter_.knowsWall(solid))
    return link(tr("find the thinnest wall"), [this, solid] {
      meter_.wall(solid);
      showState();
    });
  const auto& answer = meter_.wall(solid);
  if (!answer.value) return row(tr("Thinnest wall"), answer.error ? tr("not known") : tr("…"));
  if (!*answer.value) return row(tr("Thinnest wall"), tr("none"));
  const Wall& wall = **answer.value;
  row(tr("Thinnest wall"), lengthText(wall.thickness, unit), "wall");
  emit marked(MeasureMark{wall.from, wall.to, lengthText(wall.thickness, unit)});
}

void MeasurePanel::askForBoxes(const std::vector<Shape>& shapes) {
  const QPointer<MeasurePanel> panel(this);
  const auto settle = [panel](const Shape& shape, const std::optional<Box>& box) {
    if (!panel) return;
    const auto extent = panel->extents_.find(&shape.body());
    if (extent == panel->extents_.end()) return;
    extent->second.box = box;
    extent->second.failed = !box;
  };
  desk_.worker.run(
      tr("Measuring"),
      [shapes, panel, settle, frame = frame_](Progress&) -> Worker::Then {
        std::vector<Box> boxes;
        for (const Shape& shape : shapes) boxes.push_back(frame ? boxAlong(shape, frame->second) : shape.box());
        return [shapes, boxes, panel, settle, frame] {
          // Another frame may have been chosen since.
          if (!panel || panel->frame_ != frame) return;
          for (std::size_t i = 0; i < shapes.size(); ++i) settle(shapes[i], boxes[i]);
          if (panel) panel->showState();
        };
      },
      [shapes, panel, settle](const std::optional<Error>&) {
        for (const Shape& shape : shapes) settle(shape, std::nullopt);
        if (panel) panel->showState();
      });
}

MeasurePanel::Cut::Sizes MeasurePanel::measured(const Cut& cut, Progress& progress) {
  Shape face = sectionFace(cut.body, cut.wall.plane, progress);
  // Of a wall that others bound, only what lies on the inner side of all of them.
  Clip beyond;
  for (const Plane& border : cut.wall.borders)
    beyond.regions.push_back({{border.origin, border.x * -1, border.y, border.normal * -1}});
  if (!face.empty() && !beyond.regions.empty()) face = clipped(face, {{"beyond", beyond}}, progress);
  if (face.empty()) return {};
  return {face.area(), edgeLength(face),
          cut.place ? thicknessAt(face, cut.wall.plane, *cut.place) : std::optional<Wall>()};
}

void MeasurePanel::measureCuts() {
  std::vector<Cut> wanted;
  const Made& made = *desk_.session.made();
  double area = 0, outline = 0;
  bool all = true, failed = false;
  std::vector<Point> places;
  std::optional<Wall> thickness;
  for (const Pick& pick : desk_.selection.picks()) {
    if (pick.place) places.push_back(*pick.place);
    const auto picture = made.pictures.find(pick.body);
    if (const auto number = openedFaceOf(pick); number && picture != made.pictures.end()) {
      // What a closed body cut open is there, exactly.
      const Opened* opened = made.openings.find(pick.body, picture->second.get(), desk_.shownSections);
      const BodyPicture* left = opened ? opened->picture->picture.get() : nullptr;
      const Shape* shape = left ? left->form.shape() : nullptr;
      if (!shape || *number >= left->faces.size()) continue;
      area += left->faces[*number].area();
      for (const Edge& edge : edgesAround(*shape, left->faces[*number])) outline += edge.length();
      continue;
    }
    const auto wall = cutWallOf(pick, *made.model);
    const Body* body = made.model->find(pick.body);
    const Shape* shape = body ? body->form.shape() : nullptr;
    if (wall && shape)
      wanted.push_back({*shape, wall->second, pick.place});
    else
      failed = true;
  }
  std::vector<std::size_t> unknown;
  for (std::size_t i = 0; i < wanted.size(); ++i) {
    const auto known =
        std::find_if(cuts_.begin(), cuts_.end(), [&](const Cut& each) { return each.sameAs(wanted[i]); });
    if (known != cuts_.end())
      wanted[i] = *known;
    else
      unknown.push_back(i);
  }
  cuts_ = wanted;
  for (std::size_t i = 0; i < cuts_.size(); ++i) {
    // Two places of one face are one face.
    const bool twice = std::any_of(cuts_.begin(), cuts_.begin() + static_cast<std::ptrdiff_t>(i), [&](const Cut& each) {
      return &each.body.body() == &cuts_[i].body.body() && each.wall.plane == cuts_[i].wall.plane;
    });
    const std::optional<Cut::Sizes>& sizes = cuts_[i].sizes;
    all = all && sizes;
    failed = failed || cuts_[i].failed;
    if (!sizes || twice) continue;
    area += sizes->area;
    outline += sizes->outline;
    if (cuts_.size() == 1) thickness = sizes->thickness;
  }
  showCuts(area, outline, all, failed);
  const std::string& unit = desk_.session.document().made.unit;
  if (places.size() == 2) {
    const double apart = distance(places[0], places[1]);
    row(tr("Between the points"), lengthText(apart, unit));
    emit marked(MeasureMark{places[0], places[1], lengthText(apart, unit)});
  } else if (thickness) {
    row(tr("Thickness there"), lengthText(thickness->thickness, unit));
    emit marked(MeasureMark{thickness->from, thickness->to, lengthText(thickness->thickness, unit)});
  }
  for (const std::size_t i : unknown) {
    const QPointer<MeasurePanel> panel(this);
    const auto settle = [panel, cut = cuts_[i]](const std::optional<Cut::Sizes>& sizes) {
      if (!panel) return;
      for (Cut& each : panel->cuts_)
        if (each.sameAs(cut)) {
          each.sizes = sizes;
          each.failed = !sizes;
        }
      panel->showState();
    };
    desk_.worker.run(
        tr("Measuring"),
        [cut = cuts_[i], settle](Progress& progress) -> Worker::Then {
          const Cut::Sizes sizes = measured(cut, progress);
          return [settle, sizes] { settle(sizes); };
        },
        [settle](const std::optional<Error>&) { settle(std::nullopt); });
  }
}

void MeasurePanel::showCuts(double area, double outline, bool all, bool failed) {
  const QString missing = failed ? tr("not known") : tr("…");
  row(tr("Cut area"), all && !failed ? areaText(area) : missing);
  row(tr("Outline"), all && !failed ? lengthText(outline, desk_.session.document().made.unit) : missing);
}

void MeasurePanel::measureFaces() {
  double area = 0;
  std::vector<const Face*> faces;
  for (const Pick& pick : desk_.selection.picks()) {
    const auto picture = desk_.session.made()->pictures.find(pick.body);
    if (pick.kind != Pick::Kind::Face || picture == desk_.session.made()->pictures.end()) continue;
    const auto& all = picture->second->faces;
    if (static_cast<std::size_t>(pick.index) >= all.size()) continue;
    faces.push_back(&all[static_cast<std::size_t>(pick.index)]);
    area += faces.back()->area();
  }
  row(tr("Area"), areaText(area), "area");
  if (faces.size() != 1) return;
  row(tr("Surface"), QString::fromStdString(faces.front()->surfaceName()));
  if (const auto radius = radiusOf(*faces.front())) {
    row(tr("Radius"), lengthText(*radius, desk_.session.document().made.unit), "radius");
    row(tr("Diameter"), lengthText(2 * *radius, desk_.session.document().made.unit), "diameter");
  }
}

bool MeasurePanel::measureBetween() {
  const auto& made = *desk_.session.made();
  const auto a = measuredPart(desk_.selection.picks()[0], made), b = measuredPart(desk_.selection.picks()[1], made);
  if (!a || !b) return false;
  const std::string& unit = desk_.session.document().made.unit;
  const auto *one = std::get_if<Shape>(&*a), *other = std::get_if<Shape>(&*b);
  if (one && other) measureBodies();
  if (std::holds_alternative<Face>(*a) && std::holds_alternative<Face>(*b)) measureFaces();
  if (std::holds_alternative<Edge>(*a) && std::holds_alternative<Edge>(*b)) measureEdges();
  const auto faces = [](const MeasuredPart& part) {
    const auto* shape = std::get_if<Shape>(&part);
    return shape ? shape->faceCount() : 1;
  };
  if (faces(*a) + faces(*b) > mostFacesAtOnce && !meter_.knows(*a, *b)) {
    link(tr("find the distance"), [this, a, b] {
      meter_.between(*a, *b);
      showState();
    });
    return true;
  }
  const auto& answer = meter_.between(*a, *b);
  if (answer.error) {
    row(tr("Distance"), tr("not known"));
    return true;
  }
  if (!answer.value) {
    row(tr("Distance"), tr("…"));
    return true;
  }
  const Between& between = *answer.value;
  const Vector way = rounded(between.to - between.from);
  row(one && other ? tr("Clearance") : tr("Distance"), lengthText(between.distance, unit), "distance");
  if (between.distance > tolerance::point) {
    row(tr("Along x, y, z"), placeText(way, unit));
    emit marked(MeasureMark{between.from, between.to, lengthText(between.distance, unit)});
  }
  if (between.planes) row(tr("Between planes"), lengthText(*between.planes, unit), "planes");
  if (between.axes) row(tr("Between axes"), lengthText(*between.axes, unit), "axes");
  if (between.angle) row(tr("Angle"), angleText(*between.angle), "angle");
  if (between.overlap)
    row(tr("Overlap"), *between.overlap > 0 ? volumeText(*between.overlap) : tr("none, they touch"), "overlap");
  return true;
}

void MeasurePanel::massRows(const Shape& solid, double density) {
  if (solid.faceCount() > mostFacesAtOnce) return;
  const auto& answer = meter_.mass(solid);
  const std::string& unit = desk_.session.document().made.unit;
  row(tr("Centre"), answer.value ? placeText(answer.value->centroid, unit) : answer.error ? tr("not known") : tr("…"));
  if (!answer.value || density <= 0) return;
  // Of the mass, about its centre: mm⁵ of density 1 are kg·mm² with kg/m³ taken in kg/mm³.
  const Vector moments = principalMoments(*answer.value);
  const auto text = [&](double moment) { return QString::number(moment * density * 1e-9, 'g', 4); };
  row(tr("Inertia, kg mm²"), QStringLiteral("%1, %2, %3").arg(text(moments.x), text(moments.y), text(moments.z)));
  rows_->itemAtPosition(shown_ - 1, 0)->widget()->setToolTip(tr("About the principal axes through the centre of mass"));
}

void MeasurePanel::measureGuide(const Guide& guide) {
  const std::string& unit = desk_.session.document().made.unit;
  const auto direction = [](const Vector& v) { return placeText(v, "mm"); };
  if (const DrawingResult* drawing = guide.drawing()) {
    double area = 0;
    for (const Region& region : drawing->regions) area += region.area();
    row(tr("Regions"), QString::number(drawing->regions.size()));
    row(tr("Open lines"), QString::number(drawing->paths.size()));
    return row(tr("Area"), areaText(area));
  }
  if (const auto* plane = std::get_if<Plane>(guide.datum())) {
    row(tr("At"), placeText(plane->origin, unit));
    return row(tr("Normal"), direction(plane->normal));
  }
  if (const auto* axis = std::get_if<Axis>(guide.datum())) {
    row(tr("At"), placeText(axis->point, unit));
    return row(tr("Direction"), direction(axis->direction));
  }
  row(tr("At"), placeText(std::get<Point>(*guide.datum()), unit));
}

void MeasurePanel::measureEdges() {
  double length = 0;
  for (const Pick& pick : desk_.selection.picks()) {
    const auto picture = desk_.session.made()->pictures.find(pick.body);
    if (pick.kind != Pick::Kind::Edge || picture == desk_.session.made()->pictures.end()) continue;
    const auto& all = picture->second->edges;
    if (static_cast<std::size_t>(pick.index) < all.size()) length += all[static_cast<std::size_t>(pick.index)].length();
  }
  row(tr("Length"), lengthText(length, desk_.session.document().made.unit), "length");
  const auto single = desk_.selection.picks().size() == 1
                          ? measuredPart(desk_.selection.picks().front(), *desk_.session.made())
                          : std::nullopt;
  if (const auto* edge = single ? std::get_if<Edge>(&*single) : nullptr)
    if (const auto radius = radiusOf(*edge)) {
      row(tr("Radius"), lengthText(*radius, desk_.session.document().made.unit), "radius");
      row(tr("Diameter"), lengthText(2 * *radius, desk_.session.document().made.unit), "diameter");
    }
}

}  // namespace kervo::app
