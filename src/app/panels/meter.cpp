#include "app/panels/meter.h"

#include <QPointer>

namespace kervo::app {

namespace {

bool same(const MeasuredPart& a, const MeasuredPart& b) {
  if (a.index() != b.index()) return false;
  if (const auto* point = std::get_if<Point>(&a)) return *point == std::get<Point>(b);
  if (const auto* edge = std::get_if<Edge>(&a)) return &edge->body() == &std::get<Edge>(b).body();
  if (const auto* face = std::get_if<Face>(&a)) return &face->body() == &std::get<Face>(b).body();
  return &std::get<Shape>(a).body() == &std::get<Shape>(b).body();
}

}  // namespace

template <class Value, class Settle>
void Meter::ask(const QString& activity, std::function<Value(Progress&)> measure, const Settle& settle) {
  const QPointer<Meter> meter(this);
  const auto tell = [meter, settle](Answer<Value> answer) {
    if (!meter) return;
    settle(*meter, std::move(answer));
    emit meter->found();
  };
  desk_.worker.run(
      activity,
      [measure = std::move(measure), tell](Progress& progress) -> Worker::Then {
        Answer<Value> answer;
        try {
          answer.value = measure(progress);
        } catch (const Error& error) {
          answer.error = error;
        }
        return [tell, answer] { tell(answer); };
      },
      [tell](const std::optional<Error>& error) {
        Answer<Value> answer;
        answer.error = error ? *error : Error(Meter::tr("stopped").toStdString());
        tell(answer);
      });
}

bool Meter::knows(const MeasuredPart& a, const MeasuredPart& b) const {
  return pair_ && same(pair_->a, a) && same(pair_->b, b);
}

const Meter::Answer<Between>& Meter::between(const MeasuredPart& a, const MeasuredPart& b) {
  if (pair_ && same(pair_->a, a) && same(pair_->b, b)) return pair_->answer;
  Pair& pair = pair_.emplace(Pair{a, b});
  ask<Between>(
      tr("Measuring"), [a, b](Progress& progress) { return measuredBetween(a, b, progress); },
      [a, b](Meter& meter, Answer<Between> answer) {
        if (meter.knows(a, b)) meter.pair_->answer = std::move(answer);
      });
  return pair.answer;
}

const Meter::Answer<MassProperties>& Meter::mass(const Shape& solid) {
  if (solid_ && &solid_->solid.body() == &solid.body()) return solid_->answer;
  solid_ = Solid{solid};
  ask<MassProperties>(
      tr("Measuring"), [solid](Progress& progress) { return massProperties(solid, progress); },
      [solid](Meter& meter, Answer<MassProperties> answer) {
        if (meter.solid_ && &meter.solid_->solid.body() == &solid.body()) meter.solid_->answer = std::move(answer);
      });
  return solid_->answer;
}

namespace {

/// A mesh is put into another shape whenever it is asked for.
const void* identityOf(const Shape& shape) {
  return shape.mesh() ? shape.mesh()->identity() : static_cast<const void*>(&shape.body());
}

}  // namespace

bool Meter::knowsWall(const Shape& solid) const {
  return walled_ && identityOf(walled_->solid) == identityOf(solid);
}

const Meter::Answer<std::optional<Wall>>& Meter::wall(const Shape& solid) {
  if (walled_ && knowsWall(solid)) return walled_->answer;
  walled_ = Walled{solid};
  ask<std::optional<Wall>>(
      tr("Measuring the walls"),
      [solid](Progress& progress) { return thinnestWall({}, {solid}, solid.roughBox().diagonal(), progress); },
      [solid](Meter& meter, Answer<std::optional<Wall>> answer) {
        if (meter.knowsWall(solid)) meter.walled_->answer = std::move(answer);
      });
  return walled_->answer;
}

std::optional<MeasuredPart> measuredPart(const Pick& pick, const Made& made) {
  const auto index = static_cast<std::size_t>(pick.index);
  if (pick.kind == Pick::Kind::Body) {
    const Body* body = made.model->find(pick.body);
    const Shape* shape = body ? body->form.shape() : nullptr;
    return shape && !shape->empty() ? std::optional<MeasuredPart>(*shape) : std::nullopt;
  }
  if (pick.kind == Pick::Kind::Guide) {
    const Guide* guide = made.model->guide(pick.body);
    const Datum* datum = guide ? guide->datum() : nullptr;
    const Point* point = datum ? std::get_if<Point>(datum) : nullptr;
    return point ? std::optional<MeasuredPart>(*point) : std::nullopt;
  }
  const auto found = made.pictures.find(pick.body);
  if (found == made.pictures.end()) return std::nullopt;
  const BodyPicture& picture = *found->second;
  if (pick.kind == Pick::Kind::Face && index < picture.faces.size()) return picture.faces[index];
  if (pick.kind == Pick::Kind::Edge && index < picture.edges.size()) return picture.edges[index];
  if (pick.kind == Pick::Kind::Corner && index < picture.corners.size()) return picture.corners[index].point;
  return std::nullopt;
}

}  // namespace kervo::app
