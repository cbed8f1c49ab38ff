/** Names that several slices and the ticket share. */

/** Steps of the ticket in working order, one line each; what they are stands in `ui/steps`. */
export const STEPS = [
	"Brief", //
	"Match",
	"Mass",
	"Ground",
	"Dress",
	"Air",
	"Light",
	"Finish",
	"Print",
] as const;
export type Step = (typeof STEPS)[number];

/** What is set on a spot to check a match by: four banded metres, or a door in a wall across or along the place. */
export type StaffKind = "staff" | "door across" | "door along";
