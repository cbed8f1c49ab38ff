"use client";
/** A square of the land as files for other programs. */
import clsx from "clsx";
import { useState } from "react";
import { LAND_WORDS } from "../../../core/ground/landSquare.ts";
import { packedBy } from "../../../core/out/landFiles.ts";
import { Act, NumberLine, YesNo } from "../../parts/controls.tsx";
import { fileName, saveFile } from "../../parts/saveFile.ts";
import { saveLand } from "../../stage/landSaver.ts";
import { useShot } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";

const MOST_SIDE = 8192;

export function LandFilesLines() {
	const { landAs, savingLand, set } = useStudioOf("landAs", "savingLand", "set");
	const { size, metres, words, packed } = landAs;
	const [trouble, setTrouble] = useState<string | null>(null);
	const ask = (change: Partial<typeof landAs>) => set({ landAs: { ...landAs, ...change } });
	const save = async () => {
		setTrouble(null);
		const { ground, water, camera, title } = useShot.getState().document;
		const [x, , z] = camera.position;
		const told = (share: number) => set({ savingLand: { share, giveUp } });
		const { done, giveUp } = saveLand({ ground, water, of: { x, z, metres, size }, words, packed }, told);
		told(0);
		try {
			const bytes = await done;
			if (bytes) saveFile(bytes, `${fileName(title, "shot")}, land.zip`, "application/zip");
		} catch (error) {
			setTrouble((error as Error).message);
		}
		set({ savingLand: null });
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
			{packedBy(words).size > 0 && (
				<YesNo
					label="Masks"
					value={packed}
					yes="four to a picture"
					no="each by itself"
					onPick={(on) => ask({ packed: on })}
				/>
			)}
			{savingLand ? (
				<p role="status" className="text-small">
					{`${Math.round(100 * savingLand.share)} % `}
					<Act onClick={savingLand.giveUp}>Give up</Act>
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
