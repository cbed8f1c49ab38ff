/** Meshes out of files of other programs, as triangles in metres: glTF in its binary form, and OBJ. */
import type { Mesh } from "three";

/** No more triangles are read of a file. */
const MOST_TRIANGLES = 5_000_000;

const NOT_READ = "This file is no mesh that can be read, or it is damaged. OBJ and GLB can be laid on land.";

/** Three places a triangle. Throws an Error whose message is for the person. */
export async function trianglesOf(name: string, bytes: ArrayBuffer): Promise<Float64Array> {
	let corners: Float64Array;
	try {
		corners = /\.obj$/i.test(name) ? await fromObj(bytes) : await fromGlb(bytes);
	} catch (error) {
		if (error instanceof RangeError && error.message.startsWith("It has")) throw new Error(error.message);
		throw new Error(NOT_READ);
	}
	if (corners.length === 0) throw new Error(NOT_READ);
	if (corners.some((v) => !Number.isFinite(v)))
		throw new Error("Corners of this mesh lie nowhere: they are no numbers.");
	return corners;
}

/** Triangles alone are taken of it, as they stand in its first scene. */
async function fromGlb(bytes: ArrayBuffer): Promise<Float64Array> {
	const { Primitive, WebIO } = await import("@gltf-transform/core");
	const document = await new WebIO().readBinary(new Uint8Array(bytes));
	const scene = document.getRoot().getDefaultScene() ?? document.getRoot().listScenes()[0];
	const corners: number[] = [];
	scene?.traverse((node) => {
		const m = node.getWorldMatrix();
		for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
			const positions = primitive.getAttribute("POSITION");
			if (!positions || primitive.getMode() !== Primitive.Mode.TRIANGLES) continue;
			const indices = primitive.getIndices();
			const count = (indices ?? positions).getCount();
			checkCount(corners.length / 9 + count / 3);
			const at = [0, 0, 0];
			for (let i = 0; i < count - (count % 3); i++) {
				const [x, y, z] = positions.getElement(indices ? indices.getScalar(i) : i, at);
				for (const k of [0, 1, 2]) corners.push(m[k] * x + m[k + 4] * y + m[k + 8] * z + m[k + 12]);
			}
		}
	});
	return Float64Array.from(corners);
}

function checkCount(triangles: number): void {
	if (triangles > MOST_TRIANGLES)
		throw new RangeError(
			`It has ${Math.round(triangles).toLocaleString("en")} triangles or more; up to ${MOST_TRIANGLES.toLocaleString("en")} can be laid.`,
		);
}

async function fromObj(bytes: ArrayBuffer): Promise<Float64Array> {
	const { OBJLoader } = await import("three/examples/jsm/loaders/OBJLoader.js");
	const corners: Float64Array[] = [];
	new OBJLoader().parse(new TextDecoder().decode(bytes)).traverse((o) => {
		const position = (o as Mesh).geometry?.attributes.position;
		// Lines and points have places as well, and are no faces.
		if (position && (o as Mesh).isMesh)
			corners.push(Float64Array.from(position.array.subarray(0, 9 * Math.floor(position.count / 3))));
	});
	const all = corners.reduce((sum, c) => sum + c.length, 0);
	checkCount(all / 9);
	const out = new Float64Array(all);
	let at = 0;
	for (const own of corners) {
		out.set(own, at);
		at += own.length;
	}
	return out;
}
