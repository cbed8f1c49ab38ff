/**
 * Masses: a plan of blocks made and compiled, bodies cut, a corner moved against all compiled, bytes of a copy.
 *
 * A plan is compiled linearly when twice as many houses take twice as long; houses are told by `housesOf`. A cut is that of two
 * balls of some 100,000 triangles, beside two of a quarter as many.
 */

import { readFileSync } from "node:fs";
import { join } from "node:path";
import loadSolids from "manifold-3d";
import { saltWorksDocument } from "../demo/saltWorks.ts";
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import { applyEdit } from "../src/core/doc/edits.ts";
import { corners, type Piece, type Shape, type ShotDocument } from "../src/core/doc/schema.ts";
import type { Solid } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import { isLine, movePoint, pointPlaces } from "../src/core/shape/handPoints.ts";
import { geometryOf, makeGeometry } from "../src/core/shape/shapes.ts";
import { housesOf } from "../src/core/shape/town/make.ts";
import { placesOverFrame, sharesOf } from "../src/core/study/shares.ts";
import { STILL } from "../src/core/time/frames.ts";
import { Combiner } from "../src/makers/solids/combine.ts";
import { meet } from "../src/tracer/meet.ts";
import { makeKernel, TracerMemory } from "../src/tracer/memory.ts";
import { SceneStore } from "../src/tracer/sceneStore.ts";
import { compiled as compileScene } from "./compiled.ts";
import { median } from "./median.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;
type Town = Extract<Shape, { kind: "town" }>;

const ms = (work: () => void): number => {
	const at = performance.now();
	work();
	return performance.now() - at;
};
const several = (work: () => void, rounds = 5): number => median(Array.from({ length: rounds }, () => ms(work)));

/** A plan of so many metres each way. */
const plan = (side: number, seed = 1): Town => ({
	...(newPiece("", "town").shape as Town),
	points: corners<[number, number]>([0, 0], [side, 0], [side, side], [0, side]),
	seed,
});
const townOf = (side: number, seed?: number): Piece =>
	newPiece("town", "town", { shape: plan(side, seed), size: [side, 30, side], position: [0, 0, -side] });

/** A ball of so many bands of triangles, in metres. */
function ball(bands: number, x: number): Solid {
	const positions: number[] = [];
	const normals: number[] = [];
	const indices: number[] = [];
	for (let j = 0; j <= bands; j++)
		for (let i = 0; i <= 2 * bands; i++) {
			const [a, b] = [(Math.PI * j) / bands, (Math.PI * (i % (2 * bands))) / bands];
			const n = [Math.sin(a) * Math.cos(b), j === 0 ? 1 : j === bands ? -1 : Math.cos(a), Math.sin(a) * Math.sin(b)];
			if (j === 0 || j === bands) n[0] = n[2] = 0;
			positions.push(n[0] + x, n[1], n[2]);
			normals.push(...n);
		}
	const row = 2 * bands + 1;
	for (let j = 0; j < bands; j++)
		for (let i = 0; i < 2 * bands; i++) {
			const [p, q] = [j * row + i, (j + 1) * row + i];
			if (j > 0) indices.push(p, p + 1, q);
			if (j < bands - 1) indices.push(p + 1, q + 1, q);
		}
	const mesh = {
		positions: new Float32Array(positions),
		normals: new Float32Array(normals),
		indices: new Uint32Array(indices),
	};
	return { mesh, faces: [{ name: "all", slot: 0, begin: 0, end: indices.length / 3 }] };
}

export async function masses(say: Say): Promise<void> {
	const [side, half] = [760, 537];
	const [many, fewer] = [housesOf(plan(side)).length, housesOf(plan(half)).length];
	let seed = 1;
	const make = (far: number) => several(() => void makeGeometry(townOf(far, ++seed)));
	const [whole, part] = [make(side), make(half)];
	say(`a plan of ${many} houses made, a house beside one of ${fewer}`, whole / many, "ms", part / fewer);
	say(`a plan of ${many} houses made`, whole, "ms");

	const wasm = await loadSolids();
	wasm.setup();
	const combiner = new Combiner(wasm);
	const cut = (bands: number) => {
		const [base, other] = [ball(bands, 0), ball(bands, 0.7)];
		return several(() => void combiner.combine({ base, acts: [{ kind: "cut", of: "b", bodies: [other] }] }), 3);
	};
	const large = ball(158, 0).mesh.indices.length / 3;
	say(`a cut of two bodies of ${large} triangles, beside a quarter of that`, cut(158), "ms", cut(79));

	// Five thousand pieces, a wall among them, one of whose corners is moved.
	const wall = newPiece("wall", "wall", { position: [0, 0, -20], size: [6, 3, 2] });
	const kinds = ["box", "stair", "arch", "tube", "dome", "building", "raised", "turned"] as const;
	const others = Array.from({ length: 4999 }, (_, i) =>
		newPiece(`p${i}`, kinds[i % kinds.length], {
			position: [((i * 37) % 400) - 200, 0, -10 - (i % 300)],
			size: [1 + (i % 5), 2 + (i % 3), 1.5],
		}),
	);
	const doc: ShotDocument = { ...blankShot(), pieces: [wall, ...others] };
	const cache = new PartCache();
	const compiled = (of: ShotDocument, with_ = cache) => compileScene(of, STILL, with_);
	const all = ms(() => void compiled(doc));
	let now = doc;
	const corner = several(() => {
		const own = now.pieces[0];
		if (!isLine(own)) return;
		const [x, y, z] = pointPlaces(own, now)[2];
		now = applyEdit(now, movePoint(own, 2, [x + 0.05, y, z], now)).document;
		compiled(now);
	});
	say("compile of 5,000 pieces after one corner has moved, all of it beside it", corner, "ms", all);

	// What the list of what is in the frame asks for: what is met first, by places spread over 480 pixels.
	const memory = new TracerMemory();
	const kernel = makeKernel(
		new WebAssembly.Module(readFileSync(join(process.cwd(), "build/kernel.wasm"))),
		memory.memory,
	);
	const store = new SceneStore(memory, kernel);
	for (const [name, shot] of [
		["the demo", saltWorksDocument()],
		["5,000 pieces", doc],
	] as const) {
		const scene = compileScene(shot);
		store.load(scene, { width: 480, height: 260, seed: 1 });
		const places = placesOverFrame(shot, 480);
		const share = () => void sharesOf(scene.root.ids, meet({ kernel, memory, store }, scene, places).ids);
		say(`true shares of ${name} at 480 px, goal beside it`, several(share), "ms", 30);
	}

	const row = (count: number) =>
		compiled({ ...blankShot(), pieces: [newPiece("post", "stair", { repeat: { kind: "row", count, step: [2, 0] } })] });
	const bytes = (count: number) => JSON.stringify(row(count).root).length;
	say(
		"bytes of a copy as it goes to the page, beside its body",
		(bytes(1000) - bytes(500)) / 500,
		"bytes",
		geometryOf(newPiece("", "stair")).mesh.positions.byteLength * 2,
	);
}
