"use client";
/** The set as a file for other programs. */
import { useState } from "react";
import { fileName, saveFile } from "../../parts/saveFile.ts";
import type { SetFile } from "../../stage/messages.ts";
import { useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

const FILES: { as: SetFile; word: string; ending: string; type: string }[] = [
	{ as: "glb", word: "glTF", ending: "glb", type: "model/gltf-binary" },
	{ as: "instanced", word: "glTF with instances", ending: "glb", type: "model/gltf-binary" },
	{ as: "obj", word: "OBJ", ending: "obj.zip", type: "application/zip" },
];

export function SetLines() {
	const stage = useStudio((s) => s.stage);
	const [under, setUnder] = useState<SetFile | null>(null);
	const [trouble, setTrouble] = useState<string | null>(null);
	const take = async ({ as, ending, type }: (typeof FILES)[number]) => {
		if (!stage || under) return;
		setUnder(as);
		setTrouble(null);
		try {
			const { title } = useShot.getState().document;
			saveFile(await stage.set(as), `${fileName(title, "set")}.${ending}`, type);
		} catch (error) {
			setTrouble((error as Error).message);
		}
		setUnder(null);
	};
	return (
		<div className="mt-2 border-hair border-t pt-2">
			<p className="text-second text-small">The set for other programs, in metres, with lens, lamps and sun</p>
			<div className="flex flex-wrap gap-x-3 pt-1 text-small">
				{FILES.map((file) => (
					<button
						key={file.as}
						type="button"
						className="underline disabled:no-underline"
						disabled={under !== null}
						onClick={() => void take(file)}
					>
						{under === file.as ? "is put together …" : file.word}
					</button>
				))}
			</div>
			{trouble && (
				<p role="alert" className="text-madder text-small">
					{trouble}
				</p>
			)}
		</div>
	);
}
