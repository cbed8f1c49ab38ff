/** The match of the shot as it stands: the solver's answer to the lines, in terms of the shot. */
import { useMemo } from "react";
import type { MatchAxis, ShotDocument } from "../core/doc/schema.ts";
import { type FrameOfView, frameOfView } from "../core/lens/camera.ts";
import { type Axis, PerspectiveError, type PerspectiveSolution, solvePerspective } from "../core/lens/solvePerspective.ts";
import { levelUnder, type Point } from "./frame/geometry.ts";
import { useShown } from "./store/shotStore.ts";

const AXIS: Record<MatchAxis, Axis> = { along: "z", across: "x", upright: "y" };
const AXES: MatchAxis[] = ["along", "across", "upright"];

export type MatchResult =
	| { ok: true; solution: PerspectiveSolution; axes: MatchAxis[]; residual: Map<string, number>; ratio: number }
	| { ok: false; message: string; empty: boolean };

export function solveMatch(doc: ShotDocument): MatchResult {
	const { lines, focalGivenMm } = doc.match;
	if (lines.length === 0) return { ok: false, empty: true, message: "Draw along edges that are parallel in the place. Two lines fix a direction; two directions fix the lens." };
	const reference = doc.references.find((r) => r.id === doc.shown.reference);
	const image = reference ? { width: reference.widthPx, height: reference.heightPx } : { width: 1920, height: Math.round(1920 / doc.camera.ratio) };
	const axes = AXES.filter((a) => lines.some((l) => l.axis === a));
	const of = (a: MatchAxis) => lines.filter((l) => l.axis === a);
	try {
		const solution = solvePerspective({
			image,
			film: { widthMm: doc.camera.film.widthMm },
			...(focalGivenMm === null ? {} : { focalMm: focalGivenMm }),
			directions: axes.map((a) => ({ axis: AXIS[a], segments: of(a).map((l) => [l.x1, l.y1, l.x2, l.y2] as const) })),
		});
		const residual = new Map<string, number>();
		axes.forEach((a, d) => of(a).forEach((l, i) => residual.set(l.id, solution.residualsPx[d][i])));
		return { ok: true, solution, axes, residual, ratio: image.width / image.height };
	} catch (error) {
		if (error instanceof PerspectiveError) return { ok: false, empty: false, message: error.message };
		throw error;
	}
}

/** The camera that a match would take: at the place's origin, eye height over the ground. */
export function matchedCamera(doc: ShotDocument, result: MatchResult & { ok: true }) {
	const s = result.solution;
	return {
		position: [0, doc.match.eyeHeightM, 0] as [number, number, number],
		headingDeg: s.headingDeg,
		pitchDeg: s.pitchDeg,
		rollDeg: s.rollDeg,
		focalMm: s.focalMm,
		ratio: result.ratio,
	};
}

export function matchView(doc: ShotDocument, result: MatchResult & { ok: true }): { frame: FrameOfView; headingRad: number; ground: (p: Point) => [number, number] | null } {
	const pose = matchedCamera(doc, result);
	// The picture's width spans the film's width, so the used film is as wide as the back whatever the ratio.
	const film = { widthMm: doc.camera.film.widthMm, heightMm: doc.camera.film.widthMm / result.ratio };
	const frame = frameOfView({ ...doc.camera, ...pose, film });
	return {
		frame,
		headingRad: (pose.headingDeg * Math.PI) / 180,
		ground: (p) => {
			const at = levelUnder(frame, 0, p);
			return at ? [at[0], at[2]] : null;
		},
	};
}

/** The solver's answer, again with every movement of a line. */
export function useMatch(): MatchResult {
	const doc = useShown();
	const { match, references, shown, camera } = doc;
	// biome-ignore lint/correctness/useExhaustiveDependencies: only these parts of the document enter the match
	return useMemo(() => solveMatch(doc), [match, references, shown.reference, camera.film.widthMm, camera.ratio]);
}
