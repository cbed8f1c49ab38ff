/** State of the room itself: what is open, selected and looked at. Nothing of it belongs to the shot. */
import { create } from "zustand";
import type { Camera, LampKind, MatchAxis, ShapeKind } from "../../core/doc/schema.ts";
import type { EdgeFamily } from "../../core/match/families.ts";
import type { ScenePart, SceneRoot } from "../../core/scene/scene.ts";
import type { ProofState } from "../stage/messages.ts";
import type { StageClient } from "../stage/stageClient.ts";
import type { Thinning } from "../view/bodies.ts";
import type { Look } from "../view/workingView.ts";

export const STEPS = ["Brief", "Match", "Mass", "Ground", "Dress", "Air", "Light", "Finish", "Print"] as const;
export type Step = (typeof STEPS)[number];

export type MatchTool = "line" | "height" | "length" | "circle" | "curve";

/** What is set on a spot to check a match by: four banded metres, or a door in a wall across or along the place. */
export type StaffKind = "staff" | "door across" | "door along";

export type FreePose = Pick<Camera, "position" | "headingDeg" | "pitchDeg"> &
	Partial<Pick<Camera, "rollDeg" | "focalMm" | "shiftMm">>;

export interface Zoom {
	k: number;
	/** Place of the frame (0 to 1) that lies in the middle. */
	x: number;
	y: number;
}

interface Studio {
	step: Step | null;
	listOpen: boolean;
	sheetOpen: boolean;
	helpOpen: boolean;
	selected: string[];
	cover: string | null;
	/** Lamp that is worked on. */
	lamp: string | null;
	/** Kind of lamp that the next click places. */
	placing: LampKind | null;
	/** Shape that the next drag draws. */
	drawing: ShapeKind | null;
	axis: MatchAxis;
	/** What a drag over the reference draws. */
	tool: MatchTool;
	line: { id: string; end: 1 | 2 } | null;
	/** Known size or circle that is worked on, or the horizon. */
	mark: string | null;
	/** Families of edges found in the picture, not yet taken or refused; the one that is pointed at. */
	proposals: EdgeFamily[] | null;
	proposalOver: number | null;
	/** Place of the staff that checks a match, in world metres. */
	staff: [number, number] | null;
	/** What stands there. */
	staffKind: StaffKind;
	/** Upright lines over the reference, to be held against its own. */
	plumb: boolean;
	placingStaff: boolean;
	pickingFogPiece: boolean;
	free: FreePose | null;
	/** The frame has been drawn once: the proof leaves the machine to that before it begins. */
	warm: boolean;
	/** The drawn view takes too long to follow a hand. */
	heavy: boolean;
	/** In a free view the arrows go along the view, whatever the ground does. */
	flying: boolean;
	/** Metres of one step in a free view. */
	strideM: number;
	exchanged: boolean;
	/** The section stands in the plan's place. */
	section: boolean;
	zoom: Zoom;
	grey: boolean;
	/** The frame is shown as small as a stamp while its key is held. */
	small: boolean;
	/** The reference over the frame is taken away while its key is held. */
	blinking: boolean;
	/** The pin-up sheet lies over the mat. */
	pinsOpen: boolean;
	/** Cameras that are kept lie beside the reference. */
	camerasOpen: boolean;
	mirrored: boolean;
	look: Look;
	root: SceneRoot | null;
	parts: Map<string, ScenePart>;
	sceneNumber: number;
	compileMs: number;
	proof: ProofState | null;
	thinning: Thinning[];
	/** Print that lies over the frame. */
	print: string | null;
	/** Layer of the print that is shown. */
	layer: string;
	/** What lies under the pointer in that print, in words. */
	underPointer: string | null;
	/** Proof and print are shown without their noise, or as they were traced. */
	clean: boolean;
	trouble: string | null;
	/** Files that are being brought in: how many are done, of how many, and the one that is under way. */
	bringing: { done: number; all: number; name: string } | null;
	/** Name of the sky picture that is being kept. */
	hanging: string | null;
	stage: StageClient | null;
	frameSize: { width: number; height: number };
	set: (change: Partial<Studio>) => void;
	select: (ids: string[], more?: boolean) => void;
}

export const useStudio = create<Studio>((set, get) => ({
	step: "Match",
	listOpen: false,
	sheetOpen: false,
	helpOpen: false,
	selected: [],
	cover: null,
	lamp: null,
	placing: null,
	drawing: null,
	axis: "along",
	tool: "line",
	line: null,
	mark: null,
	proposals: null,
	proposalOver: null,
	staff: null,
	staffKind: "staff",
	plumb: false,
	placingStaff: false,
	pickingFogPiece: false,
	free: null,
	heavy: false,
	warm: false,
	flying: false,
	strideM: 1,
	exchanged: false,
	section: false,
	zoom: { k: 1, x: 0.5, y: 0.5 },
	grey: false,
	small: false,
	blinking: false,
	pinsOpen: false,
	camerasOpen: false,
	mirrored: false,
	look: "surfaces",
	root: null,
	parts: new Map(),
	sceneNumber: 0,
	compileMs: 0,
	proof: null,
	thinning: [],
	print: null,
	layer: "picture",
	underPointer: null,
	clean: true,
	trouble: null,
	bringing: null,
	hanging: null,
	stage: null,
	frameSize: { width: 0, height: 0 },
	set: (change) => set(change),
	select: (ids, more) => {
		const before = get().selected;
		const next = more ? [...before.filter((i) => !ids.includes(i)), ...ids.filter((i) => !before.includes(i))] : ids;
		set({ selected: next });
	},
}));
