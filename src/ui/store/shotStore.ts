/**
 * The shot on the page. Edits apply here at once and travel to the server in order; a gesture previews on a transient
 * copy and commits exactly one edit.
 */
import { create } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { applyEdit, type Edit, EditError, parseEdit } from "../../core/doc/edits.ts";
import type {
	Checkpoint,
	HeadMove,
	HistoryLine,
	LeftBehind,
	PrintLine,
	ShotStanding,
	ShotState,
} from "../../core/doc/records.ts";
import type { ShotDocument } from "../../core/doc/schema.ts";
import { landNeeds, landReads } from "../../core/ground/height.ts";
import { keyOfRead } from "../../core/ground/pictures.ts";
import { atTime } from "../../core/time/atTime.ts";
import { documentAt, withFocusMeasured } from "../../core/time/documentAt.ts";
import { picked } from "./picked.ts";
import { call, keepPending, keptPending, type Pending, Refused, sendPending } from "./saving.ts";

export interface ShotBundle {
	state: ShotState;
	checkpoints: Checkpoint[];
	prints: PrintLine[];
	/** A print is under way on this machine, of whichever shot. */
	busy: boolean;
	history: HistoryLine[];
	/** Ends of branches that were left. */
	left: LeftBehind[];
}

interface ShotLog extends Pick<ShotBundle, "checkpoints" | "history" | "left"> {
	standing: ShotStanding;
}

interface ShotStore {
	shotId: string;
	/** The shot with all edits, sent or not. */
	whole: ShotDocument;
	/** The same as a gesture under way would leave it. */
	wholePreview: ShotDocument | null;
	/** The moment of the move that is worked on, seconds; null for the still. */
	timeS: number | null;
	/** The shot as it stands at that moment: what hands see and take hold of. */
	document: ShotDocument;
	/** The same as a gesture under way would leave it. */
	preview: ShotDocument | null;
	sequence: number;
	revision: number;
	/** The revision whose document this is: another one after a return. */
	standsFor: number;
	canUndo: boolean;
	canRedo: boolean;
	pending: Pending[];
	online: boolean;
	notice: string | null;
	checkpoints: Checkpoint[];
	prints: PrintLine[];
	/** A print is under way on this machine, of whichever shot. */
	busy: boolean;
	history: HistoryLine[];
	left: LeftBehind[];
	open: (bundle: ShotBundle) => void;
	commit: (edit: Edit) => boolean;
	show: (edit: Edit | null) => void;
	moveHead: (move: HeadMove) => void;
	/** Goes to another moment of the move, or to the still. */
	goTo: (timeS: number | null) => void;
	/** Asks how the shot stands; its document only when that is another. */
	refresh: () => Promise<void>;
	/** Asks how its prints stand. */
	refreshPrints: () => Promise<void>;
	say: (notice: string | null) => void;
	/** A square of the land has been made: heights of this ground are others from now on. */
	landMade: (key: string) => void;
}

/** A shot as it stands at a moment, with no gesture under way. */
const standing = (whole: ShotDocument, timeS: number | null) => ({
	whole,
	wholePreview: null,
	document: seenAt(whole, timeS),
	preview: null,
});

/** A shot as it is seen at a moment: a focus that follows a piece is the distance that it has. */
const seenAt = (whole: ShotDocument, timeS: number | null): ShotDocument => withFocusMeasured(documentAt(whole, timeS));

let sending = false;
let base: ShotDocument;

export const useShot = create<ShotStore>((set, get) => {
	const settle = (state: Omit<ShotState, "document">) =>
		set({
			sequence: state.sequence,
			revision: state.revision,
			standsFor: state.standsFor,
			canUndo: state.canUndo,
			canRedo: state.canRedo,
		});

	/**
	 * Applies what is pending on top of what the server has; what no longer fits is dropped and said. `own` says that the
	 * state answers what was sent from here: then moves of the head that wait are still meant for it.
	 */
	const rebase = (state: ShotState, own = false) => {
		base = state.document;
		let doc = base;
		const kept: Pending[] = [];
		const lost: string[] = [];
		let moves = 0;
		for (const p of get().pending) {
			if (!p.edit) {
				// An undo belongs to the state that it was made in.
				if (own) kept.push(p);
				moves++;
				continue;
			}
			try {
				doc = applyEdit(doc, p.edit).document;
				kept.push(p);
			} catch (error) {
				// What comes after an undo that waits may fit when that is done.
				if (own && moves > 0) kept.push(p);
				else lost.push((error as Error).message);
			}
		}
		keepPending(get().shotId, kept);
		set({
			...standing(doc, get().timeS),
			pending: kept,
			notice: lost.length
				? `The shot was changed elsewhere; ${lost.length} of your edits no longer fit: ${lost[0]}`
				: get().notice,
		});
		settle(state);
	};

	/** What the server has, after it refused what stands here. */
	const takeBack = async () => {
		const { shotId } = get();
		const { state } = await call<ShotBundle>(`/api/shots/${shotId}`);
		if (get().shotId === shotId) rebase(state, true);
	};

	const send = async () => {
		if (sending) return;
		sending = true;
		let pause = 200;
		while (get().pending.length) {
			const { shotId, sequence, pending } = get();
			const next = pending[0];
			try {
				const saved = await sendPending(shotId, next, sequence);
				if (get().shotId !== shotId) break;
				const rest = get().pending.slice(1);
				keepPending(shotId, rest);
				set({ pending: rest, online: true });
				if (saved.document) rebase(saved as ShotState, true);
				else {
					if (next.edit) base = applyEdit(base, next.edit).document;
					settle(saved);
				}
				pause = 200;
			} catch (error) {
				if (error instanceof Refused && error.status === 409 && error.state) {
					set({ notice: "This shot was changed in another tab. The newer edits are taken in." });
					rebase(error.state as ShotState);
				} else if (error instanceof Refused && error.status < 500) {
					const rest = get().pending.slice(1);
					keepPending(shotId, rest);
					set({ pending: rest, notice: error.message });
					await takeBack().catch(() => set({ online: false }));
				} else {
					set({ online: false });
					await new Promise((r) => setTimeout(r, pause));
					pause = Math.min(4000, pause * 2);
				}
			}
		}
		sending = false;
		void call<ShotLog>(`/api/shots/${get().shotId}/log`)
			.then(({ history, checkpoints, left }) => set({ history, checkpoints, left }))
			.catch(() => {});
	};

	const queue = (p: Omit<Pending, "clientId">) => {
		const pending = [...get().pending, { clientId: crypto.randomUUID(), ...p }];
		keepPending(get().shotId, pending);
		set({ pending });
		void send();
	};

	return {
		shotId: "",
		whole: undefined as unknown as ShotDocument,
		wholePreview: null,
		timeS: null,
		document: undefined as unknown as ShotDocument,
		preview: null,
		sequence: 0,
		revision: 0,
		standsFor: 0,
		canUndo: false,
		canRedo: false,
		pending: [],
		online: true,
		notice: null,
		checkpoints: [],
		prints: [],
		busy: false,
		history: [],
		left: [],
		open: ({ state, checkpoints, prints, busy, history, left }) => {
			set({
				shotId: state.id,
				pending: keptPending(state.id),
				checkpoints,
				prints,
				busy,
				history,
				left,
				notice: null,
				timeS: null,
			});
			rebase(state);
			if (get().pending.length) void send();
		},
		commit: (edit) => {
			try {
				const { whole, timeS } = get();
				const meant = atTime(whole, parseEdit({ ...edit }), timeS);
				const { document } = applyEdit(whole, meant);
				set({ ...standing(document, timeS), canUndo: true, canRedo: false, notice: null });
				queue({ edit: meant });
				return true;
			} catch (error) {
				set({ preview: null, wholePreview: null, notice: error instanceof EditError ? error.message : String(error) });
				return false;
			}
		},
		show: (edit) => {
			if (!edit) return set({ preview: null, wholePreview: null });
			try {
				const { whole, timeS } = get();
				const { document } = applyEdit(whole, atTime(whole, edit, timeS));
				set({ preview: seenAt(document, timeS), wholePreview: document });
			} catch {
				set({ preview: null, wholePreview: null });
			}
		},
		moveHead: (move) => queue({ move }),
		goTo: (timeS) => set({ timeS, ...standing(get().whole, timeS) }),
		refresh: async () => {
			try {
				const { shotId } = get();
				const { standing, checkpoints, history, left } = await call<ShotLog>(`/api/shots/${shotId}/log`);
				if (get().shotId !== shotId) return;
				set({ checkpoints, history, left, online: true });
				if (standing.sequence <= get().sequence || sending) return;
				const { state } = await call<ShotBundle>(`/api/shots/${shotId}`);
				if (get().shotId === shotId && state.sequence > get().sequence && !sending) rebase(state);
			} catch {
				set({ online: false });
			}
		},
		refreshPrints: async () => {
			try {
				const { shotId } = get();
				const { prints, busy } = await call<Pick<ShotBundle, "prints" | "busy">>(`/api/shots/${shotId}/prints`);
				if (get().shotId === shotId) set({ prints, busy, online: true });
			} catch {
				set({ online: false });
			}
		},
		say: (notice) => set({ notice }),
		landMade: (key) => {
			const { whole: then, timeS } = get();
			const made = [...landNeeds(then.ground).map((need) => need.key), ...landReads(then.ground).map(keyOfRead)];
			if (!made.includes(key)) return;
			// What is kept by the ground that it stands on is asked for anew.
			const { whole, document } = standing({ ...then, ground: { ...then.ground } }, timeS);
			set({ whole, document });
		},
	};
});

/** Some of the shot's values; who reads them is drawn again when one of them is another. */
export const useShotOf = <K extends keyof ShotStore>(...keys: K[]): Pick<ShotStore, K> =>
	useShot(useShallow((s) => picked(s, keys)));

/** The document to be looked at: a gesture's preview, or what stands. */
export const useShown = (): ShotDocument => useShot((s) => s.preview ?? s.document);
export const shownDocument = (): ShotDocument => {
	const s = useShot.getState();
	return s.preview ?? s.document;
};
