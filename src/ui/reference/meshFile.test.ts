import { beforeEach, describe, expect, it, vi } from "vitest";
import { blankShot, newPiece } from "../../core/doc/defaults.ts";
import { hash32 } from "../../core/maths/hash.ts";
import { sceneGlb } from "../../core/out/sceneGlb.ts";
import { compile } from "../../core/scene/compile.ts";
import { trianglesOf } from "./meshFile.ts";

const OBJ = `o ramp
v -2 0 -3
v 2 0 -3
v 2 4 3
v -2 4 3
f 1 3 2
f 1 4 3
`;
const bytes = (text: string) => new TextEncoder().encode(text).buffer as ArrayBuffer;
const copy = (u: Uint8Array) => u.slice().buffer as ArrayBuffer;

describe("meshes of other programs", () => {
	// The loaders tell each line that they do not know.
	beforeEach(() => {
		for (const level of ["warn", "error"] as const) vi.spyOn(console, level).mockImplementation(() => {});
		return () => vi.restoreAllMocks();
	});
	const doc = { ...blankShot(), pieces: [newPiece("a", "box", { position: [4, 0, -9], size: [2, 3, 1] })] };
	doc.ground = { ...doc.ground, out: true };
	const glb = sceneGlb(compile(doc), doc, { instanced: false });

	it("are read as triangles where they stand", async () => {
		const ramp = await trianglesOf("ramp.obj", bytes(OBJ));
		expect(ramp).toHaveLength(18);
		expect([...ramp.slice(0, 3)]).toEqual([-2, 0, -3]);
		const box = await trianglesOf("box.glb", copy(glb));
		const [x, y] = [0, 1].map((c) => [...box].filter((_, i) => i % 3 === c));
		expect([Math.min(...x), Math.max(...x)].map((v) => Number(v.toFixed(3)))).toEqual([3, 5]);
		expect(Math.max(...y)).toBeCloseTo(3, 3);
	});
	it("that are none are refused in a sentence", async () => {
		await expect(trianglesOf("note.obj", bytes("no mesh at all"))).rejects.toThrow(/no mesh that can be read/);
		await expect(trianglesOf("note.glb", bytes("no mesh at all"))).rejects.toThrow(/no mesh that can be read/);
		await expect(trianglesOf("empty.obj", bytes(""))).rejects.toThrow(/no mesh that can be read/);
		await expect(trianglesOf("nowhere.obj", bytes(OBJ.replace("v 2 4 3", "v 2 x 3")))).rejects.toThrow(
			/lie nowhere|no mesh/,
		);
	});
	it("that are damaged anywhere are refused or read, never broken off", async () => {
		const files: [string, Uint8Array][] = [
			["a.obj", new Uint8Array(bytes(OBJ))],
			["a.glb", glb],
		];
		for (const [name, file] of files)
			for (let n = 0; n < 2000; n++) {
				const damaged = file.slice();
				for (let k = 0; k <= n % 3; k++) damaged[hash32(n * 7 + k) % damaged.length] = hash32(n + 31 * k) & 255;
				const cut = n % 7 === 0 ? damaged.subarray(0, hash32(n) % damaged.length) : damaged;
				const outcome = await trianglesOf(name, copy(cut)).then(
					(corners) => corners.length % 9 === 0 && corners.every(Number.isFinite),
					(error: Error) => /no mesh|lie nowhere|It has/.test(error.message),
				);
				expect(outcome, `${name} ${n}`).toBe(true);
			}
	}, 120_000);
});
