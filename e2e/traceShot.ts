/** Compiles and traces a small shot with everything in it, in any engine. */
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import { newCover } from "../src/core/dress/plant.ts";
import { compileWhenMade } from "../src/core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import { emptyPicture, namedPlanes, placeTile, type TileSums, tilesOf } from "../src/core/scene/picture.ts";
import { STILL } from "../src/core/time/frames.ts";
import { landMaker } from "../src/makers/wear/maker.ts";
import { makeKernel, TracerMemory } from "../src/tracer/memory.ts";
import { renderTile, reserveDesk } from "../src/tracer/renderTile.ts";
import { SceneStore } from "../src/tracer/sceneStore.ts";

function shot() {
	const doc = blankShot();
	doc.pieces.push(
		newPiece("ball", "sphere", {
			position: [1.4, 0, -6],
			headingDeg: 33,
			pitchDeg: -12,
			size: [2, 1.4, 2],
			surface: { colour: [0.6, 0.3, 0.2], roughness: 0.25, metal: 0.6 },
		}),
	);
	const worn = { out: false, where: [], x: 0, z: -30, radiusM: 30, featherM: 10, fineness: 6 };
	doc.ground = {
		preset: "plain",
		seed: 4,
		heightM: 0.4,
		ledger: [
			{ id: "rain", kind: "water", ...worn, seed: 2, power: 0.3, laying: 0.5, restDeg: 40 },
			{ id: "rest", kind: "talus", ...worn, restDeg: 20, rounded: 0.2 },
		],
	};
	doc.water = { on: true, levelM: -0.05, rippleMm: 6, clarityM: 1 };
	doc.covers = [newCover("grass", "tussock", { densityPerM2: 0.4 })];
	doc.air = {
		...doc.air,
		haze: 2,
		sun: { headingDeg: 25, elevationDeg: 9 },
		cloud: { cover: 0.6, seed: 8 },
		fog: { ...doc.air.fog, on: true, visibilityM: 700, belowM: 12, skyClear: false },
	};
	return doc;
}

/** Planes of the picture in the order of a print's digest, keys of the parts, and a sum over the bytes of all parts. */
export async function traceShot(wasm: Uint8Array, wearing: Uint8Array) {
	const land = landMaker(() => WebAssembly.compile(wearing as BufferSource));
	const scene = await compileWhenMade(shot(), STILL, NO_BLOBS, { ...NO_MAKERS, land }, new PartCache());
	let partSum = 0;
	for (const part of scene.parts.values()) {
		const arrays =
			part.kind === "mesh"
				? Object.values(part.mesh)
				: part.kind === "plants"
					? [part.plants.transforms, part.plants.tints]
					: part.kind === "sheet"
						? [part.sheet.words]
						: part.kind === "volume"
							? [part.volume.words]
							: [part.data];
		for (const a of arrays)
			for (const b of new Uint8Array(a.buffer, a.byteOffset, a.byteLength)) partSum = (Math.imul(partSum, 31) + b) | 0;
	}
	const memory = new TracerMemory();
	const kernel = makeKernel(await WebAssembly.compile(wasm as BufferSource), memory.memory);
	const store = new SceneStore(memory, kernel);
	const desk = reserveDesk(memory);
	const size = { width: 96, height: 52, seed: 6 };
	store.load(scene, size);
	const picture = emptyPicture(size.width, size.height);
	let prefix = true;
	for (const tile of tilesOf(size.width, size.height, 48)) {
		const trace = (from: number, to: number, before?: TileSums) =>
			renderTile(kernel, memory.memory.buffer, store.header, desk, tile, from, to, before) as TileSums;
		// As a proof does it, in growing slices; and as a print does it, in one go.
		let slow: TileSums | undefined;
		for (const [from, to] of [
			[0, 1],
			[1, 2],
			[2, 4],
			[4, 8],
			[8, 16],
			[16, 32],
		])
			slow = trace(from, to, slow);
		const once = trace(0, 32);
		prefix &&= once.sums.every((v, i) => v === slow?.sums[i]);
		placeTile(picture, tile, once);
	}
	const planes = namedPlanes(picture).map((p) => new Uint8Array(p.data.buffer, p.data.byteOffset, p.data.byteLength));
	const all = new Uint8Array(planes.reduce((n, p) => n + p.length, 0));
	let at = 0;
	for (const p of planes) {
		all.set(p, at);
		at += p.length;
	}
	return { planes: all, keys: [...scene.parts.keys()], partSum, prefix };
}
