import { alongHeading } from "../../../core/ground/walk.ts";
import { copiesOf, countOf, withSingle } from "../../../core/shape/copies.ts";
import { slidePieces } from "../../../core/shape/handPieces.ts";
import { dropPoint, isLine } from "../../../core/shape/handPoints.ts";
import { drawnOf } from "../../../core/shape/shapes.ts";
import { pickPiece } from "../../store/pick.ts";
import { shownDocument, useShot } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { pressColour } from "../laid/ColourMarks.tsx";
import { nudgePlace } from "../laid/nudgePlace.ts";
import { paintKey, pressPaint } from "../laid/paintBrush.ts";
import { putsDown, type TicketStep } from "../step.ts";
import { anotherOfSelected, enterSelected, groupSelected } from "./acts.ts";
import { endLine, leaveLine, pressLine, pressLineFromAbove, takeBackPoint } from "./drawLine.ts";
import { drawFromAbove, drawShape } from "./drawShape.ts";
import { LinesFromAbove, tried } from "./LineMarks.tsx";
import { MassBody } from "./MassBody.tsx";
import { PieceMarks } from "./PieceMarks.tsx";

/** Leaves one of a repeated piece's copies out; true when it stood there. */
function leaveOut({ of, copy }: { of: string; copy: number }): boolean {
	const { document, commit } = useShot.getState();
	const repeat = document.pieces.find((p) => p.id === of)?.repeat;
	if (!repeat || !copiesOf(repeat).some((c) => c.copy === copy)) return false;
	return commit({ name: "piece.setRepeat", id: of, repeat: withSingle(repeat, { copy, out: true }) });
}

/** Takes the point that is worked on out of its line. */
function deletePoint(): boolean {
	const { point, selected, set } = useStudio.getState();
	if (!point) return false;
	const piece = useShot.getState().document.pieces.find((p) => p.id === point.of);
	if (!piece || !isLine(piece) || selected.length !== 1 || selected[0] !== piece.id) return false;
	set({ point: null });
	if (!piece.shape.points.some((p) => p.n === point.n)) return false;
	const edit = tried(() => dropPoint(piece, point.n));
	if (edit) useShot.getState().commit(edit);
	return true;
}

const putDown = putsDown({
	drawing: null,
	copy: null,
	point: null,
	exchanging: null,
	painting: null,
	heldPlace: null,
	colouring: null,
	face: null,
});

export const mass: TicketStep = {
	stands: ({ doc: { pieces } }) => {
		const all = pieces.reduce((n, p) => n + countOf(p.repeat), 0);
		return all === pieces.length ? `${all} pieces` : `${pieces.length} pieces, ${all} with repeats`;
	},
	Body: MassBody,
	useAct: () => {
		const { drawing, set } = useStudioOf("drawing", "set");
		return {
			word: drawing ? `Drawing a ${drawing}` : "Draw a box",
			go: () => set({ drawing: drawing ? null : "box" }),
		};
	},
	Marks: PieceMarks,
	MarksFromAbove: LinesFromAbove,
	always: true,
	holds: () => {
		const { painting, colouring, heldPlace } = useStudio.getState();
		return painting !== null || colouring !== null || heldPlace !== null;
	},
	press: (event, frame) => {
		if (pressPaint(event, frame) || pressColour(event, frame)) return true;
		const { drawing } = useStudio.getState();
		if (drawing) (drawnOf({ kind: drawing }) ? pressLine : drawShape)(event, drawing, frame);
		return drawing !== null;
	},
	pressFromAbove: (event, from) => {
		const { drawing } = useStudio.getState();
		if (drawing) (drawnOf({ kind: drawing }) ? pressLineFromAbove : drawFromAbove)(event, drawing, from);
		return drawing !== null;
	},
	picked: (id, more, deeper) => {
		if (!id || !shownDocument().pieces.some((p) => p.id === id && !p.held)) return false;
		pickPiece(id, more, deeper);
		useStudio.getState().set({ step: "Mass" });
		return true;
	},
	arrow: ({ right, down, shift }) => {
		if (nudgePlace({ right, down, shift })) return true;
		const { selected, free } = useStudio.getState();
		const { document: doc, commit } = useShot.getState();
		if (selected.length === 0) return false;
		const own = doc.pieces.filter((p) => selected.includes(p.id) && !p.held);
		if (own.length === 0) return false;
		const by = shift ? 1 : 0.1;
		const [dx, dz] = alongHeading((free ?? doc.camera).headingDeg, right * by, -down * by);
		return commit(slidePieces(own, dx, dz));
	},
	remove: () => {
		if (takeBackPoint() || deletePoint()) return true;
		const { selected, copy, set } = useStudio.getState();
		if (copy && selected.length === 1 && selected[0] === copy.of) return leaveOut(copy);
		if (selected.length === 0 || !useShot.getState().commit({ name: "piece.remove", ids: selected })) return false;
		set({ selected: [] });
		return true;
	},
	keys: [
		paintKey,
		{
			keys: "Y",
			does: "Another of the selected pieces; with Shift one that shares its shape",
			on: ["y"],
			act: (e) => anotherOfSelected(e.shiftKey),
		},
		{ keys: "N", does: "The selected pieces as one: a group", on: ["n"], act: groupSelected },
		{
			keys: "Enter",
			does: "Enter the selected group; Esc leaves it",
			on: ["enter"],
			act: (e) => !(e.target instanceof HTMLElement && e.target.closest("button, a")) && (endLine() || enterSelected()),
		},
	],
	putDown: () => {
		leaveLine();
		putDown();
	},
};
