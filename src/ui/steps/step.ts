/** A step of the job ticket as one object: all that the room knows of it. */
import type { ComponentType, PointerEvent as ReactPointerEvent } from "react";
import type { PrintLine } from "../../core/doc/records.ts";
import type { ShotDocument } from "../../core/doc/schema.ts";
import type { SceneRoot } from "../../core/scene/scene.ts";
import type { MarkProps } from "../frame/marks.ts";
import type { Key } from "../parts/keys.ts";
import type { PlanMarkProps, PressFromAbove } from "../plan/Plan.tsx";
import type { MatchResult } from "../reference/match.ts";
import { useStudio } from "../store/studio.ts";

/** What a step may tell of where it stands. */
export interface Facts {
	doc: ShotDocument;
	root: SceneRoot | null;
	prints: readonly PrintLine[];
	match: MatchResult | null;
}

/** The act at the ticket's foot. */
export interface MainAct {
	word: string;
	go: () => void;
	off?: boolean;
}

/** An arrow key: steps to the right and down, and whether Shift or Alt is held. */
export interface Arrow {
	right: number;
	down: number;
	shift: boolean;
	alt: boolean;
}

export interface TicketStep {
	/** Where it stands, in a few words. */
	stands: (facts: Facts) => string;
	/** What it unfolds to. */
	Body: ComponentType;
	/** Its main act while it is open; without one the shot can be kept. */
	useAct?: () => MainAct | null;
	/** Marks over the frame while it is open. */
	Marks?: ComponentType<MarkProps>;
	/** Its marks are shown whichever step is open, unless another one has something in hand. */
	always?: boolean;
	/** It has something in hand: marks of others give way. */
	holds?: () => boolean;
	/** A press in the bare frame, of what it has in hand to be set there. True when it has taken it. */
	press?: (event: ReactPointerEvent, frame: MarkProps) => boolean;
	/** The same in the plan. */
	pressFromAbove?: PressFromAbove;
	/** Marks over the plan. */
	MarksFromAbove?: ComponentType<PlanMarkProps>;
	/** What was pointed at in the frame, by its id, or null for nothing. Pressed twice it goes deeper, into a group. True when it has taken it. */
	picked?: (id: string | null, more: boolean, deeper: boolean) => boolean;
	/** An arrow key. True when it has moved something. */
	arrow?: (by: Arrow) => boolean;
	/** Delete. True when it has deleted something. */
	remove?: () => boolean;
	/** A file that is dropped or pasted while it is open. True when it takes it. */
	takes?: (file: File) => Promise<boolean>;
	/** Keys of its own. */
	keys?: readonly Key[];
	/** What Escape puts down, and opening another step. */
	putDown?: () => void;
}

/** Puts down what is set in the studio. */
export const putsDown =
	(change: Parameters<ReturnType<typeof useStudio.getState>["set"]>[0]): (() => void) =>
	() =>
		useStudio.getState().set(change);
