/** Looks of the working view. */

/** How surfaces are shown, by the numbers that the shaders have for it. Tones in steps are the whole picture's, and its own light. */
export const LOOKS = { surfaces: 0, clay: 1, white: 3, tones: 0, silhouette: 2, raking: 4, colours: 5 } as const;
export type Look = keyof typeof LOOKS;

/** Whether a proof or a print is the same picture, better. */
export const isLit = (look: Look): boolean => LOOKS[look] === LOOKS.surfaces;
