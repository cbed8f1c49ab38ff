"use client";
/** Land by a rough form: a mesh of a file, or the pieces that are picked; and how far what happened since has moved it. */
import { useMemo, useRef } from "react";
import type { ShotDocument } from "../../../core/doc/schema.ts";
import { writeExr } from "../../../core/formats/exrWrite.ts";
import { greyPng } from "../../../core/formats/greyPng.ts";
import { deviationOf } from "../../../core/ground/deviation.ts";
import { type FormHeights, formFromAbove, overhangWords } from "../../../core/ground/form.ts";
import { groundHeight } from "../../../core/ground/height.ts";
import { withFile } from "../../../core/ground/ledger/fromFile.ts";
import { newEntry } from "../../../core/ground/ledger/ledger.ts";
import { FRAME_PX } from "../../../core/ground/sight.ts";
import { frameOfView } from "../../../core/lens/camera.ts";
import type { MeshPart } from "../../../core/scene/scene.ts";
import { Act } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { trianglesOf } from "../../reference/meshFile.ts";
import { keepLandPicture, nameOf } from "../../reference/references.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";

/** Triangles of pieces as they stand, metres. */
function cornersOfPieces(ids: readonly string[]): Float64Array {
	const { root, parts } = useStudio.getState();
	const corners: number[] = [];
	for (const draw of root?.draws ?? []) {
		if (!root || !ids.includes(root.ids[draw.id]?.id)) continue;
		const { positions, indices } = (parts.get(draw.mesh) as MeshPart).mesh;
		const m = draw.transform;
		for (const i of indices) {
			const [x, y, z] = positions.subarray(3 * i, 3 * i + 3);
			for (const k of [0, 4, 8]) corners.push(m[k] * x + m[k + 1] * y + m[k + 2] * z + m[k + 3]);
		}
	}
	return Float64Array.from(corners);
}

/** Keeps a form as a picture of heights with its mask, and lays it where it stands. */
async function layForm(name: string, form: FormHeights): Promise<void> {
	const { size, metres, x, z } = form;
	const { commit, document } = useShot.getState();
	const levelM = document.ground.levelM ?? 0;
	const exr = writeExr({
		width: size,
		height: size,
		channels: [{ name: "Y", data: form.tops.map((v) => v - levelM) }],
		text: { unit: "metres", metresPerPixel: String(metres / size), x: String(x), z: String(z) },
	});
	const blob = (bytes: Uint8Array) => new Blob([bytes as Uint8Array<ArrayBuffer>]);
	const [heights, mask] = await Promise.all([
		keepLandPicture(blob(exr), "heights"),
		keepLandPicture(blob(greyPng(form.mask, size, size)), "heights"),
	]);
	const fileOf = (kept: typeof heights, word: string) => ({
		file: kept.file,
		name: word.slice(0, 80),
		widthPx: kept.widthPx,
		heightPx: kept.heightPx,
		bits: kept.bits,
	});
	const id = newId();
	const laid = withFile(newEntry("map", id, x, z), "heights", fileOf(heights, name), heights);
	const entry = {
		...withFile(laid, "mask", fileOf(mask, `${name}, where it is`), null),
		featherM: 0,
		how: "instead" as const,
	} as typeof laid;
	if (commit({ name: "ground.addEntry", entry })) useStudio.setState({ landEntry: id });
}

async function laying(name: string, make: () => Promise<void>): Promise<void> {
	useStudio.setState({ laying: name });
	try {
		await make();
	} catch (error) {
		useShot.getState().say(`${name}: ${(error as Error).message}`);
	} finally {
		useStudio.setState({ laying: null });
	}
}

const layFile = (file: File) =>
	laying(file.name, async () => {
		const form = formFromAbove(await trianglesOf(file.name, await file.arrayBuffer()));
		await layForm(nameOf(file, "Form"), form);
		const told = overhangWords(form);
		if (told) useShot.getState().say(`${file.name}: ${told}`);
	});

/** What hangs over stays as the pieces that it is; others are left out, since the land stands in their place. */
function layPieces(doc: ShotDocument, ids: readonly string[]): Promise<void> {
	const own = doc.pieces.filter((p) => ids.includes(p.id));
	const name = own.length === 1 ? own[0].name : `${own.length} pieces`;
	return laying(name, async () => {
		const { ground } = doc;
		const form = formFromAbove(cornersOfPieces(ids), (x, z) => groundHeight(ground, x, z));
		await layForm(name, form);
		const told = overhangWords(form);
		const { commit, say } = useShot.getState();
		if (told) say(`${name}: ${told} The pieces stay.`);
		else commit({ name: "piece.setHidden", ids: own.map((p) => p.id), hidden: true });
	});
}

/** Acts that begin an entry by a form. */
export function LayForm() {
	const doc = useShown();
	const input = useRef<HTMLInputElement>(null);
	const { laying: busy, selected } = useStudioOf("laying", "selected");
	const picked = doc.pieces.filter((p) => selected.includes(p.id) && !p.hidden);
	return (
		<>
			<Act onClick={() => input.current?.click()} disabled={busy !== null}>
				Lay a form
			</Act>
			<input
				ref={input}
				type="file"
				accept=".obj,.glb"
				hidden
				data-testid="lay-form"
				onChange={(e) => {
					const [file] = e.target.files ?? [];
					if (file) void layFile(file);
					e.target.value = "";
				}}
			/>
			<Act
				onClick={() =>
					void layPieces(
						doc,
						picked.map((p) => p.id),
					)
				}
				disabled={busy !== null || picked.length === 0}
			>
				{picked.length === 0
					? "Form of pieces that are picked"
					: `Form of ${picked.length === 1 ? picked[0].name : `${picked.length} pieces`}`}
			</Act>
		</>
	);
}

/** How far the land has come from the form that it was laid by. */
export function FormTold({ id }: { id: string }) {
	// Told of the land as it stands: it takes thousands of heights, which no drag waits for.
	const { ground, camera } = useShot((s) => s.document);
	const { position } = camera;
	const { tanX } = frameOfView(camera);
	const told = useMemo(() => deviationOf(ground, id, position, (2 * tanX) / FRAME_PX), [ground, id, position, tanX]);
	if (!told || told.mostM < 0.005) return null;
	return (
		<p className="pb-1 text-second text-small">
			{`What happened since moved it by ${told.meanM.toFixed(2)} m in the mean square, ${told.mostM.toFixed(2)} m at most (${told.mostPx.toFixed(0)} px of the frame).`}
		</p>
	);
}
