#include "exchange/kervo_file.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <zip.h>

#include "exchange/body_file.h"
#include "exchange/document_json.h"
#include "geom/primitives.h"
#include "support/document_builder.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;

const std::string demo = KERVO_SOURCE_DIR "/demo/mast-clamp";

Document readFrom(const std::filesystem::path& path) {
  Progress progress;
  return readDocument(path, allStepKinds(), progress);
}

void writeTo(const std::filesystem::path& path, const Document& document) {
  Progress progress;
  writeDocument(path, document, progress);
}

std::string jsonError(const std::string& text) {
  try {
    documentFromJson(text, allStepKinds(), "doc.json");
  } catch (const FileError& error) {
    return error.what();
  }
  return "no error";
}

/// One value of every type of field, away from its default.
Document everything() {
  FaceReference face{"a", "a:top", FaceReference::Sample{{1, 2, 3}, {0, 0, 1}, 4.5}};
  const PointReference corner{"a", {"a:front", "a:left", "a:top"}, Point{0, 0, 30}};
  const EdgeReference edge{"a", "a:top", "a:left", Point{1, 2, 3}};
  Document document = documentOf(
      {block("a", "w * 2", "20", "30"), step("p", "plane", {{"from", PlanePick{PlanePick::Kind::OnFace, "", face}}}),
       drawing("d", {PlanePick::Kind::OfStep, "p", {}},
               {circle("c", "w", "2 in", "1"), rectangle("r", "0", "0", "5", "6")}),
       step("cut", "cut",
            {{"profiles", RegionPick{"d", false, {"c+", "r+"}}},
             {"stock", bodies({"a"})},
             {"to", std::string("face")},
             {"to_face", FaceReference{"", "a:bottom", {}}},
             {"from_offset", Expression("not / readable (")}}),
       step("r", "round",
            {{"edges", std::vector<EdgeReference>{{"a", "a:top", "a:left", Point{1, 2, 3}}, {"", "x", "y", {}}}}}),
       step("x", "combine",
            {{"after", std::string("keep")}, {"stock", BodyPick{true, {}}}, {"cutters", bodies({"b", "c"})}}),
       step("s", "split",
            {{"cutters", std::vector{CutterPick::of(PlanePick{PlanePick::Kind::OnFace, "", face}), CutterPick::of(face),
                                     CutterPick::of(FaceReference{"", "a:left", {}}), CutterPick::ofBody("b/2"),
                                     CutterPick::of(RegionPick{"d", true, {}}),
                                     CutterPick::of(PlanePick::midway(face, FaceReference{"", "a:left", {}})),
                                     CutterPick::of(PlanePick::through({corner, corner, corner})),
                                     CutterPick::of(PlanePick::across(edge)), CutterPick::of(PlanePick::across(face)),
                                     CutterPick::of(RegionPick{"d", false, {"l1.l2"}})}},
             {"pieces", PieceChoice{{"a/kerf"}, {"a/front", "a/back/left"}, {"a/front", "a/back/left", "a/kerf"}}}}),
       step("q", "cut", {{"profiles", RegionPick{"d", false, {"c+", "r+"}, {{"r+", Expression("w / 4")}}}}}),
       step("three", "plane",
            {{"way", std::string("points")},
             {"points", std::vector<PointReference>{{"a", {"a:front", "a:left", "a:top"}, Point{0, 0, 30}},
                                                    {"", {"a:back", "a:top"}, std::nullopt}}}}),
       step("up", "lift", {{"faces", std::vector{face, FaceReference{"", "a:left", {}}}}})},
      {{"w", Expression("4 cm")}, {"broken", Expression("1 +")}});
  document.made.unit = "in";
  document.seen.wallLimit = Expression("w / 10");
  document = document.withReplaced(document.find("p")->switched(false));
  return document.withStepNamed("p", "Work plane")
      .withBody("a", {true, true})
      .withLook("a", {"Näme", Color{1, 0, 0.2}, "layer", "Deck", {{"Tower", "Top deck"}}, false, true, "oak", 7850.0});
}

std::string splitError(const std::string& fields) {
  return jsonError(R"({"format":"kervo","version":2,"steps":[{"id":"s","kind":"split","fields":{)" + fields + "}}]}");
}

TEST(DocumentJson, WrongCuttersAndPiecesAreNamedWithTheirPlace) {
  EXPECT_THAT(splitError(R"("cutters": "xy")"), testing::HasSubstr("steps[0].fields.cutters"));
  EXPECT_THAT(splitError(R"("cutters": [{"saw": "xy"}])"), testing::HasSubstr("cutters[0]"));
  EXPECT_THAT(splitError(R"("cutters": [{"plane": "xy"}, {"plane": "up"}])"), testing::HasSubstr("cutters[1].plane"));
  EXPECT_THAT(splitError(R"("cutters": [{"body": 7}])"), testing::HasSubstr("cutters[0].body"));
  EXPECT_THAT(splitError(R"("cutters": [{"plane": {"midway": ["a:top"]}}])"), testing::HasSubstr("two faces"));
  EXPECT_THAT(splitError(R"("cutters": [{"plane": {"points": [3]}}])"),
              testing::HasSubstr("cutters[0].plane.points[0]"));
  EXPECT_THAT(splitError(R"("cutters": [{"plane": {"across": 3}}])"), testing::HasSubstr("cutters[0].plane.across"));
  EXPECT_THAT(splitError(R"("pieces": ["a"])"), testing::HasSubstr("\"keep\" and \"drop\""));
  EXPECT_THAT(splitError(R"("pieces": {"keep": [1]})"), testing::HasSubstr("pieces.keep"));
  EXPECT_THAT(splitError(R"("pieces": {"lose": []})"), testing::HasSubstr("\"lose\" is not known"));
  EXPECT_THAT(jsonError(R"({"format":"kervo","version":2,"seen":{"limits":{"gap":"1 mm"}}})"),
              testing::HasSubstr("\"gap\""));
}

TEST(DocumentJson, RoundTripsEveryTypeOfField) {
  const Document document = everything();
  const std::string text = documentToJson(document);
  const Document read = documentFromJson(text, allStepKinds(), "x");
  EXPECT_EQ(documentToJson(read), text);
  ASSERT_EQ(read.made.steps.size(), document.made.steps.size());
  for (std::size_t i = 0; i < read.made.steps.size(); ++i) {
    EXPECT_EQ(read.made.steps[i]->values(), document.made.steps[i]->values()) << document.made.steps[i]->id();
    EXPECT_EQ(read.made.steps[i]->on(), document.made.steps[i]->on());
  }
  EXPECT_EQ(read.made.dimensions, document.made.dimensions);
  EXPECT_EQ(read.made.bodies, document.made.bodies);
  EXPECT_EQ(read.seen, document.seen);
  EXPECT_EQ(read.made.unit, "in");
}

TEST(DocumentJson, LevelsRoundTripWithWhatIsOnThem) {
  Document document = withLevel({}, {"Ground", Expression("0 mm")});
  document = withLevel(document, {"Lamp room", Expression("Ground.height + 3 m"), "upstairs"});
  document = withWorkingLevel(document, "Lamp room");
  document = document.withStep(
      step("s", "split",
           {{"cutters", std::vector{CutterPick::of(PlanePick::atHeight(Expression("Lamp room.height"))),
                                    CutterPick::of(PlanePick::standard("xy")),
                                    CutterPick::of(PlanePick::atHeight(Expression("Ground.height")))}}}));
  document = document.withStep(drawing("d", PlanePick::atHeight(Expression("Lamp room.height - 1 m")), {}));
  document = document.withLook("b", {.level = "Ground"});
  document.seen.levels.show = LevelSight::Show::Below;
  const Document again = documentFromJson(documentToJson(document), allStepKinds(), "doc.json");
  EXPECT_EQ(again.made.levels, document.made.levels);
  EXPECT_EQ(again.seen, document.seen);
  EXPECT_EQ(documentToJson(again), documentToJson(document));
  EXPECT_EQ(again.find("d")->value("plane"), document.find("d")->value("plane"));
  EXPECT_EQ(again.find("s")->values(), document.find("s")->values());

  const auto with = [](const std::string& levels, const std::string& seen) {
    return jsonError(R"({"format": "kervo", "version": 2, "levels": )" + levels + R"(, "seen": )" + seen + "}");
  };
  EXPECT_THAT(with("3", "{}"), HasSubstr("levels"));
  EXPECT_THAT(with(R"([{"name": "a"}])", "{}"), HasSubstr("levels[0]"));
  EXPECT_THAT(with(R"([{"name": "a", "is": "1", "height": 2}])", "{}"), HasSubstr("levels[0]"));
  EXPECT_THAT(with("[]", R"({"levels": {"working": "a"}})"), HasSubstr("no level named \"a\""));
  EXPECT_THAT(with("[]", R"({"levels": {"show": "some"}})"), HasSubstr("all, below or only"));
  EXPECT_THAT(with("[]", R"({"on_levels": {"a": 1}})"), HasSubstr("seen.on_levels.a"));
}

TEST(DocumentJson, SectionsStandInWhatIsSeen) {
  Document document =
      documentOf({block("b", "40", "30", "20"),
                  step("section1", "section", {{"offset", Expression("5 mm")}, {"fill", text("hatch")}}),
                  step("section2", "section", {{"with", text("box")}})})
          .withStepNamed("section1", "stair");
  document = document.withReplaced(document.find("section2")->switched(false));
  const std::string written = documentToJson(document);
  const Document again = documentFromJson(written, allStepKinds(), "doc.json");
  EXPECT_EQ(again.made.steps.size(), 1u);
  EXPECT_EQ(again.seen, document.seen) << "also as another object of the same values";
  EXPECT_EQ(documentToJson(again), written);
  EXPECT_EQ(again.nameOf(*again.find("section1")), "stair");
  EXPECT_FALSE(again.find("section2")->on());
}

TEST(DocumentJson, ViewsAreKeptToTheLastBit) {
  Document document = documentOf({block("b", "40", "30", "20"), step("section1", "section")});
  const Vector towards = normalized({-0.62, -1, 0.72});
  document.seen.bodies["b"].visible = false;
  document.seen.bodies["b"].faded = true;
  document = withView(document,
                      viewOf(document, {{0.1, 1e-7, 1 / 3.0}, towards, normalized(cross({1, 0, 0}, towards)), 77, true},
                             "lines", "Küche"));
  const Document again = documentFromJson(documentToJson(document), allStepKinds(), "doc.json");
  EXPECT_EQ(again.seen, document.seen);
  const auto withView = [](const std::string& view) {
    return jsonError(R"({"format": "kervo", "version": 2, "seen": {"views": [)" + view + "]}}");
  };
  EXPECT_EQ(withView(R"({"id": "v"})"), "no error");
  EXPECT_THAT(withView(R"({"id": "v", "style": "shiny"})"), HasSubstr("seen.views[0].style"));
  EXPECT_THAT(withView(R"({"id": "v", "camera": {"height": 0}})"), HasSubstr("seen.views[0].camera.height"));
  EXPECT_THAT(withView(R"({"id": "v", "camera": {"up": [0, -2, 0]}})"), HasSubstr("seen.views[0].camera.up"));
  EXPECT_THAT(withView(R"({"id": "v"}, {"id": "v"})"), HasSubstr("seen.views[1].id"));
  EXPECT_THAT(withView(R"({"id": "v", "levels": {"working": "Attic"}})"), HasSubstr("seen.views[0].levels.working"));
}

TEST(DocumentJson, SectionsInTheWrongPlaceAreNamed) {
  const auto withSeen = [](const std::string& seen, const std::string& steps = "[]") {
    return jsonError(R"({"format": "kervo", "version": 2, "steps": )" + steps + R"(, "seen": )" + seen + "}");
  };
  EXPECT_EQ(withSeen(R"({"sections": [{"id": "s", "kind": "section"}]})"), "no error");
  EXPECT_THAT(withSeen(R"({"sections": [{"id": "s", "kind": "block"}]})"), HasSubstr("seen.sections[0].kind"));
  EXPECT_THAT(withSeen(R"({"sections": {}})"), HasSubstr("seen.sections"));
  EXPECT_THAT(withSeen("{}", R"([{"id": "s", "kind": "section"}])"), HasSubstr("steps[0].kind"));
  EXPECT_THAT(withSeen(R"({"sections": [{"id": "s", "kind": "section"}]})", R"([{"id": "s", "kind": "block"}])"),
              HasSubstr("another step has the id"));
  EXPECT_THAT(withSeen(R"({"sections": [{"id": "s", "kind": "section", "fields": {"offset": true}}]})"),
              HasSubstr("seen.sections[0].fields.offset"));
}

TEST(DocumentJson, ANameWithoutAStepIsNotWritten) {
  Document document = documentOf({block("a", "1", "2", "3")}).withStepNamed("a", "Plate");
  document.seen.steps["gone"] = "Lid";
  const Document read = documentFromJson(documentToJson(document), allStepKinds(), "x");
  EXPECT_EQ(read.seen.steps, (std::map<StepId, std::string>{{"a", "Plate"}}));
}

TEST(DocumentJson, NamesThePlaceOfWhatIsWrong) {
  const auto withSteps = [](const std::string& steps) {
    return "{\"format\":\"kervo\",\"version\":2,\"steps\":[" + steps + "]}";
  };
  EXPECT_THAT(jsonError("{"), HasSubstr("line 1, column 2"));
  EXPECT_THAT(jsonError("[]"), HasSubstr("not a Kervo document"));
  EXPECT_THAT(jsonError("{\"format\":\"kervo\"}"), HasSubstr("version"));
  EXPECT_THAT(jsonError("{\"format\":\"kervo\",\"version\":3}"),
              HasSubstr("has version 3, but this Kervo knows versions up to 2"));
  EXPECT_THAT(jsonError("{\"format\":\"kervo\",\"version\":2,\"stepps\":[]}"),
              HasSubstr("the key \"stepps\" is not known"));
  EXPECT_THAT(jsonError("{\"format\":\"kervo\",\"version\":2,\"unit\":\"deg\"}"), HasSubstr("mm, cm, m, in or ft"));
  EXPECT_THAT(jsonError("{\"format\":\"kervo\",\"version\":2,\"dimensions\":[{\"name\":\"a\",\"is\":3}]}"),
              HasSubstr("dimensions[0].is"));
  EXPECT_THAT(jsonError(withSteps("{\"id\":\"a\",\"kind\":\"frob\"}")),
              HasSubstr("doc.json, steps[0].kind: there is no step kind \"frob\""));
  EXPECT_THAT(jsonError(withSteps("{\"id\":\"a/b\",\"kind\":\"block\"}")), HasSubstr("steps[0].id"));
  for (const char* id : {"a.1", "a#1", "a b", "a\\u0000b", "a\\nb", "a\\u202eb", "a\\\"b", ""})
    EXPECT_THAT(jsonError(withSteps("{\"id\":\"" + std::string(id) + "\",\"kind\":\"block\"}")),
                testing::AllOf(HasSubstr("steps[0].id"), HasSubstr("an id")))
        << id;
  EXPECT_THAT(jsonError("{\"format\":\"kervo\",\"version\":2,\"unit\":\"mm\",\"unit\":\"m\"}"),
              HasSubstr("the key \"unit\" comes twice"));
  EXPECT_THAT(jsonError(withSteps("{\"id\":\"a\",\"kind\":\"block\",\"fields\":{\"width\":\"1\",\"width\":\"2\"}}")),
              HasSubstr("the key \"width\" comes twice"));
  EXPECT_THAT(jsonError(std::string(100'000, '[')), HasSubstr("nested more than 64 deep"));
  EXPECT_THAT(jsonError(withSteps("{\"id\":\"a\",\"kind\":\"block\"},{\"id\":\"a\",\"kind\":\"block\"}")),
              HasSubstr("steps[1].id"));
  EXPECT_THAT(jsonError(withSteps("{\"id\":\"a\",\"kind\":\"block\",\"fields\":{\"widht\":\"1\"}}")),
              HasSubstr("steps[0].fields.widht"));
  EXPECT_THAT(jsonError(withSteps("{\"id\":\"a\",\"kind\":\"block\",\"fields\":{\"width\":[1]}}")),
              HasSubstr("steps[0].fields.width"));
  EXPECT_THAT(jsonError(withSteps("{\"id\":\"a\",\"kind\":\"block\",\"fields\":{\"at\":[1,2]}}")),
              HasSubstr("three lengths"));
  EXPECT_THAT(jsonError(withSteps("{\"id\":\"a\",\"kind\":\"block\",\"fields\":{\"width\":1e999}}")),
              HasSubstr("overflow"));
  EXPECT_THAT(jsonError(withSteps("{\"id\":\"a\",\"kind\":\"cut\",\"fields\":{\"way\":\"up\"}}")),
              HasSubstr("Choose one of: into, out, both"));
  EXPECT_THAT(jsonError(withSteps(
                  "{\"id\":\"a\",\"kind\":\"drawing\",\"fields\":{\"curves\":[{\"id\":\"c\",\"circle\":[1,2]}]}}")),
              HasSubstr("curves[0].circle"));
  EXPECT_THAT(jsonError(withSteps(
                  "{\"id\":\"a\",\"kind\":\"drawing\",\"fields\":{\"curves\":[{\"id\":\"c.1\",\"circle\":[1,2,3]}]}}")),
              HasSubstr("cannot be a curve's id"));
  EXPECT_THAT(jsonError(withSteps("{\"id\":\"a\",\"kind\":\"round\",\"fields\":{\"edges\":[[\"x\"]]}}")),
              HasSubstr("edges[0]"));
}

TEST(KervoFile, KeepsBroughtInShapesAndThePreviousVersion) {
  const TemporaryFolder folder;
  FileContents contents;
  contents.bodies.push_back({"Post", makeCylinder("p", {}, 3, 10), Color{0, 1, 0}, "posts"});
  contents.bodies.push_back({"Cap", makeSphere("s", {}, 4), std::nullopt, ""});
  const Document document = withBroughtIn({}, contents, "parts.step", allStepKinds());
  const auto path = folder / "a.kervo";
  writeTo(path, document);
  const Model model = made(readFrom(path));
  ASSERT_FALSE(model.failed());
  EXPECT_NEAR(volume(model, "import1.1"), contents.bodies[0].shape.volume(), 1e-9);
  EXPECT_EQ(model.find("import1.1")->name, "Post");
  EXPECT_EQ(model.find("import1.1")->layer, "posts");
  EXPECT_EQ(model.find("import1.1")->color, (Color{0, 1, 0}));
  EXPECT_FALSE(std::filesystem::exists(path.string() + "~"));
  writeTo(path, document.withoutStep("import1"));
  EXPECT_TRUE(readFrom(path).made.steps.empty());
  std::filesystem::copy_file(path.string() + "~", folder / "before.kervo");
  EXPECT_EQ(readFrom(folder / "before.kervo").made.steps.size(), 1u);
}

TEST(KervoFile, OnlyKnownShapesAreReadIfAskedFor) {
  const TemporaryFolder folder;
  FileContents contents;
  contents.bodies.push_back({"Post", makeCylinder("p", {}, 3, 10), std::nullopt, ""});
  const auto path = folder / "a.kervo";
  Progress progress;
  const std::vector<Key> written =
      writeDocument(path, withBroughtIn({}, contents, "parts.step", allStepKinds()), progress);
  ASSERT_EQ(written.size(), 1u);
  KnownShapes known(folder / "cache/known");
  std::vector<Key> missing;
  try {
    readKnownDocument(path, allStepKinds(), known, progress);
  } catch (const ShapesNotKnown& found) {
    missing = found.keys();
  }
  EXPECT_EQ(missing, written);
  known.add(missing);
  EXPECT_EQ(readKnownDocument(path, allStepKinds(), known, progress).made.shapes.size(), 1u);
  // The next process knows them as well.
  EXPECT_EQ(readKnownDocument(path, allStepKinds(), KnownShapes(folder / "cache/known"), progress).made.shapes.size(),
            1u);
  EXPECT_THROW(readKnownDocument(path, allStepKinds(), KnownShapes(folder / "other"), progress), ShapesNotKnown);
  // Where nothing can be written, they are known until the process ends.
  KnownShapes nowhere("/proc/kervo/known");
  nowhere.add(written);
  EXPECT_TRUE(nowhere.holds(written.front()));
}

TEST(KervoFile, DamageIsToldNotGuessed) {
  const TemporaryFolder folder;
  const auto errorAt = [&](const std::string& name) -> std::string {
    try {
      readFrom(folder / name);
    } catch (const FileError& error) {
      return error.what();
    }
    return "no error";
  };
  FileContents contents;
  contents.bodies.push_back({"Post", makeTorus("p", {}, 10, 3), std::nullopt, ""});
  writeTo(folder / "whole.kervo", withBroughtIn({}, contents, "parts.step", allStepKinds()));
  const std::string whole = readFile(folder / "whole.kervo");
  writeFile(folder / "junk.kervo", "junk");
  EXPECT_THAT(errorAt("junk.kervo"), HasSubstr("not a readable .kervo file"));
  EXPECT_THAT(errorAt("missing.kervo"), HasSubstr("there is no such file"));
  // Every truncation and many flipped bytes: an error, or (in a part without meaning) the same document.
  int told = 0, same = 0;
  const std::string expected = documentToJson(readFrom(folder / "whole.kervo"));
  for (std::size_t i = 0; i < 60; ++i) {
    std::string broken = whole;
    if (i % 2)
      broken.resize(whole.size() * i / 60);
    else
      broken[whole.size() * i / 60] = static_cast<char>(broken[whole.size() * i / 60] ^ 0x5A);
    writeFile(folder / "broken.kervo", broken);
    try {
      EXPECT_EQ(documentToJson(readFrom(folder / "broken.kervo")), expected) << i;
      ++same;
    } catch (const FileError&) {
      ++told;
    }
  }
  EXPECT_EQ(told + same, 60);
  EXPECT_GT(told, 30);
}

TEST(KervoFile, EveryByteOfADocumentIsCompared) {
  const TemporaryFolder folder;
  writeTo(folder / "whole.kervo", documentOf({block("a", "1", "2", "3")}));
  const std::string whole = readFile(folder / "whole.kervo");
  // The content stands between its own header and the list of entries at the end.
  const std::size_t begin = whole.find("document.json") + std::string("document.json").size();
  const std::size_t end = whole.find("PK\x01\x02");
  ASSERT_GT(end, begin + 50);
  for (std::size_t i = begin; i < end; ++i) {
    std::string broken = whole;
    broken[i] = static_cast<char>(broken[i] ^ 0x04);
    writeFile(folder / "broken.kervo", broken);
    EXPECT_THROW(readFrom(folder / "broken.kervo"), FileError) << i;
  }
}

// A file of some kB must not fill the memory.
TEST(KervoFile, AnEntryThatGrowsBeyondReasonIsRefused) {
  const TemporaryFolder folder;
  const std::filesystem::path path = folder / "bomb.kervo";
  int code = 0;
  zip_t* archive = zip_open(path.c_str(), ZIP_CREATE, &code);
  ASSERT_NE(archive, nullptr);
  const std::string zeros(100'000'000, ' ');
  zip_file_add(archive, "document.json", zip_source_buffer(archive, zeros.data(), zeros.size(), 0), 0);
  ASSERT_EQ(zip_close(archive), 0);
  EXPECT_LT(std::filesystem::file_size(path), 200'000u);
  Progress progress;
  try {
    readDocument(path, allStepKinds(), progress);
    FAIL();
  } catch (const FileError& error) {
    EXPECT_THAT(error.what(), HasSubstr("would grow from"));
  }
}

TEST(KervoFile, AShapeKeyCannotLeaveTheFolder) {
  const TemporaryFolder folder;
  writeFile(
      folder / "doc.json",
      R"({"format":"kervo","version":2,"steps":[{"id":"i","kind":"bring-in","fields":{"bodies":[{"shape":"../../etc/passwd","name":"x"}]}}]})");
  EXPECT_THROW(readFrom(folder / "doc.json"), FileError);
  writeFile(
      folder / "gone.json",
      R"({"format":"kervo","version":2,"steps":[{"id":"i","kind":"bring-in","fields":{"bodies":[{"shape":"abc","name":"x"}]}}]})");
  EXPECT_THROW(readFrom(folder / "gone.json"), FileError);
}

TEST(Demo, TheFileIsWhatTheTextSays) {
  EXPECT_EQ(documentToJson(readFrom(demo + ".kervo")), documentToJson(readFrom(demo + ".json")));
}

}  // namespace
}  // namespace kervo
