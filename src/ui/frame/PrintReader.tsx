"use client";
/** Over an open print: tells what lies under the pointer, from the layers of its file. */
import { type PointerEvent, useEffect, useRef } from "react";
import type { PixelFacts } from "../../core/finish/layers.ts";
import { type FrameOfView, straightPlace } from "../../core/lens/camera.ts";
import { metres } from "../parts/words.ts";
import { call } from "../store/saving.ts";
import { useStudio } from "../store/studio.ts";

type Facts = Omit<PixelFacts, "shares"> & {
	name: string | null;
	shares: { id: number; share: number; name?: string | null }[];
};

/** A pixel's facts in a line: what it is, how far, how bright, how sure. */
export function inWords(f: Facts): string {
	const told = (s: { id: number; name?: string | null }) => s.name ?? `piece ${s.id}`;
	const mixed = f.shares?.length > 1 ? f.shares.map((s) => `${told(s)} ${Math.round(s.share * 100)} %`) : null;
	const parts = [mixed ? mixed.slice(0, 2).join(" and ") : told(f)];
	if (f.depthM !== null) parts.push(metres(f.depthM));
	parts.push(`${f.luminance >= 100 ? Math.round(f.luminance).toLocaleString("en") : f.luminance.toPrecision(3)} cd/m²`);
	// Of the sky it is light, not a colour.
	if (f.depthM !== null && f.albedo?.some((v) => v > 0))
		parts.push(`albedo ${f.albedo.map((v) => v.toFixed(2)).join(" ")}`);
	if (f.samples !== null) parts.push(`${f.samples} samples`);
	if (f.noise !== null) parts.push(`± ${(f.noise * 100).toFixed(f.noise < 0.1 ? 1 : 0)} %`);
	return parts.join(" · ");
}

export function PrintReader({
	print,
	view,
	place,
}: {
	print: string;
	view: FrameOfView;
	place: (e: { clientX: number; clientY: number }) => { x: number; y: number };
}) {
	const set = useStudio((s) => s.set);
	const asking = useRef(false);
	const next = useRef<{ x: number; y: number } | null>(null);
	useEffect(() => () => set({ underPointer: null }), [set]);

	const ask = async () => {
		if (asking.current) return;
		asking.current = true;
		while (next.current) {
			const { x, y } = next.current;
			next.current = null;
			try {
				set({ underPointer: inWords(await call<Facts>(`/api/prints/${print}/at?x=${x}&y=${y}`)) });
			} catch {
				set({ underPointer: null });
			}
		}
		asking.current = false;
	};
	const move = (e: PointerEvent) => {
		const p = place(e);
		if (p.x < 0 || p.x > 1 || p.y < 0 || p.y > 1) return;
		next.current = straightPlace(view, p.x, p.y);
		void ask();
	};
	const leave = () => {
		next.current = null;
		set({ underPointer: null });
	};
	return (
		<rect
			width="100%"
			height="100%"
			fill="transparent"
			onPointerEnter={move}
			onPointerMove={move}
			onPointerLeave={leave}
			data-testid="print-reader"
		/>
	);
}
