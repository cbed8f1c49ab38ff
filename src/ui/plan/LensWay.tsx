"use client";
/** The lens's way in the plan, with a tick at each half second; what is kept of its place is dragged there. */
import { type PointerEvent as ReactPointerEvent, useMemo } from "react";
import { trackOf } from "../../core/doc/keyedValues.ts";
import type { ShotDocument } from "../../core/doc/schema.ts";
import { documentAt } from "../../core/time/documentAt.ts";
import { lengthS } from "../../core/time/frames.ts";
import { haloed } from "../parts/marks.tsx";
import { startDrag } from "../parts/pointer.ts";
import { useShot, useShotOf } from "../store/shotStore.ts";

const TICK_S = 0.5;
const MOST_POINTS = 160;

type At = (x: number, z: number) => { x: number; y: number };

/** Places of the lens over the whole move and at each half second, without its tremor: from above, metres right and towards. */
export function lensPlaces(doc: ShotDocument): { way: number[][]; ticks: number[][] } | null {
	const { move } = doc;
	if (!move || !trackOf(move, "camera.place")) return null;
	const calm = { ...doc, move: { ...move, tremor: null } };
	const placeAt = (timeS: number) => {
		const [x, , z] = documentAt(calm, timeS).camera.position;
		return [x, z];
	};
	const all = lengthS(move);
	const n = Math.min(MOST_POINTS, move.frames);
	return {
		way: Array.from({ length: n }, (_, i) => placeAt((i / (n - 1)) * all)),
		ticks: Array.from({ length: Math.floor(all / TICK_S) + 1 }, (_, i) => placeAt(i * TICK_S)),
	};
}

export function LensWay({ at, world }: { at: At; world: (px: number, py: number) => { dx: number; dz: number } }) {
	const { whole, wholePreview, timeS } = useShotOf("whole", "wholePreview", "timeS");
	const doc = wholePreview ?? whole;
	const open = timeS !== null;
	const places = useMemo(() => (open ? lensPlaces(doc) : null), [doc, open]);
	const { commit, show } = useShot.getState();
	const track = trackOf(doc.move, "camera.place");
	if (!places || !track) return null;
	const way = `M${places.way.map(([x, z]) => Object.values(at(x, z)).join(" ")).join("L")}`;
	const points = track.keys.map((k) => {
		const [x, , z] = k.value as [number, number, number];
		return at(x, z);
	});
	/** Its time can be read beside that of the key before. */
	const isApart = (i: number) =>
		i === 0 || Math.hypot(points[i].x - points[i - 1].x, points[i].y - points[i - 1].y) > 16;

	const drag = (event: ReactPointerEvent) => {
		if (event.button !== 0) return;
		// Of keys that lie close together the one nearest to the pointer is meant.
		const box = (event.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect();
		const far = ({ x, y }: { x: number; y: number }) =>
			Math.hypot(event.clientX - (box?.left ?? 0) - x, event.clientY - (box?.top ?? 0) - y);
		const index = points.reduce((best, point, i) => (far(point) < far(points[best]) ? i : best), 0);
		const key = trackOf(whole.move, "camera.place")?.keys[index];
		if (!key) return;
		const [x, y, z] = key.value as [number, number, number];
		const make = (e: PointerEvent) => {
			const { dx, dz } = world(e.clientX - event.clientX, e.clientY - event.clientY);
			return {
				name: "move.key" as const,
				keys: [{ value: "camera.place" as const, timeS: key.timeS, is: [x + dx, y, z + dz] }],
			};
		};
		startDrag(event, {
			move: (e) => show(make(e)),
			end: (e, moved) => (moved ? commit(make(e)) : useShot.getState().goTo(key.timeS)),
			cancel: () => show(null),
		});
	};

	return (
		<g data-testid="lens-way">
			<path d={way} fill="none" stroke="#fff" strokeWidth={3.4} />
			<path d={way} fill="none" stroke="#1d1c1a" strokeWidth={1.4} />
			{places.ticks.map(([tx, tz], i) => {
				const { x, y } = at(tx, tz);
				return <circle key={i} cx={x} cy={y} r={1.8} fill="#1d1c1a" />;
			})}
			{track.keys.map((key, i) => {
				const p = points[i];
				return (
					<g key={key.timeS} onPointerDown={drag} style={{ cursor: "move" }} data-testid="way-key">
						<title>{`The lens at ${key.timeS.toFixed(2)} s: drag it`}</title>
						<rect x={p.x - 10} y={p.y - 10} width={20} height={20} fill="transparent" />
						<path
							d={`M${p.x} ${p.y - 5.5}L${p.x + 5.5} ${p.y}L${p.x} ${p.y + 5.5}L${p.x - 5.5} ${p.y}z`}
							fill="#f3f1ec"
							stroke="#1d1c1a"
							strokeWidth={1.6}
						/>
						{isApart(i) && (
							<text x={p.x + 8} y={p.y + 4} {...haloed} fontSize={12}>
								{key.timeS.toFixed(1)} s
							</text>
						)}
					</g>
				);
			})}
		</g>
	);
}
