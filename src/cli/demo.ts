/** Keeps the demo shots in an empty database: their references, their edits one by one, and the stored print. */
import { randomUUID } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import type pg from "pg";
import sharp from "sharp";
import { lanternDocument } from "../../demo/checks.ts";
import { dryDockEdits, gaugeEdits } from "../../demo/dryDock.ts";
import { saltWorksEdits } from "../../demo/saltWorks.ts";
import { slateInclineEdits } from "../../demo/slateIncline.ts";
import { paletteOf, valueSteps } from "../core/brief/palette.ts";
import { blankShot } from "../core/doc/defaults.ts";
import type { Edit } from "../core/doc/edits.ts";
import type { ImageFile, Target } from "../core/doc/schema.ts";
import { parted, unpackSmall } from "../core/study/smallFrame.ts";
import { putBlob } from "../store/blobs.ts";
import { inTransaction } from "../store/database.ts";
import { keepLandPicture } from "../store/landPictures.ts";
import { openPrintBytes, printPng } from "../store/printFiles.ts";
import { commitEdit, createShot, makeCheckpoint } from "../store/shots.ts";
import { keepSmall } from "../store/smallFrames.ts";

const asset = (name: string) => new URL(`../demo/assets/${name}`, import.meta.url);

/** A shot that came about by edits, each of which can be undone. */
async function keepEdits(pool: pg.Pool, id: string, edits: readonly Edit[]): Promise<string> {
	const shot = await createShot(pool, blankShot(), id);
	let { sequence } = shot;
	for (const edit of edits) ({ sequence } = await commitEdit(pool, shot.id, edit, randomUUID(), sequence));
	return shot.id;
}

async function keepSaltWorks(pool: pg.Pool): Promise<string> {
	const edits: Edit[] = saltWorksEdits();
	edits.splice(2, 0, ...(await hungPictures(pool)));
	const id = await keepEdits(pool, "saltworks", edits);
	if (existsSync(asset("print.exr"))) await keepPrint(pool, id);
	if (existsSync(asset("move.frames")))
		for (const packed of parted(readFileSync(asset("move.frames"))))
			await keepSmall(pool, id, unpackSmall(packed), packed);
	return id;
}

/** Pictures that hang on the sheet of the demo shot: all of them our own. */
const HUNG = [
	{
		id: "reference",
		at: "../demo/assets/reference.png",
		name: "Brine ponds, evening",
		purpose: "light",
		caption: "The last light, and how the water carries it",
	},
	{
		id: "pan",
		at: "../docs/pictures/pan.png",
		name: "A mirroring pan",
		purpose: "palette",
		caption: "Gold over slate; nothing is quite white",
	},
	{
		id: "flame",
		at: "../docs/pictures/lantern.png",
		name: "Lantern, four panes",
		purpose: "light",
		caption: "For the lit window, later: warm against cool",
	},
];

/** The edits that hang them, and aim at the colours of the first. */
async function hungPictures(pool: pg.Pool): Promise<Edit[]> {
	const edits: Edit[] = [];
	for (const { at, ...picture } of HUNG) {
		const file = new URL(at, import.meta.url);
		if (!existsSync(file)) continue;
		const data = readFileSync(file);
		const { width, height } = await sharp(data).metadata();
		const blob = await inTransaction(pool, (client) => putBlob(client, data, "image/png"));
		edits.push({ name: "reference.add", reference: { ...picture, blob, widthPx: width, heightPx: height } });
		if (picture.id === "reference") edits.push({ name: "target.set", target: await targetOf(picture.id, data) });
	}
	return edits.length ? [...edits, { name: "reference.show", reference: HUNG[0].id, mode: "off" }] : [];
}

/** The edits that lay the gauge of the dry dock on its wall, from a picture that is cut out by what it lets through. */
async function paintedGauge(pool: pg.Pool): Promise<Edit[]> {
	if (!existsSync(asset("gauge.png"))) return [];
	const data = readFileSync(asset("gauge.png"));
	const kept = async (as: ImageFile["as"]): Promise<ImageFile> => {
		const { file, widthPx, heightPx, bits } = await keepLandPicture(pool, data, as);
		return { file, name: "Gauge", widthPx, heightPx, bits, as };
	};
	return gaugeEdits({ colour: await kept("colours"), cut: await kept("cut") });
}

/** Palette and values of a picture, as a shot aims at them. */
async function targetOf(reference: string, picture: Uint8Array): Promise<Target> {
	const pixels = await sharp(picture).resize({ width: 480 }).ensureAlpha().raw().toBuffer();
	const round = (v: number) => Number(v.toFixed(5));
	return {
		reference,
		colours: paletteOf(pixels).map((c) => ({
			colour: c.colour.map(round) as [number, number, number],
			share: round(c.share),
		})),
		values: valueSteps(pixels, 5).map((v) => ({ lightness: round(v.lightness), share: round(v.share) })),
	};
}

/** Stores the print that ships with the demo, as if it had been traced here. */
async function keepPrint(pool: pg.Pool, shotId: string): Promise<void> {
	const file = readFileSync(asset("print.exr"));
	const print = await openPrintBytes(file);
	const { width, height } = print;
	const shot = (await pool.query("select document, head from shots where id = $1", [shotId])).rows[0];
	const thumbnail = await printPng(print, true, shot.document.camera, shot.document.finish, 960);
	const small = await inTransaction(pool, async (client) => {
		const exr = await putBlob(client, file, "image/x-exr");
		const thumb = await putBlob(client, thumbnail, "image/png");
		await client.query(
			`insert into prints (id, shot_id, revision, document, width, height, samples, seed, state, started_at, finished_at)
			 values ('first', $1, $2, $3, $4, $5, 256, 1, 'done', null, now())`,
			[shotId, shot.head, JSON.stringify(shot.document), width, height],
		);
		await client.query(
			"insert into frames (print_id, frame, turn, state, exr, thumbnail) values ('first', 0, 0, 'done', $1, $2)",
			[exr, thumb],
		);
		return thumb;
	});
	await makeCheckpoint(pool, shotId, "First light", small);
}

/** Does nothing when there is a shot already. */
export async function keepDemo(pool: pg.Pool): Promise<{ shots: string[] }> {
	const any = await pool.query("select 1 from shots limit 1");
	if (any.rowCount) return { shots: [] };
	const saltWorks = await keepSaltWorks(pool);
	const dryDock = await keepEdits(pool, "drydock", [...dryDockEdits(), ...(await paintedGauge(pool))]);
	const slate = await keepEdits(pool, "slate", slateInclineEdits());
	const lantern = await createShot(pool, lanternDocument(), "lantern");
	const blank = await createShot(pool, blankShot("Blank"), "blank");
	return { shots: [saltWorks, slate, dryDock, lantern.id, blank.id] };
}
