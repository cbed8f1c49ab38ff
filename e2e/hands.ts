/** What hands do in the page: open a step, find a place of the frame, drag. */
import { AxeBuilder } from "@axe-core/playwright";
import { expect, type Locator, type Page } from "@playwright/test";
import type { Edit } from "../src/core/doc/edits.ts";
import type { Piece, ShotDocument } from "../src/core/doc/schema.ts";
import { frameOfView, project } from "../src/core/lens/camera.ts";
import { served } from "./server.ts";

export const number = (page: Page, name: string): Locator => page.getByRole("textbox", { name, exact: true });

export const step = (page: Page, name: string): Locator =>
	page
		.getByRole("complementary")
		.getByRole("button", { name: new RegExp(`^${name}`) })
		.first();

export async function open(page: Page, name: string): Promise<void> {
	const line = step(page, name);
	if ((await line.getAttribute("aria-expanded")) !== "true") await line.click();
}

/** Place of the frame in the page's pixels. */
export async function inFrame(page: Page, x: number, y: number): Promise<[number, number]> {
	const box = (await page.getByTestId("plate").boundingBox()) as {
		x: number;
		y: number;
		width: number;
		height: number;
	};
	return [box.x + x * box.width, box.y + y * box.height];
}

/** The middle of what has a test id, in the page. */
export async function middleOf(page: Page, testId: string): Promise<[number, number]> {
	const box = await page.getByTestId(testId).boundingBox();
	if (!box) throw new Error(`${testId} is not there.`);
	return [box.x + box.width / 2, box.y + box.height / 2];
}

export async function drag(page: Page, from: [number, number], to: [number, number]): Promise<void> {
	await page.mouse.move(...from);
	await page.mouse.down();
	await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, { steps: 3 });
	await page.mouse.move(...to, { steps: 3 });
	await page.mouse.up();
}

let shots = 100;
/** Opens a new blank shot, by its address: the demo is not drawn before. */
export async function blank(page: Page) {
	await page.goto(`${served().url}/shot/${await newShot(`Shot ${shots++}`)}`);
	await expect(page.getByRole("heading", { name: /^Shot \d/ })).toBeVisible();
}

/** Sends to the server what another page or program would. */
export async function post<T>(path: string, body: unknown): Promise<T> {
	const response = await fetch(`${served().url}${path}`, { method: "POST", body: JSON.stringify(body) });
	expect(response.status, `${path} answered ${response.status}`).toBeLessThan(300);
	return (await response.json()) as T;
}

const shotOf = async (id: string) => (await (await fetch(`${served().url}/api/shots/${id}`)).json()).state;

/** The document of a shot as the server has it. */
export const stored = async (id: string): Promise<ShotDocument> => (await shotOf(id)).document;

/** Edits a shot from elsewhere. */
export async function editElsewhere(id: string, edits: readonly Edit[]): Promise<void> {
	let { sequence } = await shotOf(id);
	for (const edit of edits) {
		const body = { clientId: crypto.randomUUID(), sequence, edit };
		({ sequence } = await post<{ sequence: number }>(`/api/shots/${id}/edits`, body));
	}
}

export async function newShot(title: string, edits: readonly Edit[] = []): Promise<string> {
	const { id } = await post<{ id: string }>("/api/shots", { title });
	await editElsewhere(id, edits);
	return id;
}

/** The document of the open shot as the server has it. */
export const keptDocument = (page: Page): Promise<ShotDocument> =>
	stored(new URL(page.url()).pathname.split("/").pop() as string);

/** Drops files on the frame. */
export async function dropFiles(
	page: Page,
	files: { name: string; bytes: Buffer; type?: string }[],
	on = "frame",
): Promise<void> {
	const transfer = await page.evaluateHandle(
		(list) => {
			const data = new DataTransfer();
			for (const { name, base64, type } of list)
				data.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name, { type }));
			return data;
		},
		files.map((f) => ({ name: f.name, base64: f.bytes.toString("base64"), type: f.type ?? "" })),
	);
	await page.getByTestId(on).dispatchEvent("drop", { dataTransfer: transfer });
}

/** Has axe look over what is shown, once nothing fades in any more; every finding is named with its first place. */
export async function accessible(page: Page): Promise<void> {
	await page.evaluate(async () => {
		const ending = document.getAnimations().filter((a) => a.effect?.getComputedTiming().iterations !== Infinity);
		await Promise.all(ending.map((a) => a.finished.catch(() => {})));
	});
	const { violations } = await new AxeBuilder({ page }).analyze();
	expect(violations.map((v) => `${v.id}: ${v.nodes[0].target.join(" ")} ${v.nodes[0].failureSummary}`)).toEqual([]);
}

/** Opens a new shot without pieces but these, its lens locked, and tells where places of the world lie in the page. */
export async function emptyPlace(
	page: Page,
	title: string,
	{ position, pitchDeg }: Pick<ShotDocument["camera"], "position" | "pitchDeg">,
	pieces: Piece[] = [],
	edits: Edit[] = [],
) {
	const id = await newShot(title, [
		{ name: "piece.remove", ids: (await stored("blank")).pieces.map((p) => p.id) },
		{ name: "camera.place", position, pitchDeg },
		{ name: "camera.setLocked", locked: true },
		...(pieces.length ? [{ name: "piece.add" as const, pieces }] : []),
		...edits,
	]);
	await page.goto(`${served().url}/shot/${id}`);
	const view = frameOfView((await stored(id)).camera);
	return (x: number, y: number, z: number): Promise<[number, number]> => {
		const p = project(view, [x, y, z]);
		return inFrame(page, p.x, p.y);
	};
}
