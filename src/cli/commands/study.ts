import { readFileSync } from "node:fs";
import { z } from "zod";
import { namesOfIds } from "../../core/scene/ids.ts";
import { bulkOf } from "../../core/study/bodies.ts";
import { placesOverFrame, sharesOf } from "../../core/study/shares.ts";
import { documentAt } from "../../core/time/documentAt.ts";
import { Compiler } from "../../store/inputs.ts";
import { findShot } from "../../store/shots.ts";
import { meet } from "../../tracer/meet.ts";
import { makeKernel, TracerMemory } from "../../tracer/memory.ts";
import { SceneStore } from "../../tracer/sceneStore.ts";
import { BUILD, type Command, checked } from "../command.ts";

const Flags = z.object({ time: z.coerce.number().min(0).max(3600).optional() });

/** What the frame of a shot shows. */
export const study: Command = {
	args: ["SHOT"],
	flags: "[--time SECONDS]",
	run: async ({ args: [name], flags, pool }) => {
		const { time } = checked(Flags, flags, "study");
		const { document } = await findShot(pool, name);
		const timeS = time ?? null;
		const scene = await new Compiler(pool).compile(document, { timeS, shutterS: 0 });
		const memory = new TracerMemory();
		const kernel = makeKernel(new WebAssembly.Module(readFileSync(new URL("kernel.wasm", BUILD))), memory.memory);
		const store = new SceneStore(memory, kernel);
		store.load(scene, { width: 64, height: 64, seed: 1 });
		const { ids, distancesM } = meet({ kernel, memory, store }, scene, placesOverFrame(documentAt(document, timeS)));
		const bulk = bulkOf(scene, document.pieces);
		return {
			// The sky has no distance, nor has what is not seen.
			shares: sharesOf(namesOfIds(document), ids, distancesM).map(({ nearM, ...s }) => {
				const { triangles, volumeM3 } = bulk.get(s.number) ?? { triangles: 0, volumeM3: null };
				const distanceM = Number.isFinite(nearM) ? nearM : null;
				return { ...s, distanceM, triangles, volumeM3 };
			}),
		};
	},
};
