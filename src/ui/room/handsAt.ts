/**
 * Whether a hand is at work in the page: it presses, or it moves where drawing is slow because the machine has no more than the
 * tracer takes. The page is the hand's first, and the proof's after that.
 */

/** Time for which a hand is still at it after its last move, milliseconds. */
const LET_GO_MS = 300;

/** Tells whenever a hand begins or ends, as pointers over `page` have it. @returns What calls it off. */
export function watchHands(page: EventTarget, heavy: () => boolean, tell: (at: boolean) => void): () => void {
	let timer: ReturnType<typeof setTimeout> | undefined;
	let at = false;
	const set = (now: boolean) => {
		if (now === at) return;
		at = now;
		tell(at);
	};
	const hear = (event: Event) => {
		// Each pointer event says what is pressed: a release that was missed is made up for by the next move.
		const pressed = ((event as PointerEvent).buttons ?? 0) > 0;
		if (pressed || (event.type === "pointermove" && heavy())) set(true);
		if (!at) return;
		clearTimeout(timer);
		timer = pressed ? undefined : setTimeout(() => set(false), LET_GO_MS);
	};
	const kinds = ["pointerdown", "pointermove", "pointerup", "pointercancel", "blur"];
	for (const kind of kinds) page.addEventListener(kind, hear, { capture: true, passive: true });
	return () => {
		clearTimeout(timer);
		for (const kind of kinds) page.removeEventListener(kind, hear, { capture: true });
	};
}
