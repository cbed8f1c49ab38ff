import { useEffect } from "react";
import { StreamEvent } from "../../wire/contracts.ts";
import { useShot } from "../store/shotStore.ts";

/** Hears of what changes elsewhere. */
export function useEvents(): void {
	useEffect(() => {
		const stream = new EventSource("/api/events");
		let timer: ReturnType<typeof setTimeout> | null = null;
		const soon = () => {
			timer ??= setTimeout(() => {
				timer = null;
				void useShot.getState().refresh();
			}, 250);
		};
		stream.onmessage = (e) => {
			const event = StreamEvent.safeParse(JSON.parse(e.data));
			if (!event.success) return;
			const { shotId, sequence, prints } = useShot.getState();
			const { kind, id } = event.data;
			if (kind === "gap" || (kind === "shot" && id === shotId && (event.data.sequence ?? sequence + 1) > sequence))
				soon();
			if (kind === "print" && (prints.some((p) => p.id === id) || prints.length === 0)) soon();
		};
		stream.onerror = soon;
		return () => {
			stream.close();
			if (timer) clearTimeout(timer);
		};
	}, []);
}
