/** Gives bytes to the person as a file, by the browser's own way. */
export function saveFile(bytes: Uint8Array<ArrayBuffer>, name: string, type: string): void {
	const url = URL.createObjectURL(new Blob([bytes], { type }));
	const link = document.createElement("a");
	link.href = url;
	link.download = name;
	link.click();
	setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

/** A title as the name of a file. */
export const fileName = (title: string, otherwise: string): string =>
	title.replace(/[\\/:*?"<>|]+/g, " ").trim() || otherwise;
