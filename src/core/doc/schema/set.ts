/** Sets: pieces that are selected together by a name; a piece may be in several. */
import { z } from "zod";
import { Id, Name } from "./numbers.ts";

/** Sets of a shot at most. */
export const MOST_SETS = 60;

export const PieceSet = z.object({ id: Id, name: Name, pieces: z.array(Id).max(5000) });
export type PieceSet = z.infer<typeof PieceSet>;
