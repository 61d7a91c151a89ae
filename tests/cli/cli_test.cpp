// kervo-cli as a person or a script runs it: output, exit codes, files.
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <signal.h>
#include <sys/wait.h>

#include <chrono>
#include <nlohmann/json.hpp>
#include <numbers>
#include <regex>
#include <sstream>
#include <thread>

#include "support/temporary_folder.h"

namespace {

using namespace kervo::test;
using nlohmann::json;
using testing::HasSubstr;
using testing::Not;
constexpr double pi = std::numbers::pi;
const std::string thirdParty = "/usr/share/opencascade/data/";
const std::string demo = KERVO_SOURCE_DIR "/demo/mast-clamp.kervo";

struct Outcome {
  int code = -1;
  std::string out, err;
  json parsed() const { return json::parse(out); }
};

class Cli : public testing::Test {
 protected:
  Outcome run(const std::string& arguments) {
    const std::string command = std::string(KERVO_CLI) + " " + arguments + " >'" + (folder / "out").string() + "' 2>'" +
                                (folder / "err").string() + "'";
    const int status = std::system(command.c_str());
    return {WEXITSTATUS(status), readFile(folder / "out"), readFile(folder / "err")};
  }
  std::string at(const std::string& name) { return "'" + (folder / name).string() + "'"; }
  TemporaryFolder folder;
};

TEST_F(Cli, InfoSaysHowADrawingCanMoveAndWhatContradicts) {
  const auto drawing = [&](const std::string& more) {
    writeFile(folder / "doc.json",
              R"({"format":"kervo","version":2,"steps":[{"id":"d","kind":"drawing","fields":{"curves":{
                  "points":[{"id":"p","at":[0,0]},{"id":"q","at":[9,1]}],
                  "curves":[{"id":"l","line":{"points":["p","q"]}}],
                  "constraints":[{"id":"k1","horizontal":["l"]},{"id":"k2","length":["l"],"is":"10 mm"})" +
                  more + "]}}}]}");
    return run("info " + at("doc.json") + " --json");
  };
  const json step = drawing(R"(,{"id":"k3","parallel":["l","u_axis"]})").parsed()["steps"][0];
  EXPECT_EQ(step["freedoms"], 2);
  EXPECT_EQ(step["already_true"], json::array({"k3"}));
  const Outcome failed = drawing(R"(,{"id":"k3","vertical":["l"]})");
  EXPECT_EQ(failed.code, 1);
  const json conflict = failed.parsed()["steps"][0]["conflicts"][0];
  EXPECT_EQ(conflict["constraint"], "k3");
  EXPECT_EQ(conflict["with"], json::array({"k1", "k2"}));
}

TEST_F(Cli, InfoListsBodiesStepsAndDimensions) {
  const Outcome outcome = run("info " + demo + " --json");
  ASSERT_EQ(outcome.code, 0) << outcome.err;
  const json info = outcome.parsed();
  EXPECT_EQ(info["unit"], "mm");
  ASSERT_EQ(info["bodies"].size(), 3u);
  const json& front = info["bodies"][1];
  EXPECT_EQ(front["name"], "Clamp, front");
  EXPECT_EQ(front["kind"], "solid");
  EXPECT_NEAR(front["volume_mm3"].get<double>(), 83571.74396, 1e-3);
  EXPECT_EQ(front["closed"], true);
  EXPECT_EQ(front["valid"], true);
  EXPECT_EQ(front["layer"], "clamp");
  EXPECT_EQ(front["color"], "#9cc4bb");
  EXPECT_NEAR(front["bbox"]["max"][2].get<double>(), 40, 1e-6);
  for (const char* key : {"area_mm2", "faces", "edges"}) EXPECT_GT(front[key].get<double>(), 0) << key;
  EXPECT_EQ(info["steps"].size(), 9u);
  EXPECT_EQ(info["steps"][8]["state"], "made");
  EXPECT_EQ(info["dimensions"][3]["name"], "width");
  EXPECT_EQ(info["dimensions"][3]["expression"], "mast + 2 * wall");
  EXPECT_EQ(info["dimensions"][3]["value"], 72.0);
  EXPECT_EQ(info["dimensions"][3]["unit"], "mm");
}

TEST_F(Cli, PeopleGetLinesWithUnits) {
  const std::string info = run("info " + demo).out;
  EXPECT_THAT(info, HasSubstr("Clamp, front: solid, 83.5717 cm³"));
  EXPECT_THAT(info, HasSubstr("width = mast + 2 * wall → 72 mm"));
  const std::string rebuilt = run("rebuild " + demo).out;
  EXPECT_THAT(rebuilt, HasSubstr("Cut through"));
  EXPECT_THAT(rebuilt, HasSubstr("removes 75.4296 cm³"));
  EXPECT_THAT(rebuilt, HasSubstr("keeps clamp/front: 83.5717 cm³"));
  EXPECT_THAT(rebuilt, HasSubstr("drops clamp/kerf: 5.23775 cm³"));
  EXPECT_THAT(rebuilt, HasSubstr("3 bodies"));
}

TEST_F(Cli, ABrokenDimensionIsNamedWithItsRow) {
  writeFile(folder / "cycle.json",
            R"({"format":"kervo","version":1,"dimensions":[{"name":"a","is":"b"},{"name":"b","is":"a"}]})");
  const Outcome outcome = run("rebuild " + at("cycle.json"));
  EXPECT_THAT(outcome.err, HasSubstr("dimension row 2 (b)"));
  EXPECT_THAT(outcome.err, HasSubstr("in a circle"));
}

TEST_F(Cli, InfoReadsFilesKervoDidNotMake) {
  const json screw = run("info " + thirdParty + "step/screw.step --json").parsed();
  EXPECT_EQ(screw["bodies"].size(), 1u);
  EXPECT_EQ(screw["bodies"][0]["closed"], true);
  EXPECT_THAT(run("info " + thirdParty + "step/screw.step").out, HasSubstr("closed"));
}

TEST_F(Cli, InfoSaysHowExactABodyIsAndWhereItCannotBeTrusted) {
  const json body = run("info " + thirdParty + "occ/Top.brep --json").parsed()["bodies"][0];
  EXPECT_EQ(body["valid"], false);
  ASSERT_FALSE(body["flaws"].empty());
  EXPECT_THAT(body["flaws"][0].get<std::string>(), testing::AllOf(HasSubstr("face225"), HasSubstr(" mm")));
  EXPECT_GT(body["volume_error_mm3"].get<double>(), 0);
  EXPECT_LT(body["volume_error_mm3"].get<double>(), 1);
  EXPECT_THAT(run("info " + thirdParty + "occ/bottle.brep").out, HasSubstr(" ± "));
  const json plate = run("info " + demo + " --json").parsed()["bodies"][0];
  EXPECT_TRUE(plate["flaws"].empty());
  EXPECT_LT(plate["volume_error_mm3"].get<double>(), 1e-6 * plate["volume_mm3"].get<double>());
  EXPECT_EQ(plate["centroid_mm"].size(), 3u);
}

TEST_F(Cli, FilesAreReadBackUnlessToldNotTo) {
  const std::string convert = "convert " + thirdParty + "occ/Pump_Nut.brep ";
  ASSERT_EQ(run(convert + at("nut.step")).code, 0);
  ASSERT_EQ(run(convert + at("quick.step") + " --no-read-back").code, 0);
  EXPECT_THAT(readFile(folder / "nut.step"), HasSubstr("read back and compared"));
  EXPECT_THAT(readFile(folder / "quick.step"), HasSubstr("not read back"));
}

TEST_F(Cli, BringingInNotesFlawsOnStderr) {
  const Outcome outcome = run("convert " + thirdParty + "occ/Top.brep " + at("top.kervo"));
  ASSERT_EQ(outcome.code, 0);
  EXPECT_THAT(outcome.err, testing::AllOf(HasSubstr("kervo-cli: damaged: "), HasSubstr("face225"), HasSubstr(" mm")));
}

TEST_F(Cli, OutputThatCannotBeWrittenIsAnError) {
  for (const std::string& arguments : {"info " + demo, "info " + demo + " --json", "rebuild " + demo + " --json"}) {
    const int status = std::system(
        (std::string(KERVO_CLI) + " " + arguments + " >/dev/full 2>'" + (folder / "err").string() + "'").c_str());
    EXPECT_EQ(WEXITSTATUS(status), 3) << arguments;
    EXPECT_THAT(readFile(folder / "err"), HasSubstr("output could not be written"));
  }
  const int status = std::system((std::string(KERVO_CLI) + " --help >/dev/full 2>/dev/null").c_str());
  EXPECT_EQ(WEXITSTATUS(status), 3) << "help";
}

TEST_F(Cli, FileNamesNeedNotBeUtf8) {
  const std::string name = (folder / "part\xff\xfe.step").string();
  std::filesystem::copy_file(thirdParty + "step/screw.step", name);
  EXPECT_EQ(run("info '" + name + "' --json").code, 0);
  ASSERT_EQ(run("convert '" + name + "' " + at("part.kervo")).code, 0);
  EXPECT_EQ(run("info " + at("part.kervo") + " --json").parsed()["bodies"].size(), 1u);
  const Outcome missing = run("info '" + name + "x.step'");
  EXPECT_EQ(missing.code, 3) << missing.err;
}

std::string patternOf(int count) {
  const std::string n = std::to_string(count);
  return R"({"format":"kervo","version":1,"steps":[{"id":"b","kind":"block"},{"id":"p","kind":"pattern","fields":
    {"bodies":["b"],"way":"grid","count":")" +
         n + R"(","rows":")" + n + R"(","spacing":"200 mm","row_spacing":"200 mm"}}]})";
}

TEST_F(Cli, WhatWouldNotFitIsRefusedBeforeItIsMade) {
  writeFile(folder / "grid.json", patternOf(10'000));
  const Outcome outcome = run("rebuild " + at("grid.json"));
  EXPECT_EQ(outcome.code, 1);
  EXPECT_THAT(outcome.err,
              testing::AllOf(HasSubstr("99999999 copies with 599999994 faces"), HasSubstr("At most 10000")));
}

// The allocator of the geometry kernel would abort.
TEST_F(Cli, TooLittleMemoryIsAnErrorThatIsTold) {
#ifdef KERVO_SANITIZED
  GTEST_SKIP() << "sanitizers map more than any machine has, so their builds do not limit memory";
#endif
  writeFile(folder / "grid.json", patternOf(100));
  int told = 0;
  for (const int kilobytes : {150'000, 170'000, 190'000, 200'000, 210'000, 220'000}) {
    const int status = std::system(("ulimit -v " + std::to_string(kilobytes) + "; " + KERVO_CLI + " rebuild " +
                                    at("grid.json") + " >/dev/null 2>" + at("err"))
                                       .c_str());
    ASSERT_TRUE(WIFEXITED(status));
    // 126 and 127: not even the libraries had room.
    const int code = WEXITSTATUS(status);
    EXPECT_THAT(code, testing::AnyOf(0, 1, 126, 127)) << kilobytes << ": " << readFile(folder / "err");
    if (code != 1) continue;
    EXPECT_THAT(readFile(folder / "err"), HasSubstr("not enough memory"));
    ++told;
  }
  EXPECT_GT(told, 0);
}

TEST_F(Cli, AMemoryLimitIsAnErrorThatIsTold) {
#ifdef KERVO_SANITIZED
  GTEST_SKIP() << "sanitizers map more than any machine has, so their builds do not limit memory";
#endif
  writeFile(folder / "grid.json", patternOf(100));
  const Outcome outcome = run("--memory-limit 60 rebuild " + at("grid.json"));
  EXPECT_EQ(outcome.code, 1) << outcome.err;
  EXPECT_THAT(outcome.err, HasSubstr("not enough memory"));
  // Wherever the memory ends, the command does.
  for (const int megabytes : {50, 60, 70, 80, 100, 120, 150}) {
    const Outcome ended = run("--time-limit 60 --memory-limit " + std::to_string(megabytes) +
                              " info " KERVO_SOURCE_DIR "/demo/battery-crate.kervo");
    EXPECT_THAT(ended.err, testing::Not(HasSubstr("time limit"))) << megabytes;
    EXPECT_THAT(ended.code, testing::AnyOf(0, 1)) << megabytes << ended.err;
  }
  EXPECT_EQ(run("--memory-limit 1 rebuild " + at("grid.json")).code, 2);
}

/// Assemblies in assemblies, so many levels deep: `part`, a STEP file of one body, in the innermost.
std::string nested(const std::string& part, int levels) {
  const auto entity = [&](const std::string& type) {
    const std::regex pattern("#(\\d+) ?= ?\\(?" + type + "\\(");
    std::smatch found;
    if (!std::regex_search(part, found, pattern)) throw std::runtime_error("no " + type);
    return std::stoi(found[1]);
  };
  std::smatch found;
  std::regex_search(part, found, std::regex("SHAPE_DEFINITION_REPRESENTATION\\(#\\d+,#(\\d+)"));
  const int productContext = entity("PRODUCT_CONTEXT"), definitionContext = entity("PRODUCT_DEFINITION_CONTEXT"),
            place = entity("AXIS2_PLACEMENT_3D");
  int product = entity("PRODUCT_DEFINITION"), shape = std::stoi(found[1]), at = 1'000'000;
  std::regex_search(part, found, std::regex("#(\\d+) ?= ?\\( ?GEOMETRIC_REPRESENTATION_CONTEXT"));
  const int context = std::stoi(found[1]);
  const std::size_t end = part.rfind("ENDSEC;");
  std::ostringstream text;
  text << part.substr(0, end);
  for (int level = 0; level < levels; ++level, at += 11) {
    const auto id = [&](int i) { return "#" + std::to_string(at + i); };
    const auto known = [](int number) { return "#" + std::to_string(number); };
    text << id(0) << "=PRODUCT('L','L','',(" << known(productContext) << "));\n"
         << id(1) << "=PRODUCT_DEFINITION_FORMATION('',''," << id(0) << ");\n"
         << id(2) << "=PRODUCT_DEFINITION('design',''," << id(1) << "," << known(definitionContext) << ");\n"
         << id(3) << "=PRODUCT_DEFINITION_SHAPE('',''," << id(2) << ");\n"
         << id(4) << "=SHAPE_REPRESENTATION('',(" << known(place) << ")," << known(context) << ");\n"
         << id(5) << "=SHAPE_DEFINITION_REPRESENTATION(" << id(3) << "," << id(4) << ");\n"
         << id(6) << "=NEXT_ASSEMBLY_USAGE_OCCURRENCE('u','',''," << id(2) << "," << known(product) << ",$);\n"
         << id(7) << "=PRODUCT_DEFINITION_SHAPE('',''," << id(6) << ");\n"
         << id(8) << "=CONTEXT_DEPENDENT_SHAPE_REPRESENTATION(" << id(9) << "," << id(7) << ");\n"
         << id(9) << "=(REPRESENTATION_RELATIONSHIP('',''," << known(shape) << "," << id(4)
         << ")REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION(" << id(10) << ")SHAPE_REPRESENTATION_RELATIONSHIP());\n"
         << id(10) << "=ITEM_DEFINED_TRANSFORMATION('',''," << known(place) << "," << known(place) << ");\n";
    product = at + 2;
    shape = at + 4;
  }
  return text.str() + part.substr(end);
}

// Also where the system gives a program a small stack.
TEST_F(Cli, DeeplyNestedAssembliesAreRead) {
  writeFile(folder / "one.json", R"({"format":"kervo","version":1,"steps":[{"id":"b","kind":"block"}]})");
  ASSERT_EQ(run("convert " + at("one.json") + " " + at("one.step")).code, 0);
  writeFile(folder / "deep.step", nested(readFile(folder / "one.step"), 8000));
  const int status = std::system(
      ("ulimit -s 1024; " + std::string(KERVO_CLI) + " info " + at("deep.step") + " >" + at("out") + " 2>" + at("err"))
          .c_str());
  ASSERT_TRUE(WIFEXITED(status));
  EXPECT_EQ(WEXITSTATUS(status), 0) << readFile(folder / "err");
  EXPECT_THAT(readFile(folder / "out"), HasSubstr("6 faces, closed"));
}

TEST_F(Cli, CheckReadsADocumentWithItsShapes) {
  writeFile(folder / "doc.json", patternOf(3));
  const Outcome whole = run("check " + at("doc.json"));
  EXPECT_EQ(whole.code, 0);
  EXPECT_THAT(whole.out, HasSubstr("0 stored shapes, all readable"));
  writeFile(folder / "cut.kervo", "PK");
  EXPECT_EQ(run("check " + at("cut.kervo")).code, 3);
  EXPECT_EQ(run("check " + at("part.step")).code, 2);
  // The shapes of a journal.
  std::filesystem::create_directories(folder / "session-1/shapes");
  EXPECT_EQ(run("check " + at("session-1")).code, 0);
  writeFile(folder / "session-1/shapes/a.brep", "nothing");
  const Outcome damaged = run("check " + at("session-1"));
  EXPECT_EQ(damaged.code, 3);
  EXPECT_THAT(damaged.err, HasSubstr("a.brep"));
}

TEST_F(Cli, ATimeLimitEndsWhatTakesTooLong) {
  const auto started = std::chrono::steady_clock::now();
  const Outcome outcome = run("info " + thirdParty + "occ/Top.brep --time-limit 0.5");
  EXPECT_EQ(outcome.code, 1) << outcome.err;
  EXPECT_THAT(outcome.err, HasSubstr("time limit is over"));
  EXPECT_LT(std::chrono::steady_clock::now() - started, std::chrono::seconds(10));
  EXPECT_EQ(run("info " + demo + " --time-limit 600").code, 0);
  EXPECT_EQ(run("info " + demo + " --time-limit=-1").code, 2);
}

TEST_F(Cli, RepairMendsADamagedBody) {
  const json outcome =
      run("repair --stock " + thirdParty + "occ/Top.brep --out " + at("mended.brep") + " --json").parsed();
  EXPECT_EQ(outcome["bodies"].size(), 1u);
  EXPECT_THAT(run("convert " + thirdParty + "occ/Top.brep " + at("before.kervo")).err, HasSubstr("damaged"));
  EXPECT_THAT(run("convert " + at("mended.brep") + " " + at("after.kervo")).err, testing::Not(HasSubstr("damaged")));
  const Outcome sound = run("repair --stock " + at("mended.brep"));
  EXPECT_NE(sound.code, 0);
  EXPECT_THAT(sound.err, HasSubstr("no flaw"));
}

TEST_F(Cli, KeepingBothSidesOfAMissIsNoLostPiece) {
  const std::string nut = thirdParty + "occ/Pump_Nut.brep";
  const Outcome outcome = run("cut --stock " + nut + " --cutter " + nut + " --keep both --json");
  EXPECT_THAT(outcome.out + outcome.err, testing::Not(HasSubstr("not there any more")));
}

TEST_F(Cli, LevelsAreListedAndSet) {
  const std::string hut = KERVO_SOURCE_DIR "/demo/watch-hut.json";
  const json levels = run("info " + hut + " --json").parsed()["levels"];
  ASSERT_EQ(levels.size(), 4U);
  EXPECT_EQ(levels[2]["name"], "Lamp room");
  EXPECT_DOUBLE_EQ(levels[2]["height_mm"], 2800 + 3000);
  EXPECT_THAT(run("info " + hut).out, HasSubstr("Lamp room at Watch room.height + watch + slab"));
  const Outcome lower = run("rebuild " + hut + " --set 'Roof.height=7.9 m' --out " + at("lower.kervo") + " --json");
  ASSERT_EQ(lower.code, 0) << lower.err;
  const json after = run("info " + at("lower.kervo") + " --json").parsed();
  EXPECT_DOUBLE_EQ(after["levels"][3]["height_mm"], 7900);
  const Outcome wrong = run("rebuild " + hut + " --set 'Attic.height=1 m'");
  EXPECT_EQ(wrong.code, 2);
  EXPECT_THAT(wrong.err, HasSubstr("Lamp room.height"));
}

TEST_F(Cli, BodiesArePutIntoAssembliesAndKeptThereByFiles) {
  const Outcome put = run("rebuild " + demo + " --put 'mast=Mast / Pole' --put 'mast=Mast / Tube' --out " +
                          at("clamp.kervo") + " --out " + at("clamp.step") + " --out " + at("clamp.glb"));
  ASSERT_EQ(put.code, 0) << put.err;
  for (const char* file : {"clamp.kervo", "clamp.step", "clamp.glb"}) {
    const json bodies = run("info " + at(file) + " --json").parsed()["bodies"];
    const auto tube = std::find_if(bodies.begin(), bodies.end(), [](const json& body) { return body.contains("in"); });
    ASSERT_NE(tube, bodies.end()) << file;
    EXPECT_EQ((*tube)["in"], json::array({"Mast", "Tube"})) << file;
    EXPECT_EQ(std::count_if(bodies.begin(), bodies.end(), [](const json& body) { return body.contains("in"); }), 1);
  }
  EXPECT_THAT(run("rebuild " + demo + " --put 'nobody=Mast'").err, HasSubstr("there is no body \"nobody\""));
  EXPECT_EQ(run("rebuild " + demo + " --put 'mast=Mast//Tube'").code, 1);
  EXPECT_EQ(run("rebuild " + demo + " --put mast").code, 2);
}

TEST_F(Cli, RebuildSetsDimensionsAndWritesTheResult) {
  const Outcome outcome = run("rebuild " + demo + " --set mast='5 cm' --set kerf='0.001 mm' --out " + at("clamp.step") +
                              " --out " + at("clamp.kervo") + " --json");
  ASSERT_EQ(outcome.code, 0) << outcome.err;
  const json result = outcome.parsed();
  EXPECT_EQ(result["steps"][4]["audit"]["shielded"][0], "mast");
  EXPECT_NEAR(result["steps"][4]["audit"]["volume_removed_mm3"].get<double>(), pi * 25.5 * 25.5 * 40, 1e-4);
  EXPECT_NEAR(result["steps"][4]["audit"]["balance_mm3"].get<double>(), 0, 1e-4);
  EXPECT_EQ(result["steps"][4]["from_memo"], false);
  const json written = run("info " + at("clamp.step") + " --json").parsed();
  ASSERT_EQ(written["bodies"].size(), 3u);
  EXPECT_NEAR(written["bodies"][0]["volume_mm3"].get<double>(), pi * 625 * 200, 1e-3);
  EXPECT_EQ(written["bodies"][2]["color"], "#b7a7cf");
  const json document = run("info " + at("clamp.kervo") + " --json").parsed();
  EXPECT_EQ(document["dimensions"][0]["expression"], "5 cm");
}

TEST_F(Cli, CutKeepsOutsideInsideOrBoth) {
  writeFile(
      folder / "plate.json",
      R"({"format":"kervo","version":1,"steps":[{"id":"p","kind":"block","name":"Plate","fields":{"width":"50","depth":"40","height":"10"}}]})");
  writeFile(
      folder / "tool.json",
      R"({"format":"kervo","version":1,"steps":[{"id":"t","kind":"cylinder","fields":{"radius":"5","height":"30","at":["25","20","-10"]}}]})");
  ASSERT_EQ(run("convert " + at("plate.json") + " " + at("plate.step")).code, 0);
  ASSERT_EQ(run("convert " + at("tool.json") + " " + at("tool.brep")).code, 0);
  const std::string command = "cut --stock " + at("plate.step") + " --cutter " + at("tool.brep") + " --json";
  const json outside = run(command + " --out " + at("cut.step")).parsed();
  EXPECT_NEAR(outside["bodies"][0]["volume_mm3"].get<double>(), 20000 - 250 * pi, 1e-5);
  EXPECT_EQ(outside["bodies"][0]["name"], "Plate");
  EXPECT_NEAR(run("info " + at("cut.step") + " --json").parsed()["bodies"][0]["volume_mm3"].get<double>(),
              20000 - 250 * pi, 1e-5);
  EXPECT_NEAR(run(command + " --keep inside").parsed()["bodies"][0]["volume_mm3"].get<double>(), 250 * pi, 1e-5);
  EXPECT_EQ(run(command + " --keep both").parsed()["bodies"].size(), 2u);
  EXPECT_NEAR(run(command).parsed()["balance_mm3"].get<double>(), 0, 1e-5);
}

TEST_F(Cli, SplitHalvesAScrewWithAKerf) {
  const std::string screw = thirdParty + "step/screw.step";
  const json whole = run("info " + screw + " --json").parsed()["bodies"][0];
  const json low = whole["bbox"]["min"], high = whole["bbox"]["max"];
  std::string plane;
  for (int i = 0; i < 3; ++i)
    plane += std::to_string((low[i].get<double>() + high[i].get<double>()) / 2 + 0.0137) + ",";
  const json both =
      run("split " + screw + " --plane=" + plane + "0,0,1 --kerf 0.5mm --json --out " + at("halves.step")).parsed();
  ASSERT_EQ(both["bodies"].size(), 2u);
  const double sum = both["bodies"][0]["volume_mm3"].get<double>() + both["bodies"][1]["volume_mm3"].get<double>() +
                     both["volume_kerf_mm3"].get<double>();
  EXPECT_NEAR(sum, whole["volume_mm3"].get<double>(), 1e-3);
  EXPECT_EQ(run("split " + screw + " --plane=" + plane + "0,0,1 --keep front --json").parsed()["bodies"].size(), 1u);
}

TEST_F(Cli, ConvertKeepsStepsOfADocumentAndBodiesOfOthers) {
  ASSERT_EQ(run("convert " + demo + " " + at("again.kervo")).code, 0);
  EXPECT_EQ(run("info " + at("again.kervo") + " --json").parsed()["steps"].size(), 9u);
  ASSERT_EQ(run("convert " + thirdParty + "occ/CrankArm.brep " + at("crank.kervo")).code, 0);
  const json document = run("info " + at("crank.kervo") + " --json").parsed();
  EXPECT_EQ(document["steps"][0]["kind"], "bring-in");
  ASSERT_EQ(run("convert " + at("crank.kervo") + " " + at("crank.step") + " --unit in").code, 0);
  const json step = run("info " + at("crank.step") + " --json").parsed();
  EXPECT_EQ(step["unit"], "in");
  EXPECT_NEAR(step["bodies"][1]["volume_mm3"].get<double>(), document["bodies"][1]["volume_mm3"].get<double>(), 1);
}

TEST_F(Cli, CutsAndSplitsKeepTheUnitOfTheirFile) {
  ASSERT_EQ(run("convert " + thirdParty + "step/screw.step " + at("inch.step") + " --unit in").code, 0);
  ASSERT_EQ(run("split " + at("inch.step") + " --plane=-18,0,0,1,0,0 --out " + at("halves.step")).code, 0);
  EXPECT_EQ(run("info " + at("halves.step") + " --json").parsed()["unit"], "in");
  writeFile(
      folder / "tool.json",
      R"({"format":"kervo","version":1,"steps":[{"id":"t","kind":"block","fields":{"at":["-18","-30","-20"]}}]})");
  ASSERT_EQ(run("convert " + at("tool.json") + " " + at("tool.step")).code, 0);
  ASSERT_EQ(run("cut --stock " + at("inch.step") + " --cutter " + at("tool.step") + " --out " + at("cut.step")).code,
            0);
  EXPECT_EQ(run("info " + at("cut.step") + " --json").parsed()["unit"], "in");
}

TEST_F(Cli, ExitCodesTellWhatHappened) {
  writeFile(folder / "zero.json",
            R"({"format":"kervo","version":1,"steps":[{"id":"b","kind":"block","fields":{"width":"0 mm"}}]})");
  writeFile(folder / "empty.json", R"({"format":"kervo","version":1})");
  writeFile(folder / "text.step", "no STEP at all");
  const Outcome failed = run("rebuild " + at("zero.json") + " --json --out " + at("never.step"));
  EXPECT_EQ(failed.code, 1);
  EXPECT_THAT(failed.err, HasSubstr("field Width: the value is 0 mm"));
  EXPECT_EQ(failed.parsed()["steps"][0]["state"], "failed");
  EXPECT_FALSE(std::filesystem::exists(folder / "never.step"));
  EXPECT_EQ(run("rebuild " + at("empty.json")).code, 0);
  EXPECT_EQ(run("").code, 2);
  EXPECT_EQ(run("frobnicate").code, 2);
  EXPECT_EQ(run("cut --stock x.step").code, 2);
  EXPECT_EQ(run("rebuild " + demo + " --set nothing=3").code, 2);
  EXPECT_EQ(run("rebuild " + demo + " --set mast").code, 2);
  EXPECT_EQ(run("rebuild " + demo + " --out x.pdf").code, 2);
  EXPECT_EQ(run("split " + thirdParty + "step/screw.step --plane 0,0,0,0,0,0").code, 2);
  EXPECT_EQ(run("split " + thirdParty + "step/screw.step --plane 0,0,nan,0,0,1").code, 2);
  EXPECT_EQ(run("split " + thirdParty + "step/screw.step --plane 0,0,0,0,0,1 --kerf=-2").code, 2);
  EXPECT_EQ(run("split " + thirdParty + "step/screw.step --plane 0,0,90000,0,0,1").code, 1);
  EXPECT_EQ(run("info " + at("missing.step")).code, 3);
  const Outcome text = run("info " + at("text.step") + " --json");
  EXPECT_EQ(text.code, 3);
  EXPECT_EQ(text.out, "");
  EXPECT_THAT(text.err, HasSubstr("not a STEP file"));
  EXPECT_EQ(run("rebuild " + demo + " --out /no/such/folder/x.step").code, 3);
  EXPECT_EQ(run("--help").code, 0);
  EXPECT_EQ(run("--version").code, 0);
}

TEST_F(Cli, ACutterThatMissesIsAnError) {
  writeFile(folder / "a.json", R"({"format":"kervo","version":1,"steps":[{"id":"p","kind":"block"}]})");
  writeFile(folder / "b.json",
            R"({"format":"kervo","version":1,"steps":[{"id":"p","kind":"block","fields":{"at":["900","0","0"]}}]})");
  run("convert " + at("a.json") + " " + at("a.brep"));
  run("convert " + at("b.json") + " " + at("b.brep"));
  const Outcome missed = run("cut --stock " + at("a.brep") + " --cutter " + at("b.brep"));
  EXPECT_EQ(missed.code, 1);
  EXPECT_THAT(missed.err, HasSubstr("no cutter meets the stock"));
  const Outcome both = run("cut --stock " + at("a.brep") + " --cutter " + at("a.brep"));
  EXPECT_EQ(both.code, 1);
  EXPECT_THAT(both.err, HasSubstr("stock and cutter at once"));
  run("convert " + at("a.json") + " " + at("same.brep"));
  const Outcome consumed = run("cut --stock " + at("a.brep") + " --cutter " + at("same.brep") + " --json");
  EXPECT_EQ(consumed.code, 0);
  EXPECT_TRUE(consumed.parsed()["bodies"].empty());
  EXPECT_THAT(consumed.err, HasSubstr("nothing stays"));
}

TEST_F(Cli, ManyStocksAndCuttersByTheirNamesInsideFiles) {
  const std::string crate = KERVO_SOURCE_DIR "/demo/battery-crate.json";
  // Two stocks of one file, three cutters of it, the sleeve not among them.
  const json cut = run("cut --stock '" + crate + "#Lid, front' --stock '" + crate + "#Base plate, front' --cutter '" +
                       crate + "#Post, 2' '" + crate + "#Cable sleeve' --clearance 1mm --json")
                       .parsed();
  ASSERT_EQ(cut["bodies"].size(), 2u);
  EXPECT_LT(cut["bodies"][0]["volume_mm3"].get<double>(), 187415);
  EXPECT_NEAR(cut["balance_mm3"].get<double>(), 0, 1e-3);
  const Outcome missing = run("cut --stock '" + crate + "#Nothing' --cutter '" + crate + "#Lid, front'");
  EXPECT_EQ(missing.code, 2);
  EXPECT_THAT(missing.err, HasSubstr("has no body \"Nothing\"; it has: Base plate, front"));
}

TEST_F(Cli, CombinePartitionsAndDropsByName) {
  writeFile(folder / "two.json",
            R"({"format":"kervo","version":1,"steps":[
              {"id":"a","kind":"block","name":"A","fields":{"width":"10","depth":"10","height":"10"}},
              {"id":"b","kind":"block","name":"B","fields":{"width":"10","depth":"10","height":"10","at":["6","0","0"]}}]})");
  const std::string command = "combine --verb partition --stock " + at("two.json") + " --json";
  const json all = run(command).parsed();
  ASSERT_EQ(all["bodies"].size(), 3u);
  ASSERT_EQ(all["step"]["pieces"].size(), 3u);
  std::string shared;
  for (const json& piece : all["step"]["pieces"])
    if (std::abs(piece["volume_mm3"].get<double>() - 400) < 1e-9) shared = piece["key"];
  EXPECT_EQ(run(command + " --drop '" + shared + "'").parsed()["bodies"].size(), 2u);
  const json joined = run("combine --verb union --stock '" + (folder / "two.json").string() + "#A' --cutter '" +
                          (folder / "two.json").string() + "#B' --json")
                          .parsed();
  EXPECT_NEAR(joined["bodies"][0]["volume_mm3"].get<double>(), 1600, 1e-9);
}

TEST_F(Cli, SplitBySeveralPlanesAndScoreKeepsTheVolume) {
  writeFile(folder / "a.json",
            R"({"format":"kervo","version":1,"steps":[{"id":"a","kind":"block","name":"A",
               "fields":{"width":"20","depth":"20","height":"20","at":["-10","-10","-10"]}}]})");
  const json split =
      run("split " + at("a.json") + " --plane=0,0,0,1,0,0 --plane=0,0,0,0,1,0 --plane=0,0,0,1,1,1 --json").parsed();
  double sum = 0;
  for (const json& body : split["bodies"]) sum += body["volume_mm3"].get<double>();
  EXPECT_NEAR(sum, 8000, 1e-6);
  EXPECT_EQ(split["bodies"].size(), 8u);
  const json scored = run("score --stock " + at("a.json") + " --plane=0,0,3,0,0,1 --json").parsed();
  EXPECT_NEAR(scored["bodies"][0]["volume_mm3"].get<double>(), 8000, 1e-6);
  EXPECT_EQ(scored["bodies"][0]["faces"], 10);
}

TEST_F(Cli, InterruptStopsCleanly) {
  // Sixty tori through each other: far longer than the test waits.
  std::string steps, cutters;
  for (int i = 0; i < 60; ++i) {
    const std::string id = "t" + std::to_string(i);
    steps += R"({"id":")" + id + R"(","kind":"torus","fields":{"ring":"30","tube":"9","at":["0",")" +
             std::to_string(i * 0.37) + "\",\"" + std::to_string(i * 0.53) + "\"]}},";
    if (i) cutters += (i > 1 ? ",\"" : "\"") + id + "\"";
  }
  writeFile(folder / "heavy.json", R"({"format":"kervo","version":1,"steps":[)" + steps +
                                       R"({"id":"x","kind":"combine","fields":{"stock":["t0"],"cutters":[)" + cutters +
                                       "]}}]}");
  const pid_t child = fork();
  if (child == 0) {
    if (!std::freopen((folder / "out").c_str(), "w", stdout) || !std::freopen((folder / "err").c_str(), "w", stderr))
      _exit(99);
    execl(KERVO_CLI, "kervo-cli", "rebuild", (folder / "heavy.json").c_str(), "--out", (folder / "x.step").c_str(),
          nullptr);
    _exit(98);
  }
  std::this_thread::sleep_for(std::chrono::milliseconds(700));
  kill(child, SIGINT);
  int status = 0;
  for (int i = 0; i < 100 && waitpid(child, &status, WNOHANG) == 0; ++i)
    std::this_thread::sleep_for(std::chrono::milliseconds(100));
  if (kill(child, 0) == 0 && waitpid(child, &status, WNOHANG) == 0) {
    kill(child, SIGKILL);
    waitpid(child, &status, 0);
    FAIL() << "still at work ten seconds after Ctrl+C";
  }
  EXPECT_EQ(WEXITSTATUS(status), 130);
  EXPECT_THAT(readFile(folder / "err"), HasSubstr("stopped; nothing was written"));
  EXPECT_FALSE(std::filesystem::exists(folder / "x.step"));
}

TEST_F(Cli, AMeshIsConvertedSplitAndTold) {
  ASSERT_EQ(run("convert " KERVO_SOURCE_DIR "/demo/mast-clamp.json " + at("clamp.stl") + " --tolerance 0.05").code, 0);
  const Outcome inches = run("convert " + at("clamp.stl") + " " + at("clamp.kervo"));
  EXPECT_EQ(inches.code, 0) << inches.err;
  EXPECT_THAT(run("info " + at("clamp.kervo")).out, HasSubstr("mesh of "));
  const Outcome split = run("split " + at("clamp.stl") + " --plane 0,0,7,0,0,1 --out " + at("parts.3mf"));
  EXPECT_EQ(split.code, 0) << split.err;
  EXPECT_THAT(split.out, HasSubstr("triangles, 204"));
  const json parts = json::parse(run("info " + at("parts.3mf") + " --json").out);
  double volume = 0;
  for (const json& body : parts["bodies"]) {
    EXPECT_EQ(body["kind"], "mesh");
    EXPECT_TRUE(body["closed"]);
    EXPECT_GT(body["triangles"], 10);
    volume += body["volume_mm3"].get<double>();
  }
  const json whole = json::parse(run("info " + at("clamp.stl") + " --json").out);
  EXPECT_NEAR(volume, whole["bodies"][0]["volume_mm3"].get<double>(), 1e-5 * volume);
  // A mesh goes into no exact file, and nothing is written.
  const Outcome refused = run("convert " + at("clamp.stl") + " " + at("clamp.step"));
  EXPECT_EQ(refused.code, 3);
  EXPECT_THAT(refused.err, HasSubstr("is a mesh, and STEP files hold exact bodies only"));
  EXPECT_FALSE(std::filesystem::exists(folder / "clamp.step"));
  // What is cut off comes in not at all.
  const std::string bytes = readFile(folder / "clamp.stl");
  writeFile(folder / "half.stl", bytes.substr(0, bytes.size() / 2));
  const Outcome half = run("convert " + at("half.stl") + " " + at("half.kervo"));
  EXPECT_EQ(half.code, 3);
  EXPECT_THAT(half.err, HasSubstr("It was cut off"));
  EXPECT_FALSE(std::filesystem::exists(folder / "half.kervo"));
}

TEST_F(Cli, TakesWhatCanBeReadOfABrokenFileAndOnlyWhatIsNamed) {
  writeFile(folder / "set.obj",
            "# Kervo, lengths in mm\no Lid\nv 0 0 0\nv 10 0 0\nv 0 10 0\nv 0 0 10\n"
            "f 1 3 2\nf 1 2 4\nf 2 3 4\nf 3 1 4\no Bolt\nf 1 2 999\n");
  const Outcome refused = run("convert " + at("set.obj") + " " + at("set.kervo"));
  EXPECT_EQ(refused.code, 3);
  EXPECT_THAT(refused.err, HasSubstr("\"Bolt\" cannot be read"));
  EXPECT_THAT(refused.err, HasSubstr("with --parts"));
  EXPECT_FALSE(std::filesystem::exists(folder / "set.kervo"));
  const Outcome parts = run("convert " + at("set.obj") + " " + at("set.kervo") + " --parts");
  EXPECT_EQ(parts.code, 0) << parts.err;
  EXPECT_THAT(parts.out, HasSubstr("1 body written"));
  EXPECT_THAT(parts.err, HasSubstr("lost: \"Bolt\""));
  writeFile(folder / "two.json", R"({"format": "kervo", "version": 2, "steps": [
    {"id": "lid", "kind": "block", "fields": {"width": "80", "depth": "60", "height": "10"}},
    {"id": "foot", "kind": "block", "fields": {"width": "10", "depth": "10", "height": "10", "at": ["200", "0", "0"]}}],
    "seen": {"steps": {"lid": "Lid", "foot": "Foot"}}})");
  ASSERT_EQ(run("convert " + at("two.json") + " " + at("two.step")).code, 0);
  EXPECT_EQ(run("convert " + at("two.step") + " " + at("foot.step") + " --only Foot").code, 0);
  const json read = run("info " + at("foot.step") + " --json").parsed();
  ASSERT_EQ(read["bodies"].size(), 1u);
  EXPECT_EQ(read["bodies"][0]["name"], "Foot");
  EXPECT_THAT(run("convert " + at("two.step") + " " + at("none.step") + " --only Nut").err,
              HasSubstr("no body of the file is called \"Nut\""));
}

TEST_F(Cli, ReloadsAFileAndListsWhatIsLost) {
  writeFile(folder / "one.json", R"({"format": "kervo", "version": 1, "steps": [
    {"id": "lid", "kind": "block", "fields": {"width": "80", "depth": "60", "height": "10"}},
    {"id": "foot", "kind": "block", "fields": {"width": "10", "depth": "10", "height": "10", "at": ["200", "0", "0"]}}]})");
  ASSERT_EQ(run("convert " + at("one.json") + " " + at("part.step")).code, 0);
  ASSERT_EQ(run("convert " + at("part.step") + " " + at("part.kervo")).code, 0);
  ASSERT_EQ(run("do place " + at("part.kervo") + " --bodies import1.2 --z 50 --out " + at("placed.kervo")).code, 0);
  writeFile(folder / "two.json", R"({"format": "kervo", "version": 1, "steps": [
    {"id": "lid", "kind": "block", "fields": {"width": "90", "depth": "60", "height": "10"}}]})");
  ASSERT_EQ(run("convert " + at("two.json") + " " + at("part.step")).code, 0);
  const Outcome outcome = run("reload " + at("placed.kervo") + " " + at("part.step") + " -o " + at("now.kervo"));
  EXPECT_EQ(outcome.code, 0) << outcome.err;
  EXPECT_THAT(outcome.out, HasSubstr("1 body changed, 1 body is gone"));
  EXPECT_THAT(outcome.err, HasSubstr("names \"import1.2\", which is gone"));
  EXPECT_THAT(run("rebuild " + at("now.kervo")).out, HasSubstr("54 cm³"));
  EXPECT_EQ(run("reload " + at("one.json") + " " + at("part.step") + " -o " + at("x.kervo")).code, 2);
}

TEST_F(Cli, StepsIsThePageOfTheManual) {
  const Outcome steps = run("steps");
  ASSERT_EQ(steps.code, 0) << steps.err;
  EXPECT_EQ(steps.out, readFile(KERVO_SOURCE_DIR "/docs/steps.md")) << "run kervo-cli steps > docs/steps.md";
  EXPECT_EQ(run("formats").out, readFile(KERVO_SOURCE_DIR "/docs/formats.md"))
      << "run kervo-cli formats > docs/formats.md";
}

TEST_F(Cli, StepsGivesTranslatorsAllTextsOfTheKinds) {
  const Outcome texts = run("steps --texts");
  ASSERT_EQ(texts.code, 0) << texts.err;
  EXPECT_EQ(texts.out, readFile(KERVO_SOURCE_DIR "/src/app/kind_texts.cpp"))
      << "run kervo-cli steps --texts > src/app/kind_texts.cpp";
  EXPECT_THAT(texts.out, HasSubstr("\"Kinds\", \"Cut\""));
}

TEST_F(Cli, DoMakesAnyStepOnFiles) {
  ASSERT_EQ(run("do block --width 20 --depth 30 --height '4 cm' --out " + at("b.step")).code, 0);
  const Outcome halves = run("do split " + at("b.step") + " --cutters yz --offset 5 --kerf 1 --json");
  ASSERT_EQ(halves.code, 0) << halves.err;
  const json split = halves.parsed();
  ASSERT_EQ(split["bodies"].size(), 2u);
  EXPECT_NEAR(split["step"]["audit"]["volume_removed_mm3"].get<double>(), 1 * 30 * 40, 1e-6);
  // Its own dashes are taken for underscores, negative numbers are values, and a list in brackets is one value.
  const Outcome moved = run("do place " + at("b.step") + " --x -5 --json");
  ASSERT_EQ(moved.code, 0) << moved.err;
  EXPECT_NEAR(moved.parsed()["bodies"][0]["bbox"]["min"][0].get<double>(), -5, 1e-6);
  const Outcome sided = run("do split " + at("b.step") + " --cutters yz --offset 5 --kerf 1 --kerf-side front --json");
  ASSERT_EQ(sided.code, 0) << sided.err;
  EXPECT_NEAR(sided.parsed()["bodies"][0]["volume_mm3"].get<double>(), 14 * 30 * 40, 1e-6);
  const Outcome rounded =
      run("do round " + at("b.step") + R"( --edges '[["import1:face1","import1:face3"]]' --radius 2 --json)");
  ASSERT_EQ(rounded.code, 0) << rounded.err;
  EXPECT_EQ(rounded.parsed()["bodies"][0]["faces"], 7);
}

TEST_F(Cli, AKindIsACommandOfItsOwn) {
  ASSERT_EQ(run("block --width 40 --depth 30 --height 20 --out " + at("b.step")).code, 0);
  const auto bodies = [&](const std::string& command, const std::string& fields) {
    const Outcome outcome = run(command + " " + at("b.step") + " --stock all --json " + fields);
    EXPECT_EQ(outcome.code, 0) << command << outcome.err;
    return outcome.code == 0 ? outcome.parsed()["bodies"] : json();
  };
  EXPECT_EQ(bodies("hollow", "--wall 1mm"), bodies("do hollow", "--wall 1mm"));
  const json pieces = bodies("buildbox", "--width 30mm");
  EXPECT_EQ(pieces.size(), 2u);
  EXPECT_EQ(pieces, bodies("do build_size", "--width 30mm"));
  for (const char* kind : {"inlay", "key", "mould", "thread"}) EXPECT_EQ(run(std::string(kind) + " --help").code, 0);
  EXPECT_NE(run("inlay " + at("b.step")).code, 0) << "without a face";
}

TEST_F(Cli, DoGoesOnWithADocument) {
  const Outcome made = run("do drawing " + demo + R"( --plane xy --curves '[{"id":"c","circle":["0","0","5 mm"]}]')" +
                           " --out " + at("drawn.kervo"));
  ASSERT_EQ(made.code, 0) << made.err;
  const Outcome extruded = run("do extrude " + at("drawn.kervo") + " --profiles drawing1 --height 10 --json --out " +
                               at("more.kervo") + " --out " + at("more.step"));
  ASSERT_EQ(extruded.code, 0) << extruded.err;
  const json bodies = extruded.parsed()["bodies"];
  ASSERT_EQ(bodies.size(), 4u);
  EXPECT_NEAR(bodies[3]["volume_mm3"].get<double>(), 250 * pi, 1e-6);
  EXPECT_EQ(run("info " + at("more.kervo") + " --json").parsed()["steps"].size(), 11u);
  EXPECT_EQ(run("info " + at("more.step") + " --json").parsed()["bodies"].size(), 4u);
  // Bodies by the names that people gave them.
  const Outcome byName = run("do place " + demo + " --bodies 'Clamp, front' --z 100 --json");
  ASSERT_EQ(byName.code, 0) << byName.err;
  EXPECT_NEAR(byName.parsed()["bodies"][1]["bbox"]["max"][2].get<double>(), 140, 1e-6);
  const Outcome several = run("do place " + demo + " --bodies clamp/front,clamp/back --z 100 --json");
  ASSERT_EQ(several.code, 0) << several.err;
  for (const int body : {1, 2})
    EXPECT_NEAR(several.parsed()["bodies"][body]["bbox"]["max"][2].get<double>(), 140, 1e-6);
  const Outcome nobody = run("do place " + demo + " --bodies clamp/front,nobody --z 100");
  EXPECT_EQ(nobody.code, 2);
  EXPECT_THAT(nobody.err, HasSubstr("there is no body and no file \"clamp/front,nobody\""));
}

TEST_F(Cli, ConvertMakesDrawingsOfCurvesThatCanBeExtruded) {
  const std::string file = std::string(KERVO_SOURCE_DIR) + "/tests/data/curves/R12.dxf";
  const Outcome read = run("convert " + file + " " + at("hole.kervo") + " --unit in --middle --gap 0.001");
  ASSERT_EQ(read.code, 0) << read.err;
  EXPECT_THAT(read.out, HasSubstr("4 curves on 2 layers"));
  EXPECT_THAT(read.err, HasSubstr("unit: in\n"));
  EXPECT_THAT(read.err, HasSubstr("the layer \"Off\" is off and was left out"));
  const Outcome extruded = run("do extrude " + at("hole.kervo") + " --profiles drawing2 --height 10 --json");
  ASSERT_EQ(extruded.code, 0) << extruded.err;
  const json bodies = extruded.parsed()["bodies"];
  double volume = 0;
  for (const json& body : bodies) volume += body["volume_mm3"].get<double>();
  // A circle and an ellipse that touch nothing else.
  EXPECT_NEAR(volume, 10 * pi * (12.7 * 12.7 + 25.4 * 12.7), 1e-6);
  EXPECT_THAT(run("convert " + file + " " + at("hole.kervo") + " --unit furlong").err, HasSubstr("no unit of a file"));
  EXPECT_EQ(run("convert " + file + " " + at("hole.step")).code, 2);
}

TEST_F(Cli, SlicesGoOnSheetsAndSectionsOnPaper) {
  const Outcome sliced =
      run("do slices " + demo + " --gives faces --count 3 --spacing 8mm --start 1mm --out " + at("s.kervo"));
  ASSERT_EQ(sliced.code, 0) << sliced.err;
  const Outcome sheets = run("sheets " + at("s.kervo") + " " + at("x.dxf") + " --sheet 300x250 --kerf 0.1mm --json");
  ASSERT_EQ(sheets.code, 0) << sheets.err;
  const json sheet = sheets.parsed()["sheets"][0];
  EXPECT_GT(sheet["parts"].size(), 8u);
  EXPECT_GT(sheet["used"].get<double>(), 0.1);
  EXPECT_TRUE(std::filesystem::exists(folder / "x.dxf"));
  EXPECT_EQ(run("sheets " + at("s.kervo") + " " + at("x.dxf") + " --sheet 300").code, 2);
  const Outcome small = run("sheets " + at("s.kervo") + " " + at("y.svg") + " --sheet 10x10");
  EXPECT_EQ(small.code, 1);
  EXPECT_THAT(small.err, HasSubstr("Give a larger sheet"));
  EXPECT_EQ(run("sheets " + at("s.kervo") + " " + at("x.step")).code, 3);

  ASSERT_EQ(run("do section " + demo + " --plane xy --offset 20mm --out " + at("cut.kervo")).code, 0);
  const Outcome section = run("section " + at("cut.kervo") + " " + at("x.pdf") + " --section section3 --scale 1:2");
  ASSERT_EQ(section.code, 0) << section.err;
  EXPECT_THAT(section.out, HasSubstr("3 bodies"));
  EXPECT_TRUE(readFile(folder / "x.pdf").starts_with("%PDF"));
  const std::string crate = KERVO_SOURCE_DIR "/demo/battery-crate.kervo";
  EXPECT_EQ(run("section " + crate + " " + at("x.pdf")).code, 2) << "it has no section";
}

TEST_F(Cli, KeptViewsAreDrawn) {
  const std::string hut = KERVO_SOURCE_DIR "/demo/watch-hut.kervo";
  const Outcome view = run("view " + hut + " " + at("x.dxf") + " --view 'Stair section' --scale 1:50");
  ASSERT_EQ(view.code, 0) << view.err;
  EXPECT_THAT(view.out, HasSubstr("bodies, "));
  EXPECT_THAT(readFile(folder / "x.dxf"), HasSubstr("Roof cut"));
  EXPECT_THAT(readFile(folder / "x.dxf"), HasSubstr("Roof hidden"));
  ASSERT_EQ(run("view " + hut + " " + at("y.svg") + " --visible-only").code, 0);
  EXPECT_THAT(readFile(folder / "y.svg"), Not(HasSubstr("dasharray")));
  EXPECT_EQ(run("view " + hut + " " + at("x.dxf") + " --view none").code, 2);
  const std::string crate = KERVO_SOURCE_DIR "/demo/battery-crate.kervo";
  EXPECT_EQ(run("view " + crate + " " + at("x.dxf")).code, 2) << "it has no views";
}

TEST_F(Cli, CompareTellsWhatWasAddedAndRemoved) {
  ASSERT_EQ(run("do block --width 40mm --depth 30mm --height 20mm --out " + at("a.step")).code, 0);
  ASSERT_EQ(run("do block --width 50mm --depth 30mm --height 20mm --out " + at("b.step")).code, 0);
  const Outcome compared = run("compare " + at("a.step") + " " + at("b.step") + " --json");
  ASSERT_EQ(compared.code, 0) << compared.err;
  const json body = compared.parsed()["bodies"][0];
  EXPECT_EQ(body["state"], "changed");
  EXPECT_NEAR(body["added_mm3"].get<double>(), 6000, 1e-3);
  EXPECT_NEAR(body["removed_mm3"].get<double>(), 0, 1e-6);
  EXPECT_THAT(run("compare " + at("a.step") + " " + at("a.step")).out, HasSubstr(": same"));
}

TEST_F(Cli, InfoTellsFindingsAndWhatIsMeasured) {
  ASSERT_EQ(run("do block --width 40mm --out " + at("b.kervo")).code, 0);
  ASSERT_EQ(
      run("do measure " + at("b.kervo") + " --what size_x --bodies block1 --name span --out " + at("m.kervo")).code, 0);
  const Outcome info = run("info " + at("m.kervo") + " --findings --json");
  ASSERT_EQ(info.code, 0) << info.err;
  const json root = info.parsed();
  EXPECT_EQ(root["bodies"][0]["check"]["edges"], 12);
  EXPECT_TRUE(root["bodies"][0]["check"]["findings"].empty());
  EXPECT_EQ(root["steps"][1]["measured"]["dimension"], "span");
  EXPECT_NEAR(root["steps"][1]["measured"]["value_mm_rad"].get<double>(), 40, 1e-6);
  EXPECT_THAT(run("info " + at("m.kervo")).out, HasSubstr("span, measured: 40 mm"));
}

TEST_F(Cli, DoSaysWhatIsWrong) {
  ASSERT_EQ(run("do block --out " + at("b.step")).code, 0);
  const Outcome choice = run("do split " + at("b.step") + " --keep middle");
  EXPECT_EQ(choice.code, 2);
  EXPECT_THAT(choice.err, HasSubstr("Choose one of: both, front, back"));
  const Outcome number = run("do split " + at("b.step") + " --kerf -1");
  EXPECT_EQ(number.code, 1);
  EXPECT_THAT(number.err, HasSubstr("field Kerf: the value is -1 mm"));
  EXPECT_EQ(run("do juggle " + at("b.step")).code, 2);
  EXPECT_EQ(run("do split " + at("b.step") + " --girth 2").code, 2);
  const Outcome cutter = run("do split " + at("b.step") + " --cutters " + at("none.step"));
  EXPECT_EQ(cutter.code, 3);
  EXPECT_THAT(run("do split --help").out, HasSubstr("Width that the cut removes"));
  EXPECT_EQ(run("do block --out " + at("b.txt")).code, 2);
}

}  // namespace
