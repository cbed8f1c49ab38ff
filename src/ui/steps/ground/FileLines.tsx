"use client";
/** Pictures that entries of the land's ledger are made from. */
import { useRef } from "react";
import { type LandEntry, LandFile } from "../../../core/doc/schema.ts";
import type { FileField } from "../../../core/ground/ledger/entry.ts";
import { withFile } from "../../../core/ground/ledger/fromFile.ts";
import { entryOf, newEntry } from "../../../core/ground/ledger/ledger.ts";
import { Act } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { keepLandPicture, nameOf } from "../../reference/references.ts";
import { useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import { placeAhead } from "./ahead.ts";

const TAKES = { heights: ".png,.exr", colours: "image/png,image/jpeg,image/webp,image/tiff" };

type Field = FileField<LandEntry>;

/** What had to be set right in a file, as a sentence; nothing where nothing had. */
function setRight(name: string, { mended, halved, channel }: Awaited<ReturnType<typeof keepLandPicture>>): string {
	const told = [
		mended > 0 &&
			`${mended.toLocaleString("en")} of its values were no numbers or infinite, and have been filled from about them`,
		halved > 0 && `it is laid at half of its size${halved > 1 ? `, ${halved} times` : ""}`,
		channel && `of its channels ${channel} is read`,
	].filter(Boolean);
	return told.length ? `${name}: ${told.join("; ")}.` : "";
}

/** Keeps a file, and has `edit` say what comes of it. */
async function lay(
	file: File,
	as: Field["as"],
	edit: (own: LandFile, kept: Awaited<ReturnType<typeof keepLandPicture>>) => void,
) {
	const { say } = useShot.getState();
	useStudio.setState({ laying: file.name });
	try {
		const kept = await keepLandPicture(file, as);
		const { file: blob, widthPx, heightPx, bits } = kept;
		edit(LandFile.parse({ file: blob, name: nameOf(file, "Map"), widthPx, heightPx, bits }), kept);
		const told = setRight(file.name, kept);
		if (told) say(told);
	} catch (error) {
		say(`${file.name}: ${(error as Error).message}`);
	} finally {
		useStudio.setState({ laying: null });
	}
}

/** Begins an entry by a file. */
export async function layAsEntry(kind: LandEntry["kind"], file: File): Promise<void> {
	const [first] = (entryOf({ kind }).files ?? []) as readonly Field[];
	if (!first) return;
	await lay(file, first.as, (own, kept) => {
		const id = newId();
		const entry = withFile(newEntry(kind, id, ...placeAhead()), first.value, own, kept);
		if (useShot.getState().commit({ name: "ground.addEntry", entry })) useStudio.setState({ landEntry: id });
	});
}

function PickFile({
	as,
	word,
	testId,
	onPick,
}: {
	as: Field["as"];
	word: string;
	testId: string;
	onPick: (file: File) => void;
}) {
	const input = useRef<HTMLInputElement>(null);
	const laying = useStudio((s) => s.laying);
	return (
		<>
			<Act onClick={() => input.current?.click()} disabled={laying !== null}>
				{word}
			</Act>
			<input
				ref={input}
				type="file"
				accept={TAKES[as]}
				hidden
				data-testid={testId}
				onChange={(e) => {
					const [picked] = e.target.files ?? [];
					if (picked) onPick(picked);
					e.target.value = "";
				}}
			/>
		</>
	);
}

/** An act that begins an entry by a file that is picked. */
export function LayFile({ kind }: { kind: LandEntry["kind"] }) {
	const laying = useStudio((s) => s.laying);
	const { act, files } = entryOf({ kind });
	return (
		<>
			<PickFile
				as={(files?.[0] as Field | undefined)?.as ?? "heights"}
				word={act}
				testId={`lay-${kind}`}
				onPick={(file) => void layAsEntry(kind, file)}
			/>
			{laying !== null && (
				<span className="text-small" role="status">
					Reading {laying} …
				</span>
			)}
		</>
	);
}

/** The pictures of an entry: which it has, another, none. */
export function EntryFiles({ entry }: { entry: LandEntry }) {
	const { commit } = useShot.getState();
	if (!("files" in entry)) return null;
	const own = entry.files as Record<string, LandFile | null>;
	const [first] = (entryOf(entry).files ?? []) as readonly Field[];
	const put = (value: string, file: LandFile | null, kept: Parameters<typeof withFile>[3]) => {
		// While a file was read, the entry may have been changed.
		const now = useShot.getState().document.ground.ledger?.find((e) => e.id === entry.id);
		if (now) commit({ name: "ground.setEntry", entry: withFile(now, value, file, kept) });
	};
	return (
		<div className="pb-1">
			{((entryOf(entry).files ?? []) as readonly Field[]).map(({ label, value, as }) => {
				const file = own[value];
				return (
					<div key={value} className="flex items-baseline justify-between gap-2 py-0.5">
						<span className="shrink-0 text-second text-small">{label}</span>
						<span className="flex min-w-0 items-baseline gap-2">
							{file && <span className="truncate">{file.name}</span>}
							<PickFile
								as={as}
								word={file ? "Another" : "Pick a file"}
								testId={`land-file-${value}`}
								onPick={(picked) =>
									void lay(picked, as, (laid, kept) => put(value, laid, value === first.value ? kept : null))
								}
							/>
							{file && value !== first.value && <Act onClick={() => put(value, null, null)}>None</Act>}
						</span>
					</div>
				);
			})}
		</div>
	);
}
