#include "drawing/text_font.h"

#ifndef KERVO_TEXT_FONT
#error "the font's file is given by the build"
#endif

asm(".pushsection .rodata\n"
    ".balign 16\n"
    ".global kervoTextFontBegin\n"
    "kervoTextFontBegin:\n"
    ".incbin \"" KERVO_TEXT_FONT
    "\"\n"
    ".global kervoTextFontEnd\n"
    "kervoTextFontEnd:\n"
    ".byte 0\n"
    ".popsection\n");

extern "C" {
extern const unsigned char kervoTextFontBegin[], kervoTextFontEnd[];
}

namespace kervo {

std::span<const unsigned char> textFont() {
  return {kervoTextFontBegin, kervoTextFontEnd};
}

}  // namespace kervo
