"use client";
/** What a piece is made of: roughness, metal, a clear coat, glass, and light of its own. */
import type { Surface } from "../../../core/doc/schema.ts";
import { Choice, NumberLine, Rule, YesNo } from "../../parts/controls.tsx";

const KINDS = ["solid", "pane", "body of glass"] as const;
type Kind = (typeof KINDS)[number];

interface Props {
	surface: Surface;
	onShow: (change: Partial<Surface>) => void;
	onCommit: (change: Partial<Surface>) => void;
}

export function SurfaceLines({ surface, onShow, onCommit }: Props) {
	const { glass, glow } = surface;
	const coat = surface.coat ?? 0;
	const kind: Kind = glass ? (glass.pane ? "pane" : "body of glass") : "solid";
	const pick = (k: Kind) => {
		if (k === kind) return;
		if (k === "solid") return onCommit({ glass: null });
		// Glass as it is bought: clear and smooth.
		const fresh = glass ? {} : { roughness: 0.02, metal: 0, colour: [0.95, 0.97, 0.96] as Surface["colour"] };
		onCommit({ ...fresh, glass: { index: 1.5, depthM: 0.1, ...glass, pane: k === "pane" } });
	};
	// A surface that lies there has a roughness and metal of its own.
	const own = !surface.laid || !!glass;
	return (
		<>
			{own && (
				<Rule
					label="Roughness"
					value={surface.roughness}
					min={0.02}
					max={1}
					onPreview={(roughness) => onShow({ roughness })}
					onCommit={(roughness) => onCommit({ roughness })}
					says={glass ? (surface.roughness < 0.05 ? "Clear: light goes straight through." : "Frosted.") : undefined}
				/>
			)}
			{own && !glass && (
				<Rule
					label="Metal"
					value={surface.metal}
					min={0}
					max={1}
					onPreview={(metal) => onShow({ metal })}
					onCommit={(metal) => onCommit({ metal })}
				/>
			)}
			<div className="py-1">
				<Choice label="Made as" options={KINDS} value={kind} onPick={pick} />
			</div>
			{glass && (
				<NumberLine
					label="Index"
					value={glass.index}
					min={1.01}
					max={2.6}
					step={0.01}
					onCommit={(index) => onCommit({ glass: { ...glass, index } })}
				/>
			)}
			{glass && !glass.pane && (
				<NumberLine
					label="Has its colour after"
					value={glass.depthM}
					unit="m"
					min={0.001}
					max={100}
					step={0.01}
					digits={3}
					onCommit={(depthM) => onCommit({ glass: { ...glass, depthM } })}
				/>
			)}
			{!glass && (
				<Rule
					label="Clear coat"
					value={coat * 100}
					unit="%"
					min={0}
					max={100}
					step={1}
					digits={0}
					onPreview={(v) => onShow({ coat: v / 100 })}
					onCommit={(v) => onCommit({ coat: v / 100, coatRoughness: surface.coatRoughness ?? 0.1 })}
				/>
			)}
			{!glass && coat > 0 && (
				<NumberLine
					label="Roughness of the coat"
					value={surface.coatRoughness ?? 0.1}
					min={0.02}
					max={1}
					step={0.02}
					onCommit={(coatRoughness) => onCommit({ coatRoughness })}
				/>
			)}
			<YesNo
				label="Glows by itself"
				value={!!glow}
				onPick={(on) => onCommit({ glow: on ? { nits: 5000, kelvin: 2400 } : null })}
			/>
			{glow && (
				<>
					<Rule
						label="Luminance"
						value={glow.nits}
						unit="cd/m²"
						min={1}
						max={1e6}
						logarithmic
						digits={0}
						onPreview={(nits) => onShow({ glow: { ...glow, nits } })}
						onCommit={(nits) => onCommit({ glow: { ...glow, nits } })}
					/>
					<Rule
						label="Warmth of the glow"
						value={glow.kelvin}
						unit="K"
						min={1000}
						max={12_000}
						logarithmic
						digits={0}
						onPreview={(kelvin) => onShow({ glow: { ...glow, kelvin } })}
						onCommit={(kelvin) => onCommit({ glow: { ...glow, kelvin } })}
					/>
				</>
			)}
		</>
	);
}
