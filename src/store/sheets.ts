/** A surface baked by itself. */
import type { SheetWork } from "../core/scene/inputs.ts";
import type { Sheet } from "../core/surface/sheet.ts";
import { nodeSheets } from "../makers/sheets/node.ts";

export const bakedSheet = async (of: SheetWork): Promise<Sheet> => nodeSheets()("", of);
