/** Land worn on this machine. */
import { existsSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { landMaker } from "./maker.ts";

/** Beside the bundled programs, or where they are built when sources run by themselves. */
const PLACES = ["./wear.wasm", "../../../build/wear.wasm"].map((place) => new URL(place, import.meta.url));

export const wearModule = async (): Promise<WebAssembly.Module> =>
	WebAssembly.compile(await readFile(PLACES.find((place) => existsSync(place)) ?? PLACES[0]));

export const nodeLand = () => landMaker(wearModule);
