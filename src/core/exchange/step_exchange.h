// What reading and writing STEP files have in common.
#pragma once

#include <TDocStd_Document.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_LayerTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <filesystem>
#include <mutex>

#include "exchange/body_file.h"

namespace kervo {

/// The kernel's STEP settings are global: one file at a time.
std::mutex& stepMutex();
void prepareStep();

/// A document of the kernel's data framework, closed at the end.
class StepExchange {
 public:
  StepExchange();
  ~StepExchange();
  StepExchange(const StepExchange&) = delete;
  StepExchange& operator=(const StepExchange&) = delete;

  Handle(TDocStd_Document) & document() { return document_; }
  Handle(XCAFDoc_ShapeTool) shapes;
  Handle(XCAFDoc_ColorTool) colors;
  Handle(XCAFDoc_LayerTool) layers;

 private:
  Handle(TDocStd_Document) document_;
};

/// What a file is read for: to be worked on, or to be compared with what was just written to it.
enum class StepPurpose { BringIn, Comparison };

/// The bodies as the kernel reads them. Not for two threads at once: the caller holds stepMutex().
/// `parts`: as in ReadWishes.
FileContents readStepAsIs(const std::filesystem::path& path, StepPurpose purpose, bool parts, Progress& progress);

}  // namespace kervo
