/** Surfaces baked in the page. */
import { type Along, sheetMaker } from "./maker.ts";

export const pageSheets = (along: Along) =>
	sheetMaker(() => WebAssembly.compileStreaming(fetch("/sheets.wasm")), along);
