/**
 * Sheets on surfaces, as the working view draws them: the same words by the same rules as `tracer/kernel/sheets.ts`, where they are
 * explained; both levels are read where the tracer chooses one by chance.
 */
import { LAYER_NUMBERS } from "../../core/scene/layerTable.ts";
import { MOST_LOST, SLOPE_UNIT } from "../../core/surface/sheet.ts";
import { QUANTITIES } from "../../core/surface/where/where.ts";
import * as K from "../../tracer/kernel/layout.ts";

const glsl = (x: number): string => x.toFixed(6);

/** Texels in a row of the texture that holds a sheet's words, all levels one after the other. */
export const SHEET_ROW = 1024;
/** The same of the one that holds the words of volumes. */
export const VOLUME_ROW = 1024;
/** Texels of a layer's record. */
export const LAYER_TEXELS = LAYER_NUMBERS / 4;

export const SHEETS = /* glsl */ `
precision highp usampler2DArray;
uniform usampler2DArray uSheets;
precision highp usampler2D;
uniform usampler2D uVolumes;
uniform sampler2D uLayers; // records as core/scene/layerTable.ts has them
uniform float uPixelAngle;

uint mixBits(uint x) { x = (x ^ (x >> 16)) * 0x7feb352du; x = (x ^ (x >> 15)) * 0x846ca68bu; return x ^ (x >> 16); }

const float GRAIN_SHIFTS = ${glsl(K.GRAIN_SHIFTS)};
const float GRAIN_BLOCKS = ${glsl(K.GRAIN_BLOCKS)};
const float GRAIN_ONCE = ${glsl(K.GRAIN_ONCE)};
const float ONCE_RELIEF = ${glsl(K.ONCE_RELIEF)};
const float ONCE_CUT = ${glsl(K.ONCE_CUT)};

struct Laid {
  int place;
  int size;
  float perM;
  float grain;
  float blocks;
  uint seed;
  vec2 turn;
  float slope;
  float tint;
  float wet;
  bool world;
  vec3 offset;
  vec4 mean;
  float meanHeight;
  vec4 shade; // and by how much it is rougher
  vec2 worn; // and how dirty it is
};

Laid laidOf(int number) {
  int y = number - 1;
  vec4 a = texelFetch(uLayers, ivec2(0, y), 0);
  vec4 b = texelFetch(uLayers, ivec2(1, y), 0);
  vec4 c = texelFetch(uLayers, ivec2(2, y), 0);
  vec4 d = texelFetch(uLayers, ivec2(3, y), 0);
  vec4 e = texelFetch(uLayers, ivec2(5, y), 0);
  return Laid(int(a.x), int(a.y), a.z, a.w, b.x, uint(b.y), b.zw, c.x, c.y, c.z, c.w > 0.5, d.xyz,
    texelFetch(uLayers, ivec2(4, y), 0), e.x, texelFetch(uLayers, ivec2(6, y), 0), texelFetch(uLayers, ivec2(7, y), 0).xy);
}

/** Red, green, blue, roughness; slopes across and along, height (0 to 1), root of the lost variance; metal. */
struct Read {
  vec4 paint;
  vec4 shape;
  float metal;
};

void addTexel(inout Read sum, int place, int n, float k) {
  uvec3 w = texelFetch(uSheets, ivec3(n % ${SHEET_ROW}, n / ${SHEET_ROW}, place), 0).rgb;
  vec4 v = vec4(uvec4(w.x, w.x >> 8, w.x >> 16, w.x >> 24) & 255u) / 255.0;
  vec2 s = vec2(int(w.y << 16) >> 16, int(w.y) >> 16) / ${SLOPE_UNIT.toFixed(1)};
  sum.paint += k * vec4(v.rgb * v.rgb, v.a);
  sum.shape += k * vec4(s, float(w.z & 65535u) / 65535.0, float((w.z >> 16) & 255u) * ${(MOST_LOST / 255).toFixed(10)});
  sum.metal += k * float(w.z >> 24) / 255.0;
}

/** Adds a level of a sheet by a weight, between four texels. */
void addLevel(inout Read sum, Laid l, vec2 at, int level, float k) {
  int size = max(1, l.size >> level);
  int first = (l.size * l.size - size * size) / 3 * 4;
  vec2 p = fract(at) * float(size) - 0.5;
  vec2 f = fract(p);
  ivec2 i = ivec2(floor(p));
  for (int n = 0; n < 4; n++) {
    ivec2 o = ivec2(n & 1, n >> 1);
    ivec2 j = (i + o) & (size - 1);
    vec2 w = mix(1.0 - f, f, vec2(o));
    addTexel(sum, l.place, first + j.y * size + j.x, k * w.x * w.y);
  }
}

/** What one layer comes to, its water over it. Loops stand where a call would do: some graphics draw each call out in full. */
struct Layer {
  vec3 colour;
  float rough;
  float metal;
  float height;
  float variance;
  vec3 slope; // along the directions that it lies by, then the world's
};

Layer readLayer(Laid l, vec3 own, vec3 sides, float footprint, vec3 base, vec2 boxAt, vec3 boxRight, vec3 boxUp) {
  float level = clamp(log2(max(1e-9, footprint * l.perM * float(l.size))), 0.0, log2(float(l.size)));
  // Between levels as the bits of a number have it, nearly by the logarithm.
  float next = level > 0.0 ? exp2(fract(level)) - 1.0 : 0.0;
  int low = int(level);
  vec3 q = own + l.offset;
  Read sum = Read(vec4(0.0), vec4(0.0), 0.0);
  vec3 h = vec3(0.0);
  float all = 0.0;
  bool once = l.grain == GRAIN_ONCE;
  if (once) {
    for (int k = 0; k < 2; k++) {
      float share = k == 0 ? 1.0 - next : next;
      float edge = 0.5 / float(max(1, l.size >> (low + k)));
      if (share > 0.0) addLevel(sum, l, clamp(boxAt, edge, 1.0 - edge), low + k, share);
    }
    h = sum.shape.x * boxRight - sum.shape.y * l.blocks * boxUp;
    all = 1.0;
  }
  for (int side = 0; side < 3 && !once; side++) {
    float much = sides[side];
    if (much <= ${glsl(K.SHEET_LEAST)}) continue;
    vec2 metres = side == 1 ? q.xz : vec2(side == 0 ? q.z : q.x, -q.y);
    vec2 at = vec2(l.turn.x * metres.x + l.turn.y * metres.y, l.turn.x * metres.y - l.turn.y * metres.x) * l.perM;
    vec2 skewed = vec2(at.x - 0.57735026919 * at.y, 1.15470053838 * at.y) * ${glsl(K.SHEET_CELLS)};
    ivec2 i = ivec2(floor(skewed));
    vec2 f = skewed - floor(skewed);
    bool upper = f.x + f.y > 1.0;
    vec3 w = upper ? vec3(f.x + f.y - 1.0, 1.0 - f.y, 1.0 - f.x) : vec3(1.0 - f.x - f.y, f.x, f.y);
    w *= w;
    w *= w * w;
    w /= w.x + w.y + w.z;
    bool alone = max(w.x, max(w.y, w.z)) > ${glsl(1 - K.SHEET_LEAST)};
    if (alone) w = step(vec3(${glsl(1 - K.SHEET_LEAST)}), w);
    Read cells = Read(vec4(0.0), vec4(0.0), 0.0);
    for (int c = 0; c < 3; c++) {
      if (w[c] <= 0.0001) continue;
      ivec2 cell = i + (c == 0 ? ivec2(upper ? 1 : 0) : c == 1 ? ivec2(1, 0) : ivec2(0, 1));
      uint bits = mixBits(uint(cell.x) * 0x9e3779b1u ^ (uint(cell.y) * 0x85ebca77u + l.seed));
      vec2 shift = vec2(bits & 65535u, bits >> 16) / 65536.0;
      vec2 turn = vec2(1.0, 0.0);
      if (l.grain == GRAIN_BLOCKS) shift = vec2(floor(shift.x * l.blocks) / l.blocks, 0.0);
      else if (l.grain != GRAIN_SHIFTS) {
        uint g = mixBits(bits ^ 0x68bc21ebu);
        turn = normalize(vec2(g & 65535u, g >> 16) - 32767.5);
      }
      vec2 there = vec2(turn.x * at.x - turn.y * at.y, turn.y * at.x + turn.x * at.y) + shift;
      Read r = Read(vec4(0.0), vec4(0.0), 0.0);
      for (int k = 0; k < 2; k++) {
        float share = k == 0 ? 1.0 - next : next;
        if (share > 0.01) addLevel(r, l, there, low + k, share);
      }
      r.shape.xy = vec2(turn.x * r.shape.x + turn.y * r.shape.y, turn.x * r.shape.y - turn.y * r.shape.x);
      cells.paint += r.paint * w[c];
      cells.shape += r.shape * w[c];
      cells.metal += r.metal * w[c];
    }
    if (!alone) {
      float wide = 1.0 / length(w);
      cells.paint = clamp(l.mean + (cells.paint - l.mean) * wide, 0.0, 1.0);
      cells.shape = vec4(cells.shape.xy * wide, clamp(l.meanHeight + (cells.shape.z - l.meanHeight) * wide, 0.0, 1.0), cells.shape.w);
    }
    vec2 s = much * vec2(l.turn.x * cells.shape.x - l.turn.y * cells.shape.y, l.turn.y * cells.shape.x + l.turn.x * cells.shape.y);
    h += side == 1 ? vec3(s.x, 0.0, s.y) : side == 0 ? vec3(0.0, -s.y, s.x) : vec3(s.x, -s.y, 0.0);
    sum.paint += cells.paint * much;
    sum.shape += cells.shape * much;
    sum.metal += cells.metal * much;
    all += much;
  }
  vec3 c = sum.paint.rgb / all;
  float height = sum.shape.z / all;
  c = min(vec3(1.0), c * l.shade.rgb * (1.0 + l.tint * (base / l.mean.rgb - 1.0)));
  float rough = clamp(sum.paint.a / all + l.shade.a, 0.02, 1.0);
  float relief = l.slope / all;
  float lost = sum.shape.w / all * l.slope;
  if (l.worn.x > 0.0) {
    float to = 1.0 - l.worn.x * ${glsl(1 + K.WORN_EDGE)};
    float flatter = clamp((height - to) / ${glsl(K.WORN_EDGE)}, 0.0, 1.0);
    c *= 1.0 + ${glsl(K.WORN_PALER)} * flatter * (1.0 - c);
    rough *= 1.0 - flatter * ${glsl(1 - K.WORN_ROUGHNESS)};
    relief *= 1.0 - flatter;
    lost *= 1.0 - flatter;
    height = min(height, max(0.0, to));
  }
  float clean = 1.0;
  if (l.worn.y > 0.0) {
    float fills = clamp((l.worn.y * ${glsl(1 + K.WORN_EDGE)} - height) / ${glsl(K.WORN_EDGE)}, 0.0, 1.0);
    float lies = max(${glsl(K.DIRT_FILM)} * l.worn.y, fills);
    c = mix(c, vec3(${glsl(K.DIRT_RED)}, ${glsl(K.DIRT_GREEN)}, ${glsl(K.DIRT_BLUE)}), lies);
    rough = mix(rough, ${glsl(K.DIRT_ROUGHNESS)}, lies);
    relief *= 1.0 - ${glsl(K.DIRT_HIDES)} * fills;
    lost *= sqrt(1.0 - ${glsl(K.DIRT_HIDES)} * fills);
    clean = 1.0 - lies;
  }
  if (l.wet > 0.0) {
    float damp = min(1.0, 2.0 * l.wet);
    float fill = 2.0 * l.wet - 1.0;
    float under = fill > 0.0 ? clamp((fill * ${glsl(1 + K.WATER_EDGE)} - height) / ${glsl(K.WATER_EDGE)}, 0.0, 1.0) : 0.0;
    c = mix(c, c * ${glsl(1 - K.FILM_INSIDE)} / (1.0 - ${glsl(K.FILM_INSIDE)} * c), max(damp, under));
    rough = mix(rough, min(rough, ${glsl(K.DAMP_ROUGHNESS)}), damp);
    rough = mix(rough, ${glsl(K.WATER_ROUGHNESS)}, under);
    relief *= 1.0 - under;
    lost *= 1.0 - under;
  }
  return Layer(c, rough, sum.metal / all * (once ? 1.0 : clean), height, lost * lost, h * relief);
}

/** How much of a body that the layer of a number may cut out is there: all of others. */
float thereOf(int number, vec3 own, float footprint) {
  int y = number - 1;
  if (texelFetch(uLayers, ivec2(3, y), 0).w != ONCE_CUT) return 1.0;
  vec4 a = texelFetch(uLayers, ivec2(8, y), 0), b = texelFetch(uLayers, ivec2(9, y), 0), c = texelFetch(uLayers, ivec2(10, y), 0);
  vec3 p = own - a.yzw;
  vec2 at = vec2(0.5 + 0.5 * dot(p, b.xyz), 0.5 - 0.5 * dot(p, vec3(b.w, c.xy)));
  Laid l = laidOf(number);
  int level = int(clamp(log2(max(1e-9, footprint * l.perM * float(l.size))), 0.0, log2(float(l.size))));
  Read sum = Read(vec4(0.0), vec4(0.0), 0.0);
  float edge = 0.5 / float(max(1, l.size >> level));
  addLevel(sum, l, clamp(at, edge, 1.0 - edge), level, 1.0);
  return sum.metal;
}

float cloudCorner(ivec3 i, uint seed) {
  return float(mixBits(uint(i.x) * 0x9e3779b1u ^ (uint(i.y) * 0x85ebca77u ^ mixBits(uint(i.z) * 0xc2b2ae3du + seed))) >> 8) * 5.9604644775390625e-8;
}

float cloudAt(vec3 p, uint seed) {
  vec3 f = fract(p);
  f = f * f * (3.0 - 2.0 * f);
  ivec3 i = ivec3(floor(p));
  float sum = 0.0;
  for (int n = 0; n < 8; n++) {
    ivec3 o = ivec3(n & 1, (n >> 1) & 1, n >> 2);
    vec3 w = mix(1.0 - f, f, vec3(o));
    sum += w.x * w.y * w.z * cloudCorner(i + o, seed);
  }
  return sum;
}

float smoothed(float from, float to, float x) {
  float t = clamp((x - from) / max(1e-6, to - from), 0.0, 1.0);
  return t * t * (3.0 - 2.0 * t);
}

uvec4 volumeWords(int texel) { return texelFetch(uVolumes, ivec2(texel % ${VOLUME_ROW}, texel / ${VOLUME_ROW}), 0); }

/** What a volume has at a place in bricks from its anchor, or what it is where nothing is known. */
float volumeAt(int words, vec3 p, float missing) {
  ivec3 i = ivec3(floor(p));
  uint mask = volumeWords(words).x;
  uint slot = mixBits(uint(i.x) * 0x9e3779b1u ^ mixBits(uint(i.y) * 0x85ebca77u ^ mixBits(uint(i.z) * 0xc2b2ae3du))) & mask;
  int samples = 0;
  for (int n = 0; n < 64; n++) {
    uvec4 entry = volumeWords(words + 1 + int(slot));
    if (entry.w == 0u) return missing;
    if (ivec3(entry.xyz) == i) { samples = words + int(entry.w >> 2); break; }
    slot = (slot + 1u) & mask;
  }
  vec3 f = fract(p) * ${glsl(K.VO_CELLS)};
  vec3 low = min(floor(f), ${glsl(K.VO_CELLS - 1)});
  f -= low;
  ivec3 o = ivec3(low);
  float sum = 0.0;
  for (int n = 0; n < 8; n++) {
    ivec3 c = ivec3(n & 1, (n >> 1) & 1, n >> 2);
    vec3 w = mix(1.0 - f, f, vec3(c));
    ivec3 at = o + c;
    int place = (at.z * ${K.VO_SAMPLES} + at.y) * ${K.VO_SAMPLES} + at.x;
    uint four = volumeWords(samples + place / 16)[(place / 4) & 3];
    sum += w.x * w.y * w.z * float((four >> (8 * (place & 3))) & 255u);
  }
  return sum / 255.0;
}

/** How much a box leaves at a place of a normal; where it is looked through, and its directions, are told. */
float boxLeaves(vec4 a, vec4 b, vec4 c, vec3 p, vec3 n, inout vec2 at, inout vec3 right, inout vec3 up) {
  p -= a.yzw;
  vec3 u = vec3(b.w, c.xy);
  float s = dot(p, b.xyz), t = dot(p, u);
  vec3 f = normalize(cross(u, b.xyz));
  float deep = abs(dot(p, f) * c.z);
  if (max(max(abs(s), abs(t)), deep) >= 1.0) return 0.0;
  at = vec2(0.5 + 0.5 * s, 0.5 - 0.5 * t);
  right = normalize(b.xyz);
  up = normalize(u);
  float from = 1.0 - abs(c.w);
  float left = 1.0 - smoothed(${glsl(K.BOX_DEEP)}, 1.0, deep);
  if (c.w > 0.0) left *= smoothed(0.0, ${glsl(K.BOX_FACES)}, -dot(n, f));
  return left * (1.0 - smoothed(from, 1.0, abs(s))) * (1.0 - smoothed(from, 1.0, abs(t)));
}

/** How much of the layer of a number its bands leave at a place that leans so: where it lies by, from there on, in the world, in the piece. */
float bandsLeave(int y, vec3 q, vec3 at, vec3 own, vec3 place, vec3 n0, float lean, inout vec2 boxAt, inout vec3 boxRight, inout vec3 boxUp) {
  vec2 e = texelFetch(uLayers, ivec2(5, y), 0).zw;
  float left = e.x;
  for (int n = 0; n < int(e.y); n++) {
    vec4 a = texelFetch(uLayers, ivec2(8 + 3 * n, y), 0);
    vec4 b = texelFetch(uLayers, ivec2(9 + 3 * n, y), 0);
    if (int(a.x) == ${QUANTITIES.box}) {
      left *= boxLeaves(a, b, texelFetch(uLayers, ivec2(10 + 3 * n, y), 0), place, n0, boxAt, boxRight, boxUp);
      continue;
    }
    float of = lean;
    if (int(a.x) == ${QUANTITIES.height}) of = q.y;
    else if (int(a.x) == ${QUANTITIES.clouds}) {
      of = 0.0;
      for (int o = 0; o < 3; o++)
        of += (o == 0 ? 0.5 : o == 1 ? 0.3 : 0.2) * cloudAt(q * vec3(1.0, b.w, 1.0) / b.y * (o == 0 ? 1.0 : o == 1 ? 2.13 : 4.7), uint(b.z) + uint(o));
    } else if (int(a.x) == ${QUANTITIES.volume}) {
      vec4 c = texelFetch(uLayers, ivec2(10 + 3 * n, y), 0);
      of = volumeAt(int(b.w), ((c.w > 0.5 ? at : own) + c.xyz) * b.y, b.z);
    }
    left *= smoothed(a.y, a.z, of) * (1.0 - smoothed(a.w, b.x, of));
  }
  return left;
}

vec3 sidesOf(vec3 o) {
  vec3 w = o * o;
  w *= w;
  w *= w;
  return w / (w.x + w.y + w.z);
}

/**
 * Changes base colour, roughness, metal and normal by so many layers from a number on, at a place in the world and in the piece's own
 * metres, of these directions, by the normal that they lie by.
 */
void laySheets(int number, int count, vec3 at, vec3 own, mat3 axes, float footprint, inout vec3 base, inout float rough, inout float metal, vec3 lies, inout vec3 n) {
  Layer all = Layer(base, rough, metal, 0.5, 0.0, vec3(0.0));
  vec3 sidesByWorld = sidesOf(lies);
  vec3 sidesByOwn = sidesOf(lies * axes);
  for (int i = 0; i < count; i++) {
    Laid over = laidOf(number + i);
    vec3 place = over.world ? at : own;
    bool under = i == 0 && texelFetch(uLayers, ivec2(5, number - 1), 0).y < 0.5;
    vec2 boxAt = vec2(0.5);
    vec3 boxRight = vec3(0.0), boxUp = vec3(0.0);
    float left = under ? 1.0 : bandsLeave(number + i - 1, place + over.offset, at, own, place, over.world ? lies : lies * axes, 1.0 - lies.y, boxAt, boxRight, boxUp);
    if (left < ${glsl(K.LAYER_LEAST)}) continue;
    Layer b = readLayer(over, place, over.world ? sidesByWorld : sidesByOwn, footprint, base, boxAt, boxRight, boxUp);
    if (!over.world) b.slope = axes * b.slope;
    if (over.grain == GRAIN_ONCE) {
      float as = texelFetch(uLayers, ivec2(3, number + i - 1), 0).w;
      float much = as == ONCE_CUT ? left : left * b.metal;
      all.slope += much * b.slope;
      if (as == ONCE_RELIEF) continue;
      all.colour = mix(all.colour, b.colour, much);
      all.rough = mix(all.rough, b.rough, much);
      all.metal *= 1.0 - much;
      continue;
    }
    float t = under ? 1.0 : clamp((left * ${glsl(1 + K.OVER_EDGE)} - all.height) / ${glsl(K.OVER_EDGE)}, 0.0, 1.0);
    all = Layer(mix(all.colour, b.colour, t), mix(all.rough, b.rough, t), mix(all.metal, b.metal, t), mix(all.height, b.height, t),
      mix(all.variance, b.variance, t), mix(all.slope, b.slope, t));
  }
  rough = clamp(all.rough, 0.02, 1.0);
  rough = min(1.0, sqrt(sqrt(rough * rough * rough * rough + all.variance)));
  base = all.colour;
  metal = all.metal;
  n = normalize(n - all.slope + n * dot(all.slope, n));
}
`;
