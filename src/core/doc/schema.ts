/** The schemas of a shot document, one file a noun. */
export * from "./schema/air.ts";
export * from "./schema/camera.ts";
export * from "./schema/cover.ts";
export * from "./schema/delivery.ts";
export * from "./schema/finish.ts";
export * from "./schema/ground.ts";
export * from "./schema/group.ts";
export * from "./schema/keyed.ts";
export * from "./schema/lamp.ts";
export * from "./schema/match.ts";
export * from "./schema/move.ts";
export { BlobHash, Colour, Id } from "./schema/numbers.ts";
export * from "./schema/piece.ts";
export * from "./schema/print.ts";
export * from "./schema/reference.ts";
export * from "./schema/repeat.ts";
export * from "./schema/shot.ts";
export * from "./schema/surface.ts";
