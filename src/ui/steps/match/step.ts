import { rayThrough } from "../../../core/lens/camera.ts";
import { nudgeLineEnd, nudgeMark } from "../../../core/match/nudge.ts";
import { useMatchResult } from "../../reference/MatchResult.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import { putsDown, type TicketStep } from "../step.ts";
import { keptDistance } from "./FocusLines.tsx";
import { MatchBody, takeMatch } from "./MatchBody.tsx";

const isOpen = () => useStudio.getState().step === "Match";

export const match: TicketStep = {
	stands: ({ doc: { camera, match }, match: result }) => {
		if (camera.locked) return `${camera.focalMm.toFixed(0)} mm, locked`;
		if (result?.ok) return `${result.solution.focalMm.toFixed(1)} mm, not taken`;
		return match.lines.length ? "not determined" : `${camera.focalMm.toFixed(0)} mm, free`;
	},
	Body: MatchBody,
	useAct: () => {
		const result = useMatchResult();
		const { locked } = useShown().camera;
		return locked ? null : { word: "Take and lock", go: () => takeMatch(result), off: !result?.ok };
	},
	arrow: ({ right, down, alt }) => {
		const { line, mark } = useStudio.getState();
		const { document: doc, commit } = useShot.getState();
		if (!isOpen()) return false;
		const by = alt ? 0.1 : 1;
		if (line) {
			const edit = nudgeLineEnd(doc.match, line.id, line.end, right * by, down * by);
			return edit !== null && commit(edit);
		}
		const edit = mark && !doc.camera.locked ? nudgeMark(doc.match, mark, right * by, down * by) : null;
		return edit !== null && commit(edit);
	},
	remove: () => {
		const { line, mark, set } = useStudio.getState();
		const { commit } = useShot.getState();
		if (!isOpen() || !(mark || line)) return false;
		if (mark === "horizon") commit({ name: "match.setHorizon", horizon: null });
		else if (mark) commit({ name: "match.removeMark", id: mark });
		else if (line) commit({ name: "match.removeLine", id: line.id });
		set(mark ? { mark: null } : { line: null });
		return true;
	},
	holds: () => useStudio.getState().focusing !== null,
	press: (event, { view, place }) => {
		const { focusing, stage, free, set } = useStudio.getState();
		if (!isOpen() || !focusing || free) return false;
		event.preventDefault();
		const at = place(event);
		set({ focusing: null });
		void stage?.pick(at.x, at.y).then(({ thing, distanceM }) => {
			const { document, commit, say } = useShot.getState();
			const isPiece = document.pieces.some((p) => p.id === thing);
			if (focusing === "piece") {
				if (isPiece) commit({ name: "camera.setLens", focusOn: thing });
				else say("No piece stands there. Pick one that does.");
				return;
			}
			if (!Number.isFinite(distanceM))
				return say("The sky is sharp from the hyperfocal distance on; nothing stands there.");
			// What is focused is a plane: the depth along the lens's axis, not the way to the place.
			const d = rayThrough(view, at.x, at.y);
			commit({ name: "camera.setLens", focusM: keptDistance(distanceM / Math.hypot(...d)), focusOn: null });
		});
		return true;
	},
	putDown: putsDown({ focusing: null, line: null, mark: null, tool: "line", proposals: null, placingStaff: false }),
};
