// A memo must never show: whatever edits are made, the model is the one that a rebuild from nothing gives.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;

/// Three plates side by side, drilled, rounded and split, with cuts on chosen stock and on all they touch.
Document plates() {
  Document document = documentOf({}, {{"bore", Expression("10 mm")},
                                      {"height", Expression("20 mm")},
                                      {"gap", Expression("bore + 5 mm")},
                                      {"edge", Expression("2 mm")}});
  for (const std::string n : {"1", "2", "3"}) {
    const std::string plate = "plate" + n, outline = "outline" + n;
    document =
        document.withStep(block(plate, "40 mm", "30 mm", "height", {"(40 mm + gap) * " + n, "0", "0"}))
            .withStep(drawing(outline, onFace(plate, plate + ":top"),
                              {circle("c", "(40 mm + gap) * " + n + " + 20 mm", "15", "bore / 2")}))
            .withStep(step("hole" + n, "cut",
                           {{"profiles", allOf(outline)}, {"stock", n == "2" ? BodyPick{true, {}} : bodies({plate})}}));
  }
  return document
      .withStep(step("soft", "round",
                     {{"edges", std::vector<EdgeReference>{{"plate1", "plate1:left", "plate1:front", {}}}},
                      {"radius", Expression("edge")}}))
      .withStep(step("slice", "split", {{"offset", Expression("height / 3")}, {"kerf", Expression("0.5 mm")}}));
}

/// What a person could tell apart: states, errors, warnings, pieces and bodies.
std::string described(const Model& model) {
  std::string text;
  for (const StepReport& step : model.steps) {
    text += step.id + " " + nameOf(step.state) + " " + (step.error ? step.error->what() : "") + "\n";
    if (!step.result) continue;
    for (const std::string& warning : step.result->audit.warnings) text += "  " + warning + "\n";
    for (const Piece& piece : step.result->pieces)
      text += "  " + piece.name + " " + formatNumber(piece.volume, 8) + "\n";
  }
  for (const Body& body : model.bodies)
    text += body.id + " " + body.name + " " + formatNumber(body.shape().volume(), 8) +
            (body.shielded ? " shielded" : "") + "\n";
  return text;
}

TEST(Memo, NeverShowsInTheModelWhateverIsEdited) {
  std::mt19937 random(20261124);
  Document document = plates();
  std::vector<Document> history{document};
  Memo memo;
  Progress progress;
  int hits = 0;
  for (int edit = 0; edit < 60; ++edit) {
    const std::string n = std::to_string(1 + random() % 3);
    switch (random() % 8) {
      case 0:
        document = document.withDimension("bore", Expression(std::to_string(4 + random() % 12) + " mm"));
        break;
      case 1:
        document = document.withDimension("height", Expression(std::to_string(10 + random() % 3 * 5) + " mm"));
        break;
      case 2:
        document = document.withDimension("edge", Expression(random() % 4 ? "3 mm" : "90 mm"));
        break;  // 90 does not fit
      case 3:
        document = document.withDimension("gap", Expression(random() % 3 ? "8 mm" : "1 / 0"));
        break;
      case 4: {
        BodyTreatment settings;
        settings.shielded = random() % 2 == 0;
        document = document.withBody("plate" + n, settings);
        break;
      }
      case 5:
        if (const auto step = document.find("hole" + n)) document = document.withReplaced(step->switched(!step->on()));
        break;
      case 6:
        if (document.find("extra"))
          document = document.withoutStep("extra");
        else
          document = document.withStepAt(random() % 4, block("extra", "5", "5", "50", {"-30", "0", "0"}));
        break;
      default:
        document = history[random() % history.size()];  // undo, far back
    }
    history.push_back(document);
    const Model kept = rebuild(document, memo, progress);
    for (const StepReport& step : kept.steps) hits += step.fromMemo;
    ASSERT_EQ(described(kept), described(made(document))) << "after edit " << edit;
  }
  EXPECT_GT(hits, 200);
}

}  // namespace
}  // namespace kervo
