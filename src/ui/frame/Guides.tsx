"use client";
/** Guides over the frame, the focal point, and how much of the frame is empty. */
import { Popover } from "radix-ui";
import { useEffect, useState } from "react";
import { type Emptiness, emptinessOf } from "../../core/brief/emptiness.ts";
import type { Guide } from "../../core/doc/schema.ts";
import { horizonOf } from "../../core/ground/planet.ts";
import type { Point } from "../../core/ground/underPoint.ts";
import { bentPlace, type FrameOfView, horizonRow } from "../../core/lens/camera.ts";
import { Double } from "../parts/marks.tsx";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudioOf } from "../store/studio.ts";
import { useGesture } from "./gesture.ts";
import { framePixels } from "./thumbnail.ts";

export const GUIDES: Guide[] = ["thirds", "golden ratio", "diagonals", "centre", "safe areas", "horizon"];
const GOLDEN = 0.381966;
/** Safe areas of moving pictures: action within 93 %, words within 90 % (SMPTE ST 2046-1). */
const SAFE = [0.93, 0.9];

/** Parts of a bent horizon, and how far beyond the frame its straight one goes on. */
const BENT_STEPS = 48;
const BENT_OVER = 0.6;

/** A guide as a path over a frame of a size. */
export function guidePath(guide: Guide, w: number, h: number, view: FrameOfView, dip = 0): string {
	const lines = (...shares: number[]) => shares.map((t) => `M${t * w} 0V${h}M0 ${t * h}H${w}`).join("");
	if (guide === "thirds") return lines(1 / 3, 2 / 3);
	if (guide === "golden ratio") return lines(GOLDEN, 1 - GOLDEN);
	if (guide === "diagonals") return `M0 0L${w} ${h}M${w} 0L0 ${h}`;
	if (guide === "centre") return `M${w / 2} ${h / 2 - 14}v28M${w / 2 - 14} ${h / 2}h28`;
	if (guide === "safe areas")
		return SAFE.map((s) => `M${((1 - s) / 2) * w} ${((1 - s) / 2) * h}h${s * w}v${s * h}h${-s * w}z`).join("");
	// Level it is straight, and leans by the roll. A lens that bends bends it, and so does a planet.
	const steps = view.bend || dip ? BENT_STEPS : 1;
	const over = view.bend ? BENT_OVER : 0;
	const places = Array.from({ length: steps + 1 }, (_, i) => {
		const x = (i / steps) * (1 + 2 * over) - over;
		const y = horizonRow(view, x, dip);
		const at = bentPlace(view, x, y);
		return Number.isFinite(y) ? `${at.x * w} ${at.y * h}` : null;
	});
	return places.every((p) => p !== null) ? `M${places.join("L")}` : "";
}

export function GuideMarks({
	width,
	height,
	k,
	view,
	place,
}: {
	width: number;
	height: number;
	k: number;
	view: FrameOfView;
	place: (e: { clientX: number; clientY: number }) => Point;
}) {
	const doc = useShown();
	const gesture = useGesture();
	const focal = doc.focalPoint;
	return (
		<g>
			<g pointerEvents="none" opacity={0.75}>
				{(doc.guides ?? []).map((g) => {
					const d = guidePath(g, width, height, view, horizonOf({ ...doc, camera: view }).dip);
					return (
						<g key={g} data-testid={`guide-${g}`}>
							<path d={d} fill="none" stroke="#000" strokeWidth={2 / k} />
							<path d={d} fill="none" stroke="#fff" strokeWidth={0.9 / k} />
						</g>
					);
				})}
			</g>
			{focal && (
				<g
					style={{ cursor: "move" }}
					data-testid="focal-point"
					onPointerDown={(e) =>
						gesture(e, (to) => {
							const p = place(to);
							const unit = (v: number) => Math.min(1, Math.max(0, v));
							return { name: "guides.set", focalPoint: [unit(p.x), unit(p.y)] };
						})
					}
				>
					<circle cx={focal[0] * width} cy={focal[1] * height} r={16 / k} fill="transparent" />
					<Double k={k} d={circlePath(focal[0] * width, focal[1] * height, 11 / k)} />
					<Double k={k} d={circlePath(focal[0] * width, focal[1] * height, 2.5 / k)} />
				</g>
			)}
		</g>
	);
}

const circlePath = (x: number, y: number, r: number) =>
	`M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;

/** Milliseconds of rest before the frame is looked at again. */
const REST_MS = 400;

function useEmptiness(wanted: boolean): Emptiness | null {
	const { sceneNumber, proof, free, zoom, grey } = useStudioOf("sceneNumber", "proof", "free", "zoom", "grey");
	const { focalPoint, finish, camera } = useShown();
	const [found, setFound] = useState<Emptiness | null>(null);
	// biome-ignore lint/correctness/useExhaustiveDependencies: anything that changes the picture asks for another look
	useEffect(() => {
		if (!wanted || zoom.k > 1) return;
		let left = false;
		const timer = setTimeout(() => {
			void framePixels(192).then((picture) => {
				if (picture && !left) setFound(emptinessOf(picture.data, picture.width, picture.height, focalPoint ?? null));
			});
		}, REST_MS);
		return () => {
			left = true;
			clearTimeout(timer);
		};
	}, [wanted, sceneNumber, proof, free, zoom.k, grey, focalPoint, finish, camera]);
	return found;
}

/** Guides by name, the focal point, and the empty shares. */
export function GuideMenu() {
	const doc = useShown();
	const { commit } = useShot.getState();
	const [open, setOpen] = useState(false);
	const empty = useEmptiness(open);
	const shown = doc.guides ?? [];
	const percent = (v: number) => `${Math.round(v * 100)} %`;
	return (
		<Popover.Root open={open} onOpenChange={setOpen}>
			<Popover.Trigger className="text-second text-small underline underline-offset-4">
				guides{shown.length ? ` (${shown.length})` : ""}
			</Popover.Trigger>
			<Popover.Portal>
				<Popover.Content
					side="top"
					sideOffset={8}
					className="fade z-30 w-64 border border-ink/45 bg-paper p-3 shadow-md"
					aria-label="Guides"
				>
					{GUIDES.map((g) => (
						<label key={g} className="flex items-center gap-2 py-[2px]">
							<input
								type="checkbox"
								className="accent-[#1d1c1a]"
								checked={shown.includes(g)}
								onChange={(e) =>
									commit({
										name: "guides.set",
										guides: e.target.checked ? [...shown, g] : shown.filter((x) => x !== g),
									})
								}
							/>
							{g}
						</label>
					))}
					<label className="flex items-center gap-2 border-hair border-t pt-1">
						<input
							type="checkbox"
							className="accent-[#1d1c1a]"
							checked={!!doc.focalPoint}
							onChange={(e) => commit({ name: "guides.set", focalPoint: e.target.checked ? [1 / 3, 0.5] : null })}
						/>
						focal point, dragged in the frame
					</label>
					<p className="pt-2 text-second text-small" data-testid="emptiness">
						{empty
							? `Empty: left third ${percent(empty.thirds[0])}, middle ${percent(empty.thirds[1])}, right ${percent(empty.thirds[2])}${empty.focal === null ? "" : `; around the focal point ${percent(empty.focal)}`}.`
							: "The empty shares are counted when the frame rests."}
					</p>
				</Popover.Content>
			</Popover.Portal>
		</Popover.Root>
	);
}
