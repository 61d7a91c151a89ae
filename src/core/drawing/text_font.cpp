#include "drawing/text_font.h"

asm(".pushsection .rodata\n"        // for the machine
    ".balign 16\n"                  // for the machine
    ".global kervoTextFontBegin\n"  // for the machine
    "kervoTextFontBegin:\n"         // for the machine
    ".incbin \"" KERVO_TEXT_FONT
    "\"\n"                        // for the machine
    ".global kervoTextFontEnd\n"  // for the machine
    "kervoTextFontEnd:\n"         // for the machine
    ".byte 0\n"                   // for the machine
    ".popsection\n");             // for the machine

extern "C" {
extern const unsigned char kervoTextFontBegin[], kervoTextFontEnd[];
}

namespace kervo {

std::span<const unsigned char> textFont() {
  return {kervoTextFontBegin, kervoTextFontEnd};
}

}  // namespace kervo
