import { describe, expect, it } from "vitest";
import { newCover } from "../dress/plant.ts";
import { newLamp } from "../light/lamp.ts";
import { blankShot, newPiece } from "./defaults.ts";
import { usualMove } from "./edits/move.ts";
import { applyEdit, applyPatches, EDITS, type Edit, type EditName, editLabel, parseEdit } from "./edits.ts";
import { plainLook } from "./look.ts";
import { corners, ShotDocument } from "./schema.ts";

const reference = { id: "r", name: "ponds", blob: "0".repeat(64), widthPx: 800, heightPx: 500 };
const skyPicture = {
	file: "1".repeat(64),
	name: "dusk",
	widthPx: 2048,
	heightPx: 1024,
	turnDeg: 0,
	lux: 20_000,
	saturation: 1,
	sun: false,
};
const line = { id: "l", axis: "along" as const, x1: 10, y1: 10, x2: 200, y2: 90 };
const measure = { id: "h", kind: "height" as const, x1: 40, y1: 400, x2: 40, y2: 320, metres: 1.7 };
const circle = { id: "o", x: 100, y: 200, a: 50, b: 30, angleDeg: 10, plane: "ground" as const };
const target = {
	reference: "r",
	colours: [{ colour: [0.1, 0.2, 0.3] as [number, number, number], share: 1 }],
	values: [{ lightness: 40, share: 1 }],
};
const pose = { position: [1, 2, 3] as [number, number, number], headingDeg: 20, pitchDeg: -3, rollDeg: 0.5 };
const clip = { id: "clip", name: "waves", blob: "2".repeat(64), widthPx: 640, heightPx: 360, seconds: 4 };
const { position, headingDeg, pitchDeg, rollDeg } = pose;
const candidate = {
	id: "kept",
	name: "Low",
	thumbnail: null,
	camera: { position, headingDeg, pitchDeg, rollDeg, film: { widthMm: 36, heightMm: 24 }, ratio: 2, focalMm: 28 },
};

const delivery = {
	id: "tall",
	name: "Tall",
	ratio: 0.5625,
	widthPx: 1080,
	share: 1,
	middle: [0.5, 0.5] as [number, number],
};

const stroke = { tool: "raise" as const, points: [[3, -20] as [number, number]], radiusM: 6, byM: 1.5 };
const swell = { kind: "swell" as const, id: "e1", out: false, where: [], seed: 1, sizeM: 40, heightM: 2, rough: 0.4 };
const bench = { kind: "bench" as const, id: "e2", out: false, where: [], seed: 1, everyM: 4, riser: 0.3, wander: 0 };

const maskStroke = {
	points: [[0, 1, 0] as [number, number, number]],
	radiusM: 0.3,
	strength: 0.5,
	soft: 0.5,
	away: false,
};
const stain = {
	id: "soot",
	pieces: ["a", "b"],
	ground: true,
	laid: { of: "sand", seed: 1, turnDeg: 0, acrossM: 2, reliefMm: 10, tint: 0, wet: 0, share: 1, where: [] },
};

const imageSurface = {
	...{ id: "wall", name: "Wall", sideM: 2, depthMm: 20, handed: "up" as const },
	files: {
		colour: { file: "3".repeat(64), name: "wall", widthPx: 512, heightPx: 512, bits: 8, as: "colours" as const },
	},
};

const triangle = corners<[number, number]>([0, 0], [2, 0], [0, 2]);

/** A shot that has one of everything. */
function full(): ShotDocument {
	const doc = blankShot();
	doc.references.push(reference, { ...reference, id: "r2" });
	doc.shown = { reference: "r", mode: "over", opacity: 0.4 };
	doc.match = { ...doc.match, lines: [line], measures: [measure], circles: [circle] };
	doc.candidates = [candidate];
	doc.clips = [clip];
	doc.pieces.push(newPiece("a", "box", { group: "g" }), newPiece("b", "cone"));
	doc.groups = [
		{ id: "g", name: "Gate", group: "g2" },
		{ id: "g2", name: "Yard" },
	];
	doc.sets = [{ id: "s", name: "Both", pieces: ["a", "b"] }];
	doc.ground.ledger = [swell, bench, { kind: "hand", id: "e5", out: false, where: [], strokes: [stroke] }];
	doc.imageSurfaces = [imageSurface];
	doc.stains = [stain];
	doc.masks = [{ id: "worn", on: "a", strokes: [maskStroke] }];
	doc.covers.push(newCover("c", "tussock"));
	doc.lamps.push(newLamp("lamp", "sphere"));
	doc.air.picture = { ...skyPicture };
	doc.deliveries = [delivery];
	doc.move = {
		...usualMove(),
		tracks: [
			{
				value: "piece.place",
				of: "a",
				keys: [
					{ timeS: 0, value: [0, 0, 0], leave: "ease" },
					{ timeS: 2, value: [4, 0, 0], leave: "even" },
				],
			},
		],
	};
	return doc;
}

/** For each edit: one that does something, and one that must be refused, with the word that names why. */
const EXAMPLES: { [K in EditName]: [object, object, RegExp] } = {
	"camera.setExposure": [{ iso: 400, follows: true }, { iso: 0 }, /iso/],
	"piece.setSurfaces": [
		{
			pieces: [
				{ id: "a", surface: { roughness: 0.3 } },
				{ id: "b", surface: { metal: 1 } },
			],
		},
		{ pieces: [{ id: "a", surface: { roughness: 3 } }] },
		/roughness/,
	],
	"piece.setBank": [
		{ ids: ["a", "b"], bank: { riseM: 0.1, widthM: 0.6, blendM: 0.2 } },
		{ ids: ["a"], bank: { riseM: 0.1, widthM: 0, blendM: 0.2 } },
		/widthM/,
	],
	"imageSurface.set": [
		{ surface: { ...imageSurface, id: "new" } },
		{ surface: { ...imageSurface, files: {} } },
		/colour/,
	],
	"imageSurface.remove": [{ id: "wall" }, { id: "roof" }, /no surface of pictures/],
	"stain.set": [{ stain: { ...stain, id: "new" } }, { stain: { ...stain, pieces: ["a b"] } }, /pieces/],
	"stain.remove": [{ id: "soot" }, { id: "dust" }, /no stain/],
	"mask.stroke": [
		{ id: "worn", on: "a", stroke: maskStroke },
		{ id: "worn", on: "b", stroke: maskStroke },
		/something else/,
	],
	"mask.clear": [{ id: "worn" }, { id: "bare" }, /no mask/],
	"ground.lay": [
		{ laid: { of: "sand", seed: 1, turnDeg: 0, acrossM: 2, reliefMm: 10, tint: 0, wet: 0 } },
		{ laid: { of: "sand", seed: 1, turnDeg: 0, acrossM: 0, reliefMm: 10, tint: 0, wet: 0 } },
		/acrossM/,
	],
	"delivery.add": [{ delivery: { ...delivery, id: "new" } }, { delivery }, /"tall" is in this shot already/],
	"delivery.set": [{ id: "tall", change: { share: 0.5 } }, { id: "tall", change: { ratio: 0 } }, /ratio/],
	"delivery.remove": [{ id: "tall" }, { id: "none" }, /no delivery "none"/],
	"move.set": [{ frames: 48, shutter: 0.25 }, { frames: 1 }, /two frames/],
	"move.remove": [{ all: true }, { all: false }, /all/],
	"move.key": [
		{ keys: [{ value: "camera.focal", timeS: 1, is: 50, leave: "ease" }] },
		{ keys: [{ value: "camera.focal", timeS: 1, is: 0 }] },
		/keys.0.is/,
	],
	"move.leave": [{ tracks: null, timeS: 2, leave: "hold" }, { tracks: null, timeS: 1, leave: "hold" }, /no key at 1 s/],
	"move.retime": [{ tracks: null, fromS: 2, toS: 3 }, { tracks: null, fromS: 1, toS: -1 }, /toS/],
	"move.copy": [{ tracks: null, fromS: 0, toS: 3 }, { tracks: null, fromS: 1, toS: 3 }, /no key at 1 s/],
	"move.stretch": [{ frames: 191 }, { frames: 20_001 }, /at most 20,000 frames/],
	"move.unkey": [{ tracks: null, timeS: 0 }, { tracks: null, timeS: 7 }, /no key at 7 s/],
	"move.at": [
		{
			edit: { name: "piece.move", pieces: [{ id: "a", position: [7, 0, 0] }] },
			keys: [{ value: "piece.place", of: "a", timeS: 1, is: [7, 0, 0] }],
		},
		{ edit: { name: "shot.nothing" }, keys: [{ value: "piece.place", of: "a", timeS: 1, is: [7, 0, 0] }] },
		/no edit named "shot.nothing"/,
	],
	"shot.setTitle": [{ title: "Evening" }, { title: "  " }, /title/],
	"shot.setIdea": [{ idea: "Still brine." }, { idea: "x".repeat(401) }, /idea/],
	"reference.add": [{ reference: { ...reference, id: "new" } }, { reference }, /"r" is in this shot already/],
	"reference.remove": [{ id: "r" }, { id: "none" }, /no reference "none"/],
	"shot.setCarries": [{ carries: ["orange dusk", "reeds"] }, { carries: ["a", "b", "c", "d"] }, /carries/],
	"shot.setMood": [{ mood: ["still"] }, { mood: [""] }, /mood/],
	"sheet.setPurposes": [{ purposes: ["light", "wells"] }, { purposes: [" "] }, /purposes/],
	"target.set": [{ target }, { target: { ...target, reference: "none" } }, /no reference "none"/],
	"guides.set": [{ guides: ["thirds"], focalPoint: [0.3, 0.6] }, { focalPoint: [0.3, 1.6] }, /focalPoint/],
	"clip.add": [{ clip: { ...clip, id: "second" } }, { clip }, /"clip" is in this shot already/],
	"clip.remove": [{ id: "clip" }, { id: "none" }, /no clip "none"/],
	"reference.describe": [
		{ id: "r", change: { caption: "the light" } },
		{ id: "none", change: {} },
		/no reference "none"/,
	],
	"reference.hang": [
		{ id: "r2", purpose: "light", before: "r" },
		{ id: "r2", purpose: "light", before: "none" },
		/no reference "none"/,
	],
	"reference.setLook": [
		{ id: "r", look: { ...plainLook(), mirrored: true } },
		{ id: "r", look: { ...plainLook(), turns: 4 } },
		/turns/,
	],
	"reference.show": [{ mode: "beside", opacity: 0.9 }, { reference: "none" }, /no reference "none"/],
	"match.addLine": [{ line: { ...line, id: "m" } }, { line }, /"l" is in this shot already/],
	"match.changeLine": [{ line: { ...line, x2: 300 } }, { line: { ...line, id: "none" } }, /no line "none"/],
	"match.removeLine": [{ id: "l" }, { id: "none" }, /no line "none"/],
	"match.addLines": [{ lines: [{ ...line, id: "m" }] }, { lines: [line] }, /"l" is in this shot already/],
	"match.putMeasure": [{ measure: { ...measure, metres: 2 } }, { measure: { ...measure, metres: 0 } }, /metres/],
	"match.putCircle": [{ circle: { ...circle, id: "another" } }, { circle: { ...circle, plane: "sky" } }, /plane/],
	"match.putCurve": [
		{
			curve: {
				id: "b",
				points: [
					[0, 0],
					[50, 4],
					[100, 0],
				],
			},
		},
		{ curve: { id: "b", points: [[0, 0]] } },
		/points/,
	],
	"match.removeMark": [{ id: "o" }, { id: "none" }, /no mark "none"/],
	"match.setHorizon": [{ horizon: { yLeft: 200, yRight: 210 } }, { horizon: { yLeft: 200 } }, /horizon/],
	"match.set": [{ centre: "solved" }, { centre: "left" }, /centre/],
	"candidate.keep": [{ candidate: { ...candidate, id: "other" } }, { candidate }, /"kept" is in this shot already/],
	"candidate.rename": [{ id: "kept", title: "Lower" }, { id: "none", title: "Lower" }, /no camera "none"/],
	"candidate.remove": [{ id: "kept" }, { id: "none" }, /no camera "none"/],
	"candidate.take": [{ id: "kept" }, { id: "none" }, /no camera "none"/],
	"match.giveFocal": [{ focalMm: 35 }, { focalMm: 2 }, /focalMm/],
	"match.setEyeHeight": [{ eyeHeightM: 2.2 }, { eyeHeightM: 0 }, /eyeHeightM/],
	"camera.take": [{ ...pose, focalMm: 28, ratio: 1.6 }, { ...pose, focalMm: 28 }, /ratio/],
	"camera.place": [{ pitchDeg: 4, shiftMm: [0, 6] }, { pitchDeg: 90 }, /pitchDeg/],
	"camera.setLocked": [{ locked: true }, { locked: "yes" }, /locked/],
	"camera.setLens": [{ focalMm: 50, fStop: 4 }, { fStop: 0.1 }, /fStop/],
	"camera.setFilm": [{ ratio: 2.39 }, { ratio: 9 }, /ratio/],
	"piece.add": [
		{ pieces: [newPiece("n", "wedge")] },
		{ pieces: [newPiece("a", "box")] },
		/"a" is in this shot already/,
	],
	"piece.remove": [{ ids: ["a", "b"] }, { ids: ["a", "none"] }, /no piece "none"/],
	"piece.move": [
		{ pieces: [{ id: "a", position: [4, 0, -9] }] },
		{ pieces: [{ id: "a", position: [4, 0, Number.POSITIVE_INFINITY] }] },
		/pieces\.0\.position\.2/,
	],
	"piece.turn": [
		{ pieces: [{ id: "a", headingDeg: 15, leanDeg: 4 }] },
		{ pieces: [{ id: "none", headingDeg: 15 }] },
		/no piece "none"/,
	],
	"piece.size": [{ pieces: [{ id: "b", size: [1, 5, 1] }] }, { pieces: [{ id: "b", size: [1, 0, 1] }] }, /size\.1/],
	"piece.push": [
		{ pieces: [{ id: "a", position: [4, 0, -9], size: [2, 2, 2], repeat: null }] },
		{ pieces: [{ id: "a", position: [4, 0, -9], size: [2, 0, 2], repeat: null }] },
		/size/,
	],
	"piece.setShape": [{ ids: ["a"], shape: { kind: "cone" } }, { ids: ["a"], shape: { kind: "pyramid" } }, /shape/],
	"piece.stand": [{ ids: ["a"], stands: "level" }, { ids: ["a"], stands: "air" }, /stands/],
	"piece.rename": [{ id: "a", title: "Shed" }, { id: "a", title: "" }, /title/],
	"piece.setSurface": [
		{ ids: ["a"], surface: { roughness: 0.3 } },
		{ ids: ["a"], surface: { roughness: 0 } },
		/roughness/,
	],
	"piece.setHidden": [{ ids: ["a"], hidden: true }, { ids: [], hidden: true }, /ids/],
	"piece.drop": [
		{ pieces: [{ id: "a", stands: { on: "b" }, position: [0, 0, 0] }] },
		{ pieces: [{ id: "a", stands: { on: "a" }, position: [0, 0, 0] }] },
		/cannot stand on itself/,
	],
	"piece.scale": [
		{ pieces: [{ id: "b", position: [2, 0, 0], size: [2, 2, 2], repeat: null }] },
		{ pieces: [{ id: "b", position: [2, 0, 0], size: [0, 2, 2], repeat: null }] },
		/size\.0/,
	],
	"piece.redraw": [
		{ pieces: [{ id: "b", shape: { kind: "raised", points: triangle }, size: [2, 1, 2], by: [1, 0, 0] }] },
		{ pieces: [{ id: "b", shape: { kind: "raised", points: triangle.slice(1) }, size: [2, 1, 2], by: [1, 0, 0] }] },
		/three points/,
	],
	"piece.setAct": [
		{ ids: ["b"], act: { kind: "cut", on: "g" } },
		{ ids: ["b"], act: { kind: "cut", on: "b" } },
		/out of itself/,
	],
	"piece.exchange": [
		{ pieces: [{ id: "b", shape: { kind: "box" }, size: [1, 2, 1], surface: newPiece("", "box").surface }] },
		{ pieces: [{ id: "b", shape: { kind: "box" }, size: [1, 2, 1], surface: {} }] },
		/surface/,
	],
	"piece.setShared": [{ ids: ["b"], of: "a" }, { ids: ["b"], of: "none" }, /no piece "none"/],
	"group.make": [
		{ group: { id: "g3", name: "Both", group: "g2" }, pieces: ["a", "b"], groups: [] },
		{ group: { id: "g", name: "Both" }, pieces: ["b"], groups: [] },
		/group "g" is in this shot already/,
	],
	"group.put": [{ pieces: ["b"], groups: [], into: "g" }, { pieces: [], groups: ["g2"], into: "g" }, /into itself/],
	"set.put": [
		{ set: { id: "new", name: "Posts", pieces: ["a"] } },
		{ set: { id: "new", name: "Posts", pieces: ["none"] } },
		/no piece "none"/,
	],
	"set.remove": [{ id: "s" }, { id: "none" }, /no set "none"/],
	"group.part": [{ id: "g" }, { id: "none" }, /no group "none"/],
	"group.rename": [{ id: "g", title: "Crane" }, { id: "g", title: "" }, /title/],
	"group.setPivot": [{ id: "g", pivot: [1, 0, 2] }, { id: "none", pivot: null }, /no group "none"/],
	"piece.setHeld": [{ ids: ["a"], held: true }, { ids: ["x"], held: true }, /piece/],
	"piece.setMeasures": [
		{ ids: ["a"], measures: { roundM: 0.05 } },
		{ ids: ["a"], measures: { steps: 4 } },
		/is a box, which has no measure "steps"/,
	],
	"piece.setApart": [
		{ id: "a", pieces: [newPiece("a", "box"), newPiece("a2", "box", { position: [2, 0, 0] })] },
		{ id: "a", pieces: [newPiece("a", "box"), newPiece("b", "box")] },
		/is in this shot already/,
	],
	"piece.setRepeat": [
		{ id: "a", repeat: { kind: "row", count: 5, step: [0, 3] } },
		{ id: "a", repeat: { kind: "row", count: 0, step: [0, 3] } },
		/count/,
	],
	"ground.addEntry": [
		{ entry: { ...swell, id: "e3" } },
		{ entry: { ...swell, id: "e1" } },
		/"e1" is in this shot already/,
	],
	"ground.setEntry": [
		{ entry: { ...swell, id: "e1", heightM: 9, out: true } },
		{ entry: { ...swell, id: "e2" } },
		/is a bench, which cannot become a swell/,
	],
	"ground.stroke": [{ id: "e5", stroke }, { id: "e1", stroke }, /is a swell: strokes go to/],
	"ground.moveEntry": [{ id: "e2", to: 0 }, { id: "e1", to: 3 }, /3 entries/],
	"ground.removeEntry": [{ id: "e1" }, { id: "none" }, /no entry "none"/],
	"ground.set": [{ preset: "ridges", heightM: 300 }, { seed: 1.5 }, /seed/],
	"water.set": [{ on: true, rippleMm: 9 }, { clarityM: 0 }, /clarityM/],
	"cover.add": [{ cover: newCover("n", "shrub") }, { cover: newCover("c", "shrub") }, /"c" is in this shot already/],
	"cover.remove": [{ id: "c" }, { id: "none" }, /no cover "none"/],
	"cover.setDensity": [{ id: "c", densityPerM2: 4 }, { id: "c", densityPerM2: 61 }, /densityPerM2/],
	"cover.set": [{ id: "c", change: { seed: 9 } }, { id: "c", change: { sizeM: [0, 1] } }, /sizeM/],
	"cover.setRule": [
		{ id: "c", index: 0, rule: { kind: "in view", out: false, marginPercent: 20 } },
		{ id: "c", index: 11, rule: { kind: "in view", out: false, marginPercent: 20 } },
		/where rule/,
	],
	"cover.removeRule": [{ id: "c", index: 1 }, { id: "c", index: 9 }, /5 where rules/],
	"lamp.add": [
		{ lamps: [newLamp("n", "spot", { carriedBy: "a" })] },
		{ lamps: [newLamp("n", "disc", { carriedBy: "none" })] },
		/no piece "none"/,
	],
	"lamp.remove": [{ id: "lamp" }, { id: "none" }, /no lamp "none"/],
	"lamp.set": [
		{ id: "lamp", change: { kelvin: 1900, muted: true } },
		{ id: "lamp", change: { kelvin: 900 } },
		/kelvin/,
	],
	"air.setSun": [{ elevationDeg: 3 }, { elevationDeg: -40 }, /elevationDeg/],
	"air.hangPicture": [{ picture: null }, { picture: { ...skyPicture, lux: -1 } }, /lux/],
	"air.setPicture": [{ turnDeg: 40, lux: 900 }, { saturation: 3 }, /saturation/],
	"air.setMoon": [{ on: true, lit: 0.5 }, { lit: 0 }, /lit/],
	"air.setHaze": [{ haze: 4 }, { haze: 99 }, /haze/],
	"air.setCloud": [{ cover: 0.9 }, { cover: -1 }, /cover/],
	"air.setFog": [{ on: true, visibilityM: 700 }, { visibilityM: 1 }, /visibilityM/],
	"finish.set": [{ contrast: 1.2 }, { contrast: 3 }, /contrast/],
	"print.set": [{ samples: 64 }, { samples: 65 }, /samples/],
};

describe("every edit", () => {
	it("has its example here", () => {
		expect(Object.keys(EXAMPLES).sort()).toEqual(Object.keys(EDITS).sort());
	});

	for (const name of Object.keys(EDITS) as EditName[]) {
		const [good, bad, why] = EXAMPLES[name];

		it(`${name} changes the shot, keeps it valid, and leads back`, () => {
			const start = full();
			const edit = parseEdit({ name, ...good });
			const { document, forward, inverse } = applyEdit(start, edit);
			expect(document).not.toEqual(start);
			expect(start).toEqual(full());
			expect(ShotDocument.parse(document)).toEqual(document);
			expect(applyPatches(start, forward)).toEqual(document);
			expect(applyPatches(document, inverse)).toEqual(start);
			// As it travels and is stored: JSON keeps every bit of it.
			expect(applyEdit(full(), parseEdit(JSON.parse(JSON.stringify(edit)))).document).toEqual(document);
		});

		it(`${name} is refused in words when it makes no sense, and changes nothing`, () => {
			const start = full();
			expect(() => applyEdit(start, parseEdit({ name, ...bad }) as Edit)).toThrow(why);
			expect(start).toEqual(full());
		});

		it(`${name} has a name for the history and changes no more than it is told`, () => {
			expect(editLabel(name)).toMatch(/^[a-z]/);
			const edit = parseEdit({ name, ...good, stranger: 1 });
			expect(Object.keys(edit).sort()).toEqual(["name", ...Object.keys(good)].sort());
		});
	}
});
