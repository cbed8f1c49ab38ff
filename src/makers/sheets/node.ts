/** Surfaces baked on this machine. */
import { existsSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { type Along, sheetMaker } from "./maker.ts";

/** Beside the bundled programs, where they are built when sources run by themselves, or under the folder that the server runs in. */
const PLACES = [
	...["./sheets.wasm", "../../../build/sheets.wasm"].map((place) => new URL(place, import.meta.url)),
	join(process.cwd(), "build/sheets.wasm"),
];

export const sheetModule = async (): Promise<WebAssembly.Module> =>
	WebAssembly.compile(await readFile(PLACES.find((place) => existsSync(place)) ?? PLACES[0]));

export const nodeSheets = (along: Along = {}) => sheetMaker(sheetModule, along);
