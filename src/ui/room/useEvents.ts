import { useEffect } from "react";
import { useShot } from "../store/shotStore.ts";
import { hear } from "./events.ts";

const PAUSE_MS = 250;

/** Calls at most once in a while, after the last of a burst. */
function soonest(call: () => void): { ask: () => void; end: () => void } {
	let timer: ReturnType<typeof setTimeout> | null = null;
	return {
		ask: () => {
			timer ??= setTimeout(() => {
				timer = null;
				call();
			}, PAUSE_MS);
		},
		end: () => {
			if (timer) clearTimeout(timer);
		},
	};
}

/** Hears of what changes elsewhere, and asks for just that. */
export function useEvents(): void {
	useEffect(() => {
		const shot = soonest(() => void useShot.getState().refresh());
		const prints = soonest(() => void useShot.getState().refreshPrints());
		const stop = hear((event) => {
			const { shotId, sequence } = useShot.getState();
			const gap = event.kind === "gap";
			if (gap || (event.kind === "shot" && event.id === shotId && (event.sequence ?? sequence + 1) > sequence))
				shot.ask();
			// Those of other shots, too: while any is traced the proof rests.
			if (gap || event.kind === "print") prints.ask();
		});
		return () => {
			stop();
			shot.end();
			prints.end();
		};
	}, []);
}
