/**
 * Room to move: what gives out first when the lens goes, turns or zooms in each direction, by how much, and what mends it.
 * From the geometry of the shot alone: each limit is asked of a camera that has gone so far, first in growing steps, then by
 * halving the last one. A new limit is one line of {@link LIMITS}.
 */
import { extinctionOf } from "../air/fog.ts";
import { COARSE_PX, MOST_SKY_WIDTH, skyEdgeDeg, texelsPerRadian } from "../air/skyPicture.ts";
import type { Camera, Piece, ShotDocument } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { radiusOf } from "../ground/planet.ts";
import { OUTER_M } from "../ground/sight.ts";
import { frameOfView, keptView, rayThrough } from "../lens/camera.ts";
import { cameraAxes } from "../maths/axes.ts";
import { atan2, clamp, DEG, log } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";
import { type InFrame, inFrame } from "../shape/inFrame.ts";
import { pieceUnder } from "../shape/underPoint.ts";

type Shot = Pick<ShotDocument, "camera" | "pieces" | "ground" | "water" | "air" | "print">;

/** What gives out. */
export interface End {
	/** In words that follow "before". */
	what: string;
	/** What mends it. */
	cure: string;
}

export interface Leeway extends End {
	way: Way;
	/** How far it may go: metres, degrees, or millimetres of focal length that it comes to. */
	by: number;
}

interface Going {
	unit: "m" | "°" | "mm";
	/** Steps that are tried, the largest last. */
	steps: readonly number[];
	go: (camera: Camera, by: number) => Camera;
}

const METRES = Array.from({ length: 24 }, (_, i) => 0.1 * 1.45 ** i);
const DEGREES = Array.from({ length: 30 }, (_, i) => 2 * (i + 1));
/** Multiples of the focal length. */
const TIMES = Array.from({ length: 24 }, (_, i) => 1.1 ** (i + 1));

/** Metres along the camera's own right, away along its level heading, and up. */
const goes = (right: number, away: number, up: number): Going => ({
	unit: "m",
	steps: METRES,
	go: (camera, by) => {
		const { right: r, forward: f } = cameraAxes(camera.headingDeg, 0, 0);
		const position = camera.position.map(
			(v, c) => v + by * (right * r[c] + away * f[c] + (c === 1 ? up : 0)),
		) as Camera["position"];
		return { ...camera, position };
	},
});
const turns = (heading: number, pitch: number): Going => ({
	unit: "°",
	steps: DEGREES,
	go: (camera, by) => ({
		...camera,
		headingDeg: camera.headingDeg + heading * by,
		pitchDeg: clamp(camera.pitchDeg + pitch * by, -89, 89),
	}),
});
const zooms = (longer: boolean): Going => ({
	unit: "mm",
	steps: TIMES,
	go: (camera, by) => ({ ...camera, focalMm: clamp(longer ? camera.focalMm * by : camera.focalMm / by, 4, 1200) }),
});

export const WAYS = {
	lower: goes(0, 0, -1),
	higher: goes(0, 0, 1),
	"to the left": goes(-1, 0, 0),
	"to the right": goes(1, 0, 0),
	nearer: goes(0, 1, 0),
	"farther back": goes(0, -1, 0),
	wider: zooms(false),
	longer: zooms(true),
	"turned left": turns(-1, 0),
	"turned right": turns(1, 0),
	"tilted up": turns(0, 1),
	"tilted down": turns(0, -1),
} as const satisfies Record<string, Going>;
export type Way = keyof typeof WAYS;

/** Nothing may come nearer to the lens than this, metres. */
export const CLEAR_M = 0.05;
/** Fog that leaves so little of what lies at the ground's end hides it. */
const HIDDEN = 0.02;
/** A piece that fills so much of a side of the frame, to its edge, stands as the back of the set there. */
const BACK_SHARE = 0.5;
/** Places along a side at which it is looked what fills it. */
const ALONG = 9;
const EDGE = 1e-4;

/** What limits know of the shot before the camera goes. */
interface Before {
	shot: Shot;
	backs: Back[];
	/** What lies straight on in a direction, by that direction. */
	ahead: Map<string, { name: string; farM: number } | null>;
}

type Side = "left" | "right" | "top" | "bottom";
interface Back {
	piece: Piece;
	side: Side;
}

/** Pixels of the print for a radian at the frame's middle. */
const pixelsPerRadian = ({ print }: Shot, camera: Camera): number => print.widthPx / (2 * frameOfView(camera).tanX);

/** Whether level directions lie in the frame, at any of its columns. */
function seesHorizon(camera: Camera): boolean {
	const view = frameOfView(camera);
	return [0, 0.25, 0.5, 0.75, 1].some((x) => {
		const [top, bottom] = [rayThrough(view, x, 0)[1], rayThrough(view, x, 1)[1]];
		return top > 0 && bottom < 0;
	});
}

/** The end of flat ground, which is a level line a little below the horizon: seen where it is a pixel or more below it. */
function groundEnds({ shot }: Before, camera: Camera): End | null {
	const { ground, water, air } = shot;
	if (water.on || !seesHorizon(camera)) return null;
	if (ground.out) return { what: "one sees that there is no ground", cure: "let the ground in again, or lay water" };
	if (radiusOf(ground) !== null) return null;
	const clear = air.fog.on ? Math.exp(-OUTER_M * extinctionOf(air.fog.visibilityM)) : 1;
	const over = camera.position[1] - groundHeight(ground, camera.position[0], camera.position[2]);
	if (clear < HIDDEN || (over / OUTER_M) * pixelsPerRadian(shot, camera) < 1) return null;
	return {
		what: "the end of the ground shows",
		cure: `fog that leaves ${Math.floor(OUTER_M / 1000)} km of sight or less hides it`,
	};
}

type Box = InFrame["box"];

/** Whether a piece goes on beyond a side of the frame. */
const REACHES: Record<Side, (box: Box) => boolean> = {
	left: (box) => box.x0 < EDGE,
	right: (box) => box.x1 > 1 - EDGE,
	top: (box) => box.y0 < EDGE,
	bottom: (box) => box.y1 > 1 - EDGE,
};
const SIDES = Object.keys(REACHES) as Side[];

/** Pieces that fill a good part of a side of the frame and go on beyond it. */
function backsOf(shot: Shot): Back[] {
	const view = keptView(shot.camera);
	return SIDES.flatMap((side) => {
		const counts = new Map<Piece, number>();
		for (let i = 0; i < ALONG; i++) {
			const t = (i + 0.5) / ALONG;
			const at = { left: [0, t], right: [1, t], top: [t, 0], bottom: [t, 1] }[side];
			const piece = pieceUnder(view, shot, { x: at[0], y: at[1] })?.piece;
			if (piece) counts.set(piece, (counts.get(piece) ?? 0) + 1);
		}
		return [...counts]
			.filter(([piece, n]) => {
				const box = n >= BACK_SHARE * ALONG && inFrame(piece, shot, view)?.box;
				return box && REACHES[side](box);
			})
			.map(([piece]) => ({ piece, side }));
	});
}

/** The end of a wall that fills the frame to its edge now. */
function setEnds({ shot, backs }: Before, camera: Camera): End | null {
	const open = backs.find(({ piece, side }) => {
		const box = inFrame(piece, shot, frameOfView(camera))?.box;
		return box && !REACHES[side](box);
	});
	return (
		(open && {
			what: `the ${open.side} end of ${open.piece.name} shows`,
			cure: `let ${open.piece.name} go on ${open.side === "top" ? "upwards" : open.side === "bottom" ? "downwards" : `to the ${open.side}`}`,
		}) ??
		null
	);
}

/** The upper edge of a sky picture that is a strip about the horizon. */
function skyEnds({ shot }: Before, camera: Camera): End | null {
	const { picture } = shot.air;
	if (!picture) return null;
	const edgeDeg = skyEdgeDeg(picture);
	const view = frameOfView(camera);
	const highest = [0, 0.25, 0.5, 0.75, 1].reduce((most, x) => {
		const d = rayThrough(view, x, 0);
		return Math.max(most, atan2(d[1], Math.hypot(d[0], d[2])) / DEG);
	}, -90);
	return highest > edgeDeg
		? { what: "the sky picture ends", cure: `hang one that shows more than ${edgeDeg.toFixed(0)}° above the horizon` }
		: null;
}

/** A sky picture of which a texel is larger than it may be. */
function skyIsCoarse({ shot }: Before, camera: Camera): End | null {
	const { picture } = shot.air;
	if (!picture || rayThrough(frameOfView(camera), 0.5, 0)[1] <= 0) return null;
	const has = texelsPerRadian(picture);
	const needs = pixelsPerRadian(shot, camera) / COARSE_PX;
	if (has >= needs) return null;
	const least = Math.ceil((needs * 2 * Math.PI) / 1024) * 1024;
	return {
		what: "the sky picture is too coarse",
		cure:
			least <= MOST_SKY_WIDTH
				? `hang one that is ${least.toLocaleString("en")} px wide`
				: `print it less than ${Math.floor(shot.print.widthPx * (has / needs)).toLocaleString("en")} px wide`,
	};
}

/** What the lens would go into on its way. */
function enters({ shot, ahead }: Before, camera: Camera): End | null {
	const from = shot.camera.position as Vec3;
	const [x, y, z] = camera.position;
	if (y < groundHeight(shot.ground, x, z) + CLEAR_M && !shot.ground.out)
		return { what: "the lens enters the ground", cure: "lower the ground under it" };
	if (shot.water.on && y < shot.water.levelM + CLEAR_M)
		return { what: "the lens enters the water", cure: "lower its level" };
	const way: Vec3 = [x - from[0], y - from[1], z - from[2]];
	const far = Math.hypot(...way);
	if (far === 0) return null;
	const unit = way.map((v) => v / far) as unknown as Vec3;
	const key = unit.map((v) => v.toFixed(6)).join();
	let met = ahead.get(key);
	if (met === undefined) {
		// As a view that looks there would pick it.
		const hit = pieceUnder({ ...frameOfView(shot.camera), position: from, middle: unit }, shot, { x: 0.5, y: 0.5 });
		met = hit && { name: hit.piece.name, farM: Math.hypot(...hit.place.map((v, c) => v - from[c])) };
		ahead.set(key, met);
	}
	return met && met.farM <= far + CLEAR_M
		? { what: `the lens enters ${met.name}`, cure: `move ${met.name} away` }
		: null;
}

/** What may give out, one line each. */
const LIMITS: Record<string, (before: Before, camera: Camera) => End | null> = {
	groundEnds, //
	setEnds,
	skyEnds,
	skyIsCoarse,
	enters,
};

const HALVINGS = 24;

/** What gives out first in each direction; ways on which nothing does within what is tried are left out. */
export const roomToMove = (shot: Shot): Leeway[] => [...roomsByWay(shot)].flatMap((room) => room ?? []);

/** The same one way after the other, for those who have other things to do between; null where nothing gives out. */
export function* roomsByWay(shot: Shot): Generator<Leeway | null> {
	const { camera } = shot;
	const before: Before = { shot, backs: backsOf(shot), ahead: new Map() };
	const limits = Object.values(LIMITS);
	// What shows already gives out nowhere else.
	const now = new Set(limits.flatMap((limit) => limit(before, camera)?.what ?? []));
	const fresh = (at: Camera): End | null => {
		for (const limit of limits) {
			const end = limit(before, at);
			if (end && !now.has(end.what)) return end;
		}
		return null;
	};
	const roomOf = (way: Way): Leeway | null => {
		const { unit, steps, go }: Going = WAYS[way];
		let low = unit === "mm" ? 1 : 0;
		for (const step of steps) {
			let end = fresh(go(camera, step));
			if (!end) {
				low = step;
				continue;
			}
			let high = step;
			for (let i = 0; i < HALVINGS; i++) {
				const middle = (low + high) / 2;
				const there = fresh(go(camera, middle));
				if (there) [high, end] = [middle, there];
				else low = middle;
			}
			return { way, by: unit === "mm" ? go(camera, low).focalMm : low, ...end };
		}
		return null;
	};
	for (const way of Object.keys(WAYS) as Way[]) yield roomOf(way);
}

/** How far a room goes, in words. */
export function roomWords({ way, by }: Pick<Leeway, "way" | "by">): string {
	const { unit } = WAYS[way];
	const digits = unit === "m" ? clamp(1 - Math.floor(log(Math.max(by, 1e-3)) / log(10)), 0, 2) : unit === "°" ? 1 : 0;
	if (unit === "mm") return `${way} to ${by.toFixed(digits)} mm`;
	return unit === "°" ? `${by.toFixed(digits)}° ${way}` : `${by.toFixed(digits)} m ${way}`;
}
