/** Shaders of the working view. Sky, cloud, fog, air and finish follow the same formulas as the tracer and `core`. */
import { LUMA } from "../../core/colour/linear.ts";

const LUMA_GLSL = `vec3(${LUMA.join(", ")})`;

import { COLOUR_FADES, PRINT_CURVE } from "../../core/finish/finish.ts";
import { MATERIAL_NUMBERS } from "../../core/scene/materialTable.ts";

import { LEAST_FACING } from "../../tracer/kernel/layout.ts";
import { SHEETS } from "./sheetShaders.ts";

/** Lamps that the working view lights by; the strongest as seen from the lens. */
export const LAMPS = 16;

/** Light from outside, lamps, fog and air; luminances are scaled by 2^−EV of the camera so that they fit half floats. */
export const LIGHT = /* glsl */ `
const float PI = 3.14159265;
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

/** Records of materials that stand side by side in their texture, and texels of each. */
export const MATERIALS_IN_ROW = 64;
const MATERIAL_TEXELS = MATERIAL_NUMBERS / 4;
/** In place of a material's number: each copy has one of its own. */
export const MATERIAL_BY_COPY = -1;

export const SURFACE_VERTEX = /* glsl */ `
#include <common>
#include <logdepthbuf_pars_vertex>
uniform sampler2D uMaterials; // records as core/scene/materialTable.ts has them
uniform int uMaterial;
in vec4 tint;
in vec3 under; // of what it was shaped from; none of most
out vec3 vAt;
out vec3 vNormal;
out vec3 vUnder;
out vec4 vTint;
flat out vec4 vSurface; // roughness, metal, translucency, coat
flat out vec2 vGlass; // 0 none, 1 a body, 2 a pane; index of refraction
flat out vec3 vGlow;
flat out ivec2 vLayers; // the first, counted from 1, 0 for none; how many
out vec3 vOwn; // in the piece's own metres
flat out vec3 vRight; // and their directions
flat out vec3 vUp;
flat out vec3 vTowards;

vec4 record(int number, int texel) {
  return texelFetch(uMaterials, ivec2((number % ${MATERIALS_IN_ROW}) * ${MATERIAL_TEXELS} + texel, number / ${MATERIALS_IN_ROW}), 0);
}

void main() {
  mat4 m = modelMatrix * instanceMatrix;
  bool own = uMaterial < 0;
  int number = own ? int(instanceColor.x + 0.5) : uMaterial;
  vec4 a = record(number, 0);
  vec4 b = record(number, 1);
  vec4 c = record(number, 2);
  vTint = vec4(tint.rgb * tint.rgb * a.rgb * (own ? vec3(1.0) : instanceColor), tint.a);
  vSurface = vec4(a.w, b.xyz);
  vGlass = c.xy;
  vGlow = record(number, 4).xyz;
  vLayers = ivec2(record(number, 3).yz + 0.5);
  vec3 size = vec3(length(m[0].xyz), length(m[1].xyz), length(m[2].xyz));
  vOwn = position * size;
  vRight = m[0].xyz / size.x;
  vUp = m[1].xyz / size.y;
  vTowards = m[2].xyz / size.z;
  vec4 at = m * vec4(position, 1.0);
  vAt = at.xyz;
  // Copies are turned and sized, never sheared: the inverse of such a matrix is its columns over their squared lengths.
  mat3 turns = mat3(m[0].xyz / (size.x * size.x), m[1].xyz / (size.y * size.y), m[2].xyz / (size.z * size.z));
  vNormal = turns * normal;
  vUnder = turns * (dot(under, under) > 0.0 ? under : normal);
  gl_Position = projectionMatrix * viewMatrix * at;
  #include <logdepthbuf_vertex>
}
`;

/** What bodies that are cut out keep the sun from. */
export const CUT_SHADOW_FRAGMENT = /* glsl */ `
#include <common>
#include <logdepthbuf_pars_fragment>
${SHEETS}
flat in ivec2 vLayers;
in vec3 vOwn;
out vec4 colour;

void main() {
  #include <logdepthbuf_fragment>
  if (vLayers.x > 0 && thereOf(vLayers.x, vOwn, 0.0) < 0.5) discard;
  colour = vec4(0.0);
}
`;

export const SURFACE_FRAGMENT = /* glsl */ `
#include <common>
#include <logdepthbuf_pars_fragment>
${LIGHT.replace("const float PI = 3.14159265;", "")}
uniform float uScale; // from cd/m² to the picture's values
uniform vec3 uEye;
uniform float uClip;
uniform mat4 uShadowMatrix;
uniform sampler2D uShadow;
uniform float uShadowOn;
uniform int uLook; // 0 surfaces, 1 clay, 2 silhouette, 3 white, 4 raking, 5 colours alone
uniform vec3 uRake; // where the raking light comes from
#ifdef LAID
${SHEETS}
#endif
in vec3 vAt;
in vec3 vNormal;
in vec3 vUnder;
in vec4 vTint;
flat in vec4 vSurface;
flat in vec2 vGlass;
flat in vec3 vGlow;
flat in ivec2 vLayers;
in vec3 vOwn;
flat in vec3 vRight;
flat in vec3 vUp;
flat in vec3 vTowards;
out vec4 colour;

float shadow(vec3 at) {
  if (uShadowOn < 0.5) return 1.0;
  vec3 s = (uShadowMatrix * vec4(at, 1.0)).xyz * 0.5 + 0.5;
  if (any(lessThan(s, vec3(0.0))) || any(greaterThan(s, vec3(1.0)))) return 1.0;
  float lit = 0.0;
  vec2 texel = 1.0 / vec2(textureSize(uShadow, 0));
  for (int j = 0; j < 2; j++) for (int i = 0; i < 2; i++)
    lit += step(s.z - 0.0009, texture(uShadow, s.xy + (vec2(i, j) - 0.5) * texel).r);
  return lit * 0.25;
}

void main() {
  #include <logdepthbuf_fragment>
  if (vAt.y < uClip) discard;
  vec3 d = normalize(vAt - uEye);
  vec3 n = normalize(vNormal);
  bool behind = dot(n, d) > 0.0;
  if (behind) n = -n;
  vec3 base = vTint.rgb;
  float rough = mix(vSurface.x, min(vSurface.x, 0.22), vTint.a);
  float metal = vSurface.y;
  float thin = vSurface.z;
#ifdef LAID
  vec3 face = normalize(cross(dFdx(vAt), dFdy(vAt)));
  if (dot(face, d) > 0.0) face = -face;
  if (vLayers.x > 0) {
    if (thereOf(vLayers.x, vOwn, uPixelAngle * length(vAt - uEye)) < 0.5) discard;
    // As the tracer has it: a normal that turns away from the eye although the face is seen is that of the face.
    n = normalize(vNormal);
    if (dot(n, face) < 0.0) n = -n;
    if (dot(n, d) >= 0.0) n = face;
    vec3 lies = normalize(vUnder);
    if (!gl_FrontFacing) lies = -lies;
    if (vNormal == vUnder) lies = n;
    float across = -dot(face, d);
    float footprint = uPixelAngle * length(vAt - uEye) / sqrt(max(0.02, across));
    laySheets(vLayers.x, vLayers.y, vAt, vOwn, mat3(vRight, vUp, vTowards), footprint, base, rough, metal, lies, n);
    // A normal that turns away from the eye is turned back to it until it is seen.
    n = normalize(n - max(0.0, dot(n, d) - (${LEAST_FACING.toFixed(3)})) * d);
  }
#endif
  if (uLook == 1 || uLook == 3) { base = vec3(uLook == 1 ? 0.4 : 0.8); rough = 0.9; metal = 0.0; thin = 0.0; }
  bool glass = vGlass.x > 0.5 && uLook == 0;
  float lit = shadow(vAt + n * 0.03 + uSunDir * 0.02);
  float c = dot(n, uSunDir);
  vec3 up = irradiance(n);
  vec3 sun = uSunLux * lit * sunLeft(vAt.y);
  vec3 r = reflect(d, n);
  float m = 1.0 - max(0.0, -dot(d, n));
  float f5 = m * m * m * m * m;
  float grazing = 1.0 - abs(c);
  float g5 = grazing * grazing * grazing * grazing * grazing;
  vec3 diffuse = base * (1.0 - metal) * (up + sun * (1.0 - 0.7 * g5) * (max(c, 0.0) * (1.0 - thin) + max(-c, 0.0) * thin)) * (1.0 - 0.7 * f5) / PI;
  vec3 f0 = mix(vec3(0.04), base, metal);
  if (glass) { float e = (vGlass.y - 1.0) / (vGlass.y + 1.0); f0 = vec3(e * e); }
  vec3 F = f0 + (max(vec3(1.0 - rough), f0) - f0) * f5;
  vec3 env = mix(skyIn(normalize(vec3(r.x, max(r.y, 0.01), r.z))), irradiance(r) / PI, clamp(rough * 1.4, 0.0, 1.0));
  vec3 h = normalize(uSunDir - d);
  float a2 = rough * rough * rough * rough;
  float nh = max(dot(n, h), 0.0);
  float D = a2 / (PI * pow(nh * nh * (a2 - 1.0) + 1.0, 2.0));
  vec3 glint = c > 0.0 ? sun * F * D * 0.25 / max(0.15, -dot(d, n)) * min(1.0, c * 6.0) : vec3(0.0);
  vec3 L = diffuse * (1.0 - 0.04) + F * env * mix(1.0, lit * 0.5 + 0.5, 0.4) + min(glint, vec3(40.0));
  if (glass) L = F * env + glint * 0.25;
  for (int i = 0; i < uLamps; i++) {
    vec3 w = uLampAt[i].xyz - vAt;
    float d2 = max(dot(w, w), uLampAt[i].w * uLampAt[i].w);
    w *= inversesqrt(d2);
    vec3 E = uLampRgb[i].rgb * (lampShape(i, w) / d2);
    float cw = dot(n, w);
    if (!glass) L += base * (1.0 - metal) * E * (max(cw, 0.0) * (1.0 - thin) + max(-cw, 0.0) * thin) / PI;
    float wide = clamp(rough * rough + uLampAt[i].w * inversesqrt(d2) * 0.5, 0.002, 1.0);
    float nw = max(dot(n, normalize(w - d)), 0.0);
    float Dw = wide * wide / (PI * pow(nw * nw * (wide * wide - 1.0) + 1.0, 2.0));
    if (cw > 0.0) L += min(E * F * Dw * 0.25 * min(1.0, cw * 4.0), vec3(40.0));
  }
  if (vSurface.w > 0.0 && uLook == 0) {
    float Fc = vSurface.w * (0.04 + 0.96 * f5);
    L = L * (1.0 - Fc) + Fc * skyIn(normalize(vec3(r.x, max(r.y, 0.01), r.z)));
  }
  if (uLook == 0 && !behind) L += min(vGlow * uScale, vec3(60000.0));
  float a = 1.0;
  if (glass && vGlass.x > 1.5) {
    float keep = dot(base, ${LUMA_GLSL}) * (1.0 - F.g) * (vSurface.x < 0.05 ? 1.0 : 0.5);
    a = 1.0 - keep;
    if (vSurface.x >= 0.05) L += base * (irradiance(-n) + irradiance(n)) * 0.25 / PI;
  } else if (glass) {
    vec3 bent = refract(d, n, 1.0 / vGlass.y);
    L += (1.0 - F) * base * skyIn(normalize(vec3(bent.x, max(bent.y, 0.01), bent.z)));
  }
  if (uLook == 0) L = drowned(L, vAt, uEye, d);
  L = a < 1.0 ? L : through(L, vAt, uEye);
  if (uLook == 2) { L = vec3(0.0); a = 1.0; }
  // Nothing but the light that grazes: what is turned to it is bright, what is turned away dark.
  // Base colours alone, without any light.
  if (uLook == 5) { L = base; a = 1.0; }
  if (uLook == 4) { L = vec3(0.02 + 0.7 * max(dot(n, uRake), 0.0)); a = 1.0; }
  colour = vec4(L, a);
}
`;

export const SKY_VERTEX = /* glsl */ `
out vec2 vAt;
void main() { vAt = position.xy; gl_Position = vec4(position.xy, 1.0, 1.0); }
`;

export const SKY_FRAGMENT = /* glsl */ `
${LIGHT}
uniform mat3 uAxes; // right·tan, up·tan, forward
uniform float uSunCos;
uniform float uEyeY;
uniform float uMirrored;
uniform int uLook;
in vec2 vAt;
out vec4 colour;
void main() {
  vec3 d = normalize(uAxes * vec3(vAt, 1.0));
  vec3 L = skyIn(d);
  if (dot(d, uSunDir) > uSunCos) L += uSunLux / (2.0 * PI * (1.0 - uSunCos));
  // Below its horizon the sea has no ground: nothing comes out of the deep. A pixel of it is left to the sea's own edge.
  float over = uEyeY + uSunk - uSea.z;
  if (uSea.w > 0.5 && uLook == 0 && uMirrored < 0.5 && over > 0.0 && dot(d, uUp) < -2.0 * sqrt(uPlanet * over) - 1.5 * fwidth(d.y)) L = vec3(0.0);
  if (uSkyClear < 0.5 && uFog.x > 0.0) {
    float T = uFog.z == 0.0 || (uPlanet == 0.0 && d.y <= 0.0) ? 0.0
      : uPlanet == 0.0 ? exp(-uFog.x * (uFog.z - column(uEyeY - uFog.y)) / max(d.y, 1e-4))
      : exp(-fogDepth(uEyeY, d, 3e6));
    L = L * T + fogLight(d, uEyeY) * (1.0 - T);
  }
  if (uFog.x > 0.0) L += lampGlow(vec3(0.0, uEyeY, 0.0), d, 400.0);
  if (uLook == 2) L = vec3(1.1);
  if (uLook == 4) L = vec3(0.012);
  if (uLook == 5) L = vec3(0.18);
  colour = vec4(min(L, vec3(30000.0)), 1.0);
}
`;

export const WATER_VERTEX = /* glsl */ `
#include <common>
#include <logdepthbuf_pars_vertex>
out vec3 vAt;
out vec4 vClip;
void main() {
  vec4 at = modelMatrix * vec4(position, 1.0);
  vAt = at.xyz;
  gl_Position = projectionMatrix * viewMatrix * at;
  vClip = gl_Position;
  #include <logdepthbuf_vertex>
}
`;

export const WAVES = 32;

export const WATER_FRAGMENT = /* glsl */ `
#include <common>
#include <logdepthbuf_pars_fragment>
${LIGHT.replace("const float PI = 3.14159265;", "")}
uniform vec3 uEye;
uniform vec2 uWorld;
uniform sampler2D uMirror;
uniform vec4 uWave[${WAVES}]; // kx, kz, phase, slope
uniform float uLength[${WAVES}];
uniform int uWaves;
uniform float uPixel;
uniform float uOpen; // 1 for waves that stand up: they mirror the sky, and hide what would turn away
uniform int uLook;
in vec3 vAt;
in vec4 vClip;
out vec4 colour;

uint mix32(uint x) { x = (x ^ (x >> 16)) * 0x7feb352du; x = (x ^ (x >> 15)) * 0x846ca68bu; return x ^ (x >> 16); }
float corner(ivec2 i) { return float(mix32(uint(i.x) ^ mix32(uint(i.y) + 0x51ed270bu)) >> 8) * 5.960464477539063e-8; }
float valueNoise(vec2 p) {
  vec2 f = fract(p); f = f * f * (3.0 - 2.0 * f);
  ivec2 i = ivec2(floor(p));
  return mix(mix(corner(i), corner(i + ivec2(1, 0)), f.x), mix(corner(i + ivec2(0, 1)), corner(i + ivec2(1, 1)), f.x), f.y);
}

void main() {
  #include <logdepthbuf_fragment>
  vec3 way = vAt - uEye;
  float t = length(way);
  vec3 d = way / t;
  vec2 lean = 2.0 * uPlanet * (vAt.xz - uSea.xy);
  float across = dot(d, normalize(vec3(lean.x, 1.0, lean.y)));
  // Beyond its horizon the sea turns its far side.
  if (across > 0.0 && uEye.y > seaOver(uEye.xz)) discard;
  float width = t * uPixel / max(0.02, abs(across));
  vec2 w = vAt.xz + uWorld;
  float n = 0.65 * valueNoise(w / vec2(34.0, 9.0)) + 0.35 * valueNoise(w / vec2(8.0, 2.6) + vec2(31.7, 0.0));
  float k = clamp((n - 0.38) / 0.3, 0.0, 1.0);
  float amount = width > 40.0 ? 0.55 : 0.15 + 0.85 * k * k * (3.0 - 2.0 * k);
  vec2 slope = vec2(0.0);
  float rest = 0.000016;
  for (int i = 0; i < uWaves; i++) {
    float s = uWave[i].w * (uLength[i] > 1.0 ? 1.0 : amount);
    float ratio = 2.0 * width / uLength[i];
    float m = ratio >= 1.0 ? 0.0 : ratio <= 0.25 ? 1.0 : (1.0 - ratio) / 0.75;
    slope += s * m * cos(dot(uWave[i].xy, vAt.xz) + uWave[i].z) * uWave[i].xy * uLength[i] * 0.15915494;
    rest += 0.5 * s * s * (1.0 - m * m);
  }
  vec3 normal = normalize(vec3(lean.x - slope.x, 1.0, lean.y - slope.y));
  float c = max(uOpen > 0.5 ? 0.12 : 1e-3, -dot(d, normal));
  // What is seen of rough water is turned to the eye: by as much as the mean over all that are seen of GGX (Heitz 2018), within 3 %.
  float turned = min(1.0, sqrt(c * c + 0.6 * pow(rest, 0.675)));
  float ct = bentIn(turned);
  float rs = (turned - 1.33 * ct) / (turned + 1.33 * ct);
  float rp = (1.33 * turned - ct) / (1.33 * turned + ct);
  float F = 0.5 * (rs * rs + rp * rp);
  vec2 uv = vClip.xy / vClip.w * 0.5 + 0.5;
  vec3 shift = (viewMatrix * vec4(normal.x, 0.0, normal.z, 0.0)).xyz;
  vec2 moved = uv + vec2(shift.x, -shift.z * 0.6) * vec2(0.55, 0.9);
  vec3 mirror = texture(uMirror, clamp(moved, 0.002, 0.998)).rgb;
  if (rest > 0.00004) {
    float spread = min(0.02, sqrt(rest) * 0.35);
    mirror = 0.4 * mirror + 0.3 * texture(uMirror, clamp(moved + vec2(0.0, spread), 0.002, 0.998)).rgb + 0.3 * texture(uMirror, clamp(moved - vec2(0.0, spread), 0.002, 0.998)).rgb;
  }
  if (uOpen > 0.5) {
    vec3 r = reflect(d, normal);
    mirror = skyIn(normalize(vec3(r.x, max(abs(r.y), 2.0 * turned - c), r.z)));
  }
  vec3 h = normalize(uSunDir - d);
  float nh = max(dot(normal, h), 0.0);
  float D = rest / (PI * pow(nh * nh * (rest - 1.0) + 1.0, 2.0));
  vec3 L = mirror * F + min(uSunLux * sunLeft(vAt.y) * F * D * 0.25 / c, vec3(60.0));
  float keep = (1.0 - F) * 0.92;
  vec3 seen = through(L / max(F, 0.02), vAt, uEye) * max(F, 0.02);
  if (uLook == 2) { seen = vec3(1.1) * F; }
  if (uLook == 4) { seen = vec3(0.03); keep = 0.0; }
  colour = vec4(seen, 1.0 - keep);
}
`;

const { a, d, b, c, white } = PRINT_CURVE;

export const FINISH_FRAGMENT = /* glsl */ `
uniform sampler2D uPicture;
uniform sampler2D uView; // the drawn view, of which a young proof leaves a share
uniform float uShare;
uniform float uViewFactor;
uniform float uFactor;
uniform float uContrast;
uniform float uVignette;
uniform int uCurve; // 0 print, 1 straight
uniform float uGrey;
uniform float uSteps; // values told apart, 0 for all
uniform float uMirrored;
uniform float uPlain; // 1 for a layer that is shown as it is, without exposure and curve
uniform vec4 uPart; // part of the frame that the picture covers, from the top-left corner
uniform float uTopDown; // 1 for rows that start at the top
uniform vec2 uSize;
uniform vec2 uBleed; // the canvas as multiples of the frame
uniform float uBend; // of the division model, for half of the frame's diagonal
uniform float uFringe; // share by which red is drawn larger and blue smaller
uniform float uFalloff;
uniform vec3 uTint;
uniform vec2 uTan; // tangents of the frame's half angles, and of its middle beside the axis
uniform vec2 uShift;
uniform vec2 uViewOver; // the drawn view as multiples of the frame
uniform vec3 uMat;
in vec2 vAt;
out vec4 colour;

float tone(float x) {
  if (x <= 0.0) return 0.0;
  x = uContrast == 1.0 ? x : 0.18 * pow(x / 0.18, uContrast);
  if (uCurve == 1) return min(1.0, x);
  if (x >= ${white.toFixed(6)}) return 1.0;
  return min(1.0, pow(x, ${a.toFixed(6)}) / (pow(x, ${(a * d).toFixed(6)}) * ${b.toFixed(8)} + ${c.toFixed(8)}));
}
vec3 fade(vec3 x) {
  if (uCurve == 1) return x;
  float r = max(x.r, max(x.g, x.b)) / ${COLOUR_FADES.toFixed(3)};
  return mix(vec3(dot(x, ${LUMA_GLSL})), x, 1.0 / (1.0 + r * sqrt(r)));
}
float srgb(float x) { return x <= 0.0031308 ? 12.92 * x : 1.055 * pow(x, 1.0 / 2.4) - 0.055; }

vec2 inPart(vec2 from) { return (vec2(from.x, 1.0 - from.y) - uPart.xy) / uPart.zw; }
vec2 inView(vec2 from) { return (from - 0.5) / uViewOver + 0.5; }
vec3 pictureAt(vec2 r, vec2 g, vec2 b) {
  if (uFringe == 0.0) return texture(uPicture, g).rgb;
  return vec3(texture(uPicture, r).r, texture(uPicture, g).g, texture(uPicture, b).b);
}
vec3 viewAt(vec2 r, vec2 g, vec2 b) {
  if (uFringe == 0.0) return texture(uView, g).rgb;
  return vec3(texture(uView, r).r, texture(uView, g).g, texture(uView, b).b);
}

void main() {
  vec2 uv = vAt * 0.5 + 0.5;
  if (uMirrored > 0.5) uv.x = 1.0 - uv.x;
  vec2 at = (uv - 0.5) * uBleed + 0.5;
  bool inside = at == clamp(at, 0.0, 1.0);
  vec2 away = (at - 0.5) * uSize;
  float far = dot(away, away) / (0.25 * dot(uSize, uSize));
  float v = max(0.2, 1.0 - uVignette * 0.75 * far);
  // Where in the straight picture the light of red, green and blue comes from.
  vec2 bent = (at - 0.5) / max(0.2, 1.0 + uBend * far);
  vec2 fr = bent / (1.0 + uFringe) + 0.5, fg = bent + 0.5, fb = bent / (1.0 - uFringe) + 0.5;
  vec2 film = uShift + 2.0 * bent * uTan;
  float axis = 1.0 + dot(film, film);
  v *= 1.0 - uFalloff * (1.0 - 1.0 / (axis * axis));
  vec2 down = inPart(fg);
  bool covered = inside && down == clamp(down, 0.0, 1.0);
  vec3 x = (uTopDown > 0.5 ? pictureAt(inPart(fr), down, inPart(fb)) : pictureAt(inView(fr), inView(fg), inView(fb))) * uFactor * v;
  float share = covered ? uShare : 0.0;
  if (uTopDown > 0.5 && share < 1.0) x = mix(viewAt(inView(fr), inView(fg), inView(fb)) * uViewFactor * v, x, share);
  x *= uTint;
  x = fade(max(x, 0.0));
  vec3 y = vec3(srgb(tone(x.r)), srgb(tone(x.g)), srgb(tone(x.b)));
  if (uPlain > 0.5 && covered) { vec3 p = texture(uPicture, down).rgb; y = vec3(srgb(p.r), srgb(p.g), srgb(p.b)); }
  if (uGrey > 0.5) { float g = dot(x, ${LUMA_GLSL}); y = vec3(srgb(tone(g))); }
  if (uSteps > 0.5 && inside) {
    // By lightness as the eye has it (CIE L*), so that the steps look alike.
    float g = tone(dot(x, ${LUMA_GLSL}));
    float l = g > 0.008856 ? 1.16 * pow(g, 1.0 / 3.0) - 0.16 : 9.033 * g;
    float s = (min(floor(l * uSteps), uSteps - 1.0) + 0.5) / uSteps;
    y = vec3(srgb(s > 0.08 ? pow((s + 0.16) / 1.16, 3.0) : s / 9.033));
  }
  if (!inside) y = mix(y, uMat, 0.62);
  colour = vec4(y, 1.0);
}
`;
