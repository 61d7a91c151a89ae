// Says what a crash left behind, and offers to bring it back.
#pragma once

#include <QCoreApplication>

#include "app/files.h"
#include "app/message_bar.h"
#include "exchange/journal.h"

namespace kervo::app {

class Recovery {
  Q_DECLARE_TR_FUNCTIONS(Recovery)
 public:
  Recovery(Files& files, MessageBar& message) : files_(files), message_(message) {}
  /// For every journal that nobody holds.
  void offer();
  void ask(const Abandoned& journal);

 private:
  void keepUnreadable(const Abandoned& journal);

  Files& files_;
  MessageBar& message_;
};

}  // namespace kervo::app
