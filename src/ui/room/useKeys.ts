import { useEffect } from "react";
import { takeFiles } from "./hands.tsx";
import { pressKey, releaseAll, releaseKey } from "./keys.ts";

/** Hears keys, and pictures that are pasted. */
export function useKeys(): void {
	useEffect(() => {
		const down = (e: KeyboardEvent) => {
			if (pressKey(e)) e.preventDefault();
		};
		const paste = (e: ClipboardEvent) => {
			const files = [...(e.clipboardData?.files ?? [])];
			if (files.length) void takeFiles(files);
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
