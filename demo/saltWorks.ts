/**
 * "Salt works, first light": an abandoned salt works on a flat coast, as a script of edits on the blank shot. Places are
 * given along the track (s metres from the lens's foot) and to its right (r metres).
 */

import { blankShot } from "../src/core/doc/defaults.ts";
import { applyEdit, type Edit } from "../src/core/doc/edits.ts";
import type { Piece, ShapeKind, ShotDocument, Surface } from "../src/core/doc/schema.ts";
import { newCover } from "../src/core/dress/plant.ts";
import { millimetres } from "../src/core/maths/functions.ts";
import { figure } from "./saltWorks/figure.ts";
import {
	ASIDE,
	add,
	at,
	BANK,
	BANK_EARTH,
	FEATHER,
	FLAT,
	IRON,
	type Place,
	part,
	ROOF,
	RUST,
	rad,
	SALT,
	TAMARISK,
	TIMBER,
	TRACK,
	WEATHERED,
} from "./saltWorks/making.ts";
import { shore } from "./saltWorks/shore.ts";
import { saltWorksMove } from "./saltWorksMove.ts";

function track(): Edit[] {
	const length = 420;
	const mid = { s: length / 2 - 6, r: 0 };
	const repeat = { kind: "row" as const, count: 460, step: [0, 0.75] as [number, number] };
	return [
		add(
			part("bank", "Track bank", "box", { ...mid, y: -0.6 }, [2.1, BANK + 0.6, length], BANK_EARTH),
			part(
				"bank-left",
				"Bank, left slope",
				"wedge",
				{ ...mid, r: -2, y: -0.6 },
				[length, BANK + 0.58, 1.9],
				BANK_EARTH,
				{ headingDeg: TRACK + 90 },
			),
			part(
				"bank-right",
				"Bank, right slope",
				"wedge",
				{ ...mid, r: 2, y: -0.6 },
				[length, BANK + 0.58, 1.9],
				BANK_EARTH,
				{ headingDeg: TRACK - 90 },
			),
		),
		add(
			part("sleepers", "Sleepers", "box", { s: -4, r: 0, y: BANK - 0.02 }, [1.25, 0.1, 0.2], TIMBER, { repeat }),
			part("rail-left", "Left rail", "box", { ...mid, r: -0.32, y: BANK + 0.08 }, [0.055, 0.09, length], RUST),
			part("rail-right", "Right rail", "box", { ...mid, r: 0.32, y: BANK + 0.08 }, [0.055, 0.09, length], RUST),
		),
	];
}

/** Stones, dry stalks and salt crust along the water on both sides of the track, and shoring on its right. */
function punt(): Edit {
	const s = 13;
	const r = 3.6;
	const way = TRACK + 38;
	const h = rad(way - TRACK);
	const p = (
		id: string,
		name: string,
		kind: ShapeKind,
		along: number,
		aside: number,
		y: number,
		size: [number, number, number],
		surface: Surface,
		over: Partial<Piece> = {},
	) =>
		part(
			`punt-${id}`,
			`Punt, ${name}`,
			kind,
			{
				s: millimetres(s + Math.cos(h) * along - Math.sin(h) * aside),
				r: millimetres(r + Math.sin(h) * along + Math.cos(h) * aside),
				y,
			},
			size,
			surface,
			{
				headingDeg: way,
				...over,
			},
		);
	return add(
		p("floor", "floor", "box", 0, 0, -0.08, [0.94, 0.06, 3.1], TIMBER),
		p("left", "left side", "box", 0, -0.48, -0.08, [0.05, 0.42, 3.3], TIMBER),
		p("right", "right side", "box", 0, 0.48, -0.08, [0.05, 0.42, 3.3], TIMBER),
		p("bow", "bow", "box", 1.5, 0, -0.06, [0.96, 0.78, 0.06], TIMBER, { pitchDeg: -52 }),
		p("stern", "stern", "box", -1.5, 0, -0.06, [0.96, 0.66, 0.06], TIMBER, { pitchDeg: 46 }),
		p("thwart", "thwart", "box", -0.3, 0, 0.22, [0.96, 0.05, 0.26], WEATHERED),
		p("load", "salt", "cone", 0.6, 0, -0.03, [0.84, 0.42, 1.2], SALT),
		p("pole", "pole", "cylinder", -1.15, 0.3, -0.1, [0.05, 2.7, 0.05], WEATHERED, {
			headingDeg: way + 80,
			pitchDeg: 21,
		}),
		p("post", "mooring post", "cylinder", 2.5, 0.25, -0.6, [0.14, 1.45, 0.14], TIMBER, { pitchDeg: -4 }),
	);
}

/** Low banks across, which part the pans. */
function dykes(): Edit {
	const across = TRACK + 90;
	const pieces: Piece[] = [];
	[17, 34, 58, 92, 142, 215, 320].forEach((s, i) => {
		const left = part(
			`dyke-${i}-left`,
			`Dyke ${i + 1}, left`,
			"box",
			{ s, r: -102 },
			[1.1 + 0.15 * i, 0.9, 200],
			BANK_EARTH,
			{ headingDeg: across },
		);
		const right = part(
			`dyke-${i}-right`,
			`Dyke ${i + 1}, right`,
			"box",
			{ s: s + 1.5, r: 61 },
			[1.1 + 0.15 * i, 0.9, 120],
			BANK_EARTH,
			{ headingDeg: across },
		);
		for (const p of [left, right]) pieces.push({ ...p, position: [p.position[0], -0.68, p.position[2]] });
	});
	return add(...pieces);
}

/** Stakes along the second dyke and out in the near pan. */
function stakes(): Edit {
	const row = (id: string, name: string, s: number, r: number, count: number, step: number, height: number) =>
		part(id, name, "cylinder", { s, r, y: -0.3 }, [0.09, height, 0.09], TIMBER, {
			headingDeg: TRACK + 90,
			repeat: { kind: "row", count, step: [0, step] },
		});
	return add(
		row("stakes-a", "Stakes, second dyke", 34.2, -34, 9, -3.1, 1.15),
		row("stakes-b", "Stakes, third dyke", 58.3, -52, 12, -3.7, 1.3),
		row("stakes-c", "Stakes, near pan", 12.5, -13.4, 4, -1.9, 0.85),
	);
}

function heaps(): Edit {
	const heap = (id: string, s: number, r: number, size: [number, number, number], count: number, step: number) =>
		part(id, `Salt heaps ${id.slice(-1).toUpperCase()}`, "cone", { s, r, y: -0.05 }, size, SALT, {
			repeat: { kind: "row", count, step: [0, step] },
		});
	return add(
		heap("heap-a", 70, -7.4, [6.6, 2.9, 6.2], 9, 9.3),
		heap("heap-b", 78, -16.6, [7.6, 3.3, 7.4], 9, 10.1),
		heap("heap-c", 96, 8.5, [7.4, 3.2, 7.4], 9, 11.7),
		heap("heap-d", 104, -62, [8.4, 3.7, 8], 7, 12.1),
		heap("heap-e", 122, -92, [9.4, 4, 9], 8, 13.5),
	);
}

/** A timber sluice gate across a dyke. */
function sluice(id: string, name: string, s: number, r: number, k: number): Edit {
	const y = -0.1;
	return add(
		part(
			`${id}-post-l`,
			`${name}, left post`,
			"box",
			{ s, r: r - 1.05 * k, y },
			[0.26 * k, 3.05 * k, 0.28 * k],
			TIMBER,
		),
		part(
			`${id}-post-r`,
			`${name}, right post`,
			"box",
			{ s, r: r + 1.05 * k, y },
			[0.26 * k, 3.05 * k, 0.28 * k],
			TIMBER,
		),
		part(`${id}-beam`, `${name}, beam`, "box", { s, r, y: y + 2.62 * k }, [3 * k, 0.3 * k, 0.34 * k], TIMBER),
		part(`${id}-sill`, `${name}, sill`, "box", { s, r, y: y + 1.35 * k }, [2.2 * k, 0.16 * k, 0.2 * k], TIMBER),
		part(`${id}-gate`, `${name}, gate`, "box", { s, r, y: y + 0.25 * k }, [1.82 * k, 1 * k, 0.1 * k], WEATHERED),
		part(`${id}-rod`, `${name}, rod`, "cylinder", { s, r, y: y + 1.2 * k }, [0.09 * k, 2 * k, 0.09 * k], IRON),
		part(
			`${id}-wheel`,
			`${name}, hand wheel`,
			"cylinder",
			{ s, r, y: y + 3.12 * k },
			[0.62 * k, 0.06 * k, 0.62 * k],
			IRON,
		),
	);
}

function shed(): Edit {
	const s = 50;
	const r = -17;
	return add(
		part("shed", "Tool shed", "box", { s, r, y: -0.2 }, [4.6, 2.9, 6.2], WEATHERED),
		part("shed-roof-l", "Tool shed, roof left", "wedge", { s, r: r - 1.3, y: 2.66 }, [6.8, 1.5, 2.62], ROOF, {
			headingDeg: TRACK + 90,
		}),
		part("shed-roof-r", "Tool shed, roof right", "wedge", { s, r: r + 1.3, y: 2.66 }, [6.8, 1.5, 2.62], ROOF, {
			headingDeg: TRACK - 90,
		}),
		part("shed-door", "Tool shed, door", "box", { s: s - 3.1, r: r + 0.6, y: -0.1 }, [1.1, 2, 0.08], TIMBER),
		part("shed-lean", "Lean-to", "box", { s: s + 0.6, r: r - 3.4, y: -0.2 }, [2.4, 1.9, 4], WEATHERED),
		part("shed-pipe", "Stove pipe", "cylinder", { s: s + 1.4, r: r + 1, y: 2.9 }, [0.2, 2, 0.2], IRON),
	);
}

/** Tip carts standing on the track. */
function cart(id: string, name: string, s: number): Edit {
	const y = BANK + 0.17;
	const wheel = (k: string, ds: number, r: number) =>
		part(
			`${id}-wheel-${k}`,
			`${name}, wheel`,
			"cylinder",
			{ s: s + ds, r: r + 0.04, y: y + 0.19 },
			[0.38, 0.08, 0.38],
			IRON,
			{ headingDeg: TRACK + 90, pitchDeg: -90 },
		);
	return add(
		part(`${id}-frame`, `${name}, frame`, "box", { s, r: 0, y: y + 0.26 }, [0.7, 0.12, 1.5], IRON),
		part(`${id}-tub`, `${name}, tub`, "box", { s, r: 0, y: y + 0.52 }, [1.02, 0.58, 1.35], RUST),
		part(`${id}-lip`, `${name}, lip`, "box", { s, r: 0, y: y + 1.06 }, [1.14, 0.07, 1.46], IRON),
		part(`${id}-load`, `${name}, load`, "cone", { s, r: 0, y: y + 1.02 }, [0.98, 0.36, 1.3], SALT),
		wheel("a", -0.45, -0.34),
		wheel("b", 0.45, -0.34),
		wheel("c", -0.45, 0.34),
		wheel("d", 0.45, 0.34),
	);
}

/** A figure 1.72 m tall in a long coat, a rake over the shoulder. */
function windpump(): Edit {
	const s = 150;
	const r = -140;
	const leg = (k: string, ds: number, dr: number, turn: number) =>
		part(`pump-leg-${k}`, "Windpump, leg", "cylinder", { s: s + ds, r: r + dr, y: -0.3 }, [0.22, 13.4, 0.22], IRON, {
			headingDeg: TRACK + turn,
			pitchDeg: -7.6,
		});
	const faces = 96;
	const hub: Place = { s: s - 0.6, r, y: 13.6 };
	const blades = Array.from({ length: 10 }, (_, i) =>
		part(`pump-blade-${i}`, "Windpump, blade", "box", hub, [0.08, 2.5, 0.62], IRON, {
			headingDeg: faces,
			pitchDeg: 180 - 36 * i,
		}),
	);
	return add(
		leg("a", -1.5, -1.5, -45 + 90),
		leg("b", -1.5, 1.5, -45),
		leg("c", 1.5, -1.5, 180 - 45),
		leg("d", 1.5, 1.5, 180 + 45),
		part("pump-brace-1", "Windpump, brace", "box", { s, r, y: 4.2 }, [2.4, 0.16, 2.4], IRON),
		part("pump-brace-2", "Windpump, brace", "box", { s, r, y: 8.4 }, [1.5, 0.16, 1.5], IRON),
		part("pump-head", "Windpump, head", "box", { s, r, y: 12.9 }, [0.5, 1, 0.5], IRON),
		...blades,
		part("pump-tail", "Windpump, tail", "box", { s: s + 2, r: r + 2.2, y: 13.1 }, [0.08, 1.1, 2.4], IRON, {
			headingDeg: TRACK + 40,
		}),
		part("pump-tank", "Windpump, tank", "cylinder", { s: s + 3, r: r + 6, y: -0.2 }, [4.2, 2.6, 4.2], WEATHERED),
	);
}

/** A far line of tamarisks. */
function tamarisks(): Edit {
	const row = (i: number, s: number, r: number, size: [number, number, number], count: number, step: number) =>
		part(`tamarisk-${i}`, `Tamarisks ${i + 1}`, "sphere", { s, r, y: -0.6 - size[1] * 0.12 }, size, TAMARISK, {
			headingDeg: 96,
			repeat: { kind: "row", count, step: [1.2, step] },
		});
	return add(
		row(0, 345, -190, [7.5, 5.2, 6], 9, 9.7),
		row(1, 352, -186, [5.2, 6.6, 5], 7, 13.1),
		row(2, 340, -120, [6, 3.8, 5], 12, 6.3),
		row(3, 361, -95, [8, 5.6, 6], 5, 11.9),
		row(4, 398, 30, [9, 5, 7], 10, 10.9),
		row(5, 404, 36, [6, 6.4, 6], 7, 15.7),
	);
}

function gulls(): Edit {
	const pieces: Piece[] = [];
	const flock: [number, number, number, number, number][] = [
		[24, -9.6, 6.4, 30, 1],
		[27, -7.4, 7.6, 48, 1],
		[31, -11.8, 8.8, 38, 1.05],
		[36, -8.2, 9.4, 60, 1],
		[44, -15.5, 12.4, 35, 1.1],
		[52, -13, 13.2, 55, 1.1],
	];
	flock.forEach(([s, r, y, spread, k], i) => {
		const way = 84 + (i % 3) * 9;
		const wing = (side: 1 | -1) =>
			part(
				`gull-${i}-${side > 0 ? "l" : "r"}`,
				`Gull ${i + 1}, wing`,
				"box",
				{ s, r, y },
				[0.17 * k, 0.66 * k, 0.035],
				FEATHER,
				{
					headingDeg: way,
					pitchDeg: -side * (90 - spread * 0.5),
				},
			);
		pieces.push(
			wing(1),
			wing(-1),
			part(`gull-${i}-body`, `Gull ${i + 1}`, "sphere", { s, r, y: y - 0.06 }, [0.15 * k, 0.14 * k, 0.5 * k], FEATHER, {
				headingDeg: way - 90,
			}),
		);
	});
	return add(...pieces);
}

/** All edits, in working order, on the blank shot. */
export function saltWorksEdits(): Edit[] {
	const blank = blankShot().pieces.map((p) => p.id);
	const flying = gulls();
	return [
		{ name: "shot.setTitle", title: "Salt works, first light" },
		{
			name: "shot.setIdea",
			idea: "First light through haze over drowned salt pans; the track, and the one who still walks it.",
		},
		{ name: "piece.remove", ids: blank },
		{ name: "camera.setFilm", ratio: 1.85 },
		{ name: "camera.place", position: [0, 1.78, 0], headingDeg: 0, pitchDeg: 2.4, rollDeg: 0 },
		{ name: "camera.setLens", focalMm: 30, fStop: 8, focusM: null, ev100: 12.9 },
		{ name: "shot.setCarries", carries: ["the low sun in the haze", "the track", "the one who walks it"] },
		{ name: "shot.setMood", mood: ["still", "salt", "waiting"] },
		{ name: "match.setEyeHeight", eyeHeightM: 1.78 },
		{ name: "camera.setLocked", locked: true },
		{ name: "ground.set", preset: "salt flat", seed: 12, heightM: 420 },
		{ name: "ground.lay", laid: FLAT },
		{ name: "water.set", on: true, levelM: 0, rippleMm: 3, clarityM: 0.6 },
		...track(),
		shore(),
		dykes(),
		punt(),
		heaps(),
		sluice("sluice-a", "Sluice", 17.2, -9.4, 1),
		sluice("sluice-b", "Far sluice", 58.4, -34, 1.05),
		shed(),
		cart("cart-a", "Tip cart", 25),
		cart("cart-b", "Second cart", 27.1),
		figure(),
		stakes(),
		windpump(),
		tamarisks(),
		flying,
		{
			name: "cover.add",
			cover: newCover("glasswort", "tussock", {
				name: "Rushes",
				densityPerM2: 7,
				sizeM: [0.22, 0.62],
				seed: 5,
				colour: [0.15, 0.12, 0.055],
				rules: [
					{ kind: "in view", out: false, marginPercent: 6 },
					{ kind: "near the lens", out: false, distanceM: 70, featherM: 40 },
					{ kind: "away from pieces", out: false, widthM: 0.1, featherM: 0.3 },
					{ kind: "above water", out: false, marginM: -0.035, featherM: 0.03 },
					{ kind: "patches", out: false, sizeM: 11, share: 0.2, featherM: 0.25 },
				],
			}),
		},
		{ name: "air.setSun", headingDeg: 19, elevationDeg: 4.6 },
		{ name: "air.setHaze", haze: 3.2 },
		{ name: "air.setCloud", cover: 0.5, seed: 7 },
		{
			name: "air.setFog",
			on: true,
			visibilityM: 3800,
			belowM: 60,
			forward: 0.72,
			colour: [0.99, 0.97, 0.95],
			skyClear: false,
		},
		{ name: "finish.set", exposureEv: 0, curve: "print", contrast: 1.06, vignette: 0.22 },
		{ name: "print.set", widthPx: 1920, samples: 256, seed: 1 },
		...saltWorksMove(flying.name === "piece.add" ? flying.pieces : [], at(2.8, -ASIDE)),
	];
}

/** The document that the script leads to. */
export function saltWorksDocument(): ShotDocument {
	return saltWorksEdits().reduce((doc, edit) => applyEdit(doc, edit).document, blankShot());
}
