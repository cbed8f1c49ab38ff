"use client";
/** What lies on a piece or the ground: slips to find a surface by, tried in the frame under the pointer, and how it lies. */
import { useState } from "react";
import type { Laid } from "../../../core/doc/schema.ts";
import { broughtBy, surfaceSays } from "../../../core/surface/brought.ts";
import type { Rgb } from "../../../core/surface/field.ts";
import { isSurface } from "../../../core/surface/laying.ts";
import { Act } from "../../parts/controls.tsx";
import { useShown } from "../../store/shotStore.ts";
import { HowItLies } from "./HowItLies.tsx";
import { OverLines } from "./OverLines.tsx";
import { Slips } from "./Slips.tsx";

interface Props {
	/** Null where nothing lies, undefined where several differ. */
	laid: Laid | null | undefined;
	/** Undefined ends what is shown. */
	onShow: (laid: Laid | null | undefined) => void;
	onCommit: (laid: Laid | null) => void;
	/** What of the things below has colours of its own, in words. */
	tintOf: string;
	/** The piece that it lies on, where that is one alone. */
	on?: string;
	/** It lies on plants. */
	plants?: boolean;
	/** Linear colour of what it lies on, where that has one alone. */
	colour?: Rgb;
}

export function LaidLines({ laid, onShow, onCommit, tintOf, on, plants, colour }: Props) {
	const [open, setOpen] = useState(false);
	const doc = useShown();
	const known = !!laid && (isSurface(laid.of) || broughtBy(laid.of, doc) !== null);
	const says = laid === undefined ? "several" : laid ? surfaceSays(laid.of, doc) : "bare";
	return (
		<section aria-label="Surface" className="mt-1 border-hair border-t pt-1">
			<div className="flex items-baseline justify-between gap-2 py-1">
				<span className="min-w-0 text-small">
					<span className="text-second">Surface </span>
					<span data-testid="laid">{says}</span>
				</span>
				<span className="flex shrink-0 gap-1">
					<Act onClick={() => setOpen(!open)}>{open ? "Close" : "Choose"}</Act>
					{laid !== null && <Act onClick={() => onCommit(null)}>Lay bare</Act>}
				</span>
			</div>
			{open && (
				<Slips
					picked={laid?.of ?? null}
					colour={colour}
					onShow={(other) => onShow(other ? { ...other, over: laid?.over } : undefined)}
					onPick={(other) => onCommit({ ...other, over: laid?.over })}
				/>
			)}
			{laid && known && <HowItLies laid={laid} tintOf={tintOf} onShow={onShow} onCommit={onCommit} />}
			{laid && known && (
				<OverLines laid={laid} tintOf={tintOf} on={on} plants={plants} onShow={onShow} onCommit={onCommit} />
			)}
		</section>
	);
}
