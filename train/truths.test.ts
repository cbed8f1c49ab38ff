import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, it } from "vitest";
import type { Planes } from "../src/tracer/denoise.ts";
import { partOf, truthOf } from "./truths.ts";

const folder = mkdtempSync(join(tmpdir(), "inquadra-truths-"));
afterAll(() => rmSync(folder, { recursive: true }));

const planes = (): Planes => [0, 1, 2].map((c) => Float32Array.of(c + 0.1, c + 1e6, c / 3)) as Planes;

describe("a part of a truth", () => {
	it("is made once, and is to the bit what was made", async () => {
		const file = join(folder, "pan.1.0.part");
		let made = 0;
		const make = async () => {
			made++;
			return planes();
		};
		expect(await partOf(file, make)).toEqual(planes());
		expect(await partOf(file, make)).toEqual(planes());
		expect(made).toBe(1);
		expect(readdirSync(folder)).toEqual(["pan.1.0.part"]);
	});

	it("is made again where making or writing it was stopped", async () => {
		const file = join(folder, "pan.1.1.part");
		await expect(partOf(file, () => Promise.reject(new Error("stopped")))).rejects.toThrow("stopped");
		expect(existsSync(file)).toBe(false);
		writeFileSync(`${file}.new`, "half of it");
		expect(await partOf(file, async () => planes())).toEqual(planes());
	});
});

describe("a truth", () => {
	it("is none where it has not been made, and those that have been know how noisy they are themselves", () => {
		expect(truthOf(folder, "pan")).toBeNull();
		const truth = truthOf("train/truths", "chart");
		expect(truth?.rgb.every((plane) => plane.length === truth.width * truth.height)).toBe(true);
		expect(truth?.error).toBeGreaterThan(0);
		expect(truth?.error).toBeLessThan(0.01);
	});
});
