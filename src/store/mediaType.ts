/** What kind of file bytes are, by how they begin. */

const text = (data: Uint8Array, from: number, to: number): string => String.fromCharCode(...data.subarray(from, to));

const KINDS: [type: string, is: (data: Uint8Array) => boolean][] = [
	["image/png", (d) => text(d, 1, 4) === "PNG" && d[0] === 0x89],
	["image/jpeg", (d) => d[0] === 0xff && d[1] === 0xd8 && d[2] === 0xff],
	["image/webp", (d) => text(d, 0, 4) === "RIFF" && text(d, 8, 12) === "WEBP"],
	["image/tiff", (d) => text(d, 0, 4) === "II*\0" || text(d, 0, 4) === "MM\0*"],
	["image/x-exr", (d) => d[0] === 0x76 && d[1] === 0x2f && d[2] === 0x31 && d[3] === 0x01],
	["image/vnd.radiance", (d) => text(d, 0, 2) === "#?"],
	["video/webm", (d) => d[0] === 0x1a && text(d, 1, 4) === "E\xdf\xa3"],
	["video/mp4", (d) => text(d, 4, 8) === "ftyp"],
	["model/gltf-binary", (d) => text(d, 0, 4) === "glTF"],
];

/** Media type of a file; that of plain bytes where its kind is not known. */
export const mediaTypeOf = (data: Uint8Array): string =>
	KINDS.find(([, is]) => is(data))?.[0] ?? "application/octet-stream";
