/** Shaders of the lens's blur: circles of all pixels, how far any of them reaches, and what each pixel gathers. */

/** Pixels of the side of a tile whose farthest circle is looked up. */
export const BLUR_TILE = 16;
/** Places that a pixel gathers from at most. */
const MOST_TAPS = 192;

/** Colour, and the radius of its circle in pixels: below 0 before the focus, above behind it. */
export const CIRCLES_FRAGMENT = /* glsl */ `
uniform sampler2D uColour;
uniform sampler2D uDepth;
uniform float uDepths; // log2 of 1 + the distance up to which depths are told apart
uniform float uScale;
uniform float uNearness; // 1 / focus
uniform float uMost;
out vec4 colour;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  float z = exp2(texelFetch(uDepth, at, 0).r * uDepths) - 1.0;
  colour = vec4(texelFetch(uColour, at, 0).rgb, clamp(uScale * (uNearness - 1.0 / max(z, 1e-3)), -uMost, uMost));
}
`;

/** The largest circle of a tile. */
export const REACH_FRAGMENT = /* glsl */ `
uniform sampler2D uCircles;
uniform vec2 uSize;
out vec4 colour;
void main() {
  ivec2 from = ivec2(gl_FragCoord.xy) * ${BLUR_TILE};
  ivec2 to = min(from + ${BLUR_TILE}, ivec2(uSize));
  float most = 0.0;
  for (int y = from.y; y < to.y; y++) for (int x = from.x; x < to.x; x++) most = max(most, abs(texelFetch(uCircles, ivec2(x, y), 0).a));
  colour = vec4(most, 0.0, 0.0, 1.0);
}
`;

/** The largest circle that reaches into a tile, from whichever. */
export const NEIGHBOURS_FRAGMENT = /* glsl */ `
uniform sampler2D uReach;
uniform float uMost;
out vec4 colour;
void main() {
  int around = int(ceil(uMost / ${BLUR_TILE}.0)) + 1;
  ivec2 tile = ivec2(gl_FragCoord.xy), last = textureSize(uReach, 0) - 1;
  float reach = 0.0;
  for (int y = -around; y <= around; y++) for (int x = -around; x <= around; x++) {
    ivec2 there = clamp(tile + ivec2(x, y), ivec2(0), last);
    float r = texelFetch(uReach, there, 0).r;
    vec2 gap = max(vec2(0.0), abs(vec2(there - tile)) - 1.0) * ${BLUR_TILE}.0;
    if (r > length(gap)) reach = max(reach, r);
  }
  colour = vec4(reach, 0.0, 0.0, 1.0);
}
`;

export const BLUR_FRAGMENT = /* glsl */ `
uniform sampler2D uCircles;
uniform sampler2D uNear;
uniform vec2 uSize;
out vec4 colour;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 own = texelFetch(uCircles, at, 0);
  float c = abs(own.a);
  float reach = max(c, texelFetch(uNear, at / ${BLUR_TILE}, 0).r);
  if (reach < 0.5) { colour = vec4(own.rgb, 1.0); return; }
  reach += 0.5;
  float taps = clamp(ceil(reach * reach * 1.6), 12.0, ${MOST_TAPS}.0);
  float area = reach * reach / taps; // of a tap, in parts of pi
  vec3 mine = vec3(0.0), over = vec3(0.0);
  float mineWeight = 0.0, overWeight = 0.0;
  for (float i = 0.0; i < ${MOST_TAPS}.0; i++) {
    if (i >= taps) break;
    float d = sqrt((i + 0.5) / taps) * reach;
    float turn = i * 2.39996323;
    ivec2 there = clamp(ivec2(floor(gl_FragCoord.xy + d * vec2(cos(turn), sin(turn)))), ivec2(0), ivec2(uSize) - 1);
    vec4 s = texelFetch(uCircles, there, 0);
    float r = abs(s.a);
    if (s.a < own.a - 1.0) {
      // Nearer: its circle lies over this pixel or does not.
      float weight = clamp(r - d + 0.5, 0.0, 1.0) * area / max(r * r, 0.25);
      over += s.rgb * weight;
      overWeight += weight;
      continue;
    }
    // Of what lies behind no more is seen than this pixel's own circle lets through.
    float mineReach = s.a > own.a + 1.0 && own.a > 0.0 ? min(r, c) : c;
    float weight = clamp(mineReach - d + 0.5, 0.0, 1.0);
    mine += s.rgb * weight;
    mineWeight += weight;
  }
  vec3 behind = mineWeight > 0.0 ? mine / mineWeight : own.rgb;
  vec3 before = overWeight > 0.0 ? over / overWeight : behind;
  colour = vec4(mix(behind, before, min(1.0, overWeight)), 1.0);
}
`;
