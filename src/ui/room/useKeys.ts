import { useEffect } from "react";
import { dropPictures } from "../reference/references.ts";
import { pressKey, releaseAll, releaseKey } from "./keys.ts";

/** Hears keys, and pictures that are pasted. */
export function useKeys(): void {
	useEffect(() => {
		const down = (e: KeyboardEvent) => {
			if (pressKey(e)) e.preventDefault();
		};
		const paste = (e: ClipboardEvent) => {
			const files = [...(e.clipboardData?.files ?? [])];
			if (files.length) void dropPictures(files);
		};
		window.addEventListener("keydown", down);
		window.addEventListener("keyup", releaseKey);
		window.addEventListener("blur", releaseAll);
		window.addEventListener("paste", paste);
		return () => {
			window.removeEventListener("keydown", down);
			window.removeEventListener("keyup", releaseKey);
			window.removeEventListener("blur", releaseAll);
			window.removeEventListener("paste", paste);
		};
	}, []);
}
