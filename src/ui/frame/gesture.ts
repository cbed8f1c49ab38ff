/** A drag that shows an edit while it goes on and commits it at its end. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Edit } from "../../core/doc/edits.ts";
import { startDrag } from "../parts/pointer.ts";
import { useShot } from "../store/shotStore.ts";

export function useGesture() {
	const { commit, show } = useShot.getState();
	/** `ended` is told when the hand lets go, moved or not. */
	return (
		event: ReactPointerEvent,
		make: (e: { clientX: number; clientY: number }) => Edit | null,
		ended?: () => void,
	) => {
		if (event.button !== 0) return;
		startDrag(event, {
			move: (e) => show(make(e)),
			end: (e, moved) => {
				const edit = moved ? make(e) : null;
				if (edit) commit(edit);
				else show(null);
				ended?.();
			},
			cancel: () => show(null),
		});
	};
}
