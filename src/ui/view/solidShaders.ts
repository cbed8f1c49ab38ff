/**
 * Shaders of what stands in a scene. Bodies that nothing is seen through are drawn twice: first what is seen in each pixel is written
 * down, of all that lies there (a visibility buffer, after Burns and Hunt 2013), then each pixel's surface is read and lit once. Many of a
 * scene's triangles are smaller than a pixel, and many lie behind others: to light them all took nine times as long. Panes are lit as
 * they are drawn, over it.
 */
import { MATERIAL_NUMBERS } from "../../core/scene/materialTable.ts";
import { LEAST_FACING } from "../../tracer/kernel/layout.ts";
import { LIGHT, LUMA_GLSL } from "./lightShaders.ts";
import { SHEETS } from "./sheetShaders.ts";

/** Records of materials that stand side by side in their texture, and texels of each. */
export const MATERIALS_IN_ROW = 64;
const MATERIAL_TEXELS = MATERIAL_NUMBERS / 4;
/** The same of copies: three rows of a matrix, and the material's number with a tint. */
export const COPIES_IN_ROW = 256;
export const COPY_TEXELS = 4;

/** Where a copy lies and what it is made of. */
const COPIES = /* glsl */ `
uniform highp sampler2D uMaterials; // records as core/scene/materialTable.ts has them
uniform highp sampler2D uPieces; // copies, see COPY_TEXELS
uniform highp sampler2D uPlants;

struct Copy {
  mat3 axes; // its directions, of length 1
  vec3 at; // relative to the scene's origin
  int material;
  vec3 tint;
};

vec4 copyTexel(int number, bool plant, int texel) {
  ivec2 at = ivec2((number % ${COPIES_IN_ROW}) * ${COPY_TEXELS} + texel, number / ${COPIES_IN_ROW});
  return plant ? texelFetch(uPlants, at, 0) : texelFetch(uPieces, at, 0);
}

Copy copyOf(int number, bool plant) {
  vec4 x = copyTexel(number, plant, 0), y = copyTexel(number, plant, 1), z = copyTexel(number, plant, 2);
  vec4 made = copyTexel(number, plant, 3);
  mat3 axes = mat3(normalize(vec3(x.x, y.x, z.x)), normalize(vec3(x.y, y.y, z.y)), normalize(vec3(x.z, y.z, z.z)));
  return Copy(axes, vec3(x.w, y.w, z.w), int(made.x + 0.5), made.yzw);
}

vec4 record(int number, int texel) {
  return texelFetch(uMaterials, ivec2((number % ${MATERIALS_IN_ROW}) * ${MATERIAL_TEXELS} + texel, number / ${MATERIALS_IN_ROW}), 0);
}

/** The first of a material's layers, counted from 1, 0 for none; how many. */
ivec2 layersOf(int material) { return ivec2(record(material, 3).yz + 0.5); }

/** A place in the copy's own metres. */
vec3 ownOf(Copy copy, vec3 at) { return (at - copy.at) * copy.axes; }

/** What is seen of a body in a pixel. */
struct Seen {
  int copy;
  bool plant;
  bool behind; // it shows its far side
  vec3 at; // relative to the scene's origin
  vec3 n; // turned to the eye
  vec3 lies; // by which surfaces lie on it: of what it was shaped from
  float across; // cosine of its face
  vec4 tint;
};
`;

export const SOLID_VERTEX = /* glsl */ `
#include <common>
#include <logdepthbuf_pars_vertex>
in vec4 tint;
in vec3 under; // of what it was shaped from; none of most
out vec3 vAt;
out vec3 vNormal;
out vec3 vUnder;
out vec4 vTint;
flat out vec3 vCopy; // number, 1 for a plant, 1 where surfaces lie on it

void main() {
  mat4 m = modelMatrix * instanceMatrix;
  vTint = vec4(tint.rgb * tint.rgb, tint.a);
  vCopy = instanceColor;
  vec4 at = m * vec4(position, 1.0);
  vAt = at.xyz;
  // Copies are turned and sized, never sheared: the inverse of such a matrix is its columns over their squared lengths.
  mat3 turns = mat3(m[0].xyz / dot(m[0].xyz, m[0].xyz), m[1].xyz / dot(m[1].xyz, m[1].xyz), m[2].xyz / dot(m[2].xyz, m[2].xyz));
  vNormal = turns * normal;
  vUnder = dot(under, under) > 0.0 ? turns * under : vNormal;
  gl_Position = projectionMatrix * viewMatrix * at;
  #include <logdepthbuf_vertex>
}
`;

/** What a fragment of a body is, as its vertices have it. */
const SEEN_HERE = /* glsl */ `
in vec3 vAt;
in vec3 vNormal;
in vec3 vUnder;
in vec4 vTint;
flat in vec3 vCopy;

Seen seenHere(vec3 eye) {
  vec3 d = normalize(vAt - eye);
  vec3 n = normalize(vNormal);
  bool behind = dot(n, d) > 0.0;
  vec3 lies = n;
  vec3 face = normalize(cross(dFdx(vAt), dFdy(vAt)));
  if (dot(face, d) > 0.0) face = -face;
  if (vCopy.z > 0.5) {
    // As the tracer has it: a normal that turns away from the eye although the face is seen is that of the face.
    if (dot(n, face) < 0.0) n = -n;
    if (dot(n, d) >= 0.0) n = face;
    lies = normalize(vUnder);
    if (!gl_FrontFacing) lies = -lies;
    if (vNormal == vUnder) lies = n;
  } else if (behind) n = -n;
  return Seen(int(vCopy.x + 0.5), vCopy.y > 0.5, behind, vAt, n, lies, max(0.0, -dot(face, d)), vTint);
}
`;

/** A direction in two numbers from −1 to 1, on an octahedron laid flat (Meyer et al. 2010). */
const FOLDED = /* glsl */ `
vec2 folded(vec3 n) {
  n /= abs(n.x) + abs(n.y) + abs(n.z);
  return n.z >= 0.0 ? n.xy : (1.0 - abs(n.yx)) * vec2(n.x >= 0.0 ? 1.0 : -1.0, n.y >= 0.0 ? 1.0 : -1.0);
}

vec3 unfolded(vec2 p) {
  vec3 n = vec3(p, 1.0 - abs(p.x) - abs(p.y));
  if (n.z < 0.0) n.xy = (1.0 - abs(n.yx)) * vec2(n.x >= 0.0 ? 1.0 : -1.0, n.y >= 0.0 ? 1.0 : -1.0);
  return normalize(n);
}
`;

/** Of what was cut out, nothing is seen. */
const CUT_OUT = /* glsl */ `
bool cutOut(int number, bool plant, vec3 at, float footprint) {
  Copy copy = copyOf(number, plant);
  ivec2 layers = layersOf(copy.material);
  return layers.x > 0 && thereOf(layers.x, ownOf(copy, at), footprint) < 0.5;
}
`;

/**
 * Writes down what is seen: the copy's number, counted from 1, with what it is; its normal; its tint; what surfaces lie by, with how far it
 * slants; and the distance.
 */
export const SOLID_FRAGMENT = /* glsl */ `
#include <common>
#include <logdepthbuf_pars_fragment>
uniform vec3 uEye;
uniform float uClip;
${COPIES}
#ifdef CUT
${SHEETS}
${CUT_OUT}
#endif
${SEEN_HERE}
${FOLDED}
layout(location = 0) out highp uvec4 seen;
layout(location = 1) out highp uint away; // the bits of a distance

void main() {
  #include <logdepthbuf_fragment>
  if (vAt.y < uClip) discard;
  Seen s = seenHere(uEye);
  float far = length(vAt - uEye);
  away = floatBitsToUint(far);
#ifdef CUT
  if (cutOut(s.copy, s.plant, s.at, uPixelAngle * far)) discard;
#endif
  uvec4 tint = uvec4(vec4(sqrt(s.tint.rgb), s.tint.a) * 255.0 + 0.5);
  uvec2 lies = uvec2(folded(s.lies) * 2047.5 + 2048.0);
  seen = uvec4(
    uint(s.copy + 1) | (s.plant ? 0x40000000u : 0u) | (s.behind ? 0x80000000u : 0u),
    packSnorm2x16(folded(s.n)),
    tint.r | tint.g << 8 | tint.b << 16 | tint.a << 24,
    lies.x | lies.y << 12 | uint(sqrt(s.across) * 255.0 + 0.5) << 24
  );
}
`;

/** What bodies that are cut out keep the sun from. */
export const CUT_SHADOW_FRAGMENT = /* glsl */ `
#include <common>
#include <logdepthbuf_pars_fragment>
${COPIES}
${SHEETS}
${CUT_OUT}
in vec3 vAt;
flat in vec3 vCopy;
out vec4 colour;

void main() {
  #include <logdepthbuf_fragment>
  if (cutOut(int(vCopy.x + 0.5), vCopy.y > 0.5, vAt, 0.0)) discard;
  colour = vec4(0.0);
}
`;

/** Light that a body sends to the eye, and how much of what lies behind it hides. */
const LIT = /* glsl */ `
uniform float uScale; // from cd/m² to the picture's values
uniform mat4 uShadowMatrix;
uniform sampler2D uShadow;
uniform float uShadowOn;
uniform int uLook; // 0 surfaces, 1 clay, 2 silhouette, 3 white, 4 raking, 5 colours alone
uniform vec3 uRake; // where the raking light comes from
#ifdef LAID
${SHEETS}
#endif

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

vec4 lit(Seen seen, vec3 eye, vec3 d, float far) {
  // Black before a bright sky, nothing else.
  if (uLook == 2) return vec4(0.0, 0.0, 0.0, 1.0);
  Copy copy = copyOf(seen.copy, seen.plant);
  vec4 shade = record(copy.material, 0);
  vec4 more = record(copy.material, 1); // metal, translucency, coat
  vec2 clear = record(copy.material, 2).xy; // 0 none, 1 a body, 2 a pane; index of refraction
  vec3 base = seen.tint.rgb * copy.tint * shade.rgb;
  float rough = mix(shade.w, min(shade.w, 0.22), seen.tint.a);
  float metal = more.x;
  float thin = more.y;
  vec3 n = seen.n;
#ifdef LAID
  ivec2 layers = layersOf(copy.material);
  if (layers.x > 0) {
    float footprint = uPixelAngle * far / sqrt(max(0.02, seen.across));
    laySheets(layers.x, layers.y, seen.at, ownOf(copy, seen.at), copy.axes, footprint, base, rough, metal, seen.lies, n);
    // A normal that turns away from the eye is turned back to it until it is seen.
    n = normalize(n - max(0.0, dot(n, d) - (${LEAST_FACING.toFixed(3)})) * d);
  }
#endif
  // Base colours alone, without any light.
  if (uLook == 5) return vec4(base, 1.0);
  // Nothing but the light that grazes: what is turned to it is bright, what is turned away dark.
  if (uLook == 4) return vec4(vec3(0.02 + 0.7 * max(dot(n, uRake), 0.0)), 1.0);
  if (uLook == 1 || uLook == 3) { base = vec3(uLook == 1 ? 0.4 : 0.8); rough = 0.9; metal = 0.0; thin = 0.0; }
  bool glass = clear.x > 0.5 && uLook == 0;
  float c = dot(n, uSunDir);
  // Where the sun grazes, a texel of its map lies over and under a face.
  float shown = shadow(seen.at + n * mix(0.03, 0.16, sqrt(max(0.0, 1.0 - c * c))) + uSunDir * 0.02);
  vec3 up = irradiance(n);
  vec3 sun = uSunLux * shown * sunLeft(seen.at.y);
  vec3 r = reflect(d, n);
  float m = 1.0 - max(0.0, -dot(d, n));
  float f5 = m * m * m * m * m;
  float grazing = 1.0 - abs(c);
  float g5 = grazing * grazing * grazing * grazing * grazing;
  vec3 diffuse = base * (1.0 - metal) * (up + sun * (1.0 - 0.7 * g5) * (max(c, 0.0) * (1.0 - thin) + max(-c, 0.0) * thin)) * (1.0 - 0.7 * f5) / PI;
  vec3 f0 = mix(vec3(0.04), base, metal);
  if (glass) { float e = (clear.y - 1.0) / (clear.y + 1.0); f0 = vec3(e * e); }
  vec3 F = f0 + (max(vec3(1.0 - rough), f0) - f0) * f5;
  vec3 env = mix(skyIn(normalize(vec3(r.x, max(r.y, 0.01), r.z))), irradiance(r) / PI, clamp(rough * 1.4, 0.0, 1.0));
  vec3 h = normalize(uSunDir - d);
  float a2 = rough * rough * rough * rough;
  float nh = max(dot(n, h), 0.0);
  float D = a2 / (PI * pow(nh * nh * (a2 - 1.0) + 1.0, 2.0));
  vec3 glint = c > 0.0 ? sun * F * D * 0.25 / max(0.15, -dot(d, n)) * min(1.0, c * 6.0) : vec3(0.0);
  vec3 L = diffuse * (1.0 - 0.04) + F * env * mix(1.0, shown * 0.5 + 0.5, 0.4) + min(glint, vec3(40.0));
  if (glass) L = F * env + glint * 0.25;
  for (int i = 0; i < uLamps; i++) {
    vec3 w = uLampAt[i].xyz - seen.at;
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
  if (more.z > 0.0 && uLook == 0) {
    float Fc = more.z * (0.04 + 0.96 * f5);
    L = L * (1.0 - Fc) + Fc * skyIn(normalize(vec3(r.x, max(r.y, 0.01), r.z)));
  }
  if (uLook == 0 && !seen.behind) L += min(record(copy.material, 4).xyz * uScale, vec3(60000.0));
  float a = 1.0;
  if (glass && clear.x > 1.5) {
    float keep = dot(base, ${LUMA_GLSL}) * (1.0 - F.g) * (shade.w < 0.05 ? 1.0 : 0.5);
    a = 1.0 - keep;
    if (shade.w >= 0.05) L += base * (irradiance(-n) + irradiance(n)) * 0.25 / PI;
  } else if (glass) {
    vec3 bent = refract(d, n, 1.0 / clear.y);
    L += (1.0 - F) * base * skyIn(normalize(vec3(bent.x, max(bent.y, 0.01), bent.z)));
  }
  if (uLook == 0) L = drowned(L, seen.at, eye, d);
  return vec4(a < 1.0 ? L : through(L, seen.at, eye), a);
}
`;

/** Lights what was written down of each pixel. */
export const SHADE_FRAGMENT = /* glsl */ `
${LIGHT}
uniform vec3 uEye;
uniform mat3 uAxes; // right·tan, up·tan, forward
uniform highp usampler2D uSeen;
uniform highp usampler2D uAway;
${COPIES}
${LIT}
${FOLDED}
in vec2 vAt;
out vec4 colour;

void main() {
  ivec2 pixel = ivec2(gl_FragCoord.xy);
  uvec4 w = texelFetch(uSeen, pixel, 0);
  if (w.x == 0u) discard;
  float far = uintBitsToFloat(texelFetch(uAway, pixel, 0).r);
  vec3 d = normalize(uAxes * vec3(vAt, 1.0));
  vec4 tint = vec4(uvec4(w.z, w.z >> 8, w.z >> 16, w.z >> 24) & 255u) / 255.0;
  vec3 lies = unfolded((vec2(uvec2(w.w, w.w >> 12) & 4095u) - 2047.5) / 2047.5);
  float across = float(w.w >> 24) / 255.0;
  Seen seen = Seen(int(w.x & 0x3fffffffu) - 1, (w.x & 0x40000000u) != 0u, (w.x & 0x80000000u) != 0u,
    uEye + far * d, unfolded(unpackSnorm2x16(w.y)), lies, across * across, vec4(tint.rgb * tint.rgb, tint.a));
  colour = lit(seen, uEye, d, far);
}
`;

/** Lights a pane, over what lies behind it. */
export const PANE_FRAGMENT = /* glsl */ `
#include <logdepthbuf_pars_fragment>
${LIGHT}
uniform vec3 uEye;
uniform float uClip;
${COPIES}
${LIT}
#ifdef LAID
${CUT_OUT}
#endif
${SEEN_HERE}
out vec4 colour;

void main() {
  #include <logdepthbuf_fragment>
  if (vAt.y < uClip) discard;
  vec3 way = vAt - uEye;
  float far = length(way);
#ifdef LAID
  if (cutOut(int(vCopy.x + 0.5), vCopy.y > 0.5, vAt, uPixelAngle * far)) discard;
#endif
  colour = lit(seenHere(uEye), uEye, way / far, far);
}
`;
