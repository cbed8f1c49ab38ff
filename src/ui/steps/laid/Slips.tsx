"use client";
/** Slips of surfaces, found by words, by family and by colour, tried in the frame under the pointer. */
import clsx from "clsx";
import { useEffect, useId, useState } from "react";
import type { ImageSurface, Laid } from "../../../core/doc/schema.ts";
import { laidAsBrought, wordOf } from "../../../core/surface/brought.ts";
import type { Rgb } from "../../../core/surface/field.ts";
import { foundBy } from "../../../core/surface/finding.ts";
import { laidAsMade } from "../../../core/surface/laying.ts";
import { type LooksLike, likest, looksOf } from "../../../core/surface/likeness.ts";
import { FAMILIES, SURFACES, slugOf } from "../../../core/surface/surfaces.ts";
import { copyAddress } from "../../../wire/contracts.ts";
import { PickLine } from "../../parts/controls.tsx";
import { useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";
import { BringLines } from "./BringLines.tsx";
import { patchOf } from "./colourPatches.ts";

const ALL = "all";

/** Orders of the slips: as families go, by the piece's own colour, by a patch of a reference, whose id is told. */
type Order = "family" | "colour" | `patch ${string}`;

/** Orders that can be had, and what the slips are held against in the one that is chosen. */
function useOrder(order: Order, colour: Rgb | undefined) {
	const { references, camera, shown } = useShown();
	const { likePatch, set } = useStudioOf("likePatch", "set");
	const [patch, setPatch] = useState<LooksLike | null>(null);
	const [told, setTold] = useState("");
	const wanted = references.find((r) => order === `patch ${r.id}`);
	const like = wanted?.id ?? null;
	useEffect(() => {
		if (like) set({ likePatch: [0.5, 0.5] });
		return () => set({ likePatch: null });
	}, [like, set]);
	const [x, y] = likePatch ?? [0.5, 0.5];
	useEffect(() => {
		let left = false;
		if (!wanted) return;
		patchOf(wanted, [x, y], camera.ratio).then(
			(pixels) => {
				if (left) return;
				setPatch(pixels && looksOf(pixels.colours, pixels.width));
				setTold(
					pixels ? "Drag the square in the frame over a part of the reference." : "The reference does not reach there.",
				);
			},
			(error: Error) => !left && setTold(error.message),
		);
		return () => {
			left = true;
		};
	}, [wanted, x, y, camera.ratio]);
	const orders: [Order, string][] = [
		["family", "by family"],
		...(colour ? [["colour", "like its colour"] as [Order, string]] : []),
		...references.map((r): [Order, string] => [`patch ${r.id}`, `like a patch of ${r.name}`]),
	];
	const looks = wanted ? patch : order === "colour" && colour ? { colour, coarse: 0, fine: 0 } : null;
	const seen = shown.reference === like && shown.mode !== "beside";
	return {
		looks,
		orders,
		told: wanted ? (seen ? told : `${told} It is seen there while it lies over the frame.`) : "",
	};
}

interface SlipsProps {
	/** The word of what lies there. */
	picked: string | null;
	/** Linear colour of what it is to lie on, where that has one. */
	colour?: Rgb;
	/** What is tried; null when the pointer has left. */
	onShow: (laid: Laid | null) => void;
	onPick: (laid: Laid) => void;
}

/** Slips of surfaces, as a paint maker's cards: a slab, its name, its measure. */
export function Slips({ picked, colour, onShow, onPick }: SlipsProps) {
	const [words, setWords] = useState("");
	const [family, setFamily] = useState<string>(ALL);
	const id = useId();
	const [order, setOrder] = useState<Order>("family");
	const named = foundBy(words).filter((kind) => family === ALL || SURFACES[kind].family === family);
	const { imageSurfaces = [] } = useShown();
	// They have a name alone to be found by, and no family.
	const brought = imageSurfaces.filter(
		({ name }) => family === ALL && name.toLowerCase().includes(words.trim().toLowerCase()),
	);
	const { looks, orders, told } = useOrder(order, colour);
	const found = looks ? likest(named, looks, order === "colour").map(({ kind }) => kind) : named;
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
			{orders.length > 1 && <PickLine label="In order" value={order} options={orders} onPick={setOrder} />}
			{told && <p className="py-1 text-second text-small">{told}</p>}
			{found.length + brought.length === 0 ? (
				<p className="py-1 text-second text-small">No surface is called that. Fewer words find more.</p>
			) : (
				<ul className="grid max-h-[19rem] grid-cols-3 gap-1 overflow-y-auto p-0.5" onPointerLeave={() => onShow(null)}>
					{brought.map((own) => (
						<li key={own.id}>
							<Slip
								{...{ name: own.name, sideM: own.sideM, depthMm: own.depthMm, onShow, onPick }}
								laid={laidAsBrought(own)}
								src={glanceAt(own)}
								picked={wordOf(own) === picked}
							/>
						</li>
					))}
					{found.map((kind) => (
						<li key={kind}>
							<Slip
								{...{ ...SURFACES[kind], onShow, onPick }}
								laid={laidAsMade(kind)}
								src={`/slabs/${slugOf(kind)}.png`}
								picked={kind === picked}
							/>
						</li>
					))}
				</ul>
			)}
			<BringLines onPick={onPick} />
		</div>
	);
}

/** The copy of its colour that is shown of a surface of pictures, or of its heights; null of floats, which no browser shows. */
function glanceAt({ files: { colour, height } }: ImageSurface): string | null {
	const file = colour ?? height;
	return file && file.bits < 32 ? copyAddress({ blob: file.file }, 256) : null;
}

interface SlipProps extends Pick<SlipsProps, "onShow" | "onPick"> {
	name: string;
	sideM: number;
	depthMm: number;
	laid: Laid;
	/** None of what has no picture that can be shown. */
	src: string | null;
	picked: boolean;
}

function Slip({ name, sideM, depthMm, laid, src, picked, onShow, onPick }: SlipProps) {
	return (
		<button
			type="button"
			aria-pressed={picked}
			aria-label={name}
			title={name}
			className={clsx(
				"flex h-full w-full flex-col items-stretch justify-start border bg-white p-[3px] text-left leading-tight focus-visible:-outline-offset-2",
				picked ? "border-ink outline outline-1 outline-ink" : "border-hair hover:border-ink",
			)}
			onPointerEnter={() => onShow(laid)}
			onFocus={() => onShow(laid)}
			onBlur={() => onShow(null)}
			onClick={() => onPick(laid)}
		>
			{src ? (
				// biome-ignore lint/performance/noImgElement: a small file of our own, or a copy that is served in this size.
				<img src={src} alt="" className="block aspect-square w-full object-cover" loading="lazy" />
			) : (
				<i className="block aspect-square w-full border border-hair" />
			)}
			<span className="mt-0.5 line-clamp-2 block text-[0.68rem]">{name}</span>
			<span className="block text-[0.62rem] text-second">{`${sideM} m · ${depthMm} mm`}</span>
		</button>
	);
}
