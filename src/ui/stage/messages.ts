/** What the page and the stage worker say to each other. */
import type { Difference } from "../../core/doc/difference.ts";
import type { FramePart } from "../../core/doc/schema.ts";
import type { LandPicture } from "../../core/formats/landPicture.ts";
import type { LandField } from "../../core/ground/field.ts";
import type { LandRead } from "../../core/ground/pictures.ts";
import type { Area } from "../../core/maths/area.ts";
import type { ScenePart, SceneRoot } from "../../core/scene/scene.ts";
import type { Leeway } from "../../core/study/roomToMove.ts";
import type { Share } from "../../core/study/shares.ts";
import type { SmallFrame } from "../../core/study/smallFrame.ts";
import type { Moment } from "../../core/time/frames.ts";

export type ToStage =
	| { type: "start"; kernel: WebAssembly.Module; weights: ArrayBuffer; ports: MessagePort[] }
	| { type: "document"; number: number; change: Difference; moment: Moment; resting: boolean }
	/** A hand moves something that is not to be compiled yet: the tracing threads leave the machine to it. */
	| { type: "hold" }
	| { type: "proof"; on: boolean; width: number; height: number; clean: boolean }
	/** Whether the proof leaves the machine to a print. */
	| { type: "rest"; resting: boolean }
	/** Small frames of the move that are wanted, in their order; and what those that are there already were traced from. */
	| { type: "small"; frames: number[]; known?: [frame: number, sign: string][] }
	/** Whether the room to move is to be told. */
	| { type: "rooms"; wanted: boolean }
	/** Part of the frame that is seen enlarged, null for all of it. */
	| { type: "look"; part: FramePart | null }
	| { type: "pick"; id: number; x: number; y: number }
	/** The set is wanted as a file for other programs. */
	| { type: "set"; id: number; as: SetFile };

/** Files of the set for other programs: binary glTF, the same with copies as instances, and OBJ with its MTL as a ZIP. */
export type SetFile = "glb" | "instanced" | "obj";

export interface ProofState {
	coarse: boolean;
	width: number;
	height: number;
	/** What its pixels cover, as shares of the frame: more than it where the lens bends in what lies beyond. */
	part: Area;
	/** RGBA rows from the top, cd/m²; null when only the numbers are new. */
	pixels: Float32Array | null;
	/** Its noise was taken out. */
	clean: boolean;
	samples: number;
	/** Noise now and noise aimed at, as shares; null before it can be told. */
	noise: number | null;
	aim: number;
	secondsLeft: number | null;
	/** Samples of a pixel that all threads trace in a second, null before it is measured. */
	samplesPerSecond: number | null;
	done: boolean;
	/** Milliseconds from the arrival of the document to this picture. */
	sinceEditMs: number;
}

export type FromStage =
	| {
			type: "scene";
			number: number;
			sameLight: boolean;
			root: SceneRoot;
			fresh: ScenePart[];
			keys: string[];
			compileMs: number;
	  }
	| { type: "proof"; state: ProofState }
	/** `thing` is the id of what was met, of the scene that the stage has now; null for nothing. */
	| { type: "picked"; id: number; thing: string | null; distanceM: number }
	/** A small frame of the move as it is now. */
	| { type: "small"; small: SmallFrame }
	/** What gives out first where the lens goes, turns or zooms. */
	| { type: "rooms"; rooms: Leeway[] }
	/** What the frame truly shows, counted by rays through the lens. */
	| { type: "shares"; shares: Share[] }
	/** The file of the set, or why there is none. */
	| { type: "set"; id: number; bytes: Uint8Array<ArrayBuffer> | null; message: string }
	/** How far the land has worn, 0 to 1; and what has come of it, by its key and the id of its entry in the ledger. */
	| { type: "wearing"; share: number }
	| { type: "field"; key: string; id: string; field: LandField }
	/** What the waters in the land come to, in words, by the ids of their entries. */
	| { type: "waters"; told: [id: string, told: string][] }
	/** A picture that the land is made from. */
	| { type: "landPicture"; read: LandRead; picture: LandPicture }
	| { type: "trouble"; message: string };
