"use client";
/** What the steps do in the frame: their marks, what a press sets there, what a click picks. */
import type { FrameHands } from "../frame/Frame.tsx";
import type { MarkProps } from "../frame/marks.ts";
import type { PlanMarkProps, PressFromAbove } from "../plan/Plan.tsx";
import { dropPictures } from "../reference/references.ts";
import { MatchMarks } from "../steps/match/MatchMarks.tsx";
import { inTurn, TICKET } from "../steps/steps.ts";
import { type Step, useStudio } from "../store/studio.ts";

/** Marks of the open step, and before them those that are always there, unless the open one has something in hand. */
function Marks(props: MarkProps) {
	const step = useStudio((s) => s.step);
	// Whether something is in hand is told by the studio alone.
	const held = useStudio(() => (step ? (TICKET[step].holds?.() ?? false) : false));
	const shown = (Object.keys(TICKET) as Step[]).filter((name) => name === step || (TICKET[name].always && !held));
	return shown
		.sort((a, b) => Number(a === step) - Number(b === step))
		.map((name) => {
			const { Marks: Own } = TICKET[name];
			return Own && <Own key={name} {...props} />;
		});
}

/** Marks of all steps in the plan. */
export function MarksFromAbove(props: PlanMarkProps) {
	return (Object.keys(TICKET) as Step[]).map((name) => {
		const { MarksFromAbove: Own } = TICKET[name];
		return Own && <Own key={name} {...props} />;
	});
}

export const pressFromAbove: PressFromAbove = (event, from) =>
	inTurn().some((step) => step.pressFromAbove?.(event, from));

/** Files go to the step that is open, what it does not take is a picture to work from. */
export async function takeFiles(files: File[]): Promise<void> {
	const { step } = useStudio.getState();
	const left: File[] = [];
	for (const file of files) if (!(step && (await TICKET[step].takes?.(file)))) left.push(file);
	if (left.length) await dropPictures(left);
}

export const hands: FrameHands = {
	MatchMarks,
	Marks,
	press: (event, frame) => inTurn().some((step) => step.press?.(event, frame)),
	dropped: (files) => void takeFiles(files),
	picked: (id, more, deeper) => {
		if (inTurn().some((step) => step.picked?.(id, more, deeper)) || more) return;
		useStudio.getState().set({ selected: [], lamp: null });
	},
};
