/**
 * The working view: the compiled scene drawn by three.js with the sky's own tables, sun shadows, closed-form fog and a
 * planar mirror in still water. Everything is placed relative to the scene's origin. It draws into a half-float picture
 * of luminance × 2^−EV; the finish pass brings that, or a proof, to the eye.
 */
import * as THREE from "three";
import { SUN_RADIUS } from "../../core/air/dome.ts";
import type { Finish } from "../../core/doc/schema.ts";
import { viewFlown } from "../../core/ground/flown.ts";
import type { FrameOfView } from "../../core/lens/camera.ts";
import { characterOf, sourceArea } from "../../core/lens/character.ts";
import { sub, type Vec3 } from "../../core/maths/vec.ts";
import type { ScenePart, SceneRoot } from "../../core/scene/scene.ts";
import { Bodies, CUT_LAYER, PANE_LAYER, type Thinning } from "./bodies.ts";
import { DrawClock } from "./drawClock.ts";
import { DrawnPicture } from "./drawnPicture.ts";
import { FinishPass, type Looked, type ProofPicture } from "./finishPass.ts";
import { FullScreen } from "./fullScreen.ts";
import { LensBlur, type Opening } from "./lensBlur.ts";
import { LightUniforms } from "./lightUniforms.ts";
import { LOOKS, type Look } from "./looks.ts";
import * as S from "./shaders.ts";
import { SHADE_FRAGMENT } from "./solidShaders.ts";
import { StillWater } from "./stillWater.ts";
import { SunShadow } from "./sunShadow.ts";

/** Distance from the lens before which things are cut away. */
const NEAR_M = 0.01;
/** Distance up to which depths are told apart, by their logarithm: to a millionth of each. */
const DEPTHS_M = 1e8;
/** Depth, in the graphics' own measure, of what is endlessly far: a little before where it would be cut away. */
const ENDLESS = 1 - 1e-5;
/** What is nearer is seldom in a frame, and is not blurred for alone. */
const NEAREST_SHOWN_M = 0.4;
/** Height below which nothing is cut away. */
const NO_CLIP = -1e9;

/** What the graphics draw a view by: without a farthest distance. */
export function projectionOf({
	shiftX: x,
	shiftY: y,
	tanX,
	tanY,
}: Pick<FrameOfView, "shiftX" | "shiftY" | "tanX" | "tanY">): THREE.Matrix4 {
	const side = [x - tanX, x + tanX, y + tanY, y - tanY].map((t) => NEAR_M * t) as [number, number, number, number];
	const matrix = new THREE.Matrix4().makePerspective(...side, NEAR_M, 2 * NEAR_M);
	matrix.elements[10] = -ENDLESS;
	matrix.elements[14] = -NEAR_M * (1 + ENDLESS);
	return matrix;
}

export class WorkingView {
	readonly clock = new DrawClock();
	/** Share of the pixels' sides that the drawn view has now. */
	drawnScale = 0;
	/** Some of the drawn view is in the frame or around it. */
	showsWorld = false;
	/** How often the world has been drawn. */
	worlds = 0;
	private world = new THREE.Scene();
	private camera = new THREE.PerspectiveCamera();
	private picture = new DrawnPicture();
	private blur = new LensBlur();
	/** What the blurred view was made for. */
	private blurredFor = "";
	private blurred: THREE.Texture | null = null;
	private light = new LightUniforms();
	private bodies = new Bodies(this.light.uniforms);
	private water = new StillWater(this.light.uniforms);
	private shadow = new SunShadow();
	private finish = new FinishPass();
	private sky = {
		...this.light.uniforms,
		uAxes: { value: new THREE.Matrix3() },
		uSunCos: { value: Math.cos(SUN_RADIUS) },
		uEyeY: { value: 0 },
		uMirrored: { value: 0 },
	};
	private skyPass = new FullScreen(S.SKY_FRAGMENT, this.sky, { depthTest: true });
	/** What has been written down of each pixel. */
	private seen = {
		uAxes: this.sky.uAxes,
		uSeen: { value: null as THREE.Texture | null },
		uAway: { value: null as THREE.Texture | null },
	};
	private shadePass = new FullScreen(SHADE_FRAGMENT, { ...this.bodies.uniforms, ...this.seen });
	/** What draws sheets is long: it is made where some lie. */
	private shadeLaidPass = new FullScreen(
		SHADE_FRAGMENT,
		{ ...this.bodies.uniforms, ...this.seen },
		{ defines: { LAID: 1 } },
	);
	private root: SceneRoot | null = null;
	/** Scenes taken so far. */
	private scenes = 0;
	/** What the drawn view was drawn for. */
	private drawnFor = "";

	constructor() {
		this.camera.matrixWorldAutoUpdate = false;
		this.water.mesh.layers.set(PANE_LAYER);
		this.world.add(this.bodies.group, this.water.mesh);
		this.light.uniforms.uShadow.value = this.shadow.map;
		this.clock.onFirst = () => {
			this.drawnFor = "";
		};
	}

	get thinning(): Thinning[] {
		return this.bodies.thinning;
	}

	/** Takes a compiled scene; meshes are kept by key. */
	take(root: SceneRoot, parts: Map<string, ScenePart>): void {
		this.root = root;
		this.scenes++;
		this.light.take(root, parts);
		this.bodies.take(root, parts);
		this.water.take(root);
		this.shadow.stale = true;
	}

	/** A proof or a print to be shown in place of the drawn view; null goes back to it. */
	setProof(proof: ProofPicture | null): void {
		this.finish.setProof(proof);
	}

	/** `steps` are those of the look of tones; the raking light comes from where `rake` points, a direction of length 1. */
	setLook(look: Look, steps = 4, rake: Vec3 = [0, 1, 0]): void {
		this.light.uniforms.uLook.value = LOOKS[look];
		this.light.uniforms.uRake.value.set(...rake);
		this.finish.setSteps(look === "tones" ? steps : 0);
	}

	/**
	 * Draws the frame into the canvas. `view` may be another than the shot's lens (a free view). In the margin about the
	 * frame the drawn view goes on, dimmed. `scale` below 1 draws fewer pixels, for machines that are slow while hands move.
	 */
	render(
		gl: THREE.WebGLRenderer,
		view: FrameOfView,
		finish: Finish,
		ev100: number,
		how: Looked & { scale?: number; opening?: Opening | null },
	): void {
		const { width, height, bleed, scale = 1, opening = null } = how;
		const frame = { width: width - 2 * bleed, height: height - 2 * bleed };
		// What the lens bends in at the canvas's edges is drawn, too.
		const canvas = sourceArea({ x: -bleed, y: -bleed, width, height }, frame, characterOf(finish));
		const over = { x: 1 - (2 * canvas.x) / frame.width, y: 1 - (2 * canvas.y) / frame.height };
		this.showsWorld = this.finish.showsView(bleed);
		const before = this.worlds;
		if (this.showsWorld) {
			const wide = { ...view, tanX: view.tanX * over.x, tanY: view.tanY * over.y };
			this.drawWorld(gl, wide, Math.round(frame.width * over.x), Math.round(frame.height * over.y), scale);
		}
		const texture =
			this.showsWorld && opening ? this.throughLens(gl, opening, view.tanX * over.x) : this.picture.light.texture;
		if (this.worlds !== before) this.clock.start(gl, scale);
		const drawn = { texture, ev: this.root?.camera.ev100 ?? ev100, over };
		this.finish.draw(gl, drawn, view, finish, ev100, how);
	}

	/** The drawn view through an open lens; as it is where everything in it is sharp. */
	private throughLens(gl: THREE.WebGLRenderer, opening: Opening, tanX: number): THREE.Texture {
		if (this.light.uniforms.uLook.value !== LOOKS.surfaces) return this.picture.light.texture;
		const wanted = JSON.stringify([this.worlds, opening, tanX]);
		if (wanted !== this.blurredFor) {
			this.blurredFor = wanted;
			const shows = LensBlur.shows(opening, this.picture.width, tanX, NEAREST_SHOWN_M);
			this.blurred = shows ? this.blur.draw(gl, this.picture.light, opening, tanX, DEPTHS_M) : null;
		}
		return this.blurred ?? this.picture.light.texture;
	}

	private drawWorld(
		gl: THREE.WebGLRenderer,
		overLand: FrameOfView,
		fullWidth: number,
		fullHeight: number,
		scale: number,
	): void {
		if (!this.root) return;
		const view = viewFlown(this.root.planet, overLand);
		const light = this.light.uniforms;
		const rake = light.uLook.value === LOOKS.raking ? light.uRake.value.toArray() : null;
		const wanted = JSON.stringify([this.scenes, light.uLook.value, rake, view, fullWidth, fullHeight]);
		if (wanted === this.drawnFor && this.drawnScale >= scale) return;
		this.worlds++;
		this.drawnFor = wanted;
		this.drawnScale = scale;
		const width = Math.max(2, Math.round(fullWidth * scale));
		const height = Math.max(2, Math.round(fullHeight * scale));
		this.picture.setSize(width, height);
		this.water.setSize(width, height, (2 * view.tanX) / width);
		const { origin } = this.root;
		const eye = new THREE.Vector3(...sub(view.position, origin));
		this.aim(this.camera, view, eye);
		light.uEye.value.copy(eye);
		light.uPixelAngle.value = (2 * view.tanX) / width;
		this.light.takeEye(this.root, view.position);
		this.sky.uEyeY.value = eye.y;
		// Where few pixels are drawn because that is slow, so are plants.
		this.bodies.showPlants(scale);
		if (this.shadow.stale || this.shadow.share < scale) this.drawShadow(gl, this.root, scale);
		gl.autoClear = false;
		if (this.water.on) this.drawMirrored(gl, view, eye);
		this.setAxes(view, false);
		this.pass(gl, this.picture, this.camera);
	}

	private drawShadow(gl: THREE.WebGLRenderer, { camera, origin }: SceneRoot, scale: number): void {
		const light = this.light.uniforms;
		this.shadow.stale = false;
		this.shadow.share = scale;
		light.uShadowOn.value = light.uSunLux.value.length() > 0 ? 1 : 0;
		if (!light.uShadowOn.value) return;
		this.water.mesh.visible = false;
		this.shadow.draw(
			gl,
			this.world,
			camera,
			origin,
			light.uSunDir.value,
			light.uShadowMatrix.value,
			this.bodies.cutShadow,
		);
		this.water.mesh.visible = this.water.on;
	}

	private drawMirrored(gl: THREE.WebGLRenderer, view: FrameOfView, eye: THREE.Vector3): void {
		const light = this.light.uniforms;
		const { level } = this.water;
		this.water.mesh.visible = false;
		this.water.aim(this.camera);
		light.uEye.value.set(eye.x, 2 * level - eye.y, eye.z);
		light.uClip.value = level;
		this.setAxes(view, true);
		this.pass(gl, this.water.mirrored, this.water.eye);
		light.uClip.value = NO_CLIP;
		light.uEye.value.copy(eye);
		this.water.mesh.visible = true;
	}

	/** Writes down what is seen in each pixel, lights that, and lays over it what is seen through. */
	private pass(gl: THREE.WebGLRenderer, { seen, light }: DrawnPicture, camera: THREE.Camera): void {
		gl.setRenderTarget(seen);
		gl.clear();
		camera.layers.set(0);
		camera.layers.enable(CUT_LAYER);
		gl.render(this.world, camera);
		gl.setRenderTarget(light);
		[this.seen.uSeen.value, this.seen.uAway.value] = seen.textures;
		(this.bodies.laid ? this.shadeLaidPass : this.shadePass).draw(gl);
		this.skyPass.draw(gl);
		camera.layers.set(PANE_LAYER);
		gl.render(this.world, camera);
	}

	private setAxes(view: FrameOfView, mirrored: boolean): void {
		const y = mirrored ? -1 : 1;
		this.sky.uMirrored.value = mirrored ? 1 : 0;
		const { right: r, up: u, middle: w, tanX, tanY } = view;
		const row = (c: number, k = 1): [number, number, number] => [r[c] * tanX * k, u[c] * tanY * k, w[c] * k];
		this.sky.uAxes.value.set(...row(0), ...row(1, y), ...row(2));
	}

	private aim(camera: THREE.PerspectiveCamera, view: FrameOfView, eye: THREE.Vector3): void {
		const { right: r, up: u, forward: w, shiftX: x, shiftY: y, tanX, tanY } = view;
		camera.near = NEAR_M;
		camera.far = DEPTHS_M;
		camera.projectionMatrix.copy(projectionOf({ shiftX: x, shiftY: y, tanX, tanY }));
		camera.projectionMatrixInverse.copy(camera.projectionMatrix).invert();
		camera.matrixWorld.set(r[0], u[0], -w[0], eye.x, r[1], u[1], -w[1], eye.y, r[2], u[2], -w[2], eye.z, 0, 0, 0, 1);
		camera.matrixWorldInverse.copy(camera.matrixWorld).invert();
	}

	/** What is drawn, for the bench and tests. */
	meshes(): THREE.Mesh[] {
		return [...this.bodies.group.children, ...(this.water.on ? [this.water.mesh] : [])] as THREE.Mesh[];
	}

	/** Gives back all that it has taken of the graphics. */
	dispose(): void {
		this.clock.end();
		for (const part of [
			this.light,
			this.bodies,
			this.water,
			this.shadow,
			this.finish,
			this.skyPass,
			this.shadePass,
			this.shadeLaidPass,
			this.picture,
			this.blur,
		])
			part.dispose();
	}
}
