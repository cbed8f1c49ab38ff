/** Land worn in the page. */
import { landMaker } from "./maker.ts";
import type { Along } from "./wear.ts";

export const pageLand = (along: Along) => landMaker(() => WebAssembly.compileStreaming(fetch("/wear.wasm")), along);
