#include "view/frame_layers.h"

namespace kervo {

bool FrameLayers::resize(QOpenGLExtraFunctions& gl, QSize size) {
  if (size == size_) return true;
  release(gl);
  if (size.isEmpty()) return false;
  gl.glGenRenderbuffers(1, &depth_);
  gl.glBindRenderbuffer(GL_RENDERBUFFER, depth_);
  gl.glRenderbufferStorage(GL_RENDERBUFFER, GL_DEPTH_COMPONENT24, size.width(), size.height());
  bool complete = true;
  for (Target& target : targets_) {
    gl.glGenTextures(1, &target.texture);
    gl.glBindTexture(GL_TEXTURE_2D, target.texture);
    gl.glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, size.width(), size.height(), 0, GL_RGBA, GL_UNSIGNED_BYTE, nullptr);
    for (const GLenum filter : {GL_TEXTURE_MIN_FILTER, GL_TEXTURE_MAG_FILTER})
      gl.glTexParameteri(GL_TEXTURE_2D, filter, GL_NEAREST);
    gl.glGenFramebuffers(1, &target.framebuffer);
    gl.glBindFramebuffer(GL_FRAMEBUFFER, target.framebuffer);
    gl.glFramebufferTexture2D(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_TEXTURE_2D, target.texture, 0);
    gl.glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_RENDERBUFFER, depth_);
    complete = complete && gl.glCheckFramebufferStatus(GL_FRAMEBUFFER) == GL_FRAMEBUFFER_COMPLETE;
  }
  gl.glBindTexture(GL_TEXTURE_2D, 0);
  gl.glBindRenderbuffer(GL_RENDERBUFFER, 0);
  if (complete)
    size_ = size;
  else
    release(gl);
  return complete;
}

void FrameLayers::bind(QOpenGLExtraFunctions& gl, Layer layer) {
  gl.glBindFramebuffer(GL_FRAMEBUFFER, framebuffer(layer));
}

void FrameLayers::copy(QOpenGLExtraFunctions& gl, Layer layer, std::uint32_t framebuffer) {
  const int width = size_.width(), height = size_.height();
  gl.glBindFramebuffer(GL_READ_FRAMEBUFFER, this->framebuffer(layer));
  gl.glBindFramebuffer(GL_DRAW_FRAMEBUFFER, framebuffer);
  gl.glBlitFramebuffer(0, 0, width, height, 0, 0, width, height, GL_COLOR_BUFFER_BIT, GL_NEAREST);
  gl.glBindFramebuffer(GL_FRAMEBUFFER, framebuffer);
}

void FrameLayers::release(QOpenGLExtraFunctions& gl) {
  for (Target& target : targets_) {
    if (target.framebuffer) gl.glDeleteFramebuffers(1, &target.framebuffer);
    if (target.texture) gl.glDeleteTextures(1, &target.texture);
    target = {};
  }
  if (depth_) gl.glDeleteRenderbuffers(1, &depth_);
  depth_ = 0;
  size_ = {};
}

}  // namespace kervo
