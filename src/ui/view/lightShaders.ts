/**
 * Light from outside, lamps, fog and air as the working view draws them, by the same formulas as the tracer and `core`; luminances are
 * scaled by 2^−EV of the camera so that they fit half floats.
 */
import { LUMA } from "../../core/colour/linear.ts";

/** Weights of luminance. */
export const LUMA_GLSL = `vec3(${LUMA.join(", ")})`;

/** Lamps that the working view lights by; the strongest as seen from the lens. */
export const LAMPS = 16;

export const LIGHT = /* glsl */ `
#include <common>
uniform vec3 uSunDir;
uniform vec3 uSkyDir; // of what lights the sky
uniform vec3 uSunLux;
uniform vec3 uCloudSun;
uniform vec3 uCloudAmbient;
uniform vec3 uAir;
uniform vec4 uFog; // sigma0, y0 relative to the lens, scale height (0: even), g
uniform vec3 uFogAlbedo;
uniform float uPlanet; // half of one over its radius, 0 where the world is flat
uniform vec3 uUp; // at the eye, over the planet
uniform float uSunk; // how far the planet has sunk there
uniform vec4 uSea; // where the planet is level, the sea's level there, 1 where there is a sea
uniform vec3 uMurk; // what a metre of its water takes
uniform float uSkyClear;
uniform sampler2D uSky;
uniform sampler2D uCloud;
uniform float uAroundOn; // a sky picture hangs in place of the sky
uniform sampler2D uAround;
uniform sampler2D uRing;
uniform vec3 uAroundIs; // turn, gain, saturation
uniform vec3 uSh[9];
uniform int uLamps;
uniform vec4 uLampAt[${LAMPS}]; // relative to the lens, radius
uniform vec4 uLampRgb[${LAMPS}]; // towards its brightest side; 0 all round, 1 a face, 2 a spot
uniform vec4 uLampAxis[${LAMPS}]; // axis, cosine where a spot ends
uniform float uLampInner[${LAMPS}];

float lobe(float g, float c) {
  float d = 1.0 + g * g - 2.0 * g * c;
  return (1.0 - g * g) / (4.0 * PI * d * sqrt(d));
}

float acrossOf(vec3 d) { return atan(d.x, -d.z) / (2.0 * PI) + 0.5 - uAroundIs.x; }
vec3 hung(vec3 c) { return max(vec3(0.0), mix(vec3(dot(c, ${LUMA_GLSL})), c, uAroundIs.z)) * uAroundIs.y; }

vec3 skyIn(vec3 d) {
  if (uAroundOn > 0.5) return hung(textureLod(uAround, vec2(acrossOf(d), acos(clamp(d.y, -1.0, 1.0)) / PI), 0.0).rgb);
  float v = sqrt(max(0.0, asin(clamp(d.y, -1.0, 1.0)) / (0.5 * PI)));
  float turn = abs(atan(d.x * uSkyDir.z - d.z * uSkyDir.x, d.x * uSkyDir.x + d.z * uSkyDir.z)) / PI;
  vec3 sky = texture(uSky, (vec2(turn, v) * vec2(63.0, 95.0) + 0.5) / vec2(64.0, 96.0)).rgb;
  if (d.y > 0.005) {
    vec2 at = d.xz * (7.0 / d.y / 48.0);
    float depth = texture(uCloud, at + 0.5 / 512.0).r * min(6.0, 1.0 / d.y) * exp(-7.0 / d.y / 120.0);
    float opacity = 1.0 - exp(-depth);
    float c = dot(d, uSkyDir);
    sky = mix(sky, uCloudSun * (0.45 * lobe(0.82, c) + 0.55 * lobe(0.12, c)) + uCloudAmbient, opacity);
  }
  return sky;
}

vec3 irradiance(vec3 n) {
  return max(vec3(0.0), uSh[0] * 0.886227
    + 2.0 * 0.511664 * (uSh[1] * n.y + uSh[2] * n.z + uSh[3] * n.x)
    + 2.0 * 0.429043 * (uSh[4] * n.x * n.y + uSh[5] * n.y * n.z + uSh[7] * n.x * n.z)
    + uSh[6] * (0.743125 * n.z * n.z - 0.247708) + 0.429043 * uSh[8] * (n.x * n.x - n.y * n.y));
}

float column(float h) { return h <= 0.0 ? h : uFog.z * (1.0 - exp(-h / uFog.z)); }

float evenDepth(float h, float rise, float t) {
  if (abs(rise) < 0.02 * uFog.z) { float m = h + 0.5 * rise; return t * (m <= 0.0 ? 1.0 : exp(-m / uFog.z)); }
  return t * (column(h + rise) - column(h)) / rise;
}

/** Scale heights over its base beyond which there is no fog, and what a stretch's middle may lie off, as in the tracer. */
const float FOG_TOP = 28.0;
const float FOG_BENDS = 0.04;
const int FOG_WALK = 28;

/** Fog from the eye, at a height over the scene's origin; on a planet the way is walked in stretches that rise evenly. */
float fogDepth(float eyeY, vec3 d, float t) {
  if (uFog.x == 0.0) return 0.0;
  if (uFog.z == 0.0) return uFog.x * t;
  float h = eyeY + uSunk - uFog.y;
  float dy = dot(d, uUp);
  if (uPlanet == 0.0) return uFog.x * evenDepth(h, dy * t, t);
  float c = uPlanet * (1.0 - dy * dy);
  float high = FOG_TOP * uFog.z;
  float from = 0.0;
  // Where the way h + dy t + c t² passes the fog's top.
  float k = dy * dy - 4.0 * c * (h - high);
  if (h > high) {
    if (dy >= 0.0 || k <= 0.0) return 0.0;
    from = 2.0 * (h - high) / (sqrt(k) - dy);
    if (c > 0.0) t = min(t, (sqrt(k) - dy) / (2.0 * c));
    if (from >= t) return 0.0;
  } else t = min(t, dy > 0.0 ? 2.0 * (high - h) / (sqrt(k) + dy) : c > 0.0 ? (sqrt(k) - dy) / (2.0 * c) : t);
  float stretch = sqrt(4.0 * FOG_BENDS * uFog.z / uPlanet);
  float sum = 0.0;
  float h0 = h + from * (dy + c * from);
  for (int i = 0; i < FOG_WALK; i++) {
    if (from >= t) break;
    float next = min(from + stretch, t);
    float h1 = h + next * (dy + c * next);
    float low = c * (next - from) * (next - from) / 6.0;
    sum += evenDepth(h0 - low, h1 - h0, next - from);
    from = next;
    h0 = h1;
  }
  return uFog.x * (sum + max(0.0, t - from));
}

float seaOver(vec2 at) { vec2 away = at - uSea.xy; return uSea.z - uPlanet * dot(away, away); }

/** Cosine in water of a ray with a cosine over it. */
float bentIn(float c) { return sqrt(1.0 - (1.0 - c * c) / 1.7689); }

/** What water leaves of the light of a place under the sea, seen from over it along d: of its way down and of its way up. */
vec3 drowned(vec3 light, vec3 at, vec3 eye, vec3 d) {
  if (uSea.w < 0.5 || eye.y < seaOver(eye.xz)) return light;
  float deep = seaOver(at.xz) - at.y;
  return deep <= 0.0 ? light : light * exp(-uMurk * deep * (1.0 / bentIn(d.y) + 1.0 / bentIn(max(uSunDir.y, 0.0))));
}

/** Share of the sun that fog leaves at a height. */
float sunLeft(float y) {
  if (uFog.x == 0.0 || uFog.z == 0.0 || uSkyClear > 0.5) return 1.0;
  return exp(-uFog.x * (uFog.z - column(y - uFog.y)) / max(uSunDir.y, 0.02));
}

/** Light that fog sends along d: sun and sky once, and a share for what scatters on. */
vec3 fogLight(vec3 d, float y) {
  float through = sunLeft(y);
  vec3 once = uSunLux * lobe(uFog.w, dot(d, uSunDir)) * through + uSh[0] * 0.282095;
  vec3 again = uSunLux * (1.0 - through) * 0.6 * mix(1.0 / (4.0 * PI), lobe(uFog.w * 0.6, dot(d, uSunDir)), 0.6);
  return uFogAlbedo * (once + again);
}

/** Share of a lamp's light that leaves towards a place; w points from there to the lamp. */
float lampShape(int i, vec3 w) {
  float kind = uLampRgb[i].w;
  if (kind < 0.5) return 1.0;
  float c = -dot(w, uLampAxis[i].xyz);
  if (kind < 1.5) return max(c, 0.0);
  return smoothstep(uLampAxis[i].w, uLampInner[i], c);
}

/** Light of lamps that fog sends along d over a distance t: once scattered, not dimmed on its way (Sun et al. 2005). */
vec3 lampGlow(vec3 eye, vec3 d, float t) {
  vec3 sum = vec3(0.0);
  for (int i = 0; i < uLamps; i++) {
    vec3 v = uLampAt[i].xyz - eye;
    float along = dot(v, d);
    float near = max(length(v - d * along), max(0.02, uLampAt[i].w));
    float h = eye.y + d.y * clamp(along, 0.0, t) - uFog.y;
    float thick = uFog.x * (uFog.z == 0.0 || h <= 0.0 ? 1.0 : exp(-h / uFog.z));
    vec3 at = eye + d * clamp(along, 0.0, t);
    float shape = lampShape(i, normalize(uLampAt[i].xyz - at + 1e-5));
    sum += uLampRgb[i].rgb * (thick * shape * (atan((t - along) / near) + atan(along / near)) / near);
  }
  return sum * uFogAlbedo / (4.0 * PI);
}

/** Fog and air between the lens and a point; v is its place relative to the lens. */
vec3 through(vec3 colour, vec3 v, vec3 eye) {
  vec3 way = v - eye;
  float t = length(way);
  vec3 d = way / t;
  float T = exp(-fogDepth(eye.y, d, t));
  vec3 f = T < 1.0 ? fogLight(d, eye.y + d.y * t * 0.4) * (1.0 - T) + lampGlow(eye, d, t) : vec3(0.0);
  vec3 A = exp(-uAir * t);
  vec3 flat_ = normalize(vec3(d.x, 0.0, d.z) + 1e-6);
  vec3 haze = uAroundOn > 0.5 ? hung(textureLod(uRing, vec2(acrossOf(d), 0.5), 0.0).rgb) : skyIn(normalize(vec3(flat_.x, 0.012, flat_.z)));
  return (colour * A + haze * (1.0 - A)) * T + f;
}
`;
