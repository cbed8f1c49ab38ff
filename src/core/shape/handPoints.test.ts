import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { applyEdit } from "../doc/edits.ts";
import { corners, type Piece, SHAPE_KINDS, Shape, type ShapeKind, type ShotDocument } from "../doc/schema.ts";
import { meshVolume } from "../maths/mesh.ts";
import { invert, length, sub, transformPoint, type Vec3 } from "../maths/vec.ts";
import {
	drawnLinePiece,
	dropPoint,
	insertPoint,
	isLine,
	LineError,
	type LinePiece,
	linePlaces,
	movePoint,
	type NewLine,
	pointPlaces,
	setSoft,
} from "./handPoints.ts";
import {
	addOpening,
	dropOpening,
	isWall,
	type OPENINGS,
	openingPlaces,
	setOpening,
	slideOpening,
	type WallPiece,
	wallLength,
} from "./openings.ts";
import { pieceTransforms } from "./place.ts";
import { drawnOf, geometryOf, scaledShape } from "./shapes.ts";

const LINES = SHAPE_KINDS.filter((kind) => drawnOf({ kind }));

const shot = (...pieces: Piece[]): ShotDocument => ({ ...blankShot(), pieces });
const line = (kind: ShapeKind, over: Partial<Piece> = {}): LinePiece => {
	const piece = newPiece("p", kind, { position: [3, 0.5, -12], headingDeg: 35, ...over });
	if (!isLine(piece)) throw new Error(`${kind} has no line.`);
	return piece;
};
const first = (doc: ShotDocument): LinePiece => doc.pieces[0] as LinePiece;
const far = (a: Vec3, b: Vec3) => length(sub(a, b));

/** Volume of a piece in cubic metres. */
const volume = (piece: Piece): number =>
	meshVolume(geometryOf(piece).mesh) * piece.size[0] * piece.size[1] * piece.size[2];

describe.each(LINES)("the line of a %s", (kind) => {
	it("has its points in the world where the body is", () => {
		const piece = line(kind, { size: [3, 2, 4], pitchDeg: 10, rollDeg: -5 });
		const doc = shot(piece);
		const back = invert(pieceTransforms(piece, doc)[0]);
		const places = [...pointPlaces(piece, doc), ...linePlaces(piece, doc).flat()].map((p) => transformPoint(back, p));
		// The plan of a town lies about its houses.
		const most = kind === "town" ? 0.7 : 0.5 + 1e-6;
		for (const [x, y, z] of places) {
			expect(Math.max(Math.abs(x), Math.abs(z))).toBeLessThan(most);
			expect(Math.abs(y - 0.5)).toBeLessThan(0.5 + 1e-6);
		}
		// Nor do they lie in a corner of it: they reach across.
		const wide = (c: 0 | 1 | 2) => Math.max(...places.map((p) => p[c])) - Math.min(...places.map((p) => p[c]));
		expect(Math.max(wide(0), wide(1), wide(2))).toBeGreaterThan(0.4);
		expect(linePlaces(piece, doc).length).toBeGreaterThanOrEqual(piece.shape.points.length - 1);
	});
	it("keeps all other points where they are when one is moved, however it is turned, stretched or mirrored", () => {
		fc.assert(
			fc.property(
				fc.integer({ min: -180, max: 180 }),
				fc.integer({ min: -40, max: 40 }),
				fc.tuple(
					...([0, 1, 2].map(() => fc.integer({ min: 12, max: 60 })) as [
						fc.Arbitrary<number>,
						fc.Arbitrary<number>,
						fc.Arbitrary<number>,
					]),
				),
				fc.boolean(),
				(headingDeg, pitchDeg, size, mirror) => {
					const piece = line(kind, {
						headingDeg,
						pitchDeg,
						size: size.map((v) => v / 10) as Piece["size"],
						...(mirror && { mirrored: [true, false, false] }),
					});
					const doc = { ...shot(piece), ground: { preset: "plain" as const, seed: 1, heightM: 0 } };
					const before = pointPlaces(piece, doc);
					// A little on from where it is, in the plane of the line, so that it stays one.
					const other = before[0];
					const to = before[1].map((v, c) => v + (v - other[c]) * 0.04) as unknown as Vec3;
					const n = piece.shape.points[1].n;
					const moved = first(applyEdit(doc, movePoint(piece, n, to, doc)).document);
					const after = pointPlaces(moved, doc);
					for (const [i, p] of after.entries()) expect(far(p, i === 1 ? to : before[i])).toBeLessThan(0.004);
				},
			),
			{ numRuns: 25, seed: 3 },
		);
	});
	it("takes points, soft and hard, and gives them up again", () => {
		const piece = line(kind);
		const doc = shot(piece);
		const [a, b] = pointPlaces(piece, doc);
		const between = a.map((v, c) => (v + b[c]) / 2 + (b[c] - a[c]) * 0.01) as unknown as Vec3;
		const one = first(applyEdit(doc, insertPoint(piece, piece.shape.points[0].n, between, doc)).document);
		expect(one.shape.points.length).toBe(piece.shape.points.length + 1);
		expect(one.shape.points[1].n).toBe(Math.max(...piece.shape.points.map((p) => p.n)) + 1);
		expect(far(pointPlaces(one, doc)[1], between)).toBeLessThan(0.002);
		const soft = first(applyEdit(shot(one), setSoft(one, one.shape.points[1].n, true)).document);
		expect(soft.shape.points[1].soft).toBe(true);
		const back = first(applyEdit(shot(soft), dropPoint(soft, one.shape.points[1].n)).document);
		expect(back.shape.points.map((p) => p.n)).toEqual(piece.shape.points.map((p) => p.n));
		for (const [i, p] of pointPlaces(back, doc).entries())
			expect(far(p, pointPlaces(piece, doc)[i])).toBeLessThan(0.002);
	});
	it("is refused in a sentence when too few points are left", () => {
		const piece = line(kind);
		const few = {
			...piece,
			shape: { ...piece.shape, points: piece.shape.points.slice(0, kind === "raised" ? 3 : 2) },
		} as LinePiece;
		expect(() => dropPoint(few, few.shape.points[0].n)).toThrow(LineError);
	});
});

const drawn = (kind: ShapeKind, over: Partial<NewLine>, ...places: Vec3[]): Piece =>
	drawnLinePiece(
		"new",
		kind,
		{
			points: places.map((world) => ({ world, soft: false })),
			stands: "ground",
			headingDeg: 0,
			upright: false,
			heightM: 2,
			closed: false,
			footing: () => 0,
			...over,
		},
		[],
	).pieces[0];

describe("a line drawn in the world", () => {
	it("is raised to the volume of its outline times its height, and stands where it was drawn", () => {
		const places: Vec3[] = [
			[1, 0, -5],
			[4, 0, -5],
			[4, 0, -9],
			[1, 0, -9],
		];
		for (const headingDeg of [0, 30, 200]) {
			const piece = drawn("raised", { headingDeg }, ...places) as LinePiece;
			expect(volume(piece)).toBeCloseTo(3 * 4 * 2, 2);
			const doc = shot(piece);
			for (const [i, p] of pointPlaces(piece, doc).entries()) expect(far(p, places[i])).toBeLessThan(0.001);
		}
	});
	it("stands upright when it was drawn so, raised towards who looks", () => {
		const places: Vec3[] = [
			[1, 0, -5],
			[4, 0, -5],
			[2.5, 3, -5],
		];
		const piece = drawn("raised", { upright: true, heightM: 0.2 }, ...places) as LinePiece;
		const doc = { ...shot(piece), ground: { preset: "plain" as const, seed: 1, heightM: 0 } };
		for (const [i, p] of pointPlaces(piece, doc).entries()) expect(far(p, places[i])).toBeLessThan(0.01);
		expect(volume(piece)).toBeCloseTo((3 * 3) / 2 / 5, 3);
		const { mesh } = geometryOf(piece);
		const [m] = pieceTransforms(piece, doc);
		const depths = Array.from(
			{ length: mesh.positions.length / 3 },
			(_, i) =>
				m[8] * mesh.positions[3 * i] + m[9] * mesh.positions[3 * i + 1] + m[10] * mesh.positions[3 * i + 2] + m[11],
		);
		expect(Math.max(...depths)).toBeCloseTo(-4.8, 2);
		expect(Math.min(...depths)).toBeCloseTo(-5, 2);
	});
	it("is turned to a cone and a drum by the volumes that geometry tells", () => {
		const drum = drawn("turned", {}, [0, 0, -5], [1, 0, -5], [1, 2, -5], [0, 2, -5]);
		// 48 sides enclose a little less than a round.
		const round = (48 / 2) * Math.sin((2 * Math.PI) / 48);
		expect(volume(drum)).toBeCloseTo(round * 2, 3);
		const cone = drawn("turned", {}, [0, 0, -5], [1, 0, -5], [0, 3, -5]);
		expect(volume(cone)).toBeCloseTo(round, 3);
	});
	it("is led along a straight line to section times length, around a square to its mean length", () => {
		const square = (piece: Piece): Piece => ({ ...piece, shape: { ...piece.shape, section: "square" } as Shape });
		const bar = square(drawn("rail", {}, [0, 0, -5], [4, 0, -5]));
		expect(volume({ ...bar, size: [4, 0.1, 0.1] })).toBeCloseTo(0.1 * 0.1 * 4, 5);
		const frame = square(drawn("rail", { closed: true }, [0, 0, -5], [4, 0, -5], [4, 0, -9], [0, 0, -9]));
		expect(volume(frame)).toBeCloseTo(0.1 * 0.1 * 16, 5);
		// Up, across and down: mitred corners keep the mean length too.
		const gate = square(drawn("rail", {}, [0, 0, -5], [0.5, 3, -5], [3, 3, -5], [3.5, 0, -5]));
		expect(volume(gate)).toBeCloseTo(0.1 * 0.1 * (2 * Math.hypot(0.5, 3) + 2.5), 2);
	});
	it("keeps its section where it leans back over the upright, as it does where it lies", () => {
		const arc = (place: (a: number, b: number) => Vec3) => {
			const points = [-60, -30, 0, 30, 60].map((deg) => ({
				world: place(4 * Math.cos((deg * Math.PI) / 180), 4 * Math.sin((deg * Math.PI) / 180)),
				soft: Math.abs(deg) < 60,
			}));
			const like = newPiece("", "rail", {
				shape: Shape.parse({ kind: "rail", section: "square", acrossM: 0.6, tallM: 0.2 }),
			});
			const way = {
				stands: "level" as const,
				headingDeg: 0,
				upright: false,
				heightM: 1,
				closed: false,
				footing: () => 0,
			};
			return drawnLinePiece("p", "rail", { points, ...way }, [like]).pieces[0];
		};
		const lies = arc((a, b) => [a, 1, b - 9]);
		const leans = arc((a, b) => [a, 5 + b, -9]);
		expect(volume(leans)).toBeGreaterThan(0.985 * 0.12 * 4 * ((2 * Math.PI) / 3));
		expect(volume(leans) / volume(lies)).toBeCloseTo(1, 2);
	});
	it("is a wall of length times thickness times height, less its openings", () => {
		const straight = drawn("wall", { heightM: 3 }, [0, 0, -5], [10, 0, -5]);
		expect(volume(straight)).toBeCloseTo(10 * 0.3 * 3, 3);
		const opening = { n: 0, alongM: 3, widthM: 1, sillM: 0.8, tallM: 1.2, head: "straight" as const };
		const openings = [
			opening,
			{ ...opening, n: 1, alongM: 6, sillM: 0, tallM: 2 },
			{ ...opening, n: 2, alongM: 8, widthM: 2, sillM: 0, tallM: 2, head: "round" as const },
		];
		const cut = { ...straight, shape: { ...straight.shape, openings } as Shape };
		// The round head in sixteen columns: a little less than half a round.
		const bow = Array.from({ length: 16 }, (_, i) => [i, i + 1].map((k) => Math.sqrt(1 - ((k - 8) / 8) ** 2))).reduce(
			(s, [a, b]) => s + ((a + b) / 2) * (2 / 16),
			0,
		);
		expect(volume(cut)).toBeCloseTo((30 - 1.2 - 2 - (2 * 1 + bow)) * 0.3, 2);
		const around = drawn("wall", { heightM: 3, closed: true }, [0, 0, -5], [10, 0, -5], [10, 0, -9], [0, 0, -9]);
		expect(volume(around)).toBeCloseTo(28 * 0.3 * 3, 2);
		expect(scaledShape(cut.shape, 2)).toMatchObject({ thickM: 0.6, openings: [{ alongM: 6, widthM: 2 }, {}, {}] });
	});
	it("that crosses itself, runs over its axis or has one point is refused in a sentence", () => {
		const bow: Vec3[] = [
			[0, 0, -5],
			[4, 0, -9],
			[4, 0, -5],
			[0, 0, -9],
		];
		expect(() => drawn("raised", {}, ...bow)).toThrow(/crosses itself/);
		expect(() => drawn("wall", {}, [0, 0, -5])).toThrow(/two points/);
		expect(() => drawn("turned", {}, [0, 0, -5], [1, 0, -5])).toThrow(/go up/);
	});
});

describe("openings", () => {
	const wall = (over: Partial<Piece> = {}): WallPiece => {
		const points = corners<[number, number]>([0, 0], [8, 0], [8, 4]);
		const piece = drawn("wall", { heightM: 3 }, [0, 0, -5], [8, 0, -5], [8, 0, -9]);
		const own = { ...piece, ...over } as Piece;
		expect(isWall(own) && own.shape.points.length).toBe(points.length);
		return own as WallPiece;
	};
	const shapeOf = (edit: { shape: Shape }) => edit.shape as WallPiece["shape"];
	const withThem = (piece: WallPiece, ...kinds: (keyof typeof OPENINGS)[]): WallPiece => {
		let own = piece;
		for (const kind of kinds) own = { ...own, shape: shapeOf(addOpening(own, kind)) };
		return own;
	};

	it("are put into the longest stretch that is free, each with a number of its own", () => {
		const piece = withThem(wall(), "door", "window", "arch");
		expect(piece.shape.openings.map((o) => o.n)).toEqual([0, 1, 2]);
		expect(wallLength(piece)).toBeCloseTo(12, 2);
		expect(piece.shape.openings[0].alongM).toBeCloseTo(6, 2);
		expect(Math.abs(piece.shape.openings[1].alongM - 6)).toBeGreaterThan(2);
		expect(shapeOf(dropOpening(piece, 1)).openings.map((o) => o.n)).toEqual([0, 2]);
		const full = {
			...piece,
			shape: { ...piece.shape, openings: [{ ...piece.shape.openings[0], alongM: 6, widthM: 12 }] },
		};
		expect(() => addOpening(full as WallPiece, "door")).toThrow(/no room/);
	});
	it("are where they are in the world, and slide along the wall, round its corner, until a neighbour stops them", () => {
		for (const over of [{}, { headingDeg: 70 }, { mirrored: [true, false, false] as [boolean, boolean, boolean] }]) {
			const piece = withThem(wall(over), "door", "window");
			const doc = shot(piece);
			const [door] = openingPlaces(piece, doc);
			expect(far(door.from, door.to)).toBeCloseTo(1, 3);
			// To the end of the wall, which is round its corner.
			const [, , end] = pointPlaces(piece, doc);
			const window = piece.shape.openings[1].alongM;
			const slid = shapeOf(slideOpening(piece, 1, end, doc)).openings[1];
			expect(slid.alongM).toBeCloseTo(window > 6 ? 12 - 0.6 : 6 - 0.5 - 0.6, 2);
			const back = shapeOf(slideOpening(piece, 0, pointPlaces(piece, doc)[0], doc)).openings[0];
			expect(back.alongM).toBeCloseTo(window < 6 ? window + 0.6 + 0.5 : 0.5, 2);
		}
	});
	it("stay within their wall, and are refused in a sentence where they would lie over each other", () => {
		const piece = withThem(wall(), "door", "window");
		expect(shapeOf(setOpening(piece, 0, { alongM: 900 })).openings[0].alongM).toBeCloseTo(11.5, 2);
		const [door, window] = piece.shape.openings;
		expect(() => setOpening(piece, 0, { alongM: window.alongM })).toThrow(/lie over each other/);
		const twice = Shape.safeParse({ ...piece.shape, openings: [door, { ...window, n: door.n }] });
		expect(twice.error?.issues[0].message).toMatch(/same number/);
	});
	it("name their faces by their numbers, wherever they are moved", () => {
		const names = (piece: WallPiece) =>
			geometryOf(piece)
				.faces.map((f) => f.name)
				.filter((n) => !/^(left|right) /.test(n))
				.sort();
		const piece = withThem(wall(), "door", "window");
		const doc = shot(piece);
		const moved = { ...piece, shape: shapeOf(slideOpening(piece, 0, pointPlaces(piece, doc)[0], doc)) };
		expect(names(moved)).toEqual(names(piece));
		expect(names(piece)).toEqual(expect.arrayContaining(["jamb before 0", "jamb after 0", "sill 1", "head 1"]));
	});
	it("leave a wall that is closed, whatever they are", () => {
		fc.assert(
			fc.property(
				fc.array(
					fc.record({
						widthM: fc.double({ min: 0.05, max: 1.5, noNaN: true }),
						gapM: fc.double({ min: 0, max: 1, noNaN: true }),
						sillM: fc.double({ min: 0, max: 3, noNaN: true }),
						tallM: fc.double({ min: 0.05, max: 4, noNaN: true }),
						head: fc.constantFrom("straight", "round", "low", "pointed"),
					}),
					{ maxLength: 6 },
				),
				fc.boolean(),
				fc.boolean(),
				(list, closed, soft) => {
					let at = 0;
					const openings = list.map(({ gapM, ...o }, n) => {
						at += gapM + o.widthM / 2 + 0.001;
						const own = { ...o, n, alongM: at };
						at += o.widthM / 2;
						return own;
					});
					const points = corners<[number, number]>([0, 0], [3, 0], [4, 2], [1, 3]).map((p) => ({ ...p, soft }));
					const piece = newPiece("w", "wall", {
						size: [5, 3, 4],
						shape: { kind: "wall", points, closed, thickM: 0.25, openings } as Shape,
					});
					const { mesh } = geometryOf(piece);
					const edges = new Map<string, number>();
					const key = (i: number) => [0, 1, 2].map((c) => Math.round(mesh.positions[3 * i + c] * 2e4)).join();
					for (let t = 0; t < mesh.indices.length; t += 3)
						for (let k = 0; k < 3; k++) {
							const [a, b] = [key(mesh.indices[t + k]), key(mesh.indices[t + ((k + 1) % 3)])];
							if (a === b) continue;
							edges.set(`${a} ${b}`, (edges.get(`${a} ${b}`) ?? 0) + 1);
							edges.set(`${b} ${a}`, (edges.get(`${b} ${a}`) ?? 0) - 1);
						}
					expect([...edges.values()].every((v) => v === 0)).toBe(true);
					expect(meshVolume(mesh)).toBeGreaterThan(0);
				},
			),
			{ numRuns: 60, seed: 4 },
		);
	});
});
