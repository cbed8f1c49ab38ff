/**
 * Five thousand pieces of forty kinds and different colours in the page: how often the ribbon and the list are drawn while one of
 * them is pushed.
 *
 * Profiled, of 65 ms a movement: what list, ribbon and plan are made of anew (27 ms; now only for the piece that moves), what
 * a piece may stand on and what it may be done to (11 ms; of what stands now, not of what is dragged), the edit's copy of the
 * list (5 ms). What is left is some 50 ms under the profiler, half of it the ticket's own lines as React goes through them.
 */
import type { Page } from "@playwright/test";
import { newPiece } from "../src/core/doc/defaults.ts";
import { measuresOf, type Piece, SHAPE_KINDS, Shape, type ShapeKind } from "../src/core/doc/schema.ts";
import { median } from "./median.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

/** All shapes, and as many again with other measures and seeds as make forty kinds of body. */
const KINDS: Shape[] = Array.from({ length: 40 }, (_, i) => {
	const kind: ShapeKind = SHAPE_KINDS[i % SHAPE_KINDS.length];
	const measures = measuresOf(kind).flatMap(([field, { of, options, min, max }]) =>
		i < SHAPE_KINDS.length || options || of !== "count" ? [] : [[field, Math.min(max, min + 2 + (i % 5))]],
	);
	return Shape.parse({ kind, ...Object.fromEntries(measures) });
});
const MOST = 5000;
/** 30 frames a second. */
const GOAL_MS = 1000 / 30;
const MOVES = 60;

const scattered = (room: number): Piece[] =>
	Array.from({ length: room }, (_, i) =>
		newPiece(`many${i}`, KINDS[i % KINDS.length].kind, {
			shape: KINDS[i % KINDS.length],
			name: i === 100 ? "Pushed post" : `Post ${i}`,
			position: [(((i * 37) % 200) - 100) * 0.3, 0, -4 - i * 0.06],
			headingDeg: i % 90,
			size: [0.2, 0.5 + (i % 7) * 0.2, 0.2],
			surface: { colour: [0.2 + 0.001 * (i % 500), 0.3, 0.25], roughness: 0.4 + 0.001 * (i % 400), metal: 0 },
		}),
	);

interface Drag {
	/** Milliseconds from each movement of the pointer until the page has been drawn with it. */
	drawn: number[];
	/** The same until the handlers and React are done. */
	worked: number[];
}

export async function pieces(page: Page, url: string, say: Say): Promise<void> {
	const ask = async (path: string, body: object) =>
		(await page.request.post(`${url}${path}`, { data: body, headers: { origin: url } })).json();
	const { id, sequence, document: doc } = await ask("/api/shots", { title: "Five thousand" });
	await ask(`/api/shots/${id}/edits`, {
		clientId: crypto.randomUUID(),
		sequence,
		edit: { name: "piece.add", pieces: scattered(MOST - doc.pieces.length) },
	});
	await page.goto(`${url}/shot/${id}`);
	await page.waitForSelector("html[data-drawn=yes]", { timeout: 120_000 });
	await page.waitForTimeout(8000);
	const list = page.getByRole("complementary");
	await list.getByRole("button", { name: /^In frame/ }).click();
	await page.getByRole("textbox", { name: "Filter by name" }).fill("pushed");
	await page.getByRole("button", { name: "Pushed post" }).click();
	await page.getByRole("textbox", { name: "Filter by name" }).fill("");
	const chosen = page.getByTestId("ribbon-chosen").first();
	await chosen.waitFor({ timeout: 60_000 });
	const box = (await chosen.locator("rect").first().boundingBox()) as {
		x: number;
		y: number;
		width: number;
		height: number;
	};
	const from = [box.x + box.width / 2, box.y + box.height / 2];
	const { drawn, worked } = await page.evaluate(
		async ({ from: [x, y], moves }): Promise<Drag> => {
			const ground = document.elementsFromPoint(x, y).find((e) => e instanceof SVGElement) as Element;
			const hand = { clientY: y, pointerId: 1, button: 0, buttons: 1, bubbles: true, cancelable: true };
			const out: Drag = { drawn: [], worked: [] };
			ground.dispatchEvent(new PointerEvent("pointerdown", { ...hand, clientX: x }));
			for (let i = 0; i < moves; i++) {
				const at = performance.now();
				window.dispatchEvent(new PointerEvent("pointermove", { ...hand, clientX: x + 6 + i }));
				await new Promise((r) => setTimeout(r, 0));
				out.worked.push(performance.now() - at);
				await new Promise((r) => requestAnimationFrame(() => setTimeout(r, 0)));
				out.drawn.push(performance.now() - at);
			}
			window.dispatchEvent(new PointerEvent("pointerup", { ...hand, clientX: x + 6 + moves }));
			return out;
		},
		{ from, moves: MOVES },
	);
	// The same page when no more than a small square moves on it: what the graphics, here in software, take for any picture of it.
	const square = await page.evaluate(async (moves) => {
		const square = document.body.appendChild(document.createElement("div"));
		const out: number[] = [];
		for (let i = 0; i < moves; i++) {
			const at = performance.now();
			square.style.cssText = `position:fixed;top:0;left:${i}px;width:10px;height:10px;background:#000;z-index:99`;
			await new Promise((r) => requestAnimationFrame(() => setTimeout(r, 0)));
			out.push(performance.now() - at);
		}
		square.remove();
		return out;
	}, MOVES);
	say(
		"5,000 pieces of 40 kinds, one pushed in the ribbon with the list open: work of the page a movement, goal beside it",
		median(worked),
		"ms",
		GOAL_MS,
	);
	say(
		"the same until the page is drawn, beside the page when only a small square moves on it",
		median(drawn),
		"ms",
		median(square),
	);
}
