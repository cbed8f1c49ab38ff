/** The layers of a print made visible: depth, facing, colour, pieces, samples and noise as plain pictures. */
import { decodeSrgb, luminance, luminanceOf } from "../colour/linear.ts";
import { hash32 } from "../maths/hash.ts";

export const LAYERS = [
	"picture",
	"depth",
	"normal",
	"albedo",
	"pieces",
	"edges",
	"openness",
	"samples",
	"noise",
] as const;
export type Layer = (typeof LAYERS)[number];

/** Layers that are light, shown as the picture is: `fog`, and `light.` with the name of a light. */
export const isLight = (layer: string): boolean => layer === "fog" || layer.startsWith("light.");

/** Names of the layers that a file can be shown as, by its channels. */
export function layersIn(channels: readonly string[]): string[] {
	const has = (name: string) => channels.includes(name);
	const needs: Record<Layer, string> = {
		picture: "R",
		depth: "Z",
		normal: "N.X",
		albedo: "albedo.R",
		pieces: "id",
		edges: "mask0.id",
		openness: "openness",
		samples: "samples",
		noise: "variance.Y",
	};
	const light = channels.filter((c) => c.endsWith(".R") && isLight(c.slice(0, -2))).map((c) => c.slice(0, -2));
	return [...LAYERS.filter((l) => has(needs[l])), ...light];
}

type Plane = Float32Array | Uint32Array;
export type PlaneOf = (name: string) => Plane | undefined;

/** Depth from which on a pixel counts as sky, metres. */
export const SKY_M = 1e9;
/** Grey, as the screen shows it from 0 to 1, of the farthest surface. */
const FARTHEST_GREY = 0.08;
/** Relative standard error that the noise layer shows as white. */
const NOISE_WHITE = 0.2;

/** A steady colour for a number: hues far apart for neighbours, none too dark to see. */
function colourOf(id: number): [number, number, number] {
	if (id === 0) return [0, 0, 0];
	const hue = ((id * 0.61803398875) % 1) * 6;
	const value = 0.35 + 0.5 * ((hash32(id) & 255) / 255);
	const x = 1 - Math.abs((hue % 2) - 1);
	const [r, g, b] = [
		[1, x, 0],
		[x, 1, 0],
		[0, 1, x],
		[0, x, 1],
		[x, 0, 1],
		[1, 0, x],
	][Math.floor(hue)];
	return [value * (0.25 + 0.75 * r), value * (0.25 + 0.75 * g), value * (0.25 + 0.75 * b)];
}

/** What a whole picture holds at most, by which its layers are shown: gathered from all of its lines before any is shown. */
export class LayerScale {
	private near = Infinity;
	private far = 0;
	/** Most samples of a pixel. */
	most = 1;

	/** Takes some lines of the planes that matter for a layer. */
	take(plane: PlaneOf): this {
		for (const z of plane("Z") ?? []) {
			if (!(z > 0) || z >= SKY_M) continue;
			this.near = Math.min(this.near, z);
			this.far = Math.max(this.far, z);
		}
		for (const n of plane("samples") ?? []) this.most = Math.max(this.most, n);
		return this;
	}

	/** Range of the depths that are not sky, metres. */
	get depth(): [number, number] {
		return this.near < this.far ? [this.near, this.far] : [1, 2];
	}
}

/** The plane by whose values in the whole picture a layer is shown, if there is one. */
export const scaledBy = (layer: Layer): string | null =>
	layer === "depth" ? "Z" : layer === "samples" ? "samples" : null;

/** Channels that a layer is made from. */
export function channelsOf(layer: Exclude<Layer, "picture">): string[] {
	if (layer === "normal") return ["N.X", "N.Y", "N.Z"];
	if (layer === "albedo") return ["albedo.R", "albedo.G", "albedo.B"];
	if (layer === "edges") return [0, 1, 2, 3].flatMap((k) => [`mask${k}.id`, `mask${k}.cover`]);
	if (layer === "noise") return ["variance.Y", "R", "G", "B"];
	return [{ depth: "Z", pieces: "id", openness: "openness", samples: "samples" }[layer]];
}

/** Linear RGB in 0 to 1 of some lines of a layer other than the picture itself. Null when the file does not have it. */
export function layerPicture(
	layer: Exclude<Layer, "picture">,
	plane: PlaneOf,
	count: number,
	scale = new LayerScale().take(plane),
): [Float32Array, Float32Array, Float32Array] | null {
	const out: [Float32Array, Float32Array, Float32Array] = [
		new Float32Array(count),
		new Float32Array(count),
		new Float32Array(count),
	];
	const grey = (value: (i: number) => number) => {
		for (let i = 0; i < count; i++) out[0][i] = out[1][i] = out[2][i] = Math.min(1, Math.max(0, value(i)));
		return out;
	};
	if (layer === "depth") {
		const z = plane("Z");
		if (!z) return null;
		const [near, far] = scale.depth;
		const k = 1 / Math.log(far / near);
		// White at the nearest surface and dark grey at the farthest, in even steps of the logarithm for the eye; sky is black.
		return grey((i) =>
			z[i] >= SKY_M || !(z[i] > 0)
				? 0
				: decodeSrgb(FARTHEST_GREY + (1 - FARTHEST_GREY) * (1 - Math.log(z[i] / near) * k)),
		);
	}
	if (layer === "normal" || layer === "albedo") {
		const planes = channelsOf(layer).map(plane);
		if (planes.some((p) => !p)) return null;
		planes.forEach((p, c) => {
			for (let i = 0; i < count; i++)
				out[c][i] =
					layer === "normal"
						? Math.min(1, Math.max(0, 0.5 + 0.5 * (p as Plane)[i]))
						: Math.min(1, Math.max(0, (p as Plane)[i]));
		});
		return out;
	}
	if (layer === "pieces") {
		const id = plane("id");
		if (!id) return null;
		for (let i = 0; i < count; i++) {
			const colour = colourOf(id[i]);
			for (let c = 0; c < 3; c++) out[c][i] = colour[c];
		}
		return out;
	}
	if (layer === "edges") {
		const [first, cover] = [plane("mask0.id"), plane("mask0.cover")];
		if (!first || !cover) return null;
		// What lies in front of an outline shows as the mixture that the masks tell.
		out.forEach((o) => void o.fill(0));
		for (let k = 0; ; k++) {
			const [id, share] = [plane(`mask${k}.id`), plane(`mask${k}.cover`)];
			if (!id || !share) return out;
			for (let i = 0; i < count; i++) {
				if (share[i] <= 0) continue;
				const colour = colourOf(id[i]);
				for (let c = 0; c < 3; c++) out[c][i] += colour[c] * share[i];
			}
		}
	}
	if (layer === "openness") {
		const open = plane("openness");
		return open ? grey((i) => open[i]) : null;
	}
	if (layer === "samples") {
		const n = plane("samples");
		return n ? grey((i) => n[i] / scale.most) : null;
	}
	const variance = plane("variance.Y");
	const [r, g, b] = ["R", "G", "B"].map(plane);
	if (!variance || !r || !g || !b) return null;
	return grey((i) => Math.sqrt(variance[i]) / Math.max(1e-6, luminanceOf(r[i], g[i], b[i])) / NOISE_WHITE);
}

/** What a print knows of one pixel. Units: cd/m², metres; normal in the world. */
export interface PixelFacts {
	rgb: [number, number, number];
	luminance: number;
	depthM: number | null;
	normal: [number, number, number] | null;
	albedo: [number, number, number] | null;
	id: number;
	/** What else lies in the pixel, by share, when its edges are told. */
	shares: { id: number; share: number }[];
	samples: number | null;
	/** Relative standard error of the luminance. */
	noise: number | null;
}

export function pixelFacts(plane: PlaneOf, i: number): PixelFacts {
	const at = (name: string) => plane(name)?.[i] ?? null;
	const three = (...names: string[]) => {
		const v = names.map(at);
		return v.some((x) => x === null) ? null : (v as [number, number, number]);
	};
	const rgb = three("R", "G", "B") ?? [0, 0, 0];
	const brightness = luminance(rgb);
	const depth = at("Z");
	const variance = at("variance.Y");
	return {
		rgb,
		luminance: brightness,
		depthM: depth === null || depth >= SKY_M ? null : depth,
		normal: three("N.X", "N.Y", "N.Z"),
		albedo: three("albedo.R", "albedo.G", "albedo.B"),
		id: at("id") ?? 0,
		shares: [0, 1, 2, 3]
			.map((k) => ({ id: at(`mask${k}.id`) ?? 0, share: at(`mask${k}.cover`) ?? 0 }))
			.filter((m) => m.share > 0),
		samples: at("samples"),
		noise: variance === null || brightness <= 0 ? null : Math.sqrt(variance) / brightness,
	};
}
