import { describe, expect, it } from "vitest";
import { encodeSrgb } from "../colour/linear.ts";
import { LAYERS, type Layer, LayerScale, layerPicture, type PlaneOf, pixelFacts } from "./layers.ts";

const planes: Record<string, Float32Array | Uint32Array> = {
	R: new Float32Array([100, 10, 0, 5]),
	G: new Float32Array([100, 10, 0, 5]),
	B: new Float32Array([100, 10, 0, 5]),
	Z: new Float32Array([2, 200, 1e10, 20]),
	"N.X": new Float32Array([0, 1, 0, -1]),
	"N.Y": new Float32Array([1, 0, 0, 0]),
	"N.Z": new Float32Array([0, 0, 0, 0]),
	"albedo.R": new Float32Array([0.5, 0.2, 0, 2]),
	"albedo.G": new Float32Array([0.4, 0.2, 0, 0]),
	"albedo.B": new Float32Array([0.3, 0.2, 0, 0]),
	id: new Uint32Array([1, 3, 0, 3]),
	samples: new Uint32Array([64, 32, 16, 64]),
	"mask0.id": new Uint32Array([1, 3, 0, 3]),
	"mask0.cover": new Float32Array([1, 0.75, 1, 0.5]),
	"mask1.id": new Uint32Array([0, 1, 0, 1]),
	"mask1.cover": new Float32Array([0, 0.25, 0, 0.5]),
	"variance.Y": new Float32Array([100, 1, 0, 0.25]),
};
const all: PlaneOf = (name) => planes[name];
const show = (layer: Exclude<Layer, "picture">, from: PlaneOf = all) =>
	layerPicture(layer, from, 4) as [Float32Array, Float32Array, Float32Array];

describe("layers to look at", () => {
	it("show depth by its logarithm, near light, sky black", () => {
		const [z] = show("depth");
		expect(new LayerScale().take(all).depth).toEqual([2, 200]);
		// As the screen shows it: white, nearly black, and half way for the eye.
		expect(z[0]).toBeCloseTo(1, 5);
		expect(encodeSrgb(z[1])).toBeCloseTo(0.08, 5);
		expect(encodeSrgb(z[3])).toBeCloseTo(0.54, 5);
		expect(z[2]).toBe(0);
	});
	it("show facing about a middle grey", () => {
		const n = show("normal");
		expect([n[0][0], n[1][0], n[2][0]]).toEqual([0.5, 1, 0.5]);
		expect(n[0][3]).toBe(0);
	});
	it("show edges as the mixture of what lies in a pixel", () => {
		const [edges, pieces] = [show("edges"), show("pieces")];
		for (let c = 0; c < 3; c++) {
			expect(edges[c][0]).toBeCloseTo(pieces[c][0], 6);
			expect(edges[c][1]).toBeCloseTo(0.75 * pieces[c][1] + 0.25 * pieces[c][0], 6);
			expect(edges[c][3]).toBeCloseTo(0.5 * pieces[c][1] + 0.5 * pieces[c][0], 6);
		}
		expect(pixelFacts(all, 1).shares).toEqual([
			{ id: 3, share: 0.75 },
			{ id: 1, share: 0.25 },
		]);
	});
	it("keep colours within what a screen shows", () => {
		const a = show("albedo");
		expect(a[0][3]).toBe(1);
		expect(a[1][0]).toBeCloseTo(0.4);
	});
	it("give the same piece the same colour, others others, the sky none", () => {
		const p = show("pieces");
		const at = (i: number) => p.map((c) => c[i]).join();
		expect(at(1)).toBe(at(3));
		expect(at(0)).not.toBe(at(1));
		expect(at(2)).toBe("0,0,0");
		const seen = new Set<string>();
		for (let id = 0; id < 400; id++)
			seen.add(
				(layerPicture("pieces", (name) => (name === "id" ? new Uint32Array([id]) : undefined), 1) as Float32Array[])
					.map((c) => c[0].toFixed(3))
					.join(),
			);
		expect(seen.size).toBeGreaterThan(395);
	});
	it("show samples as a share of the most, and noise against a fifth", () => {
		expect([...show("samples")[0]]).toEqual([1, 0.5, 0.25, 1]);
		const noise = show("noise")[0];
		expect(noise[0]).toBeCloseTo(0.5, 5);
		expect(noise[2]).toBe(0);
	});
	it("are null for a file that does not have them", () => {
		for (const layer of LAYERS) if (layer !== "picture") expect(layerPicture(layer, () => undefined, 4)).toBeNull();
	});
	it("take a picture of nothing but sky", () => {
		const [z] = show("depth", (name) => (name === "Z" ? new Float32Array(4).fill(1e10) : undefined));
		expect([...z]).toEqual([0, 0, 0, 0]);
	});
});

describe("the facts of a pixel", () => {
	it("come in the units of the file", () => {
		const facts = pixelFacts(all, 1);
		expect(facts).toMatchObject({ rgb: [10, 10, 10], depthM: 200, normal: [1, 0, 0], id: 3, samples: 32 });
		expect(facts.luminance).toBeCloseTo(10, 5);
		expect(facts.noise).toBeCloseTo(0.1, 5);
	});
	it("say nothing of what is not there", () => {
		expect(pixelFacts((name) => (/^[RGB]$/.test(name) ? planes[name] : undefined), 0)).toMatchObject({
			depthM: null,
			normal: null,
			albedo: null,
			id: 0,
			samples: null,
			noise: null,
		});
		expect(pixelFacts(all, 2)).toMatchObject({ depthM: null, noise: null });
	});
});
