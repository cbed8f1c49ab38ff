/** What the stage has made of the shot. */
import type { ScenePart, SceneRoot } from "../../../core/scene/scene.ts";
import type { Leeway } from "../../../core/study/roomToMove.ts";
import type { Share } from "../../../core/study/shares.ts";
import type { ProofState } from "../../stage/messages.ts";
import type { StageClient } from "../../stage/stageClient.ts";
import type { Thinning } from "../../view/bodies.ts";

export interface Staged {
	stage: StageClient | null;
	root: SceneRoot | null;
	parts: Map<string, ScenePart>;
	sceneNumber: number;
	compileMs: number;
	proof: ProofState | null;
	/** What the frame truly shows of each thing, by its id; of the shot as it last rested. */
	shares: ReadonlyMap<string, Share>;
	/** What gives out first where the lens goes, turns or zooms; null before it is known. */
	rooms: readonly Leeway[] | null;
	thinning: Thinning[];
	/** The frame shows this shot. */
	drawn: boolean;
	/** The frame has been drawn once: the proof leaves the machine to that before it begins. */
	warm: boolean;
	/** The drawn view takes too long to follow a hand. */
	heavy: boolean;
	/** How far the land has worn that is being made, 0 to 1. */
	wearing: number | null;
	/** What the waters in the land come to, by their entries. */
	waters: ReadonlyMap<string, string>;
	trouble: string | null;
}

export const staged: Staged = {
	stage: null,
	root: null,
	parts: new Map(),
	sceneNumber: 0,
	compileMs: 0,
	proof: null,
	shares: new Map(),
	rooms: null,
	thinning: [],
	drawn: false,
	warm: false,
	heavy: false,
	wearing: null,
	waters: new Map(),
	trouble: null,
};
