/**
 * What wears land, over a square of n × n heights (32-bit floats, rows from the top), in cells: no function allocates, all
 * arrays are given as addresses by the host.
 *
 * Water: cells are taken from the border inwards in the order of a flood that rises (priority flood; Barnes, Lehman and Mulla
 * 2014, with buckets of heights in place of a heap), so that each has a way out and hollows are known by their rims. Each gives its
 * water to all that lie lower, by the square of the fall (multiple flow directions; Freeman 1991, Quinn and others 1991). Rivers
 * cut by their power, h' = -k √A S, solved implicitly from the outlets upwards (Braun and Willett 2013), and lay down again what
 * they carry by the share G / A of it (Davy and Lague 2009; Yuan and others 2019). Slopes: what is steeper than the angle of
 * repose moves down, pair by pair, as much gained as lost.
 */

/** Buckets of heights between the least and the most of a square. */
const LEVELS: i32 = 16384;
const NONE: i32 = -1;
/** Bytes of the buckets: first and last cell of each. */
export const BUCKETS: i32 = LEVELS * 8;

/** First free byte. */
export function free(): usize {
  return (__heap_base + 15) & ~15;
}

// @ts-ignore: decorator
@inline
function at(p: usize, i: i32): f32 {
  return load<f32>(p + ((<usize>i) << 2));
}
// @ts-ignore: decorator
@inline
function put(p: usize, i: i32, v: f32): void {
  store<f32>(p + ((<usize>i) << 2), v);
}
// @ts-ignore: decorator
@inline
function mix32(x: u32): u32 {
  x = (x ^ (x >> 16)) * 0x7feb352d;
  x = (x ^ (x >> 15)) * 0x846ca68b;
  return x ^ (x >> 16);
}

/**
 * What water knows of a cell, side by side, because rivers go where memory is cold: its height, the height to which water stands,
 * the cells from which water comes by, what it carries, how much may be laid there, its mark, and its ways: a byte a direction, of
 * 255 in all, none at the border. During the flood two of them hold its bucket's chain and the cell from which it was reached.
 */
const CELL_BITS: usize = 5;
const H: usize = 0;
const FILLED: usize = 4;
const AREA: usize = 8;
const BURDEN: usize = 12;
const FROM: usize = 12;
const ROOM: usize = 16;
const NEXT: usize = 16;
const MARK: usize = 20;
const WAYS: usize = 24;

/** Marks of a cell: waits in a bucket; has its place in the order; has, and lies under standing water. */
const WAITS: i32 = 1;
const DRY: i32 = 2;
const LAKE: i32 = 3;

// @ts-ignore: decorator
@inline
function cell(cells: usize, i: i32): usize {
  return cells + ((<usize>i) << CELL_BITS);
}

/** Number of the cell in one of the eight directions, by turns from the upper left. */
// @ts-ignore: decorator
@inline
function toward(i: i32, d: i32, n: i32): i32 {
  const row = d < 3 ? -n : d < 5 ? 0 : n;
  const column = d < 3 ? d - 1 : d == 3 ? -1 : d == 4 ? 1 : d - 6;
  return i + row + column;
}

/** Whether a direction is askew. */
// @ts-ignore: decorator
@inline
function isAskew(d: i32): bool {
  return ((0xa5 >> d) & 1) != 0;
}

/** The first direction that a cell gives to, and how much of it. */
// @ts-ignore: decorator
@inline
function wayOf(ways: u64): i32 {
  return <i32>(ctz(ways) >> 3);
}
// @ts-ignore: decorator
@inline
function shareOf(ways: u64, d: i32): f32 {
  return <f32>(<u32>(ways >> (<u64>d << 3)) & 255) * <f32>(1.0 / 255.0);
}
// @ts-ignore: decorator
@inline
function without(ways: u64, d: i32): u64 {
  return ways & ~(<u64>255 << (<u64>d << 3));
}

/** How much a way down is preferred: by the square of its slope, and by a lot that makes water wander over even slopes. */
// @ts-ignore: decorator
@inline
function fall(down: f32, i: i32, d: i32, seed: u32): f32 {
  const lot: f32 = <f32>0.5 + <f32>(mix32(<u32>(i * 8 + d) ^ seed) >> 8) * <f32>(1.0 / 16777216.0);
  return down * down * lot * (isAskew(d) ? <f32>0.5 : <f32>1);
}

// @ts-ignore: decorator
@inline
function push(cells: usize, i: i32, level: i32, buckets: usize): void {
  const b = buckets + ((<usize>level) << 3);
  const last = load<i32>(b + 4);
  store<i32>(cell(cells, i), NONE, NEXT);
  if (last == NONE) store<i32>(b, i);
  else store<i32>(cell(cells, last), i, NEXT);
  store<i32>(b + 4, i);
}

/**
 * Floods the square from its border. Writes all cells in order, each after those that it drains to, and for each the height to
 * which water stands, its mark and its ways.
 */
export function drain(n: i32, h: usize, cells: usize, order: usize, buckets: usize, seed: u32): void {
  const count = n * n;
  let least: f32 = f32.MAX_VALUE;
  let most: f32 = -f32.MAX_VALUE;
  for (let i = 0; i < count; i++) {
    const v = at(h, i);
    least = min(least, v);
    most = max(most, v);
    store<f32>(cell(cells, i), v, H);
    store<i32>(cell(cells, i), 0, MARK);
  }
  const scale: f32 = <f32>(LEVELS - 1) / max<f32>(most - least, 1e-6);
  for (let b = 0; b < LEVELS; b++) store<i64>(buckets + ((<usize>b) << 3), -1);
  for (let k = 0; k < n; k++) {
    for (let side = 0; side < 4; side++) {
      const i = side == 0 ? k : side == 1 ? count - 1 - k : side == 2 ? k * n : k * n + n - 1;
      const c = cell(cells, i);
      if (load<i32>(c, MARK)) continue;
      store<i32>(c, WAITS, MARK);
      store<f32>(c, load<f32>(c, H), FILLED);
      push(cells, i, <i32>((load<f32>(c, H) - least) * scale), buckets);
    }
  }
  const falls = memory.data(32);
  let done = 0;
  let level = 0;
  while (done < count) {
    const b = buckets + ((<usize>level) << 3);
    const i = load<i32>(b);
    if (i == NONE) {
      level++;
      continue;
    }
    const c = cell(cells, i);
    const after = load<i32>(c, NEXT);
    store<i32>(c, 0, NEXT);
    store<i32>(b, after);
    if (after == NONE) store<i32>(b + 4, NONE);
    store<i32>(order + ((<usize>done) << 2), i);
    done++;
    const water = load<f32>(c, FILLED);
    const x = i & (n - 1);
    const border = x == 0 || x == n - 1 || i < n || i >= count - n;
    store<i32>(c, water > load<f32>(c, H) ? LAKE : DRY, MARK);
    let sum: f32 = 0;
    for (let d = 0; d < 8; d++) {
      const j = toward(i, d, n);
      // Over the border's edge there is nothing, or the far end of another row.
      if (border && (j < 0 || j >= count || abs((j & (n - 1)) - x) > 1)) continue;
      const to = cell(cells, j);
      const mark = load<i32>(to, MARK);
      let by: f32 = 0;
      if (mark == 0) {
        const up = max(load<f32>(to, H), water);
        store<i32>(to, WAITS, MARK);
        store<f32>(to, up, FILLED);
        store<i32>(to, i, FROM);
        push(cells, j, max(level, <i32>((up - least) * scale)), buckets);
      } else if (mark >= DRY) {
        const down = water - load<f32>(to, FILLED);
        if (down > 0) by = fall(down, i, d, seed);
      }
      store<f32>(falls + ((<usize>d) << 2), by);
      sum += by;
    }
    let packed: u64 = 0;
    if (border) {
      store<u64>(c, 0, WAYS);
      continue;
    }
    if (sum > 0) {
      // Bytes are cut off; what is left of 255 goes the way of most.
      let left: i32 = 255;
      let best: i32 = 0;
      let bestBy: f32 = -1;
      const bytes = <f32>255 / sum;
      for (let d = 0; d < 8; d++) {
        const by = load<f32>(falls + ((<usize>d) << 2));
        const part = <i32>(by * bytes);
        packed |= <u64>part << (<u64>d << 3);
        left -= part;
        if (by > bestBy) {
          bestBy = by;
          best = d;
        }
      }
      packed += <u64>left << (<u64>best << 3);
    } else {
      // Over a lake towards its outlet.
      const parent = load<i32>(c, FROM);
      for (let d = 0; d < 8; d++) if (toward(i, d, n) == parent) packed = <u64>255 << (<u64>d << 3);
    }
    store<u64>(c, packed, WAYS);
  }
}

/** Side of the tiles from whose cells water is followed. */
const TILE: i32 = 64;

/**
 * Puts all cells in another order, each still after those that it drains to: water is followed from cell to cell until it meets what
 * has its place already, so that those that lie together stand together. `stack` has room for as many cells.
 */
export function arrange(n: i32, cells: usize, order: usize, stack: usize): void {
  const tile = min(n, TILE);
  const tiles = n / tile;
  let done = 0;
  for (let t = 0; t < tiles * tiles; t++)
    for (let k = 0; k < tile * tile; k++) {
      const start = ((t / tiles) * tile + k / tile) * n + (t % tiles) * tile + k % tile;
      if (load<i32>(cell(cells, start), NEXT)) continue;
      let depth = 0;
      store<i32>(stack, start);
      while (depth >= 0) {
        const i = load<i32>(stack + ((<usize>depth) << 2));
        let ways = load<u64>(cell(cells, i), WAYS);
        let on = NONE;
        while (ways) {
          const d = wayOf(ways);
          const j = toward(i, d, n);
          if (!load<i32>(cell(cells, j), NEXT)) {
            on = j;
            break;
          }
          ways = without(ways, d);
        }
        if (on != NONE) {
          depth++;
          store<i32>(stack + ((<usize>depth) << 2), on);
          continue;
        }
        store<i32>(cell(cells, i), 1, NEXT);
        store<i32>(order + ((<usize>done) << 2), i);
        done++;
        depth--;
      }
    }
}

/** Cells from which water comes by each, itself included. Returns what leaves over the border. */
export function gather(n: i32, cells: usize, order: usize): f64 {
  const count = n * n;
  for (let i = 0; i < count; i++) {
    store<f32>(cell(cells, i), 1, AREA);
    store<f32>(cell(cells, i), 0, BURDEN);
    store<f32>(cell(cells, i), f32.MAX_VALUE, ROOM);
  }
  let out: f64 = 0;
  for (let k = count - 1; k >= 0; k--) {
    const i = load<i32>(order + ((<usize>k) << 2));
    const c = cell(cells, i);
    let ways = load<u64>(c, WAYS);
    const area = load<f32>(c, AREA);
    if (ways == 0) out += <f64>area;
    while (ways) {
      const d = wayOf(ways);
      const to = cell(cells, toward(i, d, n));
      store<f32>(to, load<f32>(to, AREA) + area * shareOf(ways, d), AREA);
      ways = without(ways, d);
    }
  }
  return out;
}

/**
 * Hollows that are no deeper than `deepest` are opened: the rim along the way of most is cut down to their bed, and what is cut there
 * is carried off with the rest.
 */
export function open(n: i32, cells: usize, order: usize, deepest: f32): void {
  for (let k = n * n - 1; k >= 0; k--) {
    const i = load<i32>(order + ((<usize>k) << 2));
    const c = cell(cells, i);
    let ways = load<u64>(c, WAYS);
    if (ways == 0 || load<f32>(c, FILLED) - load<f32>(c, H) > deepest) continue;
    let best = 0;
    let most: f32 = 0;
    while (ways) {
      const d = wayOf(ways);
      const share = shareOf(ways, d);
      if (share > most) {
        most = share;
        best = d;
      }
      ways = without(ways, d);
    }
    const j = toward(i, best, n);
    const to = cell(cells, j);
    const over = load<f32>(to, H) - load<f32>(c, H);
    if (over <= 0 || load<u64>(to, WAYS) == 0) continue;
    store<f32>(to, load<f32>(c, H), H);
    store<f32>(to, load<f32>(to, BURDEN) + over, BURDEN);
    store<i32>(to, DRY, MARK);
    store<i32>(c, DRY, MARK);
  }
}

/** Rivers cut for a while: `power` is k dt. Standing water cuts nothing. */
export function carve(n: i32, cells: usize, order: usize, power: f32): void {
  const count = n * n;
  for (let k = 0; k < count; k++) {
    const i = load<i32>(order + ((<usize>k) << 2));
    const c = cell(cells, i);
    const all = load<u64>(c, WAYS);
    if (all == 0) continue;
    const hi = load<f32>(c, H);
    let after = hi;
    if (load<i32>(c, MARK) == DRY) {
      const strength = power * sqrt(load<f32>(c, AREA));
      let sum: f32 = 1;
      let towards = hi;
      let ways = all;
      while (ways) {
        const d = wayOf(ways);
        const hj = load<f32>(cell(cells, toward(i, d, n)), H);
        if (hj < hi) {
          const f = strength * shareOf(ways, d) * (isAskew(d) ? <f32>0.70710678 : <f32>1);
          sum += f;
          towards += f * hj;
        }
        ways = without(ways, d);
      }
      after = towards / sum;
      store<f32>(c, after, H);
      store<f32>(c, load<f32>(c, BURDEN) + hi - after, BURDEN);
    }
    // No more may be laid in a cell than half of the least step down into it: it would dam what comes.
    let ways = all;
    while (ways) {
      const d = wayOf(ways);
      const to = cell(cells, toward(i, d, n));
      store<f32>(to, min(load<f32>(to, ROOM), max<f32>(0, after - load<f32>(to, H)) * <f32>0.5), ROOM);
      ways = without(ways, d);
    }
  }
}

/**
 * What has been cut is carried down and laid: in standing water a tenth of what it has room for, elsewhere the share `laying` / A
 * of what comes by. Writes the heights back. Returns what leaves over the border.
 */
export function lay(n: i32, h: usize, cells: usize, order: usize, laying: f32): f64 {
  const count = n * n;
  let out: f64 = 0;
  for (let k = count - 1; k >= 0; k--) {
    const i = load<i32>(order + ((<usize>k) << 2));
    const c = cell(cells, i);
    let ways = load<u64>(c, WAYS);
    let q = load<f32>(c, BURDEN);
    const hi = load<f32>(c, H);
    if (ways == 0) {
      out += <f64>q;
      put(h, i, hi);
      continue;
    }
    const most = load<i32>(c, MARK) == LAKE
      ? max<f32>(0, load<f32>(c, FILLED) - hi) * <f32>0.1
      : min(q * min<f32>(1, laying / load<f32>(c, AREA)), load<f32>(c, ROOM));
    const down = min(q, most);
    put(h, i, hi + down);
    q -= down;
    while (ways) {
      const d = wayOf(ways);
      const to = cell(cells, toward(i, d, n));
      store<f32>(to, load<f32>(to, BURDEN) + q * shareOf(ways, d), BURDEN);
      ways = without(ways, d);
    }
  }
  return out;
}

// @ts-ignore: decorator
@inline
function give(h: usize, i: i32, j: i32, share: f32): void {
  const by = (at(h, i) - at(h, j)) * share;
  put(h, i, at(h, i) - by);
  put(h, j, at(h, j) + by);
}

/** What lies under standing water spreads over its bed. */
export function spread(n: i32, h: usize, cells: usize, share: f32): void {
  const count = n * n;
  for (let i = 0; i < count - n - 1; i++) {
    if (load<i32>(cell(cells, i), MARK) != LAKE) continue;
    if (load<i32>(cell(cells, i + 1), MARK) == LAKE) give(h, i, i + 1, share);
    if (load<i32>(cell(cells, i + n), MARK) == LAKE) give(h, i, i + n, share);
  }
}

/**
 * One sweep of slopes that come to rest: where the rise to the next cells is more than `steepest` (metres a cell), so much moves
 * that it becomes less; everywhere `creep` of it. `way` 0 to 3 is the corner from which it goes, so that no side is preferred.
 * Returns the steepest rise that was met.
 */
export function settle(n: i32, h: usize, steepest: f32, creep: f32, way: i32): f32 {
  const right = (way & 1) == 0;
  const down = (way & 2) == 0;
  const sx = right ? 1 : -1;
  const sy = (down ? 1 : -1) * n;
  let most: f32 = 0;
  for (let b = 0; b < n - 1; b++) {
    const y = down ? b : n - 1 - b;
    for (let a = 0; a < n - 1; a++) {
      const i = y * n + (right ? a : n - 1 - a);
      const hi = at(h, i);
      const dx = hi - at(h, i + sx);
      const dy = hi - at(h, i + sy);
      const rise = sqrt(dx * dx + dy * dy);
      let share = creep;
      if (rise > steepest) share += <f32>0.5 * (<f32>1 - steepest / rise);
      most = max(most, rise);
      give(h, i, i + sx, share);
      give(h, i, i + sy, share);
    }
  }
  return most;
}

/** A square of half the side: means of four. */
export function halve(n: i32, from: usize, to: usize): void {
  const m = n >> 1;
  for (let y = 0; y < m; y++)
    for (let x = 0; x < m; x++) {
      const i = 2 * y * n + 2 * x;
      put(to, y * m + x, (at(from, i) + at(from, i + 1) + at(from, i + n) + at(from, i + n + 1)) * <f32>0.25);
    }
}

/** Adds what a square of half the side holds, between its cells in proportion; the sum of what is added is four times its own. */
export function addDoubled(m: i32, from: usize, to: usize): void {
  const n = m << 1;
  for (let y = 0; y < n; y++) {
    const y0 = y >> 1;
    const y1 = min(m - 1, max(0, y0 + (y & 1) * 2 - 1));
    for (let x = 0; x < n; x++) {
      const x0 = x >> 1;
      const x1 = min(m - 1, max(0, x0 + (x & 1) * 2 - 1));
      const near = at(from, y0 * m + x0) * <f32>0.75 + at(from, y0 * m + x1) * <f32>0.25;
      const far = at(from, y1 * m + x0) * <f32>0.75 + at(from, y1 * m + x1) * <f32>0.25;
      const i = y * n + x;
      put(to, i, at(to, i) + near * <f32>0.75 + far * <f32>0.25);
    }
  }
}

/** Takes one square from another, place by place. */
export function subtract(count: i32, from: usize, by: usize): void {
  for (let i = 0; i < count; i++) put(from, i, at(from, i) - at(by, i));
}

/**
 * Evens out what rivers one cell wide leave from cell to cell, by 1 2 1 along both sides; nothing is lost over the border. `work` holds
 * a row.
 */
export function even(n: i32, h: usize, work: usize): void {
  for (let y = 0; y < n; y++) {
    let last = at(h, y * n);
    for (let x = 0; x < n; x++) {
      const i = y * n + x;
      const own = at(h, i);
      const right = x == n - 1 ? own : at(h, i + 1);
      put(h, i, (last + own + own + right) * <f32>0.25);
      last = own;
    }
  }
  for (let x = 0; x < n; x++) put(work, x, at(h, x));
  for (let y = 0; y < n; y++)
    for (let x = 0; x < n; x++) {
      const i = y * n + x;
      const own = at(h, i);
      const below = y == n - 1 ? own : at(h, i + n);
      put(h, i, (at(work, x) + own + own + below) * <f32>0.25);
      put(work, x, own);
    }
}
