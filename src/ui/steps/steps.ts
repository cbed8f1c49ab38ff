/** All steps by their names, and what they do together: the open one first. */
import { STEPS, type Step, useStudio } from "../store/studio.ts";
import * as list from "./list.ts";
import type { TicketStep } from "./step.ts";

export const TICKET: Record<Step, TicketStep> = list;

/** Steps that are asked one after the other: the open one, then the others in working order. */
export function inTurn(): TicketStep[] {
	const { step } = useStudio.getState();
	const others = STEPS.filter((name) => name !== step).map((name) => TICKET[name]);
	return step ? [TICKET[step], ...others] : others;
}

/** Puts down all that is in hand. */
export const putAllDown = (): void => {
	for (const step of Object.values(TICKET)) step.putDown?.();
};
