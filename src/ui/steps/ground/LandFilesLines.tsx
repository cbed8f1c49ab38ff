"use client";
/** A square of the land as files for other programs. */
import clsx from "clsx";
import { useState } from "react";
import { LAND_WORDS } from "../../../core/ground/landSquare.ts";
import { Act, NumberLine } from "../../parts/controls.tsx";
import { fileName, saveFile } from "../../parts/saveFile.ts";
import { type Saving, saveLand } from "../../stage/landSaver.ts";
import { useShot } from "../../store/shotStore.ts";

const MOST_SIDE = 8192;

/** Remembered while the room is open. */
const asked = { size: 1024, metres: 1000, words: ["heights", "slope", "flow"] };

export function LandFilesLines() {
	const [{ size, metres, words }, setAsked] = useState(asked);
	const [under, setUnder] = useState<{ saving: Saving; share: number } | null>(null);
	const [trouble, setTrouble] = useState<string | null>(null);
	const ask = (change: Partial<typeof asked>) => setAsked(Object.assign(asked, change) && { ...asked });
	const save = async () => {
		setTrouble(null);
		const { ground, water, camera, title } = useShot.getState().document;
		const [x, , z] = camera.position;
		const saving = saveLand({ ground, water, of: { x, z, metres, size }, words }, (share) =>
			setUnder({ saving, share }),
		);
		setUnder({ saving, share: 0 });
		try {
			const bytes = await saving.done;
			if (bytes) saveFile(bytes, `${fileName(title, "shot")}, land.zip`, "application/zip");
		} catch (error) {
			setTrouble((error as Error).message);
		}
		setUnder(null);
	};
	return (
		<div className="mt-2 border-hair border-t pt-2">
			<p className="text-second text-small">The land about the lens for other programs, in metres</p>
			<NumberLine
				label="Pixels of a side"
				value={size}
				min={2}
				max={MOST_SIDE}
				step={256}
				digits={0}
				onCommit={(v) => ask({ size: Math.round(v) })}
			/>
			<NumberLine
				label="Metres of a side"
				value={metres}
				unit="m"
				min={0.1}
				max={200_000}
				step={100}
				digits={1}
				onCommit={(v) => ask({ metres: v })}
			/>
			<div className="flex flex-wrap gap-x-3 py-1 text-small">
				{LAND_WORDS.map((word) => {
					const on = words.includes(word);
					return (
						<button
							key={word}
							type="button"
							aria-pressed={on}
							className={clsx("underline-offset-4", on ? "text-ink underline" : "text-second")}
							onClick={() => ask({ words: on ? words.filter((w) => w !== word) : [...words, word] })}
						>
							{word}
						</button>
					);
				})}
			</div>
			{under ? (
				<p role="status" className="text-small">
					{`${Math.round(100 * under.share)} % `}
					<Act onClick={() => under.saving.giveUp()}>Give up</Act>
				</p>
			) : (
				words.length > 0 && <Act onClick={() => void save()}>Save them as one file</Act>
			)}
			{trouble && (
				<p role="alert" className="text-madder text-small">
					{trouble}
				</p>
			)}
		</div>
	);
}
