/** Sun, moon, sky and air. */
import { z } from "zod";
import { usualMoon } from "../defaults.ts";
import { filesOfSky } from "../files.ts";
import * as S from "../schema.ts";
import { define, EditError } from "./define.ts";

export const airEdits = {
	"air.setSun": define("sun", S.Sun.partial(), (d, e) => {
		Object.assign(d.air.sun, e);
	}),
	"air.setMoon": define("moon", S.Moon.partial(), (d, e) => {
		d.air.moon = { ...usualMoon(), ...d.air.moon, ...e };
	}),
	"air.hangPicture": define(
		"sky picture",
		z.object({ picture: S.SkyPicture.nullable() }),
		(d, { picture }) => {
			d.air.picture = picture;
		},
		({ picture }) => filesOfSky(picture),
	),
	"air.setPicture": define(
		"sky picture",
		S.SkyPicture.pick({ turnDeg: true, lux: true, saturation: true, sun: true }).partial(),
		(d, e) => {
			if (!d.air.picture) throw new EditError("no-picture", "No sky picture hangs in this shot.");
			Object.assign(d.air.picture, e);
		},
	),
	"air.setHaze": define("haze", z.object({ haze: S.Air.shape.haze }), (d, e) => {
		d.air.haze = e.haze;
	}),
	"air.setCloud": define("cloud", S.Air.shape.cloud.partial(), (d, e) => {
		Object.assign(d.air.cloud, e);
	}),
	"air.setFog": define("fog", S.Air.shape.fog.partial(), (d, e) => {
		Object.assign(d.air.fog, e);
	}),
};
