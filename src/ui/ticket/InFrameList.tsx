"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
/** The list of pieces and covers, by share of the frame, distance, or cost. */
import clsx from "clsx";
import { useMemo, useRef, useState } from "react";
import { frameOfView } from "../../core/lens/camera.ts";
import { coverReach, keptPieceBox, metres } from "../frame/geometry.ts";
import { Choice } from "../parts/controls.tsx";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";

const ROW_PX = 28;

type Order = "share" | "distance" | "cost";

export function InFrameList() {
	const doc = useShown();
	const { selected, select, set, root, parts } = useStudio();
	const commit = useShot((s) => s.commit);
	const [order, setOrder] = useState<Order>("share");
	const [filter, setFilter] = useState("");
	const { camera, ground, pieces: allPieces, covers: allCovers } = doc;
	const view = useMemo(() => frameOfView(camera), [camera]);
	const rows = useMemo(() => {
		const drawOf = new Map(root?.draws.map((d) => [root.ids[d.id]?.id, d]));
		const triangles = (key: string | undefined) => {
			const part = key ? parts.get(key) : undefined;
			return part?.kind === "mesh" ? part.mesh.indices.length / 3 : 0;
		};
		const pieces = allPieces.map((p) => {
			const b = keptPieceBox(p, { ground }, view);
			const draw = drawOf.get(p.id);
			return { id: p.id, name: p.name, hidden: p.hidden, share: b.share, distance: b.nearM, cost: triangles(draw?.mesh) * (p.repeat?.count ?? 1), cover: false };
		});
		const covers = allCovers.map((c) => {
			const drawn = root?.covers.find((x) => x.coverId === c.id);
			return { id: c.id, name: c.name, hidden: c.hidden, share: 0, distance: coverReach(c).nearM, cost: (drawn?.count ?? 0) * triangles(drawn?.meshes[0]), cover: true };
		});
		const wanted = filter.trim().toLowerCase();
		return [...pieces, ...covers]
			.filter((r) => r.name.toLowerCase().includes(wanted))
			.sort((a, b) => (order === "share" ? b.share - a.share : order === "distance" ? a.distance - b.distance : b.cost - a.cost));
	}, [allPieces, allCovers, ground, view, root, parts, order, filter]);
	const list = useRef<HTMLDivElement>(null);
	// Thousands of rows are many more than a page can lay out while something is dragged: only those in sight are there.
	const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => list.current, estimateSize: () => ROW_PX, overscan: 6 });
	return (
		<div className="unfold pb-2">
			<Choice label="Order of the list" options={["share", "distance", "cost"] as const} value={order} onPick={setOrder} />
			<input
				aria-label="Filter by name"
				placeholder="filter by name"
				className="my-1 w-full border-hair border-b bg-transparent py-1"
				value={filter}
				onChange={(e) => setFilter(e.target.value)}
				onKeyDown={(e) => e.stopPropagation()}
			/>
			{rows.length === 0 && <p className="text-second text-small">{filter ? "No piece has this in its name." : "No piece stands here yet."}</p>}
			<div ref={list} className="max-h-72 overflow-y-auto" data-testid="in-frame">
				<ul className="relative" style={{ height: virtual.getTotalSize() }}>
					{virtual.getVirtualItems().map((item) => {
						const r = rows[item.index];
						return (
							<li
								key={r.id}
								className={clsx("absolute inset-x-0 flex items-baseline justify-between gap-2 border-hair border-b py-[3px]", selected.includes(r.id) && "font-semibold")}
								style={{ top: item.start, height: ROW_PX }}
							>
								<button
									type="button"
									className="min-w-0 flex-1 truncate text-left"
									onClick={(e) => (r.cover ? set({ cover: r.id, step: "Dress" }) : (select([r.id], e.shiftKey), set({ step: "Mass" })))}
								>
									{r.name}
								</button>
								<span className="text-second text-small">
									{order === "share"
										? r.share > 0
											? `${(r.share * 100).toFixed(1)} %`
											: r.cover
												? "cover"
												: "not in frame"
										: order === "distance"
											? Number.isFinite(r.distance)
												? metres(r.distance)
												: "behind"
											: r.cost.toLocaleString("en")}
								</span>
								{!r.cover && (
									<button
										type="button"
										className="w-14 text-right text-second text-small underline"
										onClick={() => commit({ name: "piece.setHidden", ids: [r.id], hidden: !r.hidden })}
									>
										{r.hidden ? "left out" : "shown"}
									</button>
								)}
							</li>
						);
					})}
				</ul>
			</div>
			{order === "cost" && <p className="pt-1 text-second text-small">Cost in triangles, repeats and plants counted.</p>}
		</div>
	);
}
