"use client";
/** Palette and values of the reference, kept as the target; those of the present frame beside it, and how far they are. */
import { useEffect, useState } from "react";
import {
	type ColourShare,
	paletteDistance,
	paletteOf,
	type ValueStep,
	valueDistance,
	valueSteps,
} from "../../../core/brief/palette.ts";
import type { Reference, Target } from "../../../core/doc/schema.ts";
import { framePixels } from "../../frame/thumbnail.ts";
import { Act, Choice, toHex } from "../../parts/controls.tsx";
import { referencePixels } from "../../reference/pixels.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";

interface Look {
	colours: readonly ColourShare[];
	values: readonly ValueStep[];
}

const STEPS = { "3": 3, "5": 5, "7": 7 } as const;

/** Milliseconds of rest before the frame is looked at again. */
const REST_MS = 500;

/** Palette and values of the frame as it is drawn, again whenever it rests. */
function useFrameLook(wanted: boolean, steps: 3 | 5 | 7): Look | null {
	const { sceneNumber, proof, free, zoom, grey, print } = useStudioOf(
		"sceneNumber",
		"proof",
		"free",
		"zoom",
		"grey",
		"print",
	);
	const { finish, camera } = useShown();
	const [look, setLook] = useState<Look | null>(null);
	// biome-ignore lint/correctness/useExhaustiveDependencies: anything that changes the picture asks for another look
	useEffect(() => {
		if (!wanted || print || grey || zoom.k > 1) return;
		let left = false;
		const timer = setTimeout(() => {
			void framePixels(320).then((picture) => {
				if (picture && !left) setLook({ colours: paletteOf(picture.data), values: valueSteps(picture.data, steps) });
			});
		}, REST_MS);
		return () => {
			left = true;
			clearTimeout(timer);
		};
	}, [wanted, steps, sceneNumber, proof, free, zoom.k, grey, print, finish, camera]);
	return look;
}

export function PaletteLines() {
	const doc = useShown();
	const { commit, say } = useShot.getState();
	const { target } = doc;
	const kept = String(target?.values.length);
	const [steps, setSteps] = useState<keyof typeof STEPS>(kept in STEPS ? (kept as keyof typeof STEPS) : "5");
	const [busy, setBusy] = useState(false);
	const frame = useFrameLook(!!target, STEPS[steps]);
	const reference = doc.references.find((r) => r.id === (doc.shown.reference ?? doc.references[0]?.id));
	const of = doc.references.find((r) => r.id === target?.reference);
	const take = async (count: keyof typeof STEPS, reference: Reference | undefined) => {
		setSteps(count);
		if (!reference) return;
		setBusy(true);
		try {
			const { data } = await referencePixels(reference);
			const round = (v: number) => Number(v.toFixed(5));
			const aim: Target = {
				reference: reference.id,
				colours: paletteOf(data).map((c) => ({
					colour: c.colour.map(round) as [number, number, number],
					share: round(c.share),
				})),
				values: valueSteps(data, STEPS[count]).map((v) => ({ lightness: round(v.lightness), share: round(v.share) })),
			};
			commit({ name: "target.set", target: aim });
		} catch (error) {
			say((error as Error).message);
		} finally {
			setBusy(false);
		}
	};
	if (!reference) return null;
	return (
		<div className="pt-3" data-testid="palette">
			<div className="flex items-baseline justify-between gap-2">
				<span className="text-second text-small">Palette and values{of ? ` of ${of.name}` : ""}</span>
				<Act disabled={busy} onClick={() => void take(steps, reference)}>
					{target?.reference === reference.id ? "Take anew" : "Aim at these"}
				</Act>
			</div>
			{target && (
				<>
					<Strip label="Aimed at" look={target} />
					{frame ? (
						<Strip label="The frame now" look={frame} />
					) : (
						<p className="text-second text-small">The frame has not come to rest yet.</p>
					)}
					{frame && (
						<p className="pt-1 text-small" data-testid="target-distance">
							Colours {paletteDistance(target.colours, frame.colours).toFixed(1)} apart, values{" "}
							{valueDistance(target.values, frame.values).toFixed(1)} L* apart.
						</p>
					)}
					<div className="flex items-center justify-between gap-2 pt-1">
						<span className="text-second text-small">Steps of value</span>
						<Choice
							small
							label="Steps of value"
							options={["3", "5", "7"] as const}
							value={steps}
							onPick={(s) => void take(s, of)}
						/>
						<button
							type="button"
							className="text-second text-small underline"
							onClick={() => commit({ name: "target.set", target: null })}
						>
							no target
						</button>
					</div>
				</>
			)}
		</div>
	);
}

/** Colours above, values below, each as wide as its share. */
function Strip({ label, look }: { label: string; look: Look }) {
	const percent = (v: number) => `${Math.round(v * 100)} %`;
	return (
		<div className="pt-1">
			<p className="text-second text-small">{label}</p>
			<div
				className="flex h-6 overflow-hidden border border-ink/45"
				role="img"
				aria-label={`${label}: ${look.colours.map((c) => `${toHex(c.colour)} ${percent(c.share)}`).join(", ")}`}
			>
				{look.colours.map((c) => (
					<i
						key={toHex(c.colour)}
						title={`${toHex(c.colour)}, ${percent(c.share)}`}
						style={{ flex: Math.max(0.03, c.share), background: toHex(c.colour) }}
					/>
				))}
			</div>
			<div
				className="flex h-4 overflow-hidden border border-ink/45 border-t-0"
				role="img"
				aria-label={`${label}, values: ${look.values.map((v) => `${Math.round(v.lightness)} L* ${percent(v.share)}`).join(", ")}`}
			>
				{look.values.map((v) => (
					<i
						key={v.lightness}
						title={`${Math.round(v.lightness)} L*, ${percent(v.share)}`}
						style={{ flex: Math.max(0.03, v.share), background: `lab(${v.lightness}% 0 0)` }}
					/>
				))}
			</div>
		</div>
	);
}
