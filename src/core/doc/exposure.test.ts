import { describe, expect, it } from "vitest";
import { blankShot } from "./defaults.ts";
import { applyEdit, type Edit } from "./edits.ts";
import { evOf, exposed, isoFor, shutterWords, usualExposure } from "./exposure.ts";

describe("exposure by f-stop, shutter and ISO", () => {
	it("is that of the standard: f/16, 1/100 s, ISO 100 is EV 14.6; a stop of each is one EV", () => {
		const sunny = { fStop: 16, shutterS: 1 / 100, iso: 100, compensationEv: 0 };
		expect(evOf(sunny)).toBeCloseTo(Math.log2(25_600), 12);
		expect(evOf({ ...sunny, iso: 200 })).toBeCloseTo(evOf(sunny) - 1, 12);
		expect(evOf({ ...sunny, shutterS: 1 / 200 })).toBeCloseTo(evOf(sunny) + 1, 12);
		expect(evOf({ ...sunny, compensationEv: 1.5 })).toBeCloseTo(evOf(sunny) - 1.5, 12);
		expect(isoFor(evOf(sunny), sunny)).toBeCloseTo(100, 9);
	});
	it("follows while it is to, and is held else", () => {
		const edits: Edit[] = [
			{ name: "camera.setExposure", shutterS: 1 / 50, iso: 400, follows: true },
			{ name: "camera.setLens", fStop: 4 },
		];
		const doc = edits.reduce((d, e) => applyEdit(d, e).document, blankShot());
		expect(doc.camera.ev100).toBeCloseTo(Math.log2(16 * 50 * 0.25), 9);
		const held = applyEdit(doc, { name: "camera.setLens", ev100: 12 }).document;
		expect(held.camera.exposure?.follows).toBe(false);
		expect(applyEdit(held, { name: "camera.setLens", fStop: 2 }).document.camera.ev100).toBe(12);
		expect(exposed(held.camera)).toBe(held.camera);
		expect(exposed({ ...blankShot().camera, exposure: usualExposure() }).ev100).toBe(14);
	});
	it("is told as the trade does", () => {
		expect([1 / 125, 1 / 48, 2, 0.5].map(shutterWords)).toEqual(["1/125 s", "1/48 s", "2 s", "0.5 s"]);
	});
});
