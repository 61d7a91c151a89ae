#include "exchange/step_exchange.h"

#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Message_PrinterOStream.hxx>
#include <STEPCAFControl_Controller.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_DocumentTool.hxx>

#include "geom/kernel/call.h"

namespace kervo {

std::mutex& stepMutex() {
  static std::mutex mutex;
  return mutex;
}

void prepareStep() {
  catchKernelSignals();
  Message::DefaultMessenger()->RemovePrinters(STANDARD_TYPE(Message_PrinterOStream));
  STEPCAFControl_Controller::Init();
}

StepExchange::StepExchange() {
  XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", document_);
  XCAFDoc_DocumentTool::SetLengthUnit(document_, 0.001);
  shapes = XCAFDoc_DocumentTool::ShapeTool(document_->Main());
  colors = XCAFDoc_DocumentTool::ColorTool(document_->Main());
  layers = XCAFDoc_DocumentTool::LayerTool(document_->Main());
}

StepExchange::~StepExchange() {
  XCAFApp_Application::GetApplication()->Close(document_);
}

}  // namespace kervo
