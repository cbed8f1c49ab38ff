"use client";
/** Deliveries of the shot: their names, ratios and sizes, what each loses, and one order for all of them. */
import { memo } from "react";
import type { Delivery } from "../../../core/doc/schema.ts";
import { aimedFor, deliveryArea, reachBeyond } from "../../../core/lens/delivery.ts";
import { type Losses, lossesOf } from "../../../core/study/losses.ts";
import { keptInFrame } from "../../frame/geometry.ts";
import { Act, Choice, NumberLine } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { call } from "../../store/saving.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";

const RATIOS: Record<string, number> = {
	"16:9": 16 / 9,
	"2.39": 2.39,
	"4:5": 0.8,
	"1:1": 1,
	"9:16": 9 / 16,
};

const MOST_NAMED = 3;
const listed = (names: readonly string[]) =>
	names.length > MOST_NAMED
		? `${names.slice(0, MOST_NAMED).join(", ")} and ${names.length - MOST_NAMED} more`
		: names.join(", ");

/** What a delivery loses, in a sentence. */
export function lossWords({ cut, outside, focalKept }: Losses): string {
	const parts = [
		cut.length ? `cuts ${listed(cut)}` : "",
		outside.length ? `leaves out ${listed(outside)}` : "",
		focalKept !== null && focalKept < 0.995
			? `keeps ${Math.round(focalKept * 100)} % of what lies about the focal point`
			: "",
	].filter(Boolean);
	return parts.length ? `It ${parts.join("; ")}.` : "It loses nothing that is spoken of.";
}

/** Orders a print of each delivery: the part of the frame that it is, as large as it is to be. */
export async function printDeliveries(): Promise<void> {
	const { shotId, document, timeS, refreshPrints, say } = useShot.getState();
	const { print, deliveries = [], move } = document;
	while (useShot.getState().pending.length && useShot.getState().online) await new Promise((r) => setTimeout(r, 40));
	try {
		for (const { id } of deliveries)
			await call(`/api/shots/${shotId}/prints`, {
				...print,
				...(move ? { timeS } : { frames: null }),
				delivery: id,
			});
	} catch (error) {
		say((error as Error).message);
	}
	await refreshPrints();
}

/** What a delivery has beyond the frame, in words. */
export function beyondWords(d: Delivery, ratio: number): string {
	const reach = reachBeyond(deliveryArea(d, ratio));
	const [heading, tilt] = d.aim ?? [0, 0];
	const ways = [
		heading ? `${Math.abs(heading).toFixed(1)}° to the ${heading < 0 ? "left" : "right"}` : "",
		tilt ? `${Math.abs(tilt).toFixed(1)}° ${tilt < 0 ? "down" : "up"}` : "",
	].filter(Boolean);
	return [
		reach > 0.0005 ? ` It reaches ${Math.round(reach * 100)} % of the frame beyond it.` : "",
		ways.length ? ` Its lens is turned ${ways.join(" and ")}.` : "",
	].join("");
}

export function Deliveries() {
	const { deliveries = [], focalPoint } = useShown();
	const { delivery: chosen, set } = useStudioOf("delivery", "set");
	const { commit } = useShot.getState();
	const add = (name: string) => {
		const id = newId();
		const delivery: Delivery = {
			id,
			name,
			ratio: RATIOS[name],
			widthPx: 1080,
			share: 1,
			middle: focalPoint ?? [0.5, 0.5],
		};
		if (commit({ name: "delivery.add", delivery })) set({ delivery: id });
	};
	return (
		<section className="border-hair border-t pt-2" aria-label="Deliveries">
			<p className="pb-1 text-second text-small">
				Deliveries: the same shot in other formats, outlined in the frame. Add one:
			</p>
			<Choice small label="Add a delivery" options={Object.keys(RATIOS)} value={null} onPick={add} />
			<ul className="pt-1">
				{deliveries.map((d) => (
					<li key={d.id} className="border-hair border-t py-1" data-testid="delivery">
						<button
							type="button"
							className="flex w-full items-baseline justify-between gap-2 text-left hover:underline"
							aria-expanded={chosen === d.id}
							onClick={() => set({ delivery: chosen === d.id ? null : d.id })}
						>
							<b className="font-semibold">{d.name}</b>
							<span className="text-second text-small">
								{d.widthPx} × {Math.round(d.widthPx / d.ratio)}
							</span>
						</button>
						<Lost delivery={d} />
						{chosen === d.id && <DeliveryLines delivery={d} />}
					</li>
				))}
			</ul>
			{deliveries.length > 0 && (
				<Act onClick={() => void printDeliveries()}>
					{deliveries.length === 1 ? "Print this delivery" : `Print all ${deliveries.length} deliveries`}
				</Act>
			)}
		</section>
	);
}

/** What a delivery loses and what it has beyond the frame: counted again only when something of that has changed. */
const Lost = memo(function Lost({ delivery: d }: { delivery: Delivery }) {
	const doc = useShown();
	const losses = lossesOf(aimedFor(doc, d), deliveryArea(d, doc.camera.ratio), keptInFrame);
	return (
		<p className="text-second text-small">
			{lossWords(losses)}
			{beyondWords(d, doc.camera.ratio)}
		</p>
	);
});

function DeliveryLines({ delivery: d }: { delivery: Delivery }) {
	const { commit } = useShot.getState();
	const { set } = useStudioOf("set");
	const { shift = [0, 0], aim = [0, 0] } = d;
	const change = (c: Partial<Omit<Delivery, "id">>) => commit({ name: "delivery.set", id: d.id, change: c });
	return (
		<div className="pl-3">
			<label className="flex items-baseline justify-between gap-2 py-[3px]">
				<span className="text-second text-small">Name</span>
				<input
					key={d.name}
					className="w-full max-w-[9rem] border-hair border-b bg-transparent text-right font-semibold focus:border-ink"
					defaultValue={d.name}
					maxLength={80}
					onKeyDown={(e) => {
						e.stopPropagation();
						if (e.key === "Enter") e.currentTarget.blur();
					}}
					onBlur={(e) => e.target.value.trim() && e.target.value !== d.name && change({ name: e.target.value.trim() })}
				/>
			</label>
			<NumberLine
				label="Ratio"
				value={d.ratio}
				min={0.2}
				max={5}
				step={0.05}
				digits={3}
				onCommit={(ratio) => change({ ratio })}
			/>
			<NumberLine
				label="Width of its picture"
				value={d.widthPx}
				unit="px"
				min={16}
				max={16_384}
				step={16}
				digits={0}
				onCommit={(v) => change({ widthPx: Math.round(v) })}
			/>
			<NumberLine
				label="Crop"
				value={d.share * 100}
				unit="%"
				min={5}
				max={200}
				step={1}
				digits={1}
				onCommit={(v) => change({ share: v / 100 })}
			/>
			<NumberLine
				label="Middle, from left"
				value={d.middle[0] * 100}
				unit="%"
				min={0}
				max={100}
				step={1}
				digits={1}
				onCommit={(v) => change({ middle: [v / 100, d.middle[1]] })}
			/>
			<NumberLine
				label="Middle, from top"
				value={d.middle[1] * 100}
				unit="%"
				min={0}
				max={100}
				step={1}
				digits={1}
				onCommit={(v) => change({ middle: [d.middle[0], v / 100] })}
			/>
			{(["Shifted to the right", "Raised"] as const).map((label, i) => (
				<NumberLine
					key={label}
					label={label}
					value={shift[i] * 100}
					unit="%"
					min={-100}
					max={100}
					step={1}
					digits={1}
					onCommit={(v) => change({ shift: i ? [shift[0], v / 100] : [v / 100, shift[1]] })}
				/>
			))}
			{(["Turned to the right", "Tilted up"] as const).map((label, i) => (
				<NumberLine
					key={label}
					label={label}
					value={aim[i]}
					unit="°"
					min={i ? -60 : -90}
					max={i ? 60 : 90}
					step={0.5}
					digits={1}
					onCommit={(v) => change({ aim: i ? [aim[0], v] : [v, aim[1]] })}
				/>
			))}
			<button
				type="button"
				className="text-small underline underline-offset-4"
				onClick={() => {
					if (commit({ name: "delivery.remove", id: d.id })) set({ delivery: null });
				}}
			>
				Take it away
			</button>
		</div>
	);
}
