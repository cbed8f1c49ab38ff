/** Exposure by the three of f-stop, shutter and ISO (ISO 12232; EV is told at ISO 100). */
import { clamp, log, pow } from "../maths/functions.ts";
import type { Camera } from "./schema.ts";

export interface Exposed {
	fStop: number;
	shutterS: number;
	iso: number;
	compensationEv: number;
}

/** Before anything is said of it: 1/125 s at ISO 100, the exposure held as it stands. */
export const usualExposure = (): NonNullable<Camera["exposure"]> => ({
	shutterS: 1 / 125,
	iso: 100,
	compensationEv: 0,
	follows: false,
});

/** EV at ISO 100: log2(N²/t · 100/S), less the compensation; −10 to 22. */
export const evOf = ({ fStop, shutterS, iso, compensationEv }: Exposed): number =>
	clamp(log(((fStop * fStop) / shutterS) * (100 / iso)) / Math.LN2 - compensationEv, -10, 22);

/** ISO at which f-stop and shutter give an EV. */
export const isoFor = (ev100: number, { fStop, shutterS, compensationEv }: Omit<Exposed, "iso">): number =>
	((fStop * fStop) / shutterS) * 100 * pow(2, -(ev100 + compensationEv));

/** The camera with the exposure that follows from its f-stop, shutter and ISO; the same one where it is held. */
export function exposed<C extends Pick<Camera, "fStop" | "ev100" | "exposure">>(camera: C, shutterS?: number): C {
	const { exposure, fStop } = camera;
	if (!exposure?.follows) return camera;
	const ev100 = evOf({ ...exposure, fStop, ...(shutterS && { shutterS }) });
	return ev100 === camera.ev100 ? camera : { ...camera, ev100 };
}

/** A shutter as it is told: "1/125 s", "2 s". */
export const shutterWords = (shutterS: number): string =>
	shutterS >= 0.4 ? `${Number(shutterS.toPrecision(3))} s` : `1/${Math.round(1 / shutterS)} s`;
