"use client";
import { NumberLine } from "../parts/controls.tsx";
import { useShot, useShown } from "../store/shotStore.ts";

export function FStopLine() {
	const { fStop } = useShown().camera;
	const { commit } = useShot.getState();
	return (
		<NumberLine
			label="f-stop"
			value={fStop}
			min={0.7}
			max={64}
			step={0.5}
			digits={1}
			onCommit={(v) => commit({ name: "camera.setLens", fStop: v })}
		/>
	);
}
