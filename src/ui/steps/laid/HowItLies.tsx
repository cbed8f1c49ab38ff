"use client";
/** How a surface lies: its measures, tint and wetness. */
import type { Laid, LaidOver } from "../../../core/doc/schema.ts";
import { broughtBy } from "../../../core/surface/brought.ts";
import { NumberLine, Rule } from "../../parts/controls.tsx";
import { useShown } from "../../store/shotStore.ts";

export interface Lying<T extends Pick<Laid, "of">> {
	laid: T;
	tintOf: string;
	/** The piece that it lies on, where that is one alone: what is painted lies in its metres. */
	on?: string;
	/** It lies on plants. */
	plants?: boolean;
	/** Undefined ends what is shown. */
	onShow: (laid: T | undefined) => void;
	onCommit: (laid: T) => void;
}

export function HowItLies<T extends LaidOver | Laid>({ laid, tintOf, onShow, onCommit }: Lying<T>) {
	const share = (field: "tint" | "wet" | "worn" | "dirt" | "rougher", label: string, min = 0, says?: string) => (
		<Rule
			label={label}
			value={(laid[field] ?? 0) * 100}
			unit="%"
			min={min}
			max={100}
			step={1}
			digits={0}
			onPreview={(v) => onShow({ ...laid, [field]: v / 100 })}
			onCommit={(v) => onCommit({ ...laid, [field]: v / 100 })}
			says={says}
		/>
	);
	// What stands once fills its place: nothing of it repeats.
	const brought = broughtBy(laid.of, useShown());
	const once = brought?.highM !== undefined;
	// A picture that tells no heights has none; one that tells nothing else is relief, and takes the colour of what it lies on.
	const heights = !brought || !!(brought.files.height ?? brought.files.normal);
	const coloured = !brought || !!brought.files.colour;
	const wet =
		laid.wet === 0 ? undefined : laid.wet <= 0.5 ? "Damp: darker and smoother." : "Water stands in its hollows.";
	return (
		<>
			<div className="grid grid-cols-2 gap-x-3">
				{!once && (
					<NumberLine
						label="Repeats"
						value={laid.acrossM}
						unit="m"
						min={0.02}
						max={200}
						step={0.1}
						onCommit={(acrossM) => onCommit({ ...laid, acrossM })}
					/>
				)}
				{heights && (
					<NumberLine
						label="Relief"
						value={laid.reliefMm}
						unit="mm"
						min={0}
						max={2000}
						step={1}
						digits={1}
						onCommit={(reliefMm) => onCommit({ ...laid, reliefMm })}
					/>
				)}
				{"share" in laid && (
					<NumberLine
						label="Thick"
						value={laid.thickMm ?? 0}
						unit="mm"
						min={0}
						max={2000}
						step={5}
						digits={0}
						onCommit={(thickMm) => onCommit({ ...laid, thickMm })}
					/>
				)}
				{!once && (
					<>
						<NumberLine
							label="Turn"
							value={laid.turnDeg}
							unit="°"
							min={-360}
							max={360}
							step={5}
							digits={0}
							onCommit={(turnDeg) => onCommit({ ...laid, turnDeg })}
						/>
						<NumberLine
							label="Seed"
							value={laid.seed}
							min={0}
							max={99_999}
							step={1}
							digits={0}
							onCommit={(seed) => onCommit({ ...laid, seed: Math.round(seed) })}
						/>
					</>
				)}
			</div>
			{coloured && share("tint", tintOf)}
			{coloured && share("wet", "Wet", 0, wet)}
			{heights && share("worn", "Worn")}
			{coloured && share("dirt", "Dirt")}
			{coloured && share("rougher", "Rougher", -100)}
		</>
	);
}
