#include "steps/shared/alike_bodies.h"

#include <algorithm>

#include "base/say.h"
#include "geom/measure/congruent.h"

namespace kervo {

namespace {

bool contains(const std::vector<BodyId>& list, const BodyId& body) {
  return std::find(list.begin(), list.end(), body) != list.end();
}

/// One body's share of a result, given to others.
class Share {
 public:
  Share(StepResult& result, BodyId lead, Shape shape)
      : result_(result), lead_(std::move(lead)), shape_(std::move(shape)) {
    for (const Output& output : result.made)
      if (output.from == lead_) made_.push_back(output);
    for (const Piece& piece : result.pieces)
      if (piece.from == lead_) pieces_.push_back(piece);
  }

  const Shape& shape() const { return shape_; }

  void give(const BodyId& body, const Motion& motion) {
    result_.consumed.push_back(body);
    for (Output output : made_) {
      output.id = idFor(output.id, body);
      if (const auto* form = std::get_if<BodyForm>(&output.form))
        output.form = BodyForm(moved(form->anyShape(), motion));
      output.from = body;
      // What it is called is the other body's name, with what this one adds to its own.
      result_.made.push_back(std::move(output));
    }
    Audit& audit = result_.audit;
    audit.touched.push_back(body);
    double kept = 0, gone = 0;
    bool told = false;  // what an intersection takes away is no piece
    for (Piece piece : pieces_) {
      (piece.kept ? kept : gone) += piece.volume;
      told = told || !piece.kept;
      const bool calledById = piece.name == piece.key.text();
      piece.key = idFor(piece.key, body);
      if (piece.kept) piece.body = idFor(piece.body, body);
      if (calledById) piece.name = piece.key.text();
      piece.place = motion(piece.place);
      piece.shape = moved(piece.shape, motion);
      piece.from = body;
      result_.pieces.push_back(std::move(piece));
    }
    if (!audit.cuts || shape_.volume() <= 0) return;
    if (!told) gone = shape_.volume() - kept;
    audit.volumeBefore += shape_.volume();
    audit.volumeAfter += kept;
    audit.volumeRemoved += gone;
    audit.balance += shape_.volume() - kept - gone;
  }

 private:
  /// "block/front" of "block" is "other/front" of "other".
  BodyId idFor(const BodyId& id, const BodyId& body) const {
    return id.isOfFamily(lead_) ? BodyId(body.text() + id.text().substr(lead_.text().size())) : id;
  }

  StepResult& result_;
  BodyId lead_;
  Shape shape_;
  std::vector<Output> made_;
  std::vector<Piece> pieces_;
};

}  // namespace

AlikeField::AlikeField(FieldTable& table, When when)
    : ChoiceField(table,
                  {.key = "alike",
                   .label = "Bodies alike",
                   .well = Well::Stock,
                   .help = "likewise: other instances of the same part are changed in the same way, each in its place",
                   .when = std::move(when)},
                  {"stay", "likewise"}) {}

void AlikeField::carry(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& others,
                       Progress& progress) const {
  if (of(inputs) == BodiesAlike::Stay) return;
  const std::vector<BodyId> leads = result.audit.touched, gone = result.consumed;
  for (const BodyId& lead : leads) {
    const Shape shape = inputs.form(lead).anyShape();
    Share share(result, lead, shape);
    std::size_t given = 0;
    for (const BodyId& body : inputs.members("")) {
      progress.throwIfStopped();
      if (contains(leads, body) || contains(gone, body) || contains(others, body) ||
          contains(result.audit.touched, body))
        continue;
      const auto motion = motionOnto(shape, inputs.form(body).anyShape());
      if (!motion) continue;
      if (inputs.shielded(body)) {
        if (!contains(result.audit.shielded, body)) result.audit.shielded.push_back(body);
        continue;
      }
      std::erase(result.audit.spared, body);
      share.give(body, *motion);
      ++given;
    }
    result.audit.notes.push_back(given == 0
                                     ? say("no other body is the same part as \"%1\"", lead)
                                     : sayCount(given, "%1 other instance of the same part is changed like \"%2\"",
                                                "%1 other instances of the same part are changed like \"%2\"", lead));
  }
}

}  // namespace kervo
