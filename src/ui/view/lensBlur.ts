/**
 * How focus and depth look in the working view: light gathered from the circles that its pixels are spread over (Potmesil and
 * Chakravarty 1981, "A Lens and Aperture Camera Model for Synthetic Image Generation"), the same circles as the tracer's. What
 * is nearer than a pixel is laid over it by how much of it the circles cover; what is farther is seen beside its edge.
 */
import * as THREE from "three";
import { FullScreen } from "./fullScreen.ts";
import { BLUR_FRAGMENT, BLUR_TILE, CIRCLES_FRAGMENT, NEIGHBOURS_FRAGMENT, REACH_FRAGMENT } from "./lensBlurShaders.ts";

/** A lens that lets light in over a disc. */
export interface Opening {
	/** Half of the disc, metres. */
	radiusM: number;
	focusM: number;
}

/** Largest radius that is gathered over, as a share of the picture's width. */
const MOST_SHARE = 0.1;
/** Circles below this are nothing to be seen, pixels. */
const LEAST_PX = 0.6;

/** Pixels of a circle's radius for each 1/m by which a place is nearer or farther than the focus. */
export const circleScale = (opening: Opening, width: number, tanX: number): number =>
	(opening.radiusM * width) / (2 * tanX);

const picture = (filter: THREE.MagnificationTextureFilter) =>
	new THREE.WebGLRenderTarget(2, 2, {
		type: THREE.HalfFloatType,
		minFilter: filter,
		magFilter: filter,
		depthBuffer: false,
	});

export class LensBlur {
	private uniforms = {
		uColour: { value: null as THREE.Texture | null },
		uDepth: { value: null as THREE.Texture | null },
		uDepths: { value: 1 },
		uScale: { value: 0 },
		uNearness: { value: 0 },
		uMost: { value: 1 },
		uSize: { value: new THREE.Vector2(1, 1) },
		uCircles: { value: null as THREE.Texture | null },
		uReach: { value: null as THREE.Texture | null },
		uNear: { value: null as THREE.Texture | null },
	};
	private circles = picture(THREE.NearestFilter);
	private reach = picture(THREE.NearestFilter);
	private near = picture(THREE.NearestFilter);
	private blurred = picture(THREE.LinearFilter);
	private passes = [CIRCLES_FRAGMENT, REACH_FRAGMENT, NEIGHBOURS_FRAGMENT, BLUR_FRAGMENT].map(
		(f) => new FullScreen(f, this.uniforms),
	);

	/** Whether anything from so near on is spread enough to be seen. */
	static shows(opening: Opening, width: number, tanX: number, nearestM: number): boolean {
		const scale = circleScale(opening, width, tanX);
		const off = Math.max(1 / opening.focusM, Math.abs(1 / opening.focusM - 1 / nearestM));
		return scale * off > LEAST_PX;
	}

	/** The blurred picture of a drawing with its depths, which were written by their logarithm up to `depthsM`. */
	draw(
		gl: THREE.WebGLRenderer,
		drawn: THREE.WebGLRenderTarget,
		opening: Opening,
		tanX: number,
		depthsM: number,
	): THREE.Texture {
		const { width, height } = drawn;
		const u = this.uniforms;
		for (const target of [this.circles, this.blurred])
			if (target.width !== width || target.height !== height) target.setSize(width, height);
		for (const target of [this.reach, this.near])
			target.setSize(Math.ceil(width / BLUR_TILE), Math.ceil(height / BLUR_TILE));
		u.uColour.value = drawn.texture;
		u.uDepth.value = drawn.depthTexture;
		u.uDepths.value = Math.log2(1 + depthsM);
		u.uScale.value = circleScale(opening, width, tanX);
		u.uNearness.value = 1 / opening.focusM;
		u.uMost.value = Math.max(1, MOST_SHARE * width);
		u.uSize.value.set(width, height);
		u.uCircles.value = this.circles.texture;
		u.uReach.value = this.reach.texture;
		u.uNear.value = this.near.texture;
		[this.circles, this.reach, this.near, this.blurred].forEach((target, i) => {
			gl.setRenderTarget(target);
			this.passes[i].draw(gl);
		});
		return this.blurred.texture;
	}

	dispose(): void {
		for (const part of [this.circles, this.reach, this.near, this.blurred, ...this.passes]) part.dispose();
	}
}
