/** Documents of earlier days, given what has been added to the schema since. */
import type { ShotDocument } from "./schema.ts";

type Stored = Omit<ShotDocument, "lamps"> & Partial<Pick<ShotDocument, "lamps">>;

/** A stored document as the present schema has it. Nothing that it holds is changed. */
export const upgrade = (stored: Stored): ShotDocument =>
	stored.lamps ? (stored as ShotDocument) : { ...stored, lamps: [] };
