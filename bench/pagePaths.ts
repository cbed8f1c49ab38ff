/** Runs in the page: whole paths of the demo shot, ours on one thread and those of three-gpu-pathtracer on WebGL. */
import * as THREE from "three";
import { WebGLPathTracer } from "three-gpu-pathtracer";
import { saltWorksDocument } from "../demo/saltWorks.ts";
import { frameOfView } from "../src/core/lens/camera.ts";
import { makeKernel, TracerMemory } from "../src/tracer/memory.ts";
import { renderTile, reserveDesk } from "../src/tracer/renderTile.ts";
import { SceneStore } from "../src/tracer/sceneStore.ts";
import { WorkingView } from "../src/ui/view/workingView.ts";
import { compiledInPage } from "./compiledInPage.ts";

/** Samples a second on one thread, with all that the shot has: fog, water, sky, glowing pieces. */
export async function ours(width: number, height: number, samples: number): Promise<number> {
	const module = await WebAssembly.compileStreaming(fetch("/kernel.wasm"));
	const memory = new TracerMemory();
	const kernel = makeKernel(module, memory.memory);
	const store = new SceneStore(memory, kernel);
	const desk = reserveDesk(memory);
	store.load(await compiledInPage(saltWorksDocument()), { width, height, seed: 1 });
	const tile = { x: 0, y: 0, width, height };
	renderTile(kernel, memory.memory.buffer, store.header, desk, tile, 0, 16);
	const at = performance.now();
	renderTile(kernel, memory.memory.buffer, store.header, desk, tile, 0, samples);
	return (width * height * samples) / ((performance.now() - at) / 1000);
}

/** The same triangles in plain grey under an even sky and a sun, without fog and water, to as many bounces as it takes by default. */
export async function theirs(
	width: number,
	height: number,
	samples: number,
): Promise<{ perSecond: number; preparedMs: number; triangles: number }> {
	const doc = saltWorksDocument();
	const { root, parts } = await compiledInPage(doc);
	const view = new WorkingView();
	view.take(root, parts);
	const scene = new THREE.Scene();
	const grey = new THREE.MeshStandardMaterial({ color: 0x808080, roughness: 1, side: THREE.DoubleSide });
	let triangles = 0;
	const add = (geometry: THREE.BufferGeometry, matrix: THREE.Matrix4) => {
		const bare = new THREE.BufferGeometry();
		for (const name of ["position", "normal"])
			if (geometry.attributes[name]) bare.setAttribute(name, geometry.attributes[name].clone());
		if (geometry.index) bare.setIndex(geometry.index.clone());
		if (!bare.attributes.normal) bare.computeVertexNormals();
		bare.applyMatrix4(matrix);
		triangles += (bare.index?.count ?? bare.attributes.position.count) / 3;
		scene.add(new THREE.Mesh(bare, grey));
	};
	for (const mesh of view.meshes()) {
		mesh.updateMatrixWorld(true);
		if (!(mesh instanceof THREE.InstancedMesh)) add(mesh.geometry, mesh.matrixWorld);
		else
			for (let i = 0; i < mesh.count; i++) {
				const m = new THREE.Matrix4();
				mesh.getMatrixAt(i, m);
				add(mesh.geometry, mesh.matrixWorld.clone().multiply(m));
			}
	}
	const sun = new THREE.DirectionalLight(0xffffff, 3);
	sun.position.set(0.5, 0.4, -0.8).multiplyScalar(1000);
	scene.add(sun, sun.target);
	const sky = new Float32Array(4 * 8).fill(0.6);
	const environment = new THREE.DataTexture(sky, 4, 2, THREE.RGBAFormat, THREE.FloatType);
	environment.mapping = THREE.EquirectangularReflectionMapping;
	environment.needsUpdate = true;
	scene.environment = environment;
	const { tanY, right: r, up: u, forward: w, position } = frameOfView(doc.camera);
	const camera = new THREE.PerspectiveCamera((2 * Math.atan(tanY) * 180) / Math.PI, width / height, 0.05, 80_000);
	camera.position.set(0, 0, 0);
	camera.quaternion.setFromRotationMatrix(
		new THREE.Matrix4().set(r[0], u[0], -w[0], 0, r[1], u[1], -w[1], 0, r[2], u[2], -w[2], 0, 0, 0, 0, 1),
	);
	// Meshes of the view lie relative to the lens when it draws; here they are moved so that the lens is the middle.
	for (const child of scene.children)
		if (child instanceof THREE.Mesh) child.position.sub(new THREE.Vector3(...position));
	scene.updateMatrixWorld(true);
	const renderer = new THREE.WebGLRenderer();
	renderer.setSize(width, height, false);
	const tracer = new WebGLPathTracer(renderer);
	Object.assign(tracer, {
		renderDelay: 0,
		minSamples: 0,
		fadeDuration: 0,
		rasterizeScene: false,
		dynamicLowRes: false,
		renderToCanvas: false,
	});
	tracer.tiles.set(1, 1);
	const before = performance.now();
	tracer.setScene(scene, camera);
	const gl = renderer.getContext();
	const finished = () => gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
	while (tracer.samples < 1) {
		tracer.renderSample();
		finished();
		await new Promise((done) => setTimeout(done, 0));
	}
	const at = performance.now();
	const first = tracer.samples;
	while (tracer.samples < first + samples) {
		tracer.renderSample();
		finished();
	}
	return {
		perSecond: (width * height * samples) / ((performance.now() - at) / 1000),
		preparedMs: at - before,
		triangles,
	};
}
