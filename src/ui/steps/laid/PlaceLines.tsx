"use client";
/** Taking hold in the frame of what is laid in one place. */
import { useEffect } from "react";
import { Act } from "../../parts/controls.tsx";
import { useStudioOf } from "../../store/studio.ts";
import type { Here } from "./seenPlace.ts";

interface Props {
	/** Tells it from others that are open. */
	id: string;
	where: Here;
	/** The piece in whose metres it lies; none of what lies by the world. */
	on?: string;
	onShow: (where: Here | undefined) => void;
	onCommit: (where: Here) => void;
}

export function PlaceLines({ id, where, on, onShow, onCommit }: Props) {
	const { heldPlace, set } = useStudioOf("heldPlace", "set");
	const held = heldPlace?.id === id;
	// What the handles do goes through the lines that are open, as these are now.
	useEffect(() => {
		if (held && (heldPlace.where !== where || heldPlace.commit !== onCommit))
			set({ heldPlace: { id, where, on: on ?? null, show: onShow, commit: onCommit } });
	});
	useEffect(
		() => () => {
			// Lines that close let go.
			set({ heldPlace: null });
		},
		[set],
	);
	return (
		<div className="py-1">
			<Act
				onClick={() => set({ heldPlace: held ? null : { id, where, on: on ?? null, show: onShow, commit: onCommit } })}
			>
				{held ? "Let go of it" : "Move it in the frame"}
			</Act>
			{held && (
				<p className="pt-1 text-second">
					Drag it by its middle over what it lies on, by a corner to its size, with Shift to other proportions, by the
					ring to turn it. Arrows move it by 2 cm, with Shift by 20. Esc lets go.
				</p>
			)}
		</div>
	);
}
