/** Sky, sun and moon of a scene, and a picture in their place. */
import { cloudTile } from "../air/cloud.ts";
import { type Dome, makeDome, outsideLight, skyFor, skyGrid, skyLuminance, sunDirection } from "../air/dome.ts";
import { readSky, type SkyReading, type SkyTable } from "../air/skyPicture.ts";
import type { SkyPicture } from "../doc/schema.ts";
import { keyOf } from "../maths/hash.ts";
import { CODE, type Making, type Steps, whenMade } from "./making.ts";
import type { ScenePicture, SceneRoot } from "./scene.ts";

export function* compileDome(making: Making): Steps<SceneRoot["dome"]> {
	const { air } = making.doc;
	const { cache } = making;
	const cloud = making.part("table", keyOf("cloud", CODE, air.cloud), () => ({
		data: cloudTile(air.cloud.cover, air.cloud.seed),
	}));
	yield;
	const { sky: source, share } = outsideLight(air);
	const sky = making.part("table", keyOf("sky", CODE, air.haze, source.elevationDeg, share), () => ({
		data: skyFor(cache.atmosphere(air.haze), source.elevationDeg, share),
	}));
	yield;
	const dome = makeDome(air, cache.atmosphere(air.haze), sky.data, cloud.data);
	const hung = air.picture ? yield* compilePicture(air.picture, dome, making) : null;
	const grid =
		hung?.grid ??
		making.part("table", keyOf("grid", sky.key, cloud.key, source), () => ({
			data: skyGrid((d) => skyLuminance(dome, d)),
		})).key;
	yield;
	const { sky: _s, cloud: _c, ...outside } = dome;
	return { ...outside, sky: sky.key, cloud: cloud.key, grid, picture: hung?.picture ?? null };
}

const readings = new WeakMap<SkyTable, SkyReading>();

/** What follows from a table, kept for as long as that is held. */
function readingOf(table: SkyTable): SkyReading {
	const known = readings.get(table) ?? readSky(table);
	readings.set(table, known);
	return known;
}

/** A picture in place of the sky. Its own sun, when it has one, becomes the sun of the dome, unless another shall stand there. */
function* compilePicture(
	picture: SkyPicture,
	dome: Dome,
	making: Making,
): Steps<{ picture: ScenePicture; grid: string }> {
	const table = yield* whenMade(making.makers.sky(picture.file, picture.name));
	const reading = readingOf(table);
	const key = (what: string) => keyOf(`picture ${what}`, CODE, picture.file);
	const part = (what: string, data: Float32Array) => making.part("table", key(what), () => ({ data })).key;
	const gain = reading.level > 0 ? picture.lux / reading.level : 1;
	const sun = picture.sun ? null : reading.sun;
	if (!picture.sun) dome.sunLux = [0, 0, 0];
	if (sun) {
		dome.sunDirection = sunDirection({ headingDeg: sun.headingDeg + picture.turnDeg, elevationDeg: sun.elevationDeg });
		dome.sunLux = [sun.rgb[0] * gain, sun.rgb[1] * gain, sun.rgb[2] * gain];
	}
	return {
		grid: part("sums", reading.sums),
		picture: {
			texels: making.part("texels", key("texels"), () => ({ data: reading.texels })).key,
			nodes: part("nodes", reading.nodes),
			ring: part("ring", reading.ring),
			small: part("small", reading.small),
			width: table.width,
			height: table.height,
			columns: reading.columns,
			rows: reading.rows,
			turn: picture.turnDeg / 360,
			gain,
			saturation: picture.saturation,
			ownSun: sun !== null,
		},
	};
}
