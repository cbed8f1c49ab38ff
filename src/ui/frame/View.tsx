"use client";
/** The canvas of the frame: the working view, or the proof or print in its place, through the finish. */
import { Canvas, useFrame, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef, useState } from "react";
import * as THREE from "three";
import type { Camera } from "../../core/doc/schema.ts";
import { lightToHalf } from "../../core/formats/exrWrite.ts";
import { type FrameOfView, focusDistanceM } from "../../core/lens/camera.ts";
import { DEG } from "../../core/maths/functions.ts";
import { add, normalize, scale, type Vec3 } from "../../core/maths/vec.ts";
import type { SmallFrame } from "../../core/study/smallFrame.ts";
import type { ProofState } from "../stage/messages.ts";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudio, useStudioOf } from "../store/studio.ts";
import type { ProofPicture } from "../view/finishPass.ts";
import type { Opening } from "../view/lensBlur.ts";
import { isLit } from "../view/looks.ts";
import { WorkingView } from "../view/workingView.ts";
import { shownView } from "./geometry.ts";

/** A proof of few samples takes a small share of the frame, a finished one all of it; a clean one too where the drawn view is `coarse`. */
export const proofShare = (
	{ done, samples, clean, coarse: small }: Pick<ProofState, "done" | "samples" | "clean" | "coarse">,
	coarse = false,
): number => {
	if (done || samples >= 128 || (coarse && clean)) return 1;
	if (!clean) return samples / (samples + 5);
	// A small one that waits for the frame's own pixels stays as it is however many samples these have.
	return small ? CLEAN_SHARE : Math.max(CLEAN_SHARE, samples / (samples + 1));
};
const CLEAN_SHARE = 0.8;

/** A frame that takes longer than this, milliseconds, is drawn with fewer pixels while things change. */
const SWIFT_MS = 60;
/** Rest after which all pixels are drawn, milliseconds. */
const REST_MS = 220;

/** Where even those take longer than this, the drawn view waits until the hand pauses, and the marks alone follow it. */
const HEAVY_MS = 120;
/** So many times as long for all pixels. */
const FULL_TIMES = 8;

/** Where all pixels take longer than this, the frame stays with fewer under a proof, which covers it anyway. */
const PATIENT_MS = 800;

/**
 * Share of the pixels' sides to draw while things change, in eighths: so that a frame takes about as long as it may. The
 * first is small: nothing is known yet of the machine, and programs are made for it.
 */
export const swiftScale = (frameMs: number): number =>
	frameMs === 0 ? 0.5 : frameMs <= SWIFT_MS ? 1 : Math.max(2, Math.floor(8 * Math.sqrt(SWIFT_MS / frameMs))) / 8;

/** How far from the frame's middle the raking light is lowest, in half frames, and how high it stands there and in the middle. */
const RAKE_DEG = { low: 6, high: 82 };

/** Where the raking light comes from: the side of the frame on which the pointer is, the lower the farther out. */
function useRake(on: boolean, canvas: HTMLCanvasElement, { right, forward }: FrameOfView): Vec3 {
	const [at, setAt] = useState<readonly [number, number]>([-0.7, -0.2]);
	useEffect(() => {
		if (!on) return;
		const move = (e: PointerEvent) => {
			const { left, top, width, height } = canvas.getBoundingClientRect();
			const [x, y] = [(2 * (e.clientX - left)) / width - 1, (2 * (e.clientY - top)) / height - 1];
			if (Math.abs(x) <= 1 && Math.abs(y) <= 1) setAt([x, y]);
		};
		window.addEventListener("pointermove", move);
		return () => window.removeEventListener("pointermove", move);
	}, [on, canvas]);
	const far = Math.min(1, Math.hypot(...at));
	const up = (RAKE_DEG.high + (RAKE_DEG.low - RAKE_DEG.high) * far) * DEG;
	const level = Math.hypot(forward[0], forward[2]) || 1;
	const away: Vec3 = [forward[0] / level, 0, forward[2] / level];
	const side = at.map((v) => (far > 0 ? v / Math.hypot(...at) : 0));
	const flat = add(scale(right, side[0]), scale(away, -side[1]));
	const [x, y, z] = normalize(add(scale(flat, Math.cos(up)), [0, Math.sin(up), 0]));
	// The same light for the same numbers, so that nothing is drawn for nothing.
	return useMemo(() => [x, y, z], [x, y, z]);
}

function Painter({ print, bleed }: { print: ProofPicture | null; bleed: number }) {
	const { gl, invalidate, size } = useThree();
	const view = useMemo(() => new WorkingView(), []);
	const doc = useShown();
	/** Something is being dragged: its full drawing waits for the hand to let go. */
	const inHand = useShot((s) => s.preview !== null);
	const timeS = useShot((s) => s.timeS);
	const {
		root,
		parts,
		sceneNumber,
		proof,
		free,
		grey,
		mirrored,
		look,
		valueSteps,
		playing,
		playsSmall,
		smallFrames,
		blurred,
	} = useStudioOf(
		"root",
		"parts",
		"sceneNumber",
		"proof",
		"free",
		"grey",
		"mirrored",
		"look",
		"valueSteps",
		"playing",
		"playsSmall",
		"smallFrames",
		"blurred",
	);
	const rake = useRake(look === "raking", gl.domElement, shownView(doc.camera, doc.finish, free));
	const first = useRef(true);
	/** Of a move the frame shows what the stage has made, its camera too; a hand is shown what it does at once. */
	const moving = root && timeS !== null && !inHand ? root : null;
	const camera = moving?.camera ?? doc.camera;
	const finish = moving?.finish ?? doc.finish;

	useEffect(() => {
		gl.toneMapping = THREE.NoToneMapping;
		gl.outputColorSpace = THREE.LinearSRGBColorSpace;
		// Asking for a program's messages waits for all that is being drawn.
		gl.debug.checkShaderErrors = process.env.NODE_ENV !== "production";
		view.clock.onWarm = () => {
			useStudio.getState().set({ warm: true });
			invalidate();
		};
		view.clock.onClock = (ms, scale) => {
			const { heavy, set } = useStudio.getState();
			const slow = ms > (scale < 1 ? HEAVY_MS : FULL_TIMES * HEAVY_MS);
			// A full drawing that is neither slow nor swift says nothing of a smaller one.
			if (heavy !== slow && (slow || scale < 1 || ms <= HEAVY_MS)) set({ heavy: slow });
		};
		return () => view.dispose();
	}, [gl, view, invalidate]);

	// biome-ignore lint/correctness/useExhaustiveDependencies: a scene is told apart by its number
	useEffect(() => {
		if (!root) return;
		view.take(root, parts);
		useStudio.getState().set({ thinning: view.thinning });
		invalidate();
	}, [sceneNumber, view, invalidate]);

	useEffect(() => {
		view.setLook(look, valueSteps, rake);
		const smallShown = playing !== null && playsSmall ? smallFrames.get(playing) : undefined;
		const proofShown =
			playing === null && proof?.pixels && !free && isLit(look)
				? { ...proof, pixels: proof.pixels, scale: 1, share: proofShare(proof, view.clock.frameMs > PATIENT_MS) }
				: null;
		view.setProof(print ?? (smallShown ? smallPicture(smallShown) : proofShown));
		invalidate();
	}, [print, proof, free, look, valueSteps, rake, playing, playsSmall, smallFrames, view, invalidate]);

	// biome-ignore lint/correctness/useExhaustiveDependencies: anything shown asks for one more picture
	useEffect(() => invalidate(), [camera, finish, free, grey, mirrored, size, bleed, inHand, blurred, invalidate]);

	const rest = useRef<ReturnType<typeof setTimeout> | null>(null);
	const rested = useRef(true);
	useEffect(() => () => void (rest.current && clearTimeout(rest.current)), []);

	useFrame(() => {
		if (!root && !print) return;
		const ratio = gl.getPixelRatio();
		const covered = !free && !print && isLit(look) && view.clock.frameMs > PATIENT_MS;
		const scale = rested.current && view.clock.frameMs > 0 && !covered ? 1 : swiftScale(view.clock.frameMs);
		rested.current = false;
		const how = {
			grey,
			mirrored,
			width: Math.round(size.width * ratio),
			height: Math.round(size.height * ratio),
			bleed: Math.round(bleed * ratio),
			scale,
			opening: free || !blurred ? null : openingOf(camera),
		};
		const before = view.worlds;
		view.render(gl, shownView(camera, finish, free), finish, camera.ev100, how);
		document.documentElement.dataset.scale = String(view.drawnScale);
		if (view.worlds !== before && rest.current) {
			clearTimeout(rest.current);
			rest.current = null;
		}
		if (view.showsWorld && view.drawnScale < 1 && !inHand && !covered) {
			rest.current ??= setTimeout(
				() => {
					rest.current = null;
					rested.current = true;
					invalidate();
				},
				Math.min(4 * REST_MS, Math.max(REST_MS, view.clock.frameMs / 4)),
			);
		}
		if (first.current) {
			first.current = false;
			document.documentElement.dataset.drawn = "yes";
			useStudio.getState().set({ drawn: true });
		}
	}, 1);
	return null;
}

const openingOf = (camera: Camera): Opening => ({
	radiusM: camera.focalMm / camera.fStop / 2000,
	focusM: focusDistanceM(camera),
});

/** A small frame as the frame shows it: half floats are enlarged smoothly. */
function smallPicture({ width, height, rgb, ev100, part }: SmallFrame): ProofPicture {
	const scale = 2 ** -ev100;
	const pixels = new Uint16Array(width * height * 4).fill(lightToHalf(1));
	for (let i = 0; i < width * height; i++)
		for (let c = 0; c < 3; c++) pixels[4 * i + c] = lightToHalf(Math.max(0, rgb[c][i]) * scale);
	return { width, height, pixels, scale, share: 1, part };
}

let known: boolean | null = null;

/** Asked once for the page's life: what is asked for in trying is a whole context, and browsers hold but a few. */
function hasWebGl(): boolean {
	if (known !== null || typeof document === "undefined") return known ?? true;
	try {
		const gl = document.createElement("canvas").getContext("webgl2");
		gl?.getExtension("WEBGL_lose_context")?.loseContext();
		known = gl !== null;
	} catch {
		known = false;
	}
	return known;
}

/** `bleed` is how many pixels the canvas reaches beyond the frame on each side. */
export function View({ print, bleed }: { print: ProofPicture | null; bleed: number }) {
	const able = hasWebGl();
	const shotId = useShot((s) => s.shotId);
	useEffect(() => {
		if (!able) useStudio.getState().set({ warm: true, drawn: true });
	}, [able]);
	if (!able)
		return (
			<p role="alert" className="grid h-full place-items-center p-8 text-center">
				This browser offers no WebGL 2, so the frame cannot be drawn here. Prints and the list still work.
			</p>
		);
	return (
		<Canvas
			key={shotId}
			frameloop="demand"
			dpr={1}
			flat
			linear
			gl={{
				antialias: false,
				logarithmicDepthBuffer: true,
				powerPreference: "high-performance",
				preserveDrawingBuffer: true,
			}}
			role="img"
			aria-label="The frame"
		>
			<Painter print={print} bleed={bleed} />
		</Canvas>
	);
}
