"use client";
/** The list of pieces and covers, by share of the frame, distance, or cost; a group is one line until it is entered. */
import { useVirtualizer } from "@tanstack/react-virtual";
import clsx from "clsx";
import { useMemo, useRef, useState } from "react";
import { takenAs } from "../../core/doc/groups.ts";
import type { ActKind, Cover, Group, Piece } from "../../core/doc/schema.ts";
import { keptView } from "../../core/lens/camera.ts";
import { coverReach, keptInFrame, leansOnAnother } from "../frame/geometry.ts";
import { Choice } from "../parts/controls.tsx";
import { useEach } from "../parts/same.ts";
import { metres, newId, shareWords } from "../parts/words.ts";
import { enterGroup } from "../store/pick.ts";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudioOf } from "../store/studio.ts";

const ROW_PX = 28;

/** What is told of pieces that are not seen by themselves. */
const ACTING: Record<ActKind, string> = { cut: "cut out", join: "joined", meet: "met" };

type Order = "share" | "distance" | "cost";

interface Row {
	of: Piece | Cover | (Group & { hidden: boolean });
	/** The pieces that it stands for. */
	pieces: readonly string[];
	/** Percent of the frame that shows it; null before that has been counted. */
	share: number | null;
	/** Some of it lies in the frame, seen or hidden. */
	inside: boolean;
	distance: number;
	cost: number;
	cover: boolean;
}

/** A group as one line: what its pieces are together. */
function folded(group: Group, rows: readonly Row[]): Row {
	const known = rows.flatMap((r) => r.share ?? []);
	const sum = (all: readonly number[]) => all.reduce((s, v) => s + v, 0);
	return {
		of: { ...group, hidden: rows.every((r) => r.of.hidden) },
		pieces: rows.flatMap((r) => r.pieces),
		share: known.length ? sum(known) : null,
		inside: rows.some((r) => r.inside),
		distance: Math.min(...rows.map((r) => r.distance)),
		cost: sum(rows.map((r) => r.cost)),
		cover: false,
	};
}

export function InFrameList() {
	const doc = useShown();
	const { selected, entered, select, set, root, parts, shares } = useStudioOf(
		"selected",
		"entered",
		"select",
		"set",
		"root",
		"parts",
		"shares",
	);
	const commit = useShot((s) => s.commit);
	const [order, setOrder] = useState<Order>("share");
	const [filter, setFilter] = useState("");
	/** Order of the rows when the pointer came in: none of them goes away from under it. */
	const [held, setHeld] = useState<readonly string[] | null>(null);
	const { camera, ground, pieces: allPieces, covers: allCovers, groups } = doc;
	const view = keptView(camera);
	const costs = useMemo(() => {
		const triangles = (key: string) => {
			const part = parts.get(key);
			return part?.kind === "mesh" ? part.mesh.indices.length / 3 : 0;
		};
		const by = new Map<string, number>();
		for (const d of root?.draws ?? []) {
			const name = root?.ids[d.id]?.id ?? "";
			by.set(name, (by.get(name) ?? 0) + triangles(d.mesh));
		}
		for (const c of root?.covers ?? []) by.set(c.coverId, c.count * triangles(c.meshes[0]));
		return by;
	}, [root, parts]);
	const allRows = useEach(
		allPieces,
		(p): Row => {
			const box = keptInFrame(p, { ground, pieces: allPieces }, view);
			return {
				of: p,
				pieces: [p.id],
				share: shares.get(p.id)?.percent ?? null,
				inside: box !== null && !p.hidden,
				distance: box?.nearM ?? Number.POSITIVE_INFINITY,
				cost: costs.get(p.id) ?? 0,
				cover: false,
			};
		},
		[ground, view, shares, costs],
		leansOnAnother,
	);
	const rows = useMemo(() => {
		const wanted = filter.trim().toLowerCase();
		const named = (r: { name: string }) => !wanted || r.name.toLowerCase().includes(wanted);
		const pieces = allRows.filter((r) => named(r.of));
		const covers = allCovers.filter(named).map(
			(c): Row => ({
				of: c,
				pieces: [],
				share: shares.get(c.id)?.percent ?? null,
				inside: true,
				distance: coverReach(c).nearM,
				cost: costs.get(c.id) ?? 0,
				cover: true,
			}),
		);
		const key = (r: Row) => (order === "distance" ? r.distance : -(r[order] ?? 0));
		const inGroups = new Map<Group, Row[]>();
		const alone = pieces.filter((r) => {
			// Who looks for a name looks into groups.
			const group = wanted ? null : takenAs(r.of as Piece, entered, groups);
			if (group) inGroups.set(group, [...(inGroups.get(group) ?? []), r]);
			return !group;
		});
		const together = [...inGroups].map(([group, rows]) => folded(group, rows));
		return [...alone, ...together, ...covers].sort((a, b) => key(a) - key(b));
	}, [allRows, allCovers, groups, entered, costs, order, filter, shares]);
	const listed = useMemo(() => {
		if (!held) return rows;
		const places = new Map(held.map((id, i) => [id, i]));
		const place = (r: Row) => places.get(r.of.id) ?? held.length;
		return [...rows].sort((a, b) => place(a) - place(b));
	}, [rows, held]);
	const chosen = useMemo(() => new Set(selected), [selected]);
	const list = useRef<HTMLDivElement>(null);
	// Thousands of rows are many more than a page can lay out while something is dragged: only those in sight are there.
	const virtual = useVirtualizer({
		count: listed.length,
		getScrollElement: () => list.current,
		estimateSize: () => ROW_PX,
		overscan: 6,
	});
	return (
		<div className="unfold pb-2">
			<Choice
				label="Order of the list"
				options={["share", "distance", "cost"] as const}
				value={order}
				onPick={setOrder}
			/>
			<input
				aria-label="Filter by name"
				placeholder="filter by name"
				className="my-1 w-full border-hair border-b bg-transparent py-1"
				value={filter}
				onChange={(e) => setFilter(e.target.value)}
				onKeyDown={(e) => e.stopPropagation()}
			/>
			<Sets />
			{rows.length === 0 && (
				<p className="text-second text-small">
					{filter ? "No piece has this in its name." : "No piece stands here yet."}
				</p>
			)}
			<div
				ref={list}
				className="max-h-72 overflow-y-auto"
				data-testid="in-frame"
				onPointerEnter={() => setHeld(rows.map((r) => r.of.id))}
				onPointerLeave={() => setHeld(null)}
			>
				<ul className="relative" style={{ height: virtual.getTotalSize() }}>
					{virtual.getVirtualItems().map((item) => {
						const r = listed[item.index];
						const { id, name, hidden } = r.of;
						return (
							<li
								key={id}
								className={clsx(
									"absolute inset-x-0 flex items-baseline justify-between gap-2 border-hair border-b py-[3px]",
									(r.cover ? false : r.pieces.every((p) => chosen.has(p))) && "font-semibold",
								)}
								style={{ top: item.start, height: ROW_PX }}
							>
								<button
									type="button"
									className="min-w-0 flex-1 truncate text-left"
									onClick={(e) =>
										r.cover
											? set({ cover: id, step: "Dress" })
											: (select([...r.pieces], e.shiftKey), set({ step: "Mass" }))
									}
									onDoubleClick={() => r.of.id !== r.pieces[0] && !r.cover && enterGroup(id)}
								>
									{name}
									{!r.cover && r.of.id !== r.pieces[0] && (
										<span className="font-normal text-second text-small"> {r.pieces.length} pieces</span>
									)}
								</button>
								<span className="text-second text-small">
									{!r.cover && "act" in r.of && r.of.act
										? ACTING[r.of.act.kind]
										: order === "share"
											? r.inside
												? shareWords(r.share)
												: "not in frame"
											: order === "distance"
												? Number.isFinite(r.distance)
													? metres(r.distance)
													: "not in frame"
												: r.cost.toLocaleString("en")}
								</span>
								{!r.cover && (
									<button
										type="button"
										className="w-14 text-right text-second text-small underline"
										onClick={() => commit({ name: "piece.setHidden", ids: [...r.pieces], hidden: !hidden })}
									>
										{hidden ? "left out" : "shown"}
									</button>
								)}
							</li>
						);
					})}
				</ul>
			</div>
			{order === "share" && <p className="pt-1 text-second text-small">What is seen of each, of all of the frame.</p>}
			{order === "distance" && (
				<p className="pt-1 text-second text-small">From the lens to the nearest point in the frame.</p>
			)}
			{order === "cost" && (
				<p className="pt-1 text-second text-small">Cost in triangles, repeats and plants counted.</p>
			)}
		</div>
	);
}

/** Sets of pieces by their names: a click selects one; what is selected can be kept as another. */
function Sets() {
	const doc = useShown();
	const { selected, select, set } = useStudioOf("selected", "select", "set");
	const commit = useShot((s) => s.commit);
	const [name, setName] = useState("");
	const { sets = [] } = doc;
	const keep = () => {
		const title = name.trim();
		if (!title || selected.length === 0) return;
		const known = sets.find((s) => s.name === title);
		if (commit({ name: "set.put", set: { id: known?.id ?? newId(), name: title, pieces: [...selected] } })) setName("");
	};
	if (sets.length === 0 && selected.length === 0) return null;
	return (
		<div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-1 text-small" data-testid="sets">
			{sets.map((s) => (
				<span key={s.id} className="whitespace-nowrap">
					<button
						type="button"
						className="underline decoration-hair underline-offset-4"
						onClick={() => {
							select([...s.pieces]);
							set({ step: "Mass" });
						}}
					>
						{s.name}
					</button>
					<span className="text-second"> {s.pieces.length} </span>
					<button
						type="button"
						aria-label={`Forget the set ${s.name}`}
						className="text-second"
						onClick={() => commit({ name: "set.remove", id: s.id })}
					>
						×
					</button>
				</span>
			))}
			{selected.length > 0 && (
				<input
					aria-label="Keep what is selected as a set named"
					placeholder="keep as a set named …"
					className="min-w-[9rem] flex-1 border-hair border-b bg-transparent py-1"
					value={name}
					onChange={(e) => setName(e.target.value)}
					onKeyDown={(e) => {
						e.stopPropagation();
						if (e.key === "Enter") keep();
					}}
				/>
			)}
		</div>
	);
}
