"use client";
/** Surfaces over another, as sentences: what, where, how much. */
import { useState } from "react";
import { type Laid, type LaidOver, type LaidWhere, MOST_LAID_WHERES, MOST_OVER } from "../../../core/doc/schema.ts";
import { surfaceSays } from "../../../core/surface/brought.ts";
import { takenOn, whereOf, whereWords } from "../../../core/surface/where/wheres.ts";
import { Act, NumberLine, PickLine, Rule } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { useShown } from "../../store/shotStore.ts";
import { HowItLies, type Lying } from "./HowItLies.tsx";
import { PaintLines } from "./PaintLines.tsx";
import { PlaceLines } from "./PlaceLines.tsx";
import { Slips } from "./Slips.tsx";
import { overAsLaid, seenPlace } from "./seenPlace.ts";

/** Surfaces over the first, as sentences, the topmost last. */
export function OverLines({ laid, tintOf, on, plants, onShow, onCommit }: Lying<Laid>) {
	const [open, setOpen] = useState<number | "new" | null>(null);
	// What lay there before one was tried: the frame shows another one meanwhile.
	const [before, setBefore] = useState<readonly LaidOver[]>([]);
	const doc = useShown();
	const all = open === "new" ? before : (laid.over ?? []);
	const withOver = (over: LaidOver[]): Laid => ({ ...laid, over });
	const changed = (n: number, now: LaidOver | null): Laid =>
		withOver(all.flatMap((one, i) => (i === n ? (now ? [now] : []) : [one])));
	const toggle = (n: number | "new") => {
		if (n === "new") setBefore(laid.over ?? []);
		setOpen(open === n ? null : n);
	};
	return (
		<ol aria-label="Over it" className="text-small">
			{all.map((over, n) => (
				<li key={n} className="border-hair border-t py-1">
					<div className="flex items-baseline justify-between gap-2">
						<button
							type="button"
							aria-expanded={open === n}
							className="min-w-0 text-left underline-offset-4 hover:underline"
							onClick={() => toggle(n)}
						>
							<span className="text-second">over it </span>
							{surfaceSays(over.of, doc)} <span className="text-second">{whereWords(over.where)}</span>
						</button>
						<span className="shrink-0">
							<Act onClick={() => onCommit(changed(n, null))}>Take off</Act>
						</span>
					</div>
					{open === n && (
						<OverOne
							laid={over}
							tintOf={tintOf}
							on={on}
							plants={plants}
							onShow={(now) => onShow(now && changed(n, now))}
							onCommit={(now) => onCommit(changed(n, now))}
						/>
					)}
				</li>
			))}
			{all.length < MOST_OVER && (
				<li className="border-hair border-t py-1">
					<Act onClick={() => toggle("new")}>{open === "new" ? "Close" : "Lay another over it"}</Act>
					{open === "new" && (
						<Slips
							picked={null}
							onShow={(other) => onShow(other ? withOver([...all, overAsLaid(other, on ?? null)]) : undefined)}
							onPick={(other) => {
								onCommit(withOver([...all, overAsLaid(other, on ?? null)]));
								setOpen(all.length);
							}}
						/>
					)}
				</li>
			)}
		</ol>
	);
}

/** One that is in a place is taken in where the frame sees it. */
const seen = (where: LaidWhere, on?: string): LaidWhere =>
	where.kind === "here" ? { ...where, ...seenPlace(on ?? null) } : where;

export function OverOne({ laid, tintOf, on, plants, onShow, onCommit }: Lying<LaidOver>) {
	const { where } = laid;
	const takes = takenOn(!!plants);
	const withWhere = (n: number, now: LaidWhere): LaidOver => ({
		...laid,
		where: where.map((one, i) => (i === n ? now : one)),
	});
	return (
		<div className="pb-1">
			{where.map((one, n) => (
				<div key={n} className="py-1">
					<div className="flex items-baseline justify-between gap-2">
						<span>{whereOf(one).sentence(one)}</span>
						<span className="shrink-0">
							<Act onClick={() => onCommit({ ...laid, where: where.filter((_, i) => i !== n) })}>Strike out</Act>
						</span>
					</div>
					<div className="grid grid-cols-2 gap-x-3">
						{whereOf(one).fields.map(({ value, times = 1, whole, ...line }) => {
							const now = (one as unknown as Record<string, number>)[value as string];
							const set = (v: number) => ({ ...one, [value]: whole ? Math.round(v) : v / times }) as LaidWhere;
							return (
								<NumberLine
									key={String(value)}
									{...line}
									value={now * times}
									onCommit={(v) => onCommit(withWhere(n, set(v)))}
								/>
							);
						})}
					</div>
					{one.kind === "here" && (
						<PlaceLines
							id={`${on ?? "world"} ${laid.of} ${n}`}
							where={one}
							on={on}
							onShow={(now) => onShow(now && withWhere(n, now))}
							onCommit={(now) => onCommit(withWhere(n, now))}
						/>
					)}
					{one.kind === "painted" && <PaintLines mask={one.mask} on={on} />}
				</div>
			))}
			{where.length < MOST_LAID_WHERES && (
				<PickLine
					label={where.length ? "And only" : "Only"}
					value={null}
					empty="where …"
					options={takes.map(({ act }) => [act, act] as const)}
					onPick={(picked) => {
						const taken = takes.find(({ act }) => act === picked)?.taken(newId());
						if (taken) onCommit({ ...laid, where: [...where, seen(taken, on)] });
					}}
				/>
			)}
			<Rule
				label="Much of it"
				value={laid.share * 100}
				unit="%"
				min={0}
				max={100}
				step={1}
				digits={0}
				onPreview={(v) => onShow({ ...laid, share: v / 100 })}
				onCommit={(v) => onCommit({ ...laid, share: v / 100 })}
				says={laid.share < 1 ? "What lies lowest is covered first." : undefined}
			/>
			<HowItLies laid={laid} tintOf={tintOf} onShow={onShow} onCommit={onCommit} />
		</div>
	);
}
