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

/** Places of the lens over the whole move, without its tremor: from above, metres right and towards. */
export function lensPlaces(doc: ShotDocument): { timeS: number; x: number; z: number }[] {
	const { move } = doc;
	if (!move || !trackOf(move, "camera.place")) return [];
	const calm = { ...doc, move: { ...move, tremor: null } };
	const all = lengthS(move);
	const n = Math.min(MOST_POINTS, move.frames);
	return Array.from({ length: n }, (_, i) => {
		const timeS = (i / (n - 1)) * all;
		const [x, , z] = documentAt(calm, timeS).camera.position;
		return { timeS, x, z };
	});
}

export function LensWay({ at, world }: { at: At; world: (px: number, py: number) => { dx: number; dz: number } }) {
	const { whole, wholePreview, timeS } = useShotOf("whole", "wholePreview", "timeS");
	const doc = wholePreview ?? whole;
	const places = useMemo(() => (timeS === null ? [] : lensPlaces(doc)), [doc, timeS]);
	const { commit, show } = useShot.getState();
	const track = trackOf(doc.move, "camera.place");
	if (places.length === 0 || !track || !doc.move) return null;
	const ticks = Array.from({ length: Math.floor(lengthS(doc.move) / TICK_S) + 1 }, (_, i) => i * TICK_S);
	const calm = { ...doc, move: { ...doc.move, tremor: null } };

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
			<path
				d={`M${places.map(({ x, z }) => Object.values(at(x, z)).join(" ")).join("L")}`}
				fill="none"
				stroke="#fff"
				strokeWidth={3.4}
			/>
			<path
				d={`M${places.map(({ x, z }) => Object.values(at(x, z)).join(" ")).join("L")}`}
				fill="none"
				stroke="#1d1c1a"
				strokeWidth={1.4}
			/>
			{ticks.map((t) => {
				const [x, , z] = documentAt(calm, t).camera.position;
				const p = at(x, z);
				return <circle key={t} cx={p.x} cy={p.y} r={1.8} fill="#1d1c1a" />;
			})}
			{track.keys.map((key, i) => {
				const [x, , z] = key.value as [number, number, number];
				const p = at(x, z);
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
