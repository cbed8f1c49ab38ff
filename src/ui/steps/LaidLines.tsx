"use client";
/** What lies on a piece or the ground: slips to find a surface by, tried in the frame under the pointer, and how it lies. */
import clsx from "clsx";
import { useId, useState } from "react";
import { type Laid, type LaidOver, type LaidWhere, MOST_LAID_WHERES, MOST_OVER } from "../../core/doc/schema.ts";
import type { Rgb } from "../../core/surface/field.ts";
import { foundBy } from "../../core/surface/finding.ts";
import { isSurface, laidAsMade, laidOver } from "../../core/surface/laying.ts";
import { likest } from "../../core/surface/likeness.ts";
import { FAMILIES, SURFACES, type SurfaceKind, slugOf } from "../../core/surface/surfaces.ts";
import { WHERES, whereOf, whereWords } from "../../core/surface/where/wheres.ts";
import { Act, NumberLine, PickLine, Rule, YesNo } from "../parts/controls.tsx";

interface Props {
	/** Null where nothing lies, undefined where several differ. */
	laid: Laid | null | undefined;
	/** Undefined ends what is shown. */
	onShow: (laid: Laid | null | undefined) => void;
	onCommit: (laid: Laid | null) => void;
	/** What of the things below has colours of its own, in words. */
	tintOf: string;
	/** Linear colour of what it lies on, where that has one alone. */
	colour?: Rgb;
}

export function LaidLines({ laid, onShow, onCommit, tintOf, colour }: Props) {
	const [open, setOpen] = useState(false);
	const known = laid && isSurface(laid.of) ? SURFACES[laid.of] : null;
	const says = laid === undefined ? "several" : laid ? (known?.name ?? `"${laid.of}" is not known any more`) : "bare";
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
					picked={laid && isSurface(laid.of) ? laid.of : null}
					colour={colour}
					onShow={(of) => onShow(of ? { ...laidAsMade(of), over: laid?.over } : undefined)}
					onPick={(of) => onCommit({ ...laidAsMade(of), over: laid?.over })}
				/>
			)}
			{laid && known && <HowItLies laid={laid} tintOf={tintOf} onShow={onShow} onCommit={onCommit} />}
			{laid && known && <OverLines laid={laid} tintOf={tintOf} onShow={onShow} onCommit={onCommit} />}
		</section>
	);
}

interface Lying<T extends Pick<Laid, "of">> {
	laid: T;
	tintOf: string;
	/** Undefined ends what is shown. */
	onShow: (laid: T | undefined) => void;
	onCommit: (laid: T) => void;
}

/** Surfaces over the first, as sentences, the topmost last. */
function OverLines({ laid, tintOf, onShow, onCommit }: Lying<Laid>) {
	const [open, setOpen] = useState<number | "new" | null>(null);
	// What lay there before one was tried: the frame shows another one meanwhile.
	const [before, setBefore] = useState<readonly LaidOver[]>([]);
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
							{isSurface(over.of) ? SURFACES[over.of].name : `"${over.of}", which is not known any more,`}{" "}
							<span className="text-second">{whereWords(over.where)}</span>
						</button>
						<span className="shrink-0">
							<Act onClick={() => onCommit(changed(n, null))}>Take off</Act>
						</span>
					</div>
					{open === n && (
						<OverOne
							laid={over}
							tintOf={tintOf}
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
							onShow={(of) => onShow(of ? withOver([...all, laidOver(of)]) : undefined)}
							onPick={(of) => {
								onCommit(withOver([...all, laidOver(of)]));
								setOpen(all.length);
							}}
						/>
					)}
				</li>
			)}
		</ol>
	);
}

function OverOne({ laid, tintOf, onShow, onCommit }: Lying<LaidOver>) {
	const { where } = laid;
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
				</div>
			))}
			{where.length < MOST_LAID_WHERES && (
				<div className="flex flex-wrap gap-1 py-1">
					{Object.values(WHERES).map(({ act, usual }) => (
						<Act key={act} onClick={() => onCommit({ ...laid, where: [...where, usual] })}>
							{act}
						</Act>
					))}
				</div>
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

function HowItLies<T extends LaidOver | Laid>({ laid, tintOf, onShow, onCommit }: Lying<T>) {
	const rule = (field: "tint" | "wet", label: string, says?: string) => (
		<Rule
			label={label}
			value={laid[field] * 100}
			unit="%"
			min={0}
			max={100}
			step={1}
			digits={0}
			onPreview={(v) => onShow({ ...laid, [field]: v / 100 })}
			onCommit={(v) => onCommit({ ...laid, [field]: v / 100 })}
			says={says}
		/>
	);
	const wet =
		laid.wet === 0 ? undefined : laid.wet <= 0.5 ? "Damp: darker and smoother." : "Water stands in its hollows.";
	return (
		<>
			<div className="grid grid-cols-2 gap-x-3">
				<NumberLine
					label="Repeats"
					value={laid.acrossM}
					unit="m"
					min={0.02}
					max={200}
					step={0.1}
					onCommit={(acrossM) => onCommit({ ...laid, acrossM })}
				/>
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
			</div>
			{rule("tint", tintOf)}
			{rule("wet", "Wet", wet)}
		</>
	);
}

const ALL = "all";

interface SlipsProps {
	picked: SurfaceKind | null;
	/** Linear colour of what it is to lie on, where that has one. */
	colour?: Rgb;
	/** What is tried; null when the pointer has left. */
	onShow: (of: SurfaceKind | null) => void;
	onPick: (of: SurfaceKind) => void;
}

/** Slips of surfaces, as a paint maker's cards: a slab, its name, its measure. */
function Slips({ picked, colour, onShow, onPick }: SlipsProps) {
	const [words, setWords] = useState("");
	const [family, setFamily] = useState<string>(ALL);
	const id = useId();
	const [byColour, setByColour] = useState(false);
	const named = foundBy(words).filter((kind) => family === ALL || SURFACES[kind].family === family);
	const found =
		byColour && colour ? likest(named, { colour, coarse: 0, fine: 0 }, true).map(({ kind }) => kind) : named;
	return (
		<div className="pb-1">
			<div className="flex items-baseline gap-2 py-1">
				<label htmlFor={id} className="text-second text-small">
					Find
				</label>
				<input
					id={id}
					type="search"
					className="min-w-0 flex-1 border-ink/45 border-b bg-transparent text-small"
					placeholder="stone, roof, wet, white"
					value={words}
					maxLength={60}
					onChange={(e) => setWords(e.target.value)}
					onKeyDown={(e) => e.stopPropagation()}
				/>
			</div>
			<PickLine
				label="Family"
				value={family}
				options={[[ALL, "all"], ...FAMILIES.map((f) => [f, f] as const)]}
				onPick={setFamily}
			/>
			{colour && <YesNo label="In order" value={byColour} yes="like its colour" no="by family" onPick={setByColour} />}
			{found.length === 0 ? (
				<p className="py-1 text-second text-small">No surface is called that. Fewer words find more.</p>
			) : (
				<ul className="grid max-h-[19rem] grid-cols-3 gap-1 overflow-y-auto p-0.5" onPointerLeave={() => onShow(null)}>
					{found.map((kind) => (
						<li key={kind}>
							<Slip kind={kind} picked={kind === picked} onShow={onShow} onPick={onPick} />
						</li>
					))}
				</ul>
			)}
		</div>
	);
}

function Slip({
	kind,
	picked,
	onShow,
	onPick,
}: { kind: SurfaceKind; picked: boolean } & Omit<SlipsProps, "picked" | "colour">) {
	const { name, sideM, depthMm } = SURFACES[kind];
	return (
		<button
			type="button"
			aria-pressed={picked}
			aria-label={name}
			title={name}
			className={clsx(
				"block h-full w-full border bg-white p-[3px] text-left leading-tight focus-visible:-outline-offset-2",
				picked ? "border-ink outline outline-1 outline-ink" : "border-hair hover:border-ink",
			)}
			onPointerEnter={() => onShow(kind)}
			onFocus={() => onShow(kind)}
			onBlur={() => onShow(null)}
			onClick={() => onPick(kind)}
		>
			{/* biome-ignore lint/performance/noImgElement: a small file of our own, as it is. */}
			<img src={`/slabs/${slugOf(kind)}.png`} alt="" className="block aspect-square w-full" loading="lazy" />
			<span className="mt-0.5 line-clamp-2 block text-[0.68rem]">{name}</span>
			<span className="block text-[0.62rem] text-second">{`${sideM} m · ${depthMm} mm`}</span>
		</button>
	);
}
