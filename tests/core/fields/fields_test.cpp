// Every field type: written and read again, checked, its numbers and what it refers to.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "base/error.h"
#include "fields/all_fields.h"

namespace kervo {
namespace {

using nlohmann::json;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::UnorderedElementsAre;

enum class Way { In, Out, Both };

/// One field of every type.
struct Table : FieldTable {
  const LengthField length{*this, {.key = "length", .label = "Length"}, "10 mm", NumberRule::Positive};
  const AngleField angle{*this, {.key = "angle", .label = "Angle"}, "5 deg"};
  const PlainNumberField number{*this, {.key = "number", .label = "Number"}, "3", NumberRule::NotNegative};
  const ChoiceField<Way> way{*this, {.key = "way", .label = "Way"}, {"in", "out", "both"}, Way::Out};
  const SizesField sizes{*this, {.key = "sizes", .label = "Sizes"}, NumberRule::Positive};
  const FlagField flag{*this, {.key = "flag", .label = "Flag", .when = way.is(Way::In, Way::Both)}};
  const TextField text{*this, {.key = "text", .label = "Text"}};
  const CoordinatesField place{*this, {.key = "place", .label = "Place"}, {"u", "v", "height"}};
  const PlaneField plane{*this, {.key = "plane", .label = "Plane"}, "yz"};
  const BodiesField bodies{*this, {.key = "bodies", .label = "Bodies"}, BodyPick::everything()};
  const FaceField face{*this, {.key = "face", .label = "Face"}};
  const FacesField faces{*this, {.key = "faces", .label = "Faces"}};
  const EdgesField edges{*this, {.key = "edges", .label = "Edges"}};
  const PointsField points{*this, {.key = "points", .label = "Points"}};
  const RegionsField regions{*this, {.key = "regions", .label = "Regions"}, &length};
  const DrawingField curves{*this, {.key = "curves", .label = "Curves"}, plane};
  const TakenField taken{*this, {.key = "taken", .label = "Taken along"}};
  const BroughtField brought{*this, {.key = "brought", .label = "Brought"}};
  const SectionsField sections{*this, {.key = "sections", .label = "Sections"}};
  const CuttersField cutters{*this, {.key = "cutters", .label = "Cutters"}, CuttersField::Curves::Refused};
  const PiecesField pieces{*this};
  const StepField other{*this, {.key = "other", .label = "Other"}};
  const AxisField axis{*this, {.key = "axis", .label = "Axis"}};
};

const Table& table() {
  static const Table fields;
  return fields;
}

/// Values of all types with everything in them that they can hold, as a file has them.
const std::map<std::string, std::vector<const char*>>& written() {
  static const std::map<std::string, std::vector<const char*>> texts{
      {"length", {R"("wall * 2")"}},
      {"angle", {R"("30 deg")"}},
      {"number", {R"("4")"}},
      {"way", {R"("both")"}},
      {"sizes", {"[]", R"x(["wall","max(2 mm, wall)"])x"}},
      {"flag", {"true"}},
      {"text", {R"("crate.step")"}},
      {"place", {R"(["wall","2 mm","0"])"}},
      {"plane",
       {R"("xz")", R"({"step":"p1"})", R"({"face":"b:top"})",
        R"({"area":4.0,"at":[1.0,2.0,3.0],"body":"b","face":"b:top","normal":[0.0,0.0,1.0]})",
        R"({"midway":["b:top","c:top"]})", R"({"points":[{"between":["b:left","b:top"],"body":"b"}]})",
        R"({"across":{"between":["b:left","b:top"]}})", R"({"across":"rod:side"})"}},
      {"bodies", {R"("all")", R"(["a","b/front"])", "[]"}},
      {"face", {R"("b:top")", R"({"body":"b","face":"b:top"})"}},
      {"faces", {"[]", R"(["b:top",{"body":"c","face":"c:left"}])"}},
      {"edges", {"[]", R"([{"at":[1.0,2.0,3.0],"between":["b:left","b:top"],"body":"b"}])"}},
      {"points", {"[]", R"([{"at":[1.0,2.0,3.0],"between":["b:left","b:top"],"body":"b"},{"datum":"p1"}])"}},
      {"regions", {R"("d1")", R"({"depths":{"c+":"wall"},"drawing":"d1","regions":["c+","r-"]})"}},
      {"curves",
       {"[]", R"([{"circle":["0","wall","5 mm"],"id":"c1"},{"id":"l1","line":["0","0","1","1"]}])",
        R"({"constraints":[],"copies":[{"about":"origin","angle":"360 deg","count":"6","id":"ring1","ring":["c1"]}],"curves":[{"circle":["0","3 mm","5 mm"],"id":"c1"}],"points":[]})",
        R"({"constraints":[{"id":"k1","on":["p2","c1"]},{"id":"k2","is":"wall","length":["l1"],"reference":true}],"copies":[{"by":"wall","construction":true,"id":"offset1","offset":["c1","l1"],"way":"both"}],"curves":[{"circle":["0","wall","5 mm"],"id":"c2"},{"id":"l1","line":{"points":["p1","p2"]}},{"circle":{"points":["p1"],"sizes":[4.0]},"construction":true,"id":"c1"},{"control_spline":{"closed":true,"degree":3,"points":["p1","p2","p3"],"weights":[1.0,2.0,1.0]},"id":"s1"}],"points":[{"at":[0.0,1.5],"id":"p1"},{"at":[2.0,0.0],"id":"p2"},{"at":[1.0,1.0],"id":"p3"}]})"}},
      {"taken",
       {"[]",
        R"([{"edge":{"between":["b:left","b:top"]},"id":"t1"},{"construction":true,"id":"t2","outline":"c:top"},{"id":"t3","silhouette":"d"},{"id":"t4","section":"e/front"}])"}},
      {"brought",
       {"[]", R"([{"color":"#ff0000","face_colors":{"3":"#00ff00"},"layer":"steel","name":"Lid","shape":"k"}])"}},
      {"cutters",
       {"[]", R"([{"plane":"xy"},{"face":"b:top"},{"body":"rod"},{"drawing":"d1"},{"plane":{"step":"p1"}}])"}},
      {"sections",
       {"[]",
        R"([{"drawing":"d1"},{"curve":"c1/a"},{"face":"b:top"},{"point":{"between":["b:back","b:left","b:top"],"body":"b"}}])"}},
      {"pieces", {"{}", R"({"drop":["b/x"],"keep":["a"],"known":["a","b/x"]})"}},
      {"other", {R"("")", R"("cut2")"}},
      {"axis", {R"("")", R"("hinge")"}}};
  return texts;
}

Key keyOf(const Field& field, const FieldValue& value) {
  Hasher hasher;
  field.addFixed(hasher, value);
  return hasher.key();
}

TEST(Fields, AreWrittenAsTheyWereRead) {
  for (const Field* field : table().fields()) {
    const auto found = written().find(field->key());
    ASSERT_NE(found, written().end()) << field->key() << " has no example";
    std::vector<FieldValue> values;
    for (const char* text : found->second) {
      const FieldValue value = field->fromJson(json::parse(text), "here");
      EXPECT_NO_THROW(field->check(value)) << text;
      EXPECT_EQ(field->toJson(value).dump(), text);
      EXPECT_EQ(field->fromJson(field->toJson(value), "here"), value) << text;
      EXPECT_EQ(keyOf(*field, field->fromJson(json::parse(text), "here")), keyOf(*field, value)) << text;
      // Whatever differs, but in numbers, has another key.
      for (const FieldValue& other : values) EXPECT_NE(keyOf(*field, other), keyOf(*field, value)) << text;
      values.push_back(value);
    }
  }
}

TEST(Fields, StandardsCanStandAndComeBack) {
  for (const Field* field : table().fields()) {
    EXPECT_NO_THROW(field->check(field->standard())) << field->key();
    if (field->key() == "face") continue;  // none is picked: that is not written
    EXPECT_EQ(field->fromJson(field->toJson(field->standard()), "here"), field->standard()) << field->key();
  }
}

TEST(Fields, RefuseValuesOfOtherTypes) {
  struct Strange {
    bool operator==(const Strange&) const = default;
  };
  for (const Field* field : table().fields()) {
    EXPECT_THROW(field->check(FieldValue(Strange{})), Error) << field->key();
    EXPECT_THROW(field->check(FieldValue()), Error) << field->key();
    // A JSON value that no type takes, named by its place.
    try {
      field->fromJson(json::parse(R"({"nonsense":[1,{"deep":null}]})"), "steps[3].fields.x");
      ADD_FAILURE() << field->key() << " took nonsense";
    } catch (const FileError& error) {
      EXPECT_THAT(error.where(), HasSubstr("steps[3].fields.x")) << field->key();
    }
  }
  EXPECT_THROW(table().way.check("sideways"), Error);
}

TEST(Fields, GiveTheirNumbersAndTakeThemChanged) {
  const std::map<std::string, std::vector<std::string>> expected{{"length", {"wall * 2"}},
                                                                 {"angle", {"30 deg"}},
                                                                 {"number", {"4"}},
                                                                 {"place", {"wall", "2 mm", "0"}},
                                                                 {"sizes", {"wall", "max(2 mm, wall)"}},
                                                                 {"regions", {"wall"}},
                                                                 {"curves", {"0", "wall", "5 mm", "wall", "wall"}}};
  for (const Field* field : table().fields()) {
    const FieldValue value = field->fromJson(json::parse(written().at(field->key()).back()), "here");
    std::vector<std::string> texts;
    for (const NumberPart& part : field->numbers(value)) texts.push_back(part.expression.text());
    const auto found = expected.find(field->key());
    EXPECT_EQ(texts, found == expected.end() ? std::vector<std::string>() : found->second) << field->key();
    const FieldValue renamed =
        field->withNumbers(value, [](const Expression& old) { return old.renamed("wall", "thickness"); });
    std::vector<std::string> names;
    for (const NumberPart& part : field->numbers(renamed))
      names.insert(names.end(), part.expression.names().begin(), part.expression.names().end());
    EXPECT_EQ(std::count(names.begin(), names.end(), "wall"), 0) << field->key();
    // Numbers are no part of the fixed key.
    EXPECT_EQ(keyOf(*field, renamed), keyOf(*field, value)) << field->key();
  }
}

TEST(Fields, NameTheStepsTheyReferTo) {
  const auto stepsOf = [](const Field& field, const char* text) {
    std::set<StepId> steps;
    field.addSteps(steps, field.fromJson(json::parse(text), "here"));
    steps.erase(StepId());
    return steps;
  };
  EXPECT_THAT(stepsOf(table().bodies, R"(["a","b/front"])"), UnorderedElementsAre("a", "b"));
  EXPECT_THAT(stepsOf(table().plane, R"({"step":"p1"})"), UnorderedElementsAre("p1"));
  EXPECT_THAT(stepsOf(table().edges, R"([{"between":["cut1:side:c","b:top"],"body":"b"}])"),
              UnorderedElementsAre("b", "cut1"));
  EXPECT_THAT(stepsOf(table().regions, R"("d1")"), UnorderedElementsAre("d1"));
  EXPECT_THAT(stepsOf(table().cutters, R"([{"body":"rod"},{"drawing":"d1"},{"plane":{"face":"x:top"}}])"),
              UnorderedElementsAre("rod", "d1", "x"));
  EXPECT_THAT(stepsOf(table().taken, written().at("taken").back()), UnorderedElementsAre("b", "c", "d", "e"));
  EXPECT_THAT(stepsOf(table().other, R"("cut2")"), UnorderedElementsAre("cut2"));
  EXPECT_THAT(stepsOf(table().text, R"("a")"), ElementsAre());
}

TEST(Fields, ReadArgumentsOfTheCommandLine) {
  const Table& t = table();
  EXPECT_EQ(t.length.fromText("2 mm", "--length"), FieldValue(Expression("2 mm")));
  EXPECT_EQ(t.flag.fromText("true", "--flag"), FieldValue(true));
  EXPECT_THROW(t.flag.fromText("yes", "--flag"), FileError);
  EXPECT_EQ(t.bodies.fromText("a,b/front", "--bodies"), FieldValue(BodyPick::only({"a", "b/front"})));
  EXPECT_EQ(t.bodies.fromText("all", "--bodies"), FieldValue(BodyPick::everything()));
  const std::vector<Expression> three{Expression("1"), Expression("2 mm"), Expression("3")};
  EXPECT_EQ(t.place.fromText("1,2 mm,3", "--place"), FieldValue(three));
  EXPECT_EQ(t.place.fromText(R"(["1","2 mm","3"])", "--place"), FieldValue(three));
  EXPECT_THROW(t.place.fromText("1,2", "--place"), FileError);
  EXPECT_THROW(t.edges.fromText("[[", "--edges"), Error);
  const Sizes two{{Expression("1 mm"), Expression("max(2 mm, 3 mm)")}};
  EXPECT_EQ(t.sizes.fromText("1 mm ; max(2 mm, 3 mm);", "--sizes"), FieldValue(two));
  EXPECT_EQ(sizesIn(textOf(two)), two);
  for (const Field* field : t.fields()) {
    if (field->key() == "face") continue;
    EXPECT_EQ(field->fromText(field->text(field->standard()), "here"), field->standard()) << field->key();
  }
}

TEST(Fields, MatterWhileAnotherHasOneOfItsValues) {
  const When& when = table().flag.when();
  EXPECT_EQ(when.other, &table().way);
  EXPECT_EQ(when.words, "Way is in or both");
  EXPECT_TRUE(when.holds("in"));
  EXPECT_FALSE(when.holds("out"));
  EXPECT_TRUE(when.holds(table().way.with(Way::Both)));
  EXPECT_FALSE(table().length.when().other);
  const When planes = table().cutters.havePlane();
  EXPECT_TRUE(planes.holds(std::vector<CutterPick>{}));
  EXPECT_TRUE(planes.holds(std::vector{CutterPick::ofBody("a"), CutterPick::of(FaceReference{"", "f:top", {}})}));
  EXPECT_FALSE(planes.holds(std::vector{CutterPick::ofBody("a")}));
}

TEST(Fields, NumbersAreTakenAsTheirRuleSays) {
  const NumberWanted positive{lengthDimension, NumberRule::Positive}, any{lengthDimension, NumberRule::Any};
  const NumberWanted notNegative{angleDimension, NumberRule::NotNegative};
  const Unit mm = unitNamed("mm");
  EXPECT_NO_THROW(positive.require(1, mm));
  EXPECT_THROW(positive.require(0, mm), Error);
  EXPECT_THROW(positive.require(1e-9, mm), Error);
  EXPECT_THROW(any.require(1e12, mm), Error);
  EXPECT_NO_THROW(any.require(-5, mm));
  EXPECT_NO_THROW(notNegative.require(0, mm));
  EXPECT_THROW(notNegative.require(-0.1, mm), Error);
}

}  // namespace
}  // namespace kervo
