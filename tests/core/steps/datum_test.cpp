// Datums: planes, axes and points as outputs of steps, and what refers to them.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace kervo::test;
using testing::ElementsAre;
using testing::HasSubstr;

template <class Form>
Form datum(const Model& model, const BodyId& id) {
  const Guide* guide = model.guide(id);
  const Form* form = guide && guide->datum() ? std::get_if<Form>(guide->datum()) : nullptr;
  if (!form) ADD_FAILURE() << "no such datum: " << id;
  return form ? *form : Form{};
}

std::vector<PointReference> corners(const std::vector<std::vector<std::string>>& names) {
  std::vector<PointReference> result;
  for (const auto& faces : names) result.push_back({"b", faces, std::nullopt});
  return result;
}

const std::vector<std::string> leftFrontTop{"b:front", "b:left", "b:top"}, rightFrontTop{"b:front", "b:right", "b:top"};

TEST(AxisStep, LiesInARoundFaceThroughPointsOrAtAPoint) {
  const Model model = made(documentOf(
      {step("rod", "cylinder", {{"radius", Expression("5 mm")}, {"height", Expression("30 mm")}}),
       block("b", "40", "30", "20", {"100", "0", "0"}),
       step("round", "axis", {{"axis", text("face")}, {"axis_face", FaceReference{"rod", "rod:side", {}}}}),
       step("flat", "axis", {{"axis", text("face")}, {"axis_face", FaceReference{"b", "b:top", {}}}}),
       step("edge", "axis",
            {{"axis", text("edge")}, {"axis_edge", std::vector<EdgeReference>{{"b", "b:front", "b:top", {}}}}}),
       step("through", "axis", {{"way", text("points")}, {"points", corners({leftFrontTop, rightFrontTop})}}),
       step("at", "axis",
            {{"way", text("at")}, {"point", point("1", "2", "3")}, {"direction", point("0", "0", "-7")}})}));
  ASSERT_FALSE(model.failed());
  EXPECT_NEAR(std::abs(datum<Axis>(model, "round").direction.z), 1, 1e-12);
  EXPECT_NEAR(std::hypot(datum<Axis>(model, "round").point.x, datum<Axis>(model, "round").point.y), 0, 1e-9);
  EXPECT_NEAR(distance(datum<Axis>(model, "flat").point, {120, 15, 20}), 0, 1e-9) << "the middle of the face";
  EXPECT_NEAR(std::abs(datum<Axis>(model, "edge").direction.x), 1, 1e-12);
  EXPECT_EQ(datum<Axis>(model, "through"), (Axis{{100, 0, 20}, {1, 0, 0}}));
  EXPECT_EQ(datum<Axis>(model, "at"), (Axis{{1, 2, 3}, {0, 0, -1}}));
  EXPECT_STREQ(model.guide("at")->kindName(), "axis");
}

TEST(AxisStep, NamesDegeneratePicks) {
  const auto errorWith = [](std::map<std::string, FieldValue> fields) {
    return errorOf(made(documentOf({block("b", "40", "30", "20"), step("a", "axis", std::move(fields))})), "a");
  };
  EXPECT_THAT(errorWith({{"way", text("points")}, {"points", corners({leftFrontTop, leftFrontTop})}}),
              HasSubstr("both points lie at one place"));
  EXPECT_THAT(errorWith({{"way", text("points")}}), HasSubstr("0 points are picked"));
  EXPECT_THAT(errorWith({{"way", text("at")}}), HasSubstr("the direction is zero"));
  EXPECT_THAT(errorWith({{"axis", text("datum")}}), HasSubstr("no axis is chosen"));
  EXPECT_THAT(errorWith({{"axis", text("datum")}, {"axis_datum", DatumPick{"b"}}}),
              HasSubstr("there is no axis \"b\" before this step"));
}

TEST(PointStep, LiesAtCoordinatesCornersMidwayAndWhereAnAxisMeetsAPlane) {
  const Model model = made(documentOf(
      {block("b", "40", "30", "20"),
       step("at", "point", {{"plane", onFace("b", "b:top")}, {"at", point("3", "4", "5")}}),
       step("corner", "point", {{"way", text("corner")}, {"points", corners({rightFrontTop})}}),
       step("middle", "point", {{"way", text("midway")}, {"points", corners({leftFrontTop, rightFrontTop})}}),
       step("line", "axis",
            {{"way", text("at")}, {"point", point("7", "8", "-90")}, {"direction", point("0", "0", "1")}}),
       step("meets", "point",
            {{"way", text("intersection")},
             {"plane", onFace("b", "b:top")},
             {"axis", text("datum")},
             {"axis_datum", DatumPick{"line"}}}),
       step("never", "point", {{"way", text("intersection")}, {"plane", onFace("b", "b:top")}, {"axis", text("x")}})}));
  EXPECT_NEAR(distance(datum<Point>(model, "at"), {3, 4, 25}), 0, 1e-12);
  EXPECT_NEAR(distance(datum<Point>(model, "corner"), {40, 0, 20}), 0, 1e-9);
  EXPECT_NEAR(distance(datum<Point>(model, "middle"), {20, 0, 20}), 0, 1e-9);
  EXPECT_NEAR(distance(datum<Point>(model, "meets"), {7, 8, 20}), 0, 1e-9);
  EXPECT_THAT(errorOf(model, "never"), HasSubstr("the axis is parallel to the plane"));
}

TEST(Datums, DriveStepsAndFollowWhatTheyAreMadeFrom) {
  const Document document = documentOf(
      {block("b", "width", "30", "20"),
       step("half", "point", {{"way", text("midway")}, {"points", corners({leftFrontTop, rightFrontTop})}}),
       step("hinge", "axis",
            {{"way", text("points")},
             {"points",
              std::vector<PointReference>{PointReference::ofDatum("half"), {"b", leftFrontTop, std::nullopt}}}}),
       step("across", "plane",
            {{"way", text("points")},
             {"points", std::vector<PointReference>{PointReference::ofDatum("half"),
                                                    {"b", {"b:back", "b:left", "b:top"}, std::nullopt},
                                                    {"b", {"b:back", "b:bottom", "b:left"}, std::nullopt}}}}),
       step("copies", "pattern",
            {{"bodies", bodies({"b"})},
             {"count", Expression("2")},
             {"spacing", Expression("100 mm")},
             {"axis", text("datum")},
             {"axis_datum", DatumPick{"hinge"}}}),
       step("s", "split",
            {{"stock", bodies({"b"})},
             {"cutters", std::vector<CutterPick>{CutterPick::of(PlanePick::ofStep("across"))}},
             {"keep", text("front")}})},
      {{"width", Expression("40 mm")}});
  for (const double width : {40.0, 90.0}) {
    const Model model = made(document.withDimension("width", Expression(std::to_string(width) + " mm")));
    ASSERT_FALSE(model.failed()) << errorOf(model, "s");
    EXPECT_NEAR(datum<Point>(model, "half").x, width / 2, 1e-9);
    // The plane through half of the front edge and the left one behind it halves a quarter of the block.
    double kept = 0;
    for (const Body& body : model.bodies)
      if (body.id.isOfFamily("b")) kept += body.form.volume();
    const double corner = width / 2 * 30 / 2 * 20;
    EXPECT_NEAR(std::min(kept, width * 30 * 20 - kept), corner, 1e-6);
  }
}

TEST(Datums, AreVisibleUntilAStepReadsThemUnlessAPersonSaysSo) {
  const Document free = documentOf({block("b", "40", "30", "20"), step("p", "plane", {{"offset", Expression("10 mm")}}),
                                    drawing("d", PlanePick::standard("xy"), {circle("c", "20", "15", "5")})});
  EXPECT_TRUE(made(free).guide("p")->visible);
  EXPECT_TRUE(made(free).guide("d")->visible);
  const Document used =
      free.withStep(step("s", "split", {{"cutters", std::vector<CutterPick>{CutterPick::of(PlanePick::ofStep("p"))}}}))
          .withStep(step("cut", "cut", {{"profiles", allOf("d")}}));
  EXPECT_FALSE(made(used).guide("p")->visible);
  EXPECT_FALSE(made(used).guide("d")->visible);
  EXPECT_TRUE(made(used.withLook("p", {.visible = true})).guide("p")->visible);
  EXPECT_FALSE(made(free.withLook("d", {.visible = false})).guide("d")->visible);
  EXPECT_EQ(made(free.withLook("p", {.name = "Parting"})).guide("p")->name, "Parting");
  // A second time everything comes out of the memo, and is as visible as the first time.
  Memo memo;
  Progress progress;
  rebuild(used, memo, progress);
  EXPECT_FALSE(rebuild(used, memo, progress).guide("p")->visible);
}

TEST(Datums, AreWantedByKindsFromWhatIsSelected) {
  Selected selected;
  selected.anyBody = true;
  selected.picks = {{.what = Picked::What::Datum, .body = "p", .plane = Plane{}},
                    {.what = Picked::What::Body, .body = "b"},
                    {.what = Picked::What::Drawing, .body = "d"}};
  EXPECT_THAT(selected.bodies(), ElementsAre("b"));
  const StepKind& split = *allStepKinds().find("split");
  EXPECT_EQ(split.offered(selected), "Split along it");
  Start start;
  split.startFrom(selected, start);
  EXPECT_EQ(start.fields.at("stock").as<BodyPick>(), bodies({"b"}));
  EXPECT_THAT(start.fields.at("cutters").as<std::vector<CutterPick>>(),
              ElementsAre(CutterPick::of(PlanePick::ofStep("p")), CutterPick::of(RegionPick{"d"})));
}

/// A kind of the future: makes a mesh.
class MeshKind : public StepKind {
 public:
  MeshKind() : StepKind({.key = "mesh", .label = "Mesh"}) {}
  StepResult evaluate(StepInputs&, Progress&) const override {
    const Mesh pyramid({{0, 0, 0}, {30, 0, 0}, {0, 30, 0}, {0, 0, 30}}, {{0, 2, 1}, {0, 1, 3}, {0, 3, 2}, {1, 2, 3}});
    StepResult result;
    result.made.push_back({.id = "m", .form = pyramid});
    return result;
  }
};

TEST(MeshBodies, AreBodiesAndRefusedByNameWhereOnlyExactShapesWillDo) {
  const MeshKind kind;
  const Document document = documentOf({block("b", "10", "10", "10")})
                                .withStep(Step("m", kind, {}))
                                .withStep(step("s", "thicken", {{"surfaces", bodies({"m"})}}))
                                .withStep(step("on", "drawing", {{"plane", onFace("b", "b:top")}}));
  const Model model = made(document);
  const Body* mesh = model.find("m");
  ASSERT_TRUE(mesh);
  EXPECT_EQ(mesh->form.kind(), BodyKind::Mesh);
  EXPECT_NEAR(mesh->form.volume(), 30.0 * 30 * 30 / 6, 1e-9);
  EXPECT_NEAR(mesh->form.area(), 3 * 450 + 900 * std::sqrt(3) / 2, 1e-9);
  EXPECT_TRUE(mesh->form.watertight());
  EXPECT_THAT(errorOf(model, "s"), HasSubstr("\"m\" is a mesh, which has no exact faces"));
  EXPECT_THROW(mesh->shape(), Error);
  // References to the faces of others are none of its business.
  EXPECT_EQ(errorOf(model, "on"), "no error");
}

TEST(MeshBodies, EncloseNothingWhileATriangleIsMissing) {
  const Mesh open({{0, 0, 0}, {30, 0, 0}, {0, 30, 0}, {0, 0, 30}}, {{0, 2, 1}, {0, 1, 3}, {0, 3, 2}});
  EXPECT_FALSE(open.watertight());
  EXPECT_EQ(open.volume(), 0);
  EXPECT_NEAR(open.area(), 3 * 450, 1e-9);
  EXPECT_EQ(open.box(), (Box{{0, 0, 0}, {30, 30, 30}}));
  EXPECT_THROW(Mesh({{0, 0, 0}}, {{0, 1, 2}}), std::out_of_range);
}

}  // namespace
}  // namespace kervo
