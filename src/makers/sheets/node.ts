/** Surfaces baked on this machine. */
import { existsSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { sheetMaker } from "./maker.ts";

/** Beside the bundled programs, or where they are built when sources run by themselves. */
const PLACES = ["./sheets.wasm", "../../../build/sheets.wasm"].map((place) => new URL(place, import.meta.url));

export const sheetModule = async (): Promise<WebAssembly.Module> =>
	WebAssembly.compile(await readFile(PLACES.find((place) => existsSync(place)) ?? PLACES[0]));

export const nodeSheets = () => sheetMaker(sheetModule);
