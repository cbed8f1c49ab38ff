/** Colours that several presets share, and their mixing. */
import { mix } from "../../maths/functions.ts";
import type { Rgb } from "../preset.ts";

export const EARTH: Rgb = [0.16, 0.12, 0.08];
export const DRY_GRASS: Rgb = [0.27, 0.22, 0.11];

export const blend = (a: Rgb, b: Rgb, t: number): Rgb => [mix(a[0], b[0], t), mix(a[1], b[1], t), mix(a[2], b[2], t)];
