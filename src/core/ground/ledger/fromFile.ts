/** What a picture of land tells of where it lies, taken over by the entry that it is laid by. */
import type { LandEntry, LandFile } from "../../doc/schema.ts";
import type { LandPictureFacts } from "../../formats/landPicture.ts";

type Kept = Pick<LandPictureFacts, "leastM" | "mostM" | "acrossM" | "at">;

/** An entry with another picture; what the first of its pictures says of its size, heights and place counts. */
export function withFile(entry: LandEntry, value: string, file: LandFile | null, kept: Kept | null): LandEntry {
	if (!("files" in entry)) return entry;
	const files = { ...entry.files, [value]: file };
	if (value !== "heights" || !kept) return { ...entry, files };
	const { leastM, mostM, acrossM, at } = kept;
	// What has been cut out of land that goes on is met by that without a seam.
	const known = leastM !== null && mostM !== null && acrossM !== null && at !== null;
	return {
		...entry,
		files,
		...(leastM !== null && mostM !== null ? { leastM, mostM } : {}),
		...(acrossM !== null ? { acrossM, featherM: acrossM / 10 } : {}),
		...(at ?? {}),
		...(known ? { how: "instead" as const, headingDeg: 0 } : {}),
	};
}
