/** Shaders of sky, still water and finish. Sky, cloud, fog, air and finish follow the same formulas as the tracer and `core`. */
import { COLOUR_FADES, PRINT_CURVE } from "../../core/finish/finish.ts";
import { LIGHT, LUMA_GLSL } from "./lightShaders.ts";

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
#include <logdepthbuf_pars_fragment>
${LIGHT}
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
uniform float uSmall; // 1 for a picture of fewer pixels than the frame
uniform float uGuided; // how much the edges of such a picture are those of the drawn view, 0 for not at all
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
float guideAt(vec2 at) {
  vec2 from = uPart.xy + at * uPart.zw;
  return log2(dot(texture(uView, inView(vec2(from.x, 1.0 - from.y))).rgb, ${LUMA_GLSL}) * uViewFactor + 0.002);
}
const float UNLIKE = 0.005; // what counts of the least alike of them, so that there is always one
const float DARK = 0.3; // light over which brighter counts less, where white is 1
// Between four pixels: each the more the more the drawn view there is like the drawn view here (Kopf et al. 2007), and the less the brighter
// it is, since halfway between two is what looks so, not what is so in light.
vec3 between(vec2 at) {
  vec2 size = vec2(textureSize(uPicture, 0));
  vec2 place = at * size - 0.5, corner = floor(place), part = place - corner;
  float guide = uGuided > 0.0 ? guideAt(at) : 0.0;
  vec4 sum = vec4(0.0);
  for (int k = 0; k < 4; k++) {
    vec2 way = vec2(k & 1, k >> 1);
    vec2 pixel = clamp(corner + way, vec2(0.0), size - 1.0);
    vec3 light = texelFetch(uPicture, ivec2(pixel), 0).rgb;
    float off = uGuided > 0.0 ? guideAt((pixel + 0.5) / size) - guide : 0.0;
    vec2 near = mix(1.0 - part, part, way);
    float weight = near.x * near.y * (exp2(-uGuided * off * off) + UNLIKE) / (DARK + dot(light, ${LUMA_GLSL}) * uFactor);
    sum += vec4(light, 1.0) * weight;
  }
  return sum.rgb / max(sum.a, 1e-9);
}
vec3 pictureAt(vec2 r, vec2 g, vec2 b) {
  if (uSmall > 0.5 && uFringe == 0.0) return between(g);
  if (uSmall > 0.5) return vec3(between(r).r, between(g).g, between(b).b);
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
