import { createHash } from "node:crypto";
import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { applyEdit, type Edit } from "../doc/edits.ts";
import type { ShotDocument } from "../doc/schema.ts";
import { newCover } from "../dress/plant.ts";
import { newEntry } from "../ground/ledger/ledger.ts";
import { STILL } from "../time/frames.ts";
import { compile, compileSteps } from "./compile.ts";
import { namesOfIds } from "./ids.ts";
import { NO_BLOBS, NO_MAKERS } from "./inputs.ts";
import { PartCache } from "./partCache.ts";
import type { Scene, ScenePart } from "./scene.ts";

function shot() {
	const doc = blankShot();
	doc.pieces = [newPiece("a", "box", { position: [2, 0, -8] }), newPiece("b", "cone", { position: [-3, 0, -12] })];
	doc.covers = [newCover("grass", "tussock", { densityPerM2: 0.3 })];
	doc.water = { ...doc.water, on: true, levelM: -0.2 };
	doc.ground = { preset: "plain", seed: 2, heightM: 0.5 };
	return doc;
}

/** One cache for all of these: what is asked is which keys are new, not what it costs. */
const cache = new PartCache();

const compileWith = (held: PartCache, doc: ShotDocument) => compile(doc, STILL, NO_BLOBS, NO_MAKERS, held);

/** Kinds of the parts that an edit makes anew, and their number. */
function made(edit: Edit): Record<string, number> {
	const doc = shot();
	const before = compileWith(cache, doc).parts;
	const after = compileWith(cache, applyEdit(doc, edit).document).parts;
	const out: Record<string, number> = {};
	for (const part of after.values()) if (!before.has(part.key)) out[part.kind] = (out[part.kind] ?? 0) + 1;
	return out;
}

const NOTHING = {};

describe("an edit makes anew only what depends on it", () => {
	const cases: [string, Edit, (m: Record<string, number>) => void][] = [
		["the finish", { name: "finish.set", contrast: 1.3 }, (m) => expect(m).toEqual(NOTHING)],
		["the exposure", { name: "camera.setLens", ev100: 9 }, (m) => expect(m).toEqual(NOTHING)],
		["the title", { name: "shot.setTitle", title: "Other" }, (m) => expect(m).toEqual(NOTHING)],
		["fog", { name: "air.setFog", on: true, visibilityM: 300 }, (m) => expect(m).toEqual(NOTHING)],
		["ripples", { name: "water.set", rippleMm: 20 }, (m) => expect(m).toEqual(NOTHING)],
		[
			"the sun's heading: only how the sky is chosen",
			{ name: "air.setSun", headingDeg: 70 },
			(m) => expect(m).toEqual({ table: 1 }),
		],
		[
			"the sun's height: the sky and how it is chosen",
			{ name: "air.setSun", elevationDeg: 12 },
			(m) => expect(m).toEqual({ table: 2 }),
		],
		[
			"cloud: its tile and how the sky is chosen",
			{ name: "air.setCloud", cover: 0.6 },
			(m) => expect(m).toEqual({ table: 2 }),
		],
		[
			"a new shape of a known kind: no mesh",
			{ name: "piece.add", pieces: [newPiece("c", "box", { position: [400, 0, 900] })] },
			(m) => expect(m.mesh ?? 0).toBe(0),
		],
		[
			"a new shape of a new kind: its mesh",
			{ name: "piece.add", pieces: [newPiece("c", "wedge", { position: [400, 0, 900] })] },
			(m) => expect(m.mesh).toBe(1),
		],
		[
			"a surface",
			{ name: "piece.setSurface", ids: ["a"], surface: { roughness: 0.2 } },
			(m) => expect(m).toEqual(NOTHING),
		],
		[
			"a piece far from all plants",
			{ name: "piece.move", pieces: [{ id: "a", position: [900, 0, 900] }] },
			(m) => expect(m.mesh ?? 0).toBe(0),
		],
		[
			"the ground: its mesh and the plants that stand on it",
			{ name: "ground.set", seed: 5 },
			(m) => expect(m.mesh).toBe(1),
		],
	];
	for (const [what, edit, look] of cases) it(what, () => look(made(edit)));

	it("a moved piece touches the cells about its old and its new place alone", () => {
		const moved = made({ name: "piece.move", pieces: [{ id: "a", position: [3, 0, -8] }] }).plants ?? 0;
		const all = [...compileWith(cache, shot()).parts.values()].filter((p) => p.kind === "plants").length;
		expect(moved).toBeGreaterThan(0);
		expect(moved).toBeLessThan(Math.max(3, all / 4));
	});
});

const digest = ({ buffer, byteOffset, byteLength }: ArrayBufferView): string =>
	createHash("sha256")
		.update(new Uint8Array(buffer, byteOffset, byteLength))
		.digest("hex");

describe("parts", () => {
	it("have the same keys and the same bytes in a cache of any age", () => {
		const bytes = (p: ScenePart): ArrayBufferView[] =>
			p.kind === "mesh"
				? [p.mesh.positions, p.mesh.indices]
				: p.kind === "plants"
					? [p.plants.transforms, p.plants.tints]
					: p.kind === "sheet"
						? [p.sheet.words]
						: p.kind === "volume"
							? [p.volume.words]
							: [p.data];
		const old = new PartCache();
		compileWith(old, blankShot());
		const [a, b] = [compileWith(old, shot()).parts, compile(shot()).parts];
		expect([...a.keys()].sort()).toEqual([...b.keys()].sort());
		for (const [key, part] of a) {
			const [mine, others] = [part, b.get(key) as ScenePart].map((p) => bytes(p).map(digest));
			expect(mine, key).toEqual(others);
		}
	});
	it("that a scene needs are all in it", () => {
		const { root, parts } = compileWith(cache, shot());
		for (const key of [
			root.dome.sky,
			root.dome.cloud,
			root.dome.grid,
			...root.draws.map((d) => d.mesh),
			...root.covers.flatMap((c) => [...c.cells, ...c.meshes]),
		])
			expect(parts.has(key)).toBe(true);
	});
});

describe("land that a hand shapes", () => {
	const inHand = (held: PartCache, doc: ShotDocument): Scene => {
		const steps = compileSteps(doc, STILL, NO_BLOBS, NO_MAKERS, held, true);
		for (;;) {
			const step = steps.next();
			if (step.done) return step.value;
		}
	};
	const land = ({ root, parts }: Scene) => {
		const part = parts.get(root.draws.find((d) => d.id === 1)?.mesh ?? "");
		return part?.kind === "mesh" ? part.mesh.positions.length / 3 : 0;
	};

	it("is coarse and bare while it changes, and all of it afterwards", () => {
		const held = new PartCache();
		const doc = shot();
		const all = compileWith(held, doc);
		// What stands as it was is taken as it is.
		expect(land(inHand(held, doc))).toBe(land(all));
		expect(inHand(held, doc).root.covers).toHaveLength(1);
		const shaped = applyEdit(doc, { name: "ground.addEntry", entry: newEntry("fold", "f", 0, -40) }).document;
		const coarse = inHand(held, shaped);
		expect(land(coarse)).toBeLessThan(land(all) / 8);
		expect(coarse.root.covers).toEqual([]);
		// A lens that a hand leads over land that stands sees all of it, and what grows there.
		const led = applyEdit(doc, { name: "camera.place", headingDeg: 40 }).document;
		expect(land(inHand(held, led))).toBe(land(compileWith(new PartCache(), led)));
		expect(inHand(held, led).root.covers).toHaveLength(1);
		// What stands on it stands on the land as it is, not on its coarse form.
		const full = compileWith(held, shaped);
		expect(land(full)).toBe(land(compileWith(new PartCache(), shaped)));
		expect(coarse.root.draws.slice(1)).toEqual(full.root.draws.slice(1));
		expect(full.root.covers).toHaveLength(1);
	});
});

describe("the numbers of the id layer", () => {
	it("are those of the compiled scene: sky, ground, water, pieces, covers", () => {
		const doc = shot();
		const names = namesOfIds(doc);
		expect(names.map((n) => n.name)).toEqual(["Sky", "Ground", "Water", "box", "cone", "Tussocks"]);
		const { root } = compileWith(cache, doc);
		expect(root.ids).toEqual(names);
		expect(root.draws.find((d) => d.id === 4)?.mesh).not.toBe(root.draws.find((d) => d.id === 3)?.mesh);
		expect(root.covers[0].id).toBe(5);
	});
	it("stay while something is left out", () => {
		const doc = shot();
		doc.pieces[0].hidden = true;
		const { root } = compileWith(cache, doc);
		expect(root.draws.map((d) => d.id).sort()).toEqual([1, 4]);
		expect(root.covers[0].id).toBe(5);
	});
});
