/** Whether proofs are held, as this browser keeps it. */
import { useEffect } from "react";
import { useStudioOf } from "./studio.ts";

/** Where it is kept. */
export const HELD_PROOF = "inquadra.held-proof";

/** Takes what was kept up once, and keeps what changes from then on. */
export function useHeldProof(): boolean {
	const { held, set } = useStudioOf("held", "set");
	useEffect(() => set({ held: localStorage.getItem(HELD_PROOF) !== null }), [set]);
	return held;
}

export function keepHeld(held: boolean): void {
	if (held) localStorage.setItem(HELD_PROOF, "yes");
	else localStorage.removeItem(HELD_PROOF);
}
