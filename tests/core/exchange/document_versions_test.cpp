// Documents of version 1 of the format: the demos as they were, and each thing that has another place now.
#include "exchange/document_versions.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "exchange/document_json.h"
#include "exchange/kervo_file.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;

Document read(const std::string& path) {
  Progress progress;
  return readDocument(std::string(KERVO_SOURCE_DIR) + "/" + path, allStepKinds(), progress);
}

TEST(DocumentVersions, TheDemosOfVersion1AreWhatTheyWere) {
  for (const std::string name : {"mast-clamp", "battery-crate"}) {
    const std::string now = documentToJson(read("tests/data/version2/" + name + ".json"));
    EXPECT_THAT(now, testing::HasSubstr("\"version\": 2"));
    for (const char* ending : {".json", ".kervo"})
      EXPECT_EQ(documentToJson(read("tests/data/version1/" + name + ending)), now) << name << ending;
  }
}

TEST(DocumentVersions, WhatIsSeenMovesToItsHalf) {
  const Document document = documentFromJson(R"({"format":"kervo","version":1,
    "steps":[{"id":"a","kind":"block","name":"Plate"},{"id":"b","kind":"block","name":""}],
    "bodies":{"a":{"name":"Lid","color":"#ff0000","layer":"top","visible":false,"density":7850,
                   "shielded":true,"hole_maker":false},
              "b":{"visible":true}},
    "limits":{"wall":"2 mm"}})",
                                             allStepKinds(), "old.json");
  EXPECT_EQ(document.nameOf(*document.find("a")), "Plate");
  EXPECT_EQ(document.nameOf(*document.find("b")), "Block");
  EXPECT_EQ(document.made.bodies, (std::map<BodyId, BodyTreatment>{{"a", {true, false}}}));
  EXPECT_EQ(document.lookOf("a"),
            (BodyLook{.name = "Lid", .color = Color{1, 0, 0}, .layer = "top", .visible = false, .density = 7850.0}));
  EXPECT_EQ(document.lookOf("b"), (BodyLook{.visible = true}));
  EXPECT_EQ(document.seen.wallLimit->text(), "2 mm");
}

TEST(DocumentVersions, WhatIsWrongInAnOldDocumentIsTold) {
  const auto errorOf = [](const std::string& rest) -> std::string {
    try {
      documentFromJson(R"({"format":"kervo","version":1,)" + rest + "}", allStepKinds(), "old.json");
    } catch (const Error& error) {
      return error.what();
    }
    return "no error";
  };
  EXPECT_THAT(errorOf(R"("steps":[{"id":"a","kind":"block","name":7}])"), testing::HasSubstr("seen.steps.a"));
  EXPECT_THAT(errorOf(R"("steps":[7])"), testing::HasSubstr("steps[0]"));
  EXPECT_THAT(errorOf(R"("steps":7)"), testing::HasSubstr("steps"));
  EXPECT_THAT(errorOf(R"("bodies":{"a":7})"), testing::HasSubstr("bodies.a"));
  EXPECT_THAT(errorOf(R"("bodies":{"a":{"colour":"red"}})"), testing::HasSubstr("\"colour\""));
  EXPECT_THAT(errorOf(R"("limits":[])"), testing::HasSubstr("seen.limits"));
  // Only present documents may say what is seen.
  EXPECT_THAT(errorOf(R"("seen":{"steps":{"nobody":"x"}})"), testing::HasSubstr("seen.steps.nobody"));
}

}  // namespace
}  // namespace kervo
