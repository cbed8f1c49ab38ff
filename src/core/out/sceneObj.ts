/**
 * A whole scene as Wavefront OBJ and its MTL, in world metres, +Y up: each copy a group of its own name. The format has no
 * copies, so that plants are written out; above a limit of triangles this is refused in words.
 */

import type { Mat34 } from "../maths/vec.ts";
import { invert, transformPoint } from "../maths/vec.ts";
import { fromAfar } from "../scene/layerTable.ts";
import { drawsForFiles, type MeshPart, type Scene } from "../scene/scene.ts";

/** Triangles that are written at most: about 450 MB of text, which one string may hold. */
const MOST_TRIANGLES = 5_000_000;

interface Placed {
	name: string;
	part: MeshPart;
	transform: Mat34;
	material: number;
}

function* allOf({ root, parts }: Scene): Generator<Placed> {
	const counts = new Map<number, number>();
	const called = (id: number) => {
		const n = (counts.get(id) ?? 0) + 1;
		counts.set(id, n);
		return n === 1 ? root.ids[id].name : `${root.ids[id].name}, ${n}`;
	};
	let last = null as { name: string; transform: Mat34; surface: number } | null;
	for (const { id, mesh, transform, material } of drawsForFiles(root)) {
		// A body of several surfaces is drawn several times in one place.
		if (last?.transform === transform) last.surface++;
		else last = { name: called(id), transform, surface: 1 };
		const name = last.surface > 1 ? `${last.name}, surface ${last.surface}` : last.name;
		yield { name, part: parts.get(mesh) as MeshPart, transform, material };
	}
	for (const { id, cells, meshes, material } of root.covers)
		for (const key of cells) {
			const part = parts.get(key);
			if (part?.kind !== "plants") continue;
			const { count, origin, transforms, variants } = part.plants;
			for (let i = 0; i < count; i++) {
				const m = [...transforms.subarray(12 * i, 12 * i + 12)];
				for (let c = 0; c < 3; c++) m[4 * c + 3] += origin[c];
				yield { name: called(id), part: parts.get(meshes[variants[i]]) as MeshPart, transform: m, material };
			}
		}
}

/** Lines cannot hold line ends, nor can names hold what parts them. */
const plain = (name: string): string => name.replace(/\s+/g, "_");
const digits = (v: number): string => String(Number(v.toFixed(5)));

/** @returns Both files, in pieces of text; `materials` is the name that the OBJ calls the MTL by. Throws in words when there is too much. */
export function sceneObj(scene: Scene, materials: string): { obj: string[]; mtl: string } {
	let triangles = 0;
	for (const { part } of allOf(scene)) triangles += part.mesh.indices.length / 3;
	if (triangles > MOST_TRIANGLES)
		throw new Error(
			`${Math.round(triangles / 1e6)} million triangles are too many for OBJ, which has no copies: at most ${MOST_TRIANGLES / 1e6} million. Use .glb.`,
		);
	const obj = [`# Inquadra: metres, +Y up\nmtllib ${materials}\n`];
	let begun = 1;
	for (const { name, part, transform, material } of allOf(scene)) {
		const { positions, normals, indices } = part.mesh;
		const back = invert(transform);
		const lines = [`o ${plain(name)}\nusemtl material_${material}\n`];
		for (let i = 0; i < positions.length; i += 3)
			lines.push(
				`v ${transformPoint(transform, [positions[i], positions[i + 1], positions[i + 2]])
					.map(digits)
					.join(" ")}\n`,
			);
		for (let i = 0; i < normals.length; i += 3) {
			const n = [0, 1, 2].map(
				(c) => back[c] * normals[i] + back[4 + c] * normals[i + 1] + back[8 + c] * normals[i + 2],
			);
			const long = Math.hypot(...n) || 1;
			lines.push(`vn ${n.map((v) => digits(v / long)).join(" ")}\n`);
		}
		const corner = (i: number) => `${indices[i] + begun}//${indices[i] + begun}`;
		for (let t = 0; t < indices.length; t += 3) lines.push(`f ${corner(t)} ${corner(t + 1)} ${corner(t + 2)}\n`);
		begun += positions.length / 3;
		obj.push(lines.join(""));
	}
	const mtl = scene.root.materials
		.map((m) => fromAfar(m, scene.parts))
		.map(
			({ colour, roughness, metal, glow }, i) =>
				`newmtl material_${i}\nKd ${colour.map(digits).join(" ")}\nPr ${digits(roughness)}\nPm ${digits(metal)}\n${glow ? `Ke ${glow.map(digits).join(" ")}\n` : ""}`,
		);
	return { obj, mtl: mtl.join("\n") };
}
