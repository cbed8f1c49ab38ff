/** Brings the drawn view, or a proof or print in its place, to the eye: the lens, exposure, curve, contrast, vignette, the mat about it. */
import * as THREE from "three";
import type { Finish } from "../../core/doc/schema.ts";
import { tintOf } from "../../core/finish/finish.ts";
import type { FrameOfView } from "../../core/lens/camera.ts";
import { characterOf, displaces } from "../../core/lens/character.ts";
import { FullScreen } from "./fullScreen.ts";
import { FINISH_FRAGMENT } from "./shaders.ts";

export interface ProofPicture {
	width: number;
	height: number;
	/** RGBA rows from the top: cd/m² times `scale`. */
	pixels: Float32Array | Uint16Array;
	scale: number;
	/** Share that it has in the frame; the rest is the drawn view. A young proof grows into it, so that nothing jumps. */
	share: number;
	/** A layer that is shown as it is: no exposure, no curve. */
	plain?: boolean;
	/** Part of the frame that it covers, as shares from the top-left corner; the rest is the drawn view. */
	part?: { x: number; y: number; width: number; height: number };
	/** It has fewer pixels than the frame, and is shown between them. */
	coarse?: boolean;
}

/** How the frame is looked at. The canvas is wider and higher than it by `bleed` pixels on each side. */
export interface Looked {
	grey: boolean;
	mirrored: boolean;
	width: number;
	height: number;
	bleed: number;
}

/** What lies around the frame, in display values. */
const MAT = [0.804, 0.8, 0.784] as const;
const WHOLE = { x: 0, y: 0, width: 1, height: 1 };
/** From scene luminance to sensor values, as `exposureFactor` of the finish has it. */
const SENSOR = 1.2;

/** The drawn view, of so many times the frame's width and height about its middle, in luminance × 2^−`ev`. */
interface Drawn {
	texture: THREE.Texture;
	ev: number;
	over: { x: number; y: number };
}

/** A drawn view tells a small picture where its edges are if it has so many times its pixels across. */
const FINER = 1.5;
/** Drawn light that is different by a stop counts 2^−this. */
const ALIKE = 4;

/** Pixels of a drawn view across the frame. */
const widthOf = ({ texture, over }: Drawn): number => (texture.image as { width: number }).width / over.x;

export class FinishPass {
	private uniforms = {
		uPicture: { value: null as THREE.Texture | null },
		uView: { value: null as THREE.Texture | null },
		uShare: { value: 1 },
		uViewFactor: { value: 1 },
		uFactor: { value: 1 },
		uContrast: { value: 1 },
		uVignette: { value: 0 },
		uCurve: { value: 0 },
		uGrey: { value: 0 },
		uSteps: { value: 0 },
		uMirrored: { value: 0 },
		uTopDown: { value: 0 },
		uSmall: { value: 0 },
		uGuided: { value: 0 },
		uPlain: { value: 0 },
		uBend: { value: 0 },
		uFringe: { value: 0 },
		uFalloff: { value: 0 },
		uTint: { value: new THREE.Vector3(1, 1, 1) },
		uTan: { value: new THREE.Vector2(1, 1) },
		uShift: { value: new THREE.Vector2() },
		uViewOver: { value: new THREE.Vector2(1, 1) },
		uPart: { value: new THREE.Vector4(0, 0, 1, 1) },
		uSize: { value: new THREE.Vector2(1, 1) },
		uBleed: { value: new THREE.Vector2(1, 1) },
		uMat: { value: new THREE.Vector3(...MAT) },
	};
	private pass = new FullScreen(FINISH_FRAGMENT, this.uniforms);
	private texture: THREE.DataTexture | null = null;
	private proof: Omit<ProofPicture, "pixels"> | null = null;

	/** A proof or a print to be shown in place of the drawn view; null goes back to it. */
	setProof(proof: ProofPicture | null): void {
		this.proof = proof;
		if (!proof) {
			this.texture?.dispose();
			this.texture = null;
			return;
		}
		const { width, height, pixels } = proof;
		const type = pixels instanceof Float32Array ? THREE.FloatType : THREE.HalfFloatType;
		const image = this.texture?.image as { width: number; height: number } | undefined;
		if (!this.texture || image?.width !== width || image?.height !== height || this.texture.type !== type) {
			this.texture?.dispose();
			this.texture = new THREE.DataTexture(pixels as Float32Array<ArrayBuffer>, width, height, THREE.RGBAFormat, type);
			const filter = type === THREE.HalfFloatType ? THREE.LinearFilter : THREE.NearestFilter;
			this.texture.minFilter = this.texture.magFilter = filter;
		} else (this.texture.image as { data: unknown }).data = pixels;
		this.texture.needsUpdate = true;
	}

	/** Values that are told apart; 0 for all. */
	setSteps(steps: number): void {
		this.uniforms.uSteps.value = steps;
	}

	/** Something of the drawn view is seen, in the frame or around it. */
	showsView(bleed: number): boolean {
		if (!this.proof) return true;
		const { share, part = WHOLE } = this.proof;
		return share < 1 || bleed > 0 || part.width < 1 || part.height < 1;
	}

	/** Draws to the canvas. `ev100` is the exposure that is wanted. */
	draw(
		gl: THREE.WebGLRenderer,
		drawn: Drawn,
		view: FrameOfView,
		finish: Finish,
		ev100: number,
		{ grey, mirrored, width, height, bleed }: Looked,
	): void {
		const u = this.uniforms;
		const lens = characterOf(finish);
		u.uBend.value = lens.bend;
		u.uFringe.value = lens.fringe;
		u.uFalloff.value = lens.falloff;
		u.uTint.value.set(...tintOf(lens.tint));
		u.uTan.value.set(view.tanX, view.tanY);
		u.uShift.value.set(view.shiftX, view.shiftY);
		u.uViewOver.value.set(drawn.over.x, drawn.over.y);
		if (this.texture?.type === THREE.FloatType) this.smooth(gl, displaces(lens) || !!this.proof?.coarse);
		const { proof } = this;
		const part = proof?.part ?? WHOLE;
		const factor = (captured: number) => 2 ** (finish.exposureEv - ev100) / SENSOR / captured;
		u.uPart.value.set(part.x, part.y, part.width, part.height);
		u.uPicture.value = this.texture ?? drawn.texture;
		u.uTopDown.value = proof ? 1 : 0;
		u.uSmall.value = proof?.coarse && !proof.plain ? 1 : 0;
		u.uGuided.value = proof && this.showsView(bleed) && widthOf(drawn) >= FINER * proof.width ? ALIKE : 0;
		u.uFactor.value = factor(proof ? proof.scale : 2 ** -drawn.ev);
		u.uView.value = drawn.texture;
		u.uShare.value = proof ? proof.share : 1;
		u.uViewFactor.value = factor(2 ** -drawn.ev);
		u.uContrast.value = finish.contrast;
		u.uVignette.value = finish.vignette;
		u.uCurve.value = finish.curve === "straight" ? 1 : 0;
		u.uPlain.value = proof?.plain ? 1 : 0;
		u.uGrey.value = grey ? 1 : 0;
		u.uMirrored.value = mirrored ? 1 : 0;
		u.uSize.value.set(width - 2 * bleed, height - 2 * bleed);
		u.uBleed.value.set(width / (width - 2 * bleed), height / (height - 2 * bleed));
		gl.setRenderTarget(null);
		this.pass.draw(gl);
	}

	/** Proofs are shown pixel by pixel, but where the lens moves them, or there are few. */
	private smooth(gl: THREE.WebGLRenderer, smooth: boolean): void {
		const { texture } = this;
		const filter = smooth && gl.extensions.has("OES_texture_float_linear") ? THREE.LinearFilter : THREE.NearestFilter;
		if (!texture || texture.minFilter === filter) return;
		texture.minFilter = texture.magFilter = filter;
		texture.needsUpdate = true;
	}

	dispose(): void {
		this.texture?.dispose();
		this.texture = null;
		this.pass.dispose();
	}
}
