// Bodies of several separate lumps made a body each.
#include "base/say.h"
#include "steps/registry.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

namespace {

class TakeApart : public StepKind {
 public:
  TakeApart()
      : StepKind({.key = "take_apart",
                  .label = "Take apart",
                  .menu = KindMenu::Arrange,
                  .help = "Lumps that are not connected become bodies of their own",
                  .takesMeshes = true}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(bodies_, BodyPick::only(selected.bodies()));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const Stock stock = stockOf(inputs, bodies_);
    result.audit.shielded = stock.shielded;
    for (const BodyId& body : stock.bodies) {
      progress.throwIfStopped();
      const Shape shape = inputs.shape(body);
      const std::vector<Shape> lumps = shape.pieces();
      if (lumps.size() < 2) {
        result.audit.spared.push_back(body);
        continue;
      }
      result.audit.touched.push_back(body);
      result.audit.volumeBefore += shape.volume();
      result.consumed.push_back(body);
      for (const Shape& lump : lumps) result.audit.volumeAfter += lump.volume();
      addKept(result, inputs, body, body, "", lumps);
      result.audit.notes.push_back(say("\"%1\": %2 lumps", body, lumps.size()));
    }
    if (result.audit.touched.empty())
      bodies_.fail(say("each of them is one lump already"), say("Choose bodies of several lumps"));
    settlePieces(result, inputs, pieces_.in(inputs));
    return result;
  }

 private:
  const BodiesField bodies_{*this, {.key = "bodies", .label = "Bodies", .well = Well::Stock}, BodyPick::only({})};
  const PiecesField pieces_{*this};
};

}  // namespace

const StepKind& takeApartStep() {
  static const TakeApart kind;
  return kind;
}

}  // namespace kervo
