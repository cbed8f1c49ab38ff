/**
 * How far sheets that lie on a surface lift it: their heights read as tracer and working view read them (`tracer/kernel/sheets.ts`), the
 * same sides, cells and edges between layers. The first lies about the surface, half of it under and half over; what lies over it lies on
 * it, as thick as it is and as high as its own heights, its edges round. Standing water fills hollows up to its level.
 */
import { cos, sin } from "../maths/functions.ts";
import { hash32 } from "../maths/hash.ts";
import { cross, type Vec3 } from "../maths/vec.ts";
import {
	BOX_DEEP,
	BOX_FACES,
	LAYER_LEAST,
	OVER_EDGE,
	SHEET_CELLS,
	SHEET_LEAST,
	WATER_EDGE,
	wornTo,
} from "../surface/reading.ts";
import { firstTexel, levelsOf, meanOf, type Sheet, TEXEL_WORDS } from "../surface/sheet.ts";
import type { Band, Box } from "../surface/where/where.ts";
import { type Volume, volumeAt } from "../volume/volume.ts";
import { worldOffset } from "./layerTable.ts";
import type { SceneLayer, ScenePart } from "./scene.ts";

/** A place with its normal. */
export interface At {
	x: number;
	y: number;
	z: number;
	nx: number;
	ny: number;
	nz: number;
}

const smoothed = (from: number, to: number, x: number): number => {
	const t = Math.min(1, Math.max(0, (x - from) / Math.max(1e-6, to - from)));
	return t * t * (3 - 2 * t);
};

/** Value noise over space, as layers in clouds have it. */
function cloud(x: number, y: number, z: number, seed: number): number {
	const [i, j, k] = [Math.floor(x), Math.floor(y), Math.floor(z)];
	const ease = (t: number) => t * t * (3 - 2 * t);
	const [a, b, c] = [ease(x - i), ease(y - j), ease(z - k)];
	const corner = (p: number, q: number, r: number): number =>
		(hash32(Math.imul(p, 0x9e3779b1) ^ Math.imul(q, 0x85ebca77) ^ hash32(Math.imul(r, 0xc2b2ae3d) + seed)) >>> 8) /
		16_777_216;
	const row = (q: number, r: number) => {
		const low = corner(i, q, r);
		return low + (corner(i + 1, q, r) - low) * a;
	};
	const slice = (r: number) => {
		const low = row(j, r);
		return low + (row(j + 1, r) - low) * b;
	};
	const low = slice(k);
	return low + (slice(k + 1) - low) * c;
}

/** One layer, read. */
class Layer {
	readonly of: SceneLayer;
	private sheet: Sheet;
	private volumes: readonly (Volume | null)[];
	private seed: number;
	private cosTurn: number;
	private sinTurn: number;
	private meanHigh: number;
	private firsts: number[];
	private offset: readonly [number, number, number];
	private level = 0;
	private boxS = 0.5;
	private boxT = 0.5;

	constructor(of: SceneLayer, parts: ReadonlyMap<string, ScenePart>, origin: readonly [number, number, number]) {
		this.of = of;
		this.sheet = (parts.get(of.sheet) as Extract<ScenePart, { kind: "sheet" }>).sheet;
		this.volumes = of.where.map(({ volume }) => {
			const part = volume && parts.get(volume.part);
			return part?.kind === "volume" ? part.volume : null;
		});
		this.seed = of.seed;
		this.cosTurn = cos(of.turn);
		this.sinTurn = sin(of.turn);
		const { leastMm, mostMm, size } = this.sheet;
		this.meanHigh = (meanOf(this.sheet).heightMm - leastMm) / (mostMm - leastMm || 1);
		this.firsts = Array.from({ length: levelsOf(size) }, (_, l) => firstTexel(size, l));
		this.offset = of.world ? worldOffset(origin, of.acrossM) : [0, 0, 0];
	}

	/** Mean of its heights, 0 to 1. */
	get mean(): number {
		return this.meanHigh;
	}

	/** Height of the sheet, 0 to 1, between four texels of the present level. */
	private read(s: number, t: number): number {
		const { words, size: finest } = this.sheet;
		const size = finest >> this.level;
		const x = (s - Math.floor(s)) * size - 0.5;
		const y = (t - Math.floor(t)) * size - 0.5;
		const [x0, y0] = [Math.floor(x), Math.floor(y)];
		const [fx, fy] = [x - x0, y - y0];
		const mask = size - 1;
		const [i0, i1] = [x0 & mask, (x0 + 1) & mask];
		const first = this.firsts[this.level];
		const [j0, j1] = [first + (y0 & mask) * size, first + ((y0 + 1) & mask) * size];
		const at = (n: number) => words[TEXEL_WORDS * n + 2] & 0xffff;
		const low = at(j0 + i0) * (1 - fx) + at(j0 + i1) * fx;
		const high = at(j1 + i0) * (1 - fx) + at(j1 + i1) * fx;
		return (low + (high - low) * fy) / 65_535;
	}

	/** The same as a cell of the lattice lays the sheet. */
	private cell(i: number, j: number, s: number, t: number): number {
		const h = hash32(Math.imul(i, 0x9e3779b1) ^ (Math.imul(j, 0x85ebca77) + this.seed));
		const [a, b] = [(h & 0xffff) / 65_536, (h >>> 16) / 65_536];
		const { grain } = this.of;
		if (typeof grain === "object")
			return this.read(s + (grain.blocks ? Math.floor(a * grain.blocks) / grain.blocks : 0), t);
		if (grain === "shifts") return this.read(s + a, t + b);
		const g = hash32(h ^ 0x68bc21eb);
		const [x, y] = [(g & 0xffff) - 32_767.5, (g >>> 16) - 32_767.5];
		const k = 1 / Math.sqrt(x * x + y * y);
		const [c, d] = [x * k, y * k];
		return this.read(c * s - d * t + a, d * s + c * t + b);
	}

	private cells(s: number, t: number): number {
		const perM = 1 / this.of.acrossM;
		const x = (this.cosTurn * s + this.sinTurn * t) * perM;
		const y = (this.cosTurn * t - this.sinTurn * s) * perM;
		const u = (x - 0.57735026919 * y) * SHEET_CELLS;
		const v = 1.15470053838 * y * SHEET_CELLS;
		const [i, j] = [Math.floor(u), Math.floor(v)];
		const [fu, fv] = [u - i, v - j];
		const upper = fu + fv > 1;
		const corner = upper ? 1 : 0;
		let w0 = (upper ? fu + fv - 1 : 1 - fu - fv) ** 8;
		let w1 = (upper ? 1 - fv : fu) ** 8;
		let w2 = (upper ? 1 - fu : fv) ** 8;
		const k = 1 / (w0 + w1 + w2);
		w0 *= k;
		w1 *= k;
		w2 *= k;
		if (w0 > 1 - SHEET_LEAST) return this.cell(i + corner, j + corner, x, y);
		if (w1 > 1 - SHEET_LEAST) return this.cell(i + 1, j, x, y);
		if (w2 > 1 - SHEET_LEAST) return this.cell(i, j + 1, x, y);
		const mixed =
			w0 * this.cell(i + corner, j + corner, x, y) + w1 * this.cell(i + 1, j, x, y) + w2 * this.cell(i, j + 1, x, y);
		// The spread about the mean is that of one cell alone.
		const wide = 1 / Math.sqrt(w0 * w0 + w1 * w1 + w2 * w2);
		return Math.min(1, Math.max(0, this.meanHigh + (mixed - this.meanHigh) * wide));
	}

	/** How much of what stands once is there, between four texels of the finest, where its box was looked through last. */
	there(): number {
		const { words, size } = this.sheet;
		const clamped = (v: number) => Math.min(size - 1, Math.max(0, v * size - 0.5));
		const [x, y] = [clamped(this.boxS), clamped(this.boxT)];
		const [i, j] = [Math.min(size - 2, Math.floor(x)), Math.min(size - 2, Math.floor(y))];
		const at = (n: number) => words[TEXEL_WORDS * n + 2] >>> 24;
		const row = (n: number) => at(n) + (at(n + 1) - at(n)) * (x - i);
		const low = row(j * size + i);
		return (low + (row((j + 1) * size + i) - low) * (y - j)) / 255;
	}

	/** How much a box leaves at a place; where it is looked through stays. */
	private boxLeaves({ at, right, up, half, soft, both }: Box, p: At): number {
		const [x, y, z] = [p.x - at[0], p.y - at[1], p.z - at[2]];
		const s = (x * right[0] + y * right[1] + z * right[2]) / half[0];
		const t = (x * up[0] + y * up[1] + z * up[2]) / half[1];
		const [fx, fy, fz] = cross(up as Vec3, right as Vec3);
		const deep = Math.abs((x * fx + y * fy + z * fz) / half[2]);
		if (Math.max(Math.abs(s), Math.abs(t), deep) >= 1) return 0;
		this.boxS = 0.5 + 0.5 * s;
		this.boxT = 0.5 - 0.5 * t;
		const sides = (1 - smoothed(1 - soft, 1, Math.abs(s))) * (1 - smoothed(1 - soft, 1, Math.abs(t)));
		const facing = both ? 1 : smoothed(0, BOX_FACES, -(p.nx * fx + p.ny * fy + p.nz * fz));
		return sides * facing * (1 - smoothed(BOX_DEEP, 1, deep));
	}

	/** Its height at a place, 0 to 1, seen so wide. */
	height({ x, y, z, nx, ny, nz }: At, footprintM: number): number {
		const texels = (footprintM / this.of.acrossM) * this.sheet.size;
		this.level = texels > 1 ? Math.min(this.firsts.length - 1, Math.round(Math.log2(texels))) : 0;
		if (this.of.once) {
			const edge = 0.5 / (this.sheet.size >> this.level);
			const within = (v: number) => Math.min(1 - edge, Math.max(edge, v));
			return this.read(within(this.boxS), within(this.boxT));
		}
		let [wx, wy, wz] = [nx ** 8, ny ** 8, nz ** 8];
		const k = 1 / (wx + wy + wz);
		wx *= k;
		wy *= k;
		wz *= k;
		const [px, py, pz] = [x + this.offset[0], y + this.offset[1], z + this.offset[2]];
		let [sum, all] = [0, 0];
		if (wy > SHEET_LEAST) {
			sum += wy * this.cells(px, pz);
			all += wy;
		}
		if (wx > SHEET_LEAST) {
			sum += wx * this.cells(pz, -py);
			all += wx;
		}
		if (wz > SHEET_LEAST) {
			sum += wz * this.cells(px, -py);
			all += wz;
		}
		return sum / all;
	}

	private quantity(band: Band, volume: Volume | null, at: At, own: At, world: At): number {
		const { of, sizeM = 1, seed = 0, upright = 1 } = band;
		if (of === "lean") return 1 - world.ny;
		if (of === "height") return at.y + this.offset[1];
		if (of === "clouds") {
			const [x, y, z] = [
				(at.x + this.offset[0]) / sizeM,
				((at.y + this.offset[1]) / sizeM) * upright,
				(at.z + this.offset[2]) / sizeM,
			];
			return (
				0.5 * cloud(x, y, z, seed) +
				0.3 * cloud(x * 2.13, y * 2.13, z * 2.13, seed + 1) +
				0.2 * cloud(x * 4.7, y * 4.7, z * 4.7, seed + 2)
			);
		}
		if (!volume || !band.volume) return 0;
		const place = band.volume.world ? world : own;
		return volumeAt(volume, [place.x, place.y, place.z], band.volume.missing);
	}

	/** How much of it its bands leave at a place. */
	leaves(own: At, world: At): number {
		const at = this.of.world ? world : own;
		let left = this.of.share;
		for (let n = 0; n < this.of.where.length && left > 0; n++) {
			const band = this.of.where[n];
			if (band.box) {
				left *= this.boxLeaves(band.box, at);
				continue;
			}
			const q = this.quantity(band, this.volumes[n], at, own, world);
			left *= smoothed(band.rises[0], band.rises[1], q) * (1 - smoothed(band.falls[0], band.falls[1], q));
		}
		return left;
	}
}

/** How far layers reach out of a surface and into it, metres. */
export function reliefOf(layers: readonly SceneLayer[]): { outM: number; inM: number } {
	const [first, ...others] = layers;
	const thick = (layer: SceneLayer) => layer.depthM + (layer.thickM ?? 0);
	const once = others.reduce((sum, layer) => sum + (layer.once ? thick(layer) : 0), 0);
	const outM = once + Math.max(first.depthM, ...others.map((layer) => (layer.once ? 0 : thick(layer))));
	return { outM: first.bare ? Math.max(outM, thick(first)) : outM, inM: first.bare ? 0 : first.depthM };
}

/** The relief of a surface's layers. */
export class Relief {
	private layers: readonly Layer[];
	private over: boolean;
	/** How far the place told of last would be lifted if each layer were level in itself, metres. */
	thickM = 0;

	/** `over` has the first lie on the surface, its lowest upon it, as on ground in which nothing may be left to float. */
	constructor(
		layers: readonly SceneLayer[],
		parts: ReadonlyMap<string, ScenePart>,
		origin: readonly [number, number, number],
		over: boolean,
	) {
		this.layers = layers.map((layer) => new Layer(layer, parts, origin));
		this.over = over;
	}

	/** Metres along the normal at a place: in its own metres, and in the world. */
	at(own: At, world: At, footprintM: number): number {
		let lift = 0;
		let level = 0;
		let height = 0.5;
		for (const [n, layer] of this.layers.entries()) {
			const { depthM, thickM = 0, bare, wet, worn = 0 } = layer.of;
			const under = n === 0 && !bare;
			const left = under ? 1 : layer.leaves(own, world);
			if (left < LAYER_LEAST) continue;
			const all = layer.height(layer.of.world ? world : own, footprintM);
			const read = worn > 0 ? Math.min(all, Math.max(0, wornTo(worn))) : all;
			if (layer.of.once) {
				// It takes the relief of what it lies on, and adds its own.
				const much = left * (layer.of.once.as === "cut" ? 1 : layer.there());
				lift += much * (thickM + depthM * read);
				level += much * (thickM + depthM * layer.mean);
				continue;
			}
			// Water stands up to its level.
			const fill = 2 * wet - 1;
			const high = fill > 0 ? Math.max(read, fill * (1 + WATER_EDGE) - WATER_EDGE) : read;
			if (under) {
				lift = depthM * (high - (this.over ? 0 : layer.mean));
				height = read;
				continue;
			}
			const t = Math.min(1, Math.max(0, (left * (1 + OVER_EDGE) - height) / OVER_EDGE));
			// Thick from where it begins to where its bands leave all of it, and round there.
			const round = 1 - (1 - t * Math.min(1, left)) ** 2;
			lift += round * thickM + t * (depthM * high - lift);
			level += round * thickM + t * (depthM * layer.mean - level);
			height += t * (read - height);
		}
		this.thickM = level;
		return lift;
	}
}
