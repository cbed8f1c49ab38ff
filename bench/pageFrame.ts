/**
 * Runs in the page: time of a frame of the working view on the demo shot, and of plain three.js with the same buffers.
 *
 * Two cores, software graphics, 944 × 510: each triangle lit as it was drawn 16.5 s, 9.2 times three.js lit and textured; each pixel lit
 * once 5.0 s, 2.8 times: bodies 1.0 s, light 1.5, mirrored bodies 0.7, their light 0.4, panes and water 0.3, sky 0.2. Tried: what is beside
 * the frame left out (5 % of the triangles), one halving in place of two (nothing), fewer cells (10 % of the light; edges show).
 */
import * as THREE from "three";
import { saltWorksDocument } from "../demo/saltWorks.ts";
import { frameOfView } from "../src/core/lens/camera.ts";
import { compile } from "../src/core/scene/compile.ts";
import { NO_BLOBS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import { momentOfFrame } from "../src/core/time/frames.ts";
import { WorkingView } from "../src/ui/view/workingView.ts";
import { compiledInPage, PAGE_MAKERS } from "./compiledInPage.ts";
import { median } from "./median.ts";
import { compileMoved } from "./moved.ts";

interface Heap {
	memory?: { usedJSHeapSize: number };
}

const heapMib = (): number => {
	(globalThis as unknown as { gc?: () => void }).gc?.();
	return ((performance as Heap).memory?.usedJSHeapSize ?? 0) / 1048576;
};

/** Frames of the demo's move drawn one after the other, over and over: what one takes, and the page's memory early and late. */
export async function play(): Promise<{
	drawMs: number;
	compileMs: number;
	early: number;
	late: number;
	held: [number, number];
}> {
	const doc = saltWorksDocument();
	const move = doc.move as NonNullable<typeof doc.move>;
	await compiledInPage(doc);
	const canvas = document.querySelector("canvas") as HTMLCanvasElement;
	let { width, height } = canvas;
	const gl = new THREE.WebGLRenderer({ canvas, antialias: false, logarithmicDepthBuffer: true });
	gl.setSize(width, height, false);
	const view = new WorkingView();
	const cache = new PartCache();
	const [draws, compiles]: number[][] = [[], []];
	let early = 0;
	let held = 0;
	for (let i = 0; i < PLAYED; i++) {
		// Emulated graphics take seconds for a large frame: enough are timed, and memory is looked at with small ones.
		if (i === TIMED) [width, height] = SMALL;
		if (i === TIMED) gl.setSize(width, height, false);
		const at = performance.now();
		const { root, parts } = compile(doc, momentOfFrame(i % move.frames, move), NO_BLOBS, PAGE_MAKERS, cache);
		const made = performance.now();
		view.take(root, parts);
		view.render(gl, frameOfView(root.camera), root.finish, root.camera.ev100, {
			...{ grey: false, mirrored: false, width, height, bleed: 0 },
		});
		const c = gl.getContext();
		c.readPixels(0, 0, 1, 1, c.RGBA, c.UNSIGNED_BYTE, new Uint8Array(4));
		if (i > 1 && i < TIMED) {
			draws.push(performance.now() - made);
			compiles.push(made - at);
		}
		if (i === EARLY) [early, held] = [heapMib(), gl.info.memory.geometries + gl.info.memory.textures];
	}
	const now = gl.info.memory.geometries + gl.info.memory.textures;
	const result = { drawMs: median(draws), compileMs: median(compiles), early, late: heapMib() };
	view.dispose();
	gl.dispose();
	return { ...result, held: [held, now] };
}

/** Emulated graphics take many seconds for a frame with surfaces. */
const ROUNDS = 6;
const PLAYED = 240;
const TIMED = 14;
const SMALL = [118, 64];
const EARLY = 24;

export async function measure(): Promise<Record<"ours" | "bare" | "lit" | "whole" | "moved", number>> {
	const { root, parts } = await compiledInPage(saltWorksDocument());
	const compiled = compileMoved(PAGE_MAKERS);
	const canvas = document.querySelector("canvas") as HTMLCanvasElement;
	const { width, height } = canvas;
	const gl = new THREE.WebGLRenderer({ canvas, antialias: false, logarithmicDepthBuffer: true });
	gl.setSize(width, height, false);
	const doc = saltWorksDocument();
	const view = new WorkingView();
	view.take(root, parts);
	const finished = () => {
		const c = gl.getContext();
		c.readPixels(0, 0, 1, 1, c.RGBA, c.UNSIGNED_BYTE, new Uint8Array(4));
	};
	const time = (draw: (i: number) => void): number => {
		const ms: number[] = [];
		for (let i = 0; i < ROUNDS; i++) {
			const at = performance.now();
			draw(i);
			finished();
			if (i > 1) ms.push(performance.now() - at);
		}
		return median(ms);
	};
	// The lens turns a little each time, so that nothing is taken from the last frame.
	const turned = (i: number) => frameOfView({ ...doc.camera, headingDeg: doc.camera.headingDeg + i * 0.01 });
	const ours = time((i) =>
		view.render(gl, turned(i), doc.finish, doc.camera.ev100, { grey: false, mirrored: false, width, height, bleed: 0 }),
	);
	const scene = new THREE.Scene();
	const sun = new THREE.DirectionalLight(0xffffff, 3);
	sun.position.set(...root.dome.sunDirection);
	scene.add(sun, new THREE.HemisphereLight(0xbfd0ff, 0x806040, 1));
	const textured = texturedMaterial();
	const plain = new THREE.MeshBasicMaterial({ side: THREE.DoubleSide });
	const copies: THREE.Mesh[] = [];
	for (const mesh of view.meshes()) {
		// Textures lie from above: where one lies is of no account for how long it takes.
		if (!mesh.geometry.getAttribute("uv")) {
			const { array, count } = mesh.geometry.getAttribute("position");
			const uv = Float32Array.from({ length: 2 * count }, (_, n) => array[3 * (n >> 1) + 2 * (n & 1)] / 2);
			mesh.geometry.setAttribute("uv", new THREE.BufferAttribute(uv, 2));
		}
		if (mesh instanceof THREE.InstancedMesh) {
			const copy = new THREE.InstancedMesh(mesh.geometry, plain, mesh.count);
			copy.instanceMatrix = mesh.instanceMatrix;
			copy.frustumCulled = false;
			scene.add(copy);
			copies.push(copy);
		} else {
			const copy = new THREE.Mesh(mesh.geometry, plain);
			copy.position.copy(mesh.position);
			copy.frustumCulled = false;
			scene.add(copy);
			copies.push(copy);
		}
	}
	const camera = new THREE.PerspectiveCamera();
	camera.matrixAutoUpdate = false;
	const drawn = (i: number) => {
		const v = turned(i);
		camera.projectionMatrix.makePerspective(-0.05 * v.tanX, 0.05 * v.tanX, 0.05 * v.tanY, -0.05 * v.tanY, 0.05, 80_000);
		const { right: r, up: u, forward: w } = v;
		camera.matrix.set(r[0], u[0], -w[0], 0, r[1], u[1], -w[1], 0, r[2], u[2], -w[2], 0, 0, 0, 0, 1);
		gl.setRenderTarget(null);
		gl.render(scene, camera);
	};
	const bare = time(drawn);
	for (const copy of copies) copy.material = textured;
	const lit = time(drawn);
	return { ...compiled, ours, bare, lit };
}

/** What three.js draws textured surfaces with: colour, normal and roughness as large as ours are drawn, with their halvings. */
function texturedMaterial(): THREE.MeshStandardMaterial {
	const made = (of: (n: number) => number) => {
		const side = 512;
		const bytes = Uint8Array.from({ length: 4 * side * side }, (_, n) => (n % 4 === 3 ? 255 : of(n)));
		const texture = new THREE.DataTexture(bytes, side, side, THREE.RGBAFormat);
		Object.assign(texture, {
			...{ wrapS: THREE.RepeatWrapping, wrapT: THREE.RepeatWrapping, generateMipmaps: true, needsUpdate: true },
			...{ minFilter: THREE.LinearMipmapLinearFilter, magFilter: THREE.LinearFilter },
		});
		return texture;
	};
	return new THREE.MeshStandardMaterial({
		side: THREE.DoubleSide,
		map: made((n) => (n * 7919) & 255),
		normalMap: made((n) => (n % 4 === 2 ? 255 : 118 + ((n * 104729) & 20))),
		roughnessMap: made((n) => 128 + ((n * 613) & 127)),
	});
}
