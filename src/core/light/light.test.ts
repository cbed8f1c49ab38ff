import { describe, expect, it } from "vitest";
import { luminance } from "../colour/linear.ts";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { applyEdit } from "../doc/edits.ts";
import type { Lamp, LampKind, ShotDocument } from "../doc/schema.ts";
import { randomStream } from "../maths/hash.ts";
import type { Mesh } from "../maths/mesh.ts";
import { cross, dot, length, normalize, sub, type Vec3 } from "../maths/vec.ts";
import { compile } from "../scene/compile.ts";
import { blackbody } from "./blackbody.ts";
import { coneCosines } from "./cone.ts";
import { LAMPS, newLamp } from "./lamp.ts";
import { triangleAreas } from "./lampMeshes.ts";
import { placesOf } from "./lampPlacing.ts";
import { aimAxes, lampStrength, shining } from "./lamps.ts";
import {
	buildLightTree,
	type LightBounds,
	NODE_LEFT,
	NODE_LIGHT,
	NODE_PARENT,
	NODE_RIGHT,
	NODE_WORDS,
	NONE,
} from "./lightTree.ts";

describe("the colour of a temperature", () => {
	it("has luminance 1, is red when low and blue when high, and near white at daylight", () => {
		for (const k of [1000, 1900, 2700, 4000, 6500, 12_000, 20_000]) expect(luminance(blackbody(k))).toBeCloseTo(1, 6);
		let before = 0;
		for (const k of [1500, 2000, 3000, 4500, 6500, 9000, 15_000]) {
			const [r, , b] = blackbody(k);
			expect(b / r).toBeGreaterThanOrEqual(before);
			before = b / r;
		}
		for (const v of blackbody(6500)) expect(Math.abs(v - 1)).toBeLessThan(0.06);
	});
});

describe("the strength of a lamp", () => {
	const lamp = (over: Partial<Lamp>) => newLamp("l", "point", over);
	it("in lumen is spread over the sphere, over the cone, over the face", () => {
		const strength = { value: 1000, unit: "lumen", atM: 1 } as const;
		expect(lampStrength(lamp({ strength }))).toBeCloseTo(1000 / (4 * Math.PI), 9);
		expect(lampStrength(lamp({ kind: "disc", sizeM: [0.2, 0.2], strength }))).toBeCloseTo(
			1000 / (Math.PI * Math.PI * 0.01),
			6,
		);
		expect(lampStrength(lamp({ kind: "rectangle", sizeM: [2, 0.5], strength }))).toBeCloseTo(1000 / Math.PI, 6);
		expect(lampStrength(lamp({ kind: "sphere", sizeM: [0.2, 0.2], strength }))).toBeCloseTo(
			1000 / (Math.PI * 4 * Math.PI * 0.01),
			6,
		);
		// A spot's light over its cone, by quadrature.
		const spot = lamp({ kind: "spot", coneDeg: 70, softness: 0.5, strength });
		const { cosInner, cosOuter } = coneCosines(spot);
		let flux = 0;
		const n = 20_000;
		for (let i = 0; i < n; i++) {
			const c = cosOuter + ((1 - cosOuter) * (i + 0.5)) / n;
			const t = Math.min(1, (c - cosOuter) / (cosInner - cosOuter));
			flux += ((2 * Math.PI * (1 - cosOuter)) / n) * t * t * (3 - 2 * t);
		}
		expect(lampStrength(spot) * flux).toBeCloseTo(1000, 2);
	});
	it("in lux gives that illuminance on its axis", () => {
		const strength = { value: 250, unit: "lux", atM: 3 } as const;
		expect(lampStrength(lamp({ strength })) / 9).toBeCloseTo(250, 9);
		const face = (kind: "disc" | "rectangle", sizeM: [number, number]) => {
			// Illuminance by quadrature over the face.
			const L = lampStrength(lamp({ kind, sizeM, strength }));
			const n = 400;
			let e = 0;
			for (let j = 0; j < n; j++)
				for (let i = 0; i < n; i++) {
					const x = ((i + 0.5) / n - 0.5) * sizeM[0];
					const y = ((j + 0.5) / n - 0.5) * sizeM[1];
					if (kind === "disc" && x * x + y * y > sizeM[0] ** 2 / 4) continue;
					const d2 = x * x + y * y + 9;
					e += (L * (9 / d2) * ((sizeM[0] * sizeM[1]) / (n * n))) / d2;
				}
			return e;
		};
		expect(face("disc", [2, 2])).toBeCloseTo(250, 0);
		expect(face("rectangle", [3, 1])).toBeCloseTo(250, 0);
	});
	it("in candela holds on its axis", () => {
		const strength = { value: 40, unit: "candela", atM: 1 } as const;
		expect(lampStrength(lamp({ strength }))).toBe(40);
		expect(lampStrength(lamp({ kind: "rectangle", sizeM: [2, 2], strength }))).toBe(10);
	});
	it("of those that are muted or not solo does not count", () => {
		const [a, b, c] = [
			newLamp("a", "point"),
			newLamp("b", "point", { muted: true }),
			newLamp("c", "point", { solo: true }),
		];
		expect(shining([a, b])).toEqual([a]);
		expect(shining([a, b, c])).toEqual([c]);
		expect(shining([a, { ...c, muted: true }])).toEqual([a]);
	});
});

describe("bodies of lamps", () => {
	const bodyOf = (kind: LampKind) => (LAMPS[kind].body as () => Mesh)();
	const area = (kind: "sphere" | "disc" | "rectangle") => triangleAreas(bodyOf(kind)).reduce((s, a) => s + a, 0);
	it("have the areas of what they stand for", () => {
		expect(area("sphere")).toBeCloseTo(4 * Math.PI, 5);
		expect(area("disc")).toBeCloseTo(Math.PI, 5);
		expect(area("rectangle")).toBeCloseTo(4, 9);
	});
	it("look towards −Z when they are flat", () => {
		for (const kind of ["disc", "rectangle"] as const) {
			const { positions: p, indices } = bodyOf(kind);
			for (let t = 0; t < indices.length; t += 3) {
				const [a, b, c] = [0, 1, 2].map((k) => [p[indices[t + k] * 3], p[indices[t + k] * 3 + 1]]);
				expect((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])).toBeLessThan(0);
			}
		}
	});
});

describe("the tree over lights", () => {
	const random = randomStream(4);
	const lights: LightBounds[] = Array.from({ length: 300 }, (_, i) => {
		const at: Vec3 = [random() * 40 - 20, random() * 6, random() * 40 - 20];
		const axis = normalize([random() - 0.5, random() - 0.5, random() - 0.5]);
		const r = 0.2;
		return {
			low: [at[0] - r, at[1] - r, at[2] - r],
			high: [at[0] + r, at[1] + r, at[2] + r],
			axis,
			spread: i % 3 ? 0 : Math.PI,
			emission: i % 2 ? Math.PI / 2 : 0.5,
			strength: 1 + random() * 9,
		};
	});
	const { nodes, leafOf } = buildLightTree(lights);
	const whole = new Uint32Array(nodes.buffer);
	const at = (n: number) => n * NODE_WORDS;
	it("holds each light once, in a leaf that knows it", () => {
		const seen = new Set<number>();
		for (let n = 0; n < nodes.length / NODE_WORDS; n++) {
			const light = whole[at(n) + NODE_LIGHT];
			if (light === NONE) {
				for (const side of [NODE_LEFT, NODE_RIGHT]) expect(whole[at(whole[at(n) + side]) + NODE_PARENT]).toBe(n);
			} else {
				expect(leafOf[light]).toBe(n);
				seen.add(light);
			}
		}
		expect(seen.size).toBe(300);
		expect(whole[NODE_PARENT]).toBe(NONE);
	});
	it("has nodes that hold the places, directions and strength of all below them", () => {
		lights.forEach((l, i) => {
			for (let n = leafOf[i]; n !== NONE; n = whole[at(n) + NODE_PARENT]) {
				const centre: Vec3 = [nodes[at(n)], nodes[at(n) + 1], nodes[at(n) + 2]];
				expect(length(sub(l.low, centre))).toBeLessThan(nodes[at(n) + 3] * 1.0001);
				expect(length(sub(l.high, centre))).toBeLessThan(nodes[at(n) + 3] * 1.0001);
				const axis: Vec3 = [nodes[at(n) + 4], nodes[at(n) + 5], nodes[at(n) + 6]];
				const spread = Math.acos(Math.max(-1, Math.min(1, nodes[at(n) + 7])));
				const off = Math.acos(Math.max(-1, Math.min(1, dot(axis, l.axis)))) + l.spread;
				expect(Math.min(Math.PI, off)).toBeLessThan(spread + 0.002);
				expect(Math.cos(l.emission)).toBeGreaterThanOrEqual(nodes[at(n) + 9] - 1e-6);
			}
		});
		expect(nodes[10]).toBeCloseTo(
			lights.reduce((s, l) => s + l.strength, 0),
			1,
		);
	});
	it("of lights in one place is built all the same", () => {
		const same = Array.from({ length: 40 }, () => lights[0]);
		expect(new Set(buildLightTree(same).leafOf).size).toBe(40);
		expect(buildLightTree([]).leafOf).toHaveLength(0);
	});
});

describe("lamps of a shot", () => {
	const shot = (over: Partial<ShotDocument>): ShotDocument => ({ ...blankShot(), ...over });
	it("hang in a mirror where the mirror shows them, and are turned as bodies can be", () => {
		const post = newPiece("post", "box", { stands: "level", repeat: { kind: "facing", acrossM: 6 } });
		const lamp = newLamp("lamp", "rectangle", {
			carriedBy: "post",
			position: [1, 2, 0],
			headingDeg: 30,
			pitchDeg: -20,
		});
		const [own, other] = placesOf(lamp, shot({ pieces: [post], lamps: [lamp] }));
		expect(other.position).toEqual([6 - own.position[0], own.position[1], own.position[2]]);
		expect(other.axis).toEqual([expect.closeTo(-own.axis[0], 9), own.axis[1], own.axis[2]]);
		for (const { axis, right, up } of [own, other])
			expect(cross(right, up).map((v, c) => v + axis[c])).toEqual([0, 1, 2].map(() => expect.closeTo(0, 9)));
	});
	it("become lights of the scene, each copy of what carries them with one", () => {
		const post = newPiece("post", "cylinder", {
			position: [2, 0, -6],
			stands: "level",
			headingDeg: 90,
			size: [0.1, 3, 0.1],
			repeat: { kind: "row", count: 4, step: [0, 5] },
		});
		const lamp = newLamp("lamp", "sphere", { carriedBy: "post", position: [0.5, 2.8, 0] });
		const { root } = compile(
			shot({ pieces: [post], lamps: [lamp, newLamp("free", "spot", { stands: "level", position: [1, 3, -9] })] }),
		);
		expect(root.lights).toHaveLength(5);
		// Half a metre to the right of a post that looks along +X is half a metre towards +Z.
		expect(root.lights[0].position.map((v) => Math.round(v * 1000) / 1000)).toEqual([2, 2.8, -5.5]);
		expect(root.lights[1].position[0]).toBeCloseTo(7, 6);
		expect(root.draws.filter((d) => d.light !== undefined)).toHaveLength(4);
		expect(root.lights[4].draw).toBe(-1);
		expect(root.ids[root.lights[4].id].id).toBe("free");
	});
	it("and glowing pieces of a shot, unless they are hidden, muted or not seen", () => {
		const glow = newPiece("glow", "box", {
			surface: { colour: [0, 0, 0], roughness: 1, metal: 0, glow: { nits: 500, kelvin: 3000 } },
		});
		const { root } = compile(
			shot({
				pieces: [glow, { ...glow, id: "off", hidden: true }],
				lamps: [newLamp("m", "disc", { muted: true }), newLamp("u", "disc", { seen: false })],
			}),
		);
		expect(root.lights.map((l) => l.shape)).toEqual(["body", "disc"]);
		expect(luminance(root.lights[0].rgb)).toBeCloseTo(500, 4);
		expect(root.lights[1].draw).toBe(-1);
	});
	it("go when what carries them is deleted", () => {
		const doc = shot({
			pieces: [newPiece("a", "box"), newPiece("b", "box")],
			lamps: [newLamp("l", "point", { carriedBy: "a" }), newLamp("m", "point", { carriedBy: "b" })],
		});
		expect(applyEdit(doc, { name: "piece.remove", ids: ["a"] }).document.lamps.map((l) => l.id)).toEqual(["m"]);
	});
	it("shine along their heading and pitch", () => {
		expect(aimAxes(90, 0).axis.map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([1, 0, 0]);
		expect(aimAxes(0, -90).axis[1]).toBeCloseTo(-1, 9);
	});
});
