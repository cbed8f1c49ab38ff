"use client";
/** Presets of the ground as small pictures: the land as it is, in lines across it, one behind the other. */
import { useMemo } from "react";
import { type Ground, GroundPreset } from "../../../core/doc/schema.ts";
import { PRESETS } from "../../../core/ground/preset.ts";
import { Choice } from "../../parts/controls.tsx";
import { useShot } from "../../store/shotStore.ts";

const WIDTH = 78;
const HEIGHT = 42;
const LINES = 11;
const PLACES = 40;
/** Share of the offered height that the picture is of. */
const TALL = 0.35;
/** Share of it to which level land rises when a preset is picked. */
const RISES = 0.2;

/** Lines across the land, the farthest first. */
function linesOf(preset: GroundPreset, seed: number): string[] {
	const { height, mostM, shownM } = PRESETS[preset];
	const heightM = TALL * mostM;
	const lines = Array.from({ length: LINES }, (_, j) =>
		Array.from({ length: PLACES + 1 }, (_, i) => {
			const far = (LINES - 1 - j) / (LINES - 1);
			return height(shownM * ((2 * i) / PLACES - 1), -shownM * (0.1 + 1.4 * far), seed, heightM);
		}),
	);
	const all = lines.flat();
	const [low, high] = [Math.min(...all), Math.max(...all)];
	const scale = (0.5 * HEIGHT) / Math.max(high - low, 0.02 * shownM);
	return lines.map((line, j) => {
		const y = HEIGHT * 0.5 + (j * HEIGHT * 0.46) / (LINES - 1);
		const d = line
			.map((h, i) => `${((i * WIDTH) / PLACES).toFixed(1)} ${(y - (h - low) * scale).toFixed(1)}`)
			.join("L");
		return `M${d}`;
	});
}

function Picture({ preset, seed, picked }: { preset: GroundPreset; seed: number; picked: boolean }) {
	const lines = useMemo(() => linesOf(preset, seed), [preset, seed]);
	const [ink, paper] = picked ? ["#f3f1ec", "#1d1c1a"] : ["#1d1c1a", "#f3f1ec"];
	return (
		<span className="block px-1 pt-1">
			<svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full" aria-hidden="true">
				{lines.map((d, j) => (
					<g key={j}>
						<path d={`${d}V${HEIGHT}H0Z`} fill={paper} />
						<path d={d} fill="none" stroke={ink} strokeWidth={0.7} strokeLinejoin="round" />
					</g>
				))}
			</svg>
			<span className="block pb-0.5 text-center">{preset}</span>
		</span>
	);
}

/** A preset as it is picked: level land rises to a height that shows what it is, and none is higher than it may be. */
function picked(preset: GroundPreset, { preset: now, heightM }: Ground): Partial<Ground> {
	const { mostM, stepM } = PRESETS[preset];
	const usualM = Math.round((RISES * mostM) / stepM) * stepM;
	return { preset, heightM: Number((heightM === 0 && preset !== now ? usualM : Math.min(heightM, mostM)).toFixed(3)) };
}

export function PresetChoice({ ground }: { ground: Ground }) {
	const { preset, seed } = ground;
	const { commit } = useShot.getState();
	return (
		<Choice
			label="Ground"
			options={GroundPreset.options}
			value={preset}
			columns={3}
			onPick={(next) => commit({ name: "ground.set", ...picked(next, ground) })}
			picture={(of, on) => <Picture preset={of} seed={seed} picked={on} />}
		/>
	);
}
