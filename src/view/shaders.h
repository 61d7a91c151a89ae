// The shader programs, OpenGL 3.3 core. For src/view only.
#pragma once

namespace kervo::shader {

inline constexpr char backgroundVertex[] = R"(#version 330 core
out float height;
void main() {
  vec2 corner = vec2(gl_VertexID == 1 ? 3.0 : -1.0, gl_VertexID == 2 ? 3.0 : -1.0);
  height = corner.y * 0.5 + 0.5;
  gl_Position = vec4(corner, 0.999, 1.0);
})";

inline constexpr char backgroundFragment[] = R"(#version 330 core
in float height;
uniform vec3 top, bottom;
out vec4 color;
void main() { color = vec4(mix(bottom, top, clamp(height, 0.0, 1.0)), 1.0); })";

/// Lays one picture over another of the same size.
inline constexpr char layerFragment[] = R"(#version 330 core
uniform sampler2D layer;
out vec4 color;
void main() { color = texelFetch(layer, ivec2(gl_FragCoord.xy), 0); })";

// What programs for bodies that sections cut have in addition, after their first line: cut() hides what lies beyond
// half-spaces, and in regions between walls.
inline constexpr char cutVertexPart[] = R"(#define CUT
uniform vec4 halfSpaces[8];
uniform int halfSpaceCount;
out float gl_ClipDistance[8];
out vec3 place;
void cut(vec3 at) {
  for (int i = 0; i < 8; ++i)
    gl_ClipDistance[i] = i < halfSpaceCount ? -dot(halfSpaces[i], vec4(at, 1.0)) : 1.0;
  place = at;
}
)";

inline constexpr char cutFragmentPart[] = R"(#define CUT
uniform vec4 walls[96];
uniform int regionEnds[48];
uniform int regionCount;
in vec3 place;
void cut() {
  int wall = 0;
  for (int region = 0; region < regionCount; ++region) {
    bool inside = true;
    for (; wall < regionEnds[region]; ++wall) inside = inside && dot(walls[wall], vec4(place, 1.0)) >= 0.0;
    if (inside) discard;
  }
}
)";

inline constexpr char faceVertex[] = R"(#version 330 core
layout(location = 0) in vec3 point;
layout(location = 1) in vec3 normalIn;
layout(location = 2) in float bandIn;
uniform mat4 matrix;
out vec3 normal;
out float band;
void main() {
  gl_Position = matrix * vec4(point, 1.0);
  normal = normalIn;
  band = bandIn;
#ifdef CUT
  cut(point);
#endif
})";

// A soft light from the eye and a second one from above; hatched faces are striped along the screen's diagonal. Painted
// ones show the stripes of a room with lamps, which are as smooth as their normals, or bands of values with lines
// between them.
inline constexpr char faceFragment[] = R"(#version 330 core
in vec3 normal;
in float band;
uniform vec3 baseColor, hatchColor, towardsEye, up;
uniform float alpha, hatchPitch;
uniform int paint, bandCount;
uniform vec3 bandColors[8];
out vec4 color;
vec3 painted(vec3 base, vec3 n) {
  if (paint == 1) {
    float phase = acos(clamp(dot(reflect(-towardsEye, n), up), -1.0, 1.0)) * 4.4;
    float width = fwidth(phase);
    float lamp = smoothstep(0.25 - width, 0.25 + width, abs(fract(phase) - 0.5));
    return mix(vec3(0.16), vec3(1.0), lamp);
  }
  if (paint == 2 && band >= 0.0) {
    vec3 tone = bandColors[clamp(int(band), 0, bandCount - 1)];
    float border = round(band), change = fwidth(band);
    bool between = border > 0.5 && border < float(bandCount) - 0.5;
    if (between && change > 1e-5) tone *= mix(0.25, 1.0, smoothstep(0.6, 1.4, abs(band - border) / change));
    return tone;
  }
  return base;
}
void main() {
#ifdef CUT
  cut();
#endif
  vec3 n = normalize(normal);
  if (!gl_FrontFacing) n = -n;
  vec3 light = normalize(towardsEye + 0.55 * up + vec3(-0.12, -0.08, 0.35));
  float facing = max(dot(n, towardsEye), 0.0);
  float lit = max(dot(n, light), 0.0);
  vec3 base = baseColor;
  if (hatchPitch > 0.0) {
    float phase = (gl_FragCoord.x + gl_FragCoord.y) / hatchPitch;
    float edge = abs(fract(phase) - 0.5);
    float width = 1.0 / hatchPitch;
    base = mix(base, hatchColor, smoothstep(0.10 + width, 0.10, edge));
  } else if (paint != 0) {
    base = painted(base, n);
  }
  color = vec4(base * (0.52 + 0.16 * facing + 0.40 * lit), alpha);
})";

// Each segment is a quad that stays `width` pixels wide on screen; thin lines pass a negative width.
inline constexpr char lineVertex[] = R"(#version 330 core
layout(location = 0) in vec3 from;
layout(location = 1) in vec3 to;
layout(location = 2) in vec2 lengths;
uniform mat4 matrix;
uniform vec2 viewport;
uniform float width, bias;
out float across, along;
void main() {
  int corner = gl_VertexID & 3;
  bool start = corner < 2;
  vec4 a = matrix * vec4(from, 1.0), b = matrix * vec4(to, 1.0);
  vec4 position = start ? a : b;
  float side = (corner & 1) == 0 ? -1.0 : 1.0;
  float halfWidth = 0.0;
  if (width > 0.0) {
    vec2 direction = (b.xy / b.w - a.xy / a.w) * viewport;
    float size = length(direction);
    direction = size > 1e-6 ? direction / size : vec2(1.0, 0.0);
    halfWidth = width * 0.5 + 1.0;
    vec2 offset = vec2(-direction.y, direction.x) * side * halfWidth + direction * (start ? -0.5 : 0.5);
    position.xy += offset * 2.0 / viewport * position.w;
  }
  position.z -= bias * position.w;
  gl_Position = position;
  across = side * halfWidth;
  along = start ? lengths.x : lengths.y;
#ifdef CUT
  cut(start ? from : to);
#endif
})";

inline constexpr char lineFragment[] = R"(#version 330 core
in float across, along;
uniform vec4 lineColor;
uniform float width, dash;
out vec4 color;
void main() {
#ifdef CUT
  cut();
#endif
  if (dash > 0.0 && fract(along / dash) > 0.6) discard;
  float cover = width > 0.0 ? clamp(width * 0.5 + 0.5 - abs(across), 0.0, 1.0) : 1.0;
  if (cover < 0.01) discard;
  color = vec4(lineColor.rgb, lineColor.a * cover);
})";

// Cut faces: flat, with the lines of a hatch in the coordinates of their plane.
inline constexpr char cutVertex[] = R"(#version 330 core
layout(location = 0) in vec3 point;
layout(location = 1) in vec2 onPlaneIn;
uniform mat4 matrix;
out vec2 onPlane;
void main() {
  gl_Position = matrix * vec4(point, 1.0);
  onPlane = onPlaneIn;
  cut(point);
})";

// Lines nearer to each other than the eye can tell become an even tone.
inline constexpr char cutFragment[] = R"(#version 330 core
in vec2 onPlane;
uniform vec3 baseColor, lineColor;
uniform float alpha, lineWidth, pixel;
uniform vec4 lines[4];   // cosine and sine of the angle, spacing, offset
uniform vec3 dashes[4];  // dash, gap, shift
uniform int lineCount;
out vec4 color;
void main() {
  cut();
  float ink = 0.0;
  for (int i = 0; i < lineCount; ++i) {
    vec2 along = lines[i].xy;
    float spacing = lines[i].z;
    float across = dot(onPlane, vec2(-along.y, along.x)) - lines[i].w;
    float row = floor(across / spacing + 0.5);
    float off = abs(across - row * spacing) / pixel;
    float cover = clamp(lineWidth * 0.5 + 0.5 - off, 0.0, 1.0);
    float period = dashes[i].x + dashes[i].y;
    float share = 1.0;
    if (period > 0.0) {
      float at = mod(dot(onPlane, along) - row * dashes[i].z, period);
      float edge = min(at, dashes[i].x - at) / pixel + 0.5;
      cover *= clamp(edge, 0.0, 1.0);
      share = dashes[i].x / period;
    }
    float fine = clamp((spacing / pixel - 2.0) * 0.5, 0.0, 1.0);
    cover = mix(min(lineWidth * pixel / spacing, 1.0) * share, cover, fine);
    ink = max(ink, cover);
  }
  color = vec4(mix(baseColor, lineColor, ink), alpha);
})";

}  // namespace kervo::shader
