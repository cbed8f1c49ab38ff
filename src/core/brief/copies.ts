/** Sizes of pictures that are brought in, and of their scaled copies. */

/** Largest picture that may be brought in, pixels. */
export const MOST_PIXELS = 100_000_000;

/** Widths in pixels of the scaled copies of a picture. */
export const COPY_WIDTHS = [512, 2048, 8192] as const;
export type CopyWidth = (typeof COPY_WIDTHS)[number];

/** A bend in ten-thousandths, as copies are kept by. */
export const bendSteps = (k: number): number => Math.round(k * 1e4);
export const BEND_LIMITS = { low: -8000, high: 4500 };
