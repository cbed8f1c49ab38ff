import { useEffect, useRef } from "react";
import { holdField } from "../../core/ground/field.ts";
import { landReads } from "../../core/ground/height.ts";
import { holdPicture, keepPictures, keyOfRead } from "../../core/ground/pictures.ts";
import { SMALL } from "../../core/study/smallFrame.ts";
import { framesOf, STILL, shutterSeconds, tellingOrder } from "../../core/time/frames.ts";
import { keepFrame, keptFrames } from "../stage/keptFrames.ts";
import { StageClient } from "../stage/stageClient.ts";
import { useHeldProof } from "../store/heldProof.ts";
import { useShot, useShotOf } from "../store/shotStore.ts";
import { useStudio, useStudioOf } from "../store/studio.ts";
import { isLit } from "../view/looks.ts";
import { watchHands } from "./handsAt.ts";

/** A hand that rests this long while it drags is shown what it has done, where that takes too long to follow it. */
const PAUSE_MS = 140;
/** So many pictures of the page have to pass as well: while the graphics are busy a hand's movements wait, too. */
const PAUSE_PICTURES = 4;

/** Calls when the page has rested. @returns What calls it off. */
function afterPause(call: () => void): () => void {
	const since = performance.now();
	let left = PAUSE_PICTURES;
	let next = requestAnimationFrame(function look() {
		left--;
		if (left <= 0 && performance.now() - since >= PAUSE_MS) return call();
		next = requestAnimationFrame(look);
	});
	return () => cancelAnimationFrame(next);
}

/** Has the shot compiled and its proof refined, and tells the studio. */
export function useStage(): void {
	const { shotId, whole, wholePreview, timeS, busy } = useShotOf("shotId", "whole", "wholePreview", "timeS", "busy");
	/** Shot whose kept small frames have been fetched. */
	const fetched = useRef<string | null>(null);
	const { step, frameSize, free, print, set, look, clean, zoom, warm, playing } = useStudioOf(
		"step",
		"frameSize",
		"free",
		"print",
		"set",
		"look",
		"clean",
		"zoom",
		"warm",
		"playing",
	);
	const stage = useRef<StageClient | null>(null);
	useEffect(() => {
		const client = new StageClient({
			scene: (root, parts, info) => {
				if (stage.current !== client) return;
				useStudio.setState({
					root,
					parts,
					sceneNumber: info.number,
					compileMs: info.compileMs,
					...(info.sameLight ? {} : { proof: null }),
					trouble: null,
					wearing: null,
				});
			},
			proof: (proof) =>
				useStudio.setState((s) => ({
					proof: proof.pixels ? proof : { ...proof, pixels: s.proof?.pixels ?? null, clean: s.proof?.clean ?? false },
				})),
			small: (one) => {
				useStudio.setState((s) => ({ smallFrames: new Map(s.smallFrames).set(one.frame, one) }));
				keepFrame(useShot.getState().shotId, one);
			},
			rooms: (rooms) => useStudio.setState({ rooms }),
			shares: (shares) => useStudio.setState({ shares: new Map(shares.map((s) => [s.id, s])) }),
			waters: (told) => useStudio.setState({ waters: new Map(told) }),
			wearing: (wearing) => useStudio.setState({ wearing }),
			field: (key, id, field) => {
				holdField(key, id, field);
				useShot.getState().landMade(key);
			},
			landPicture: (read, picture) => {
				holdPicture(read, picture);
				keepPictures(landReads(useShot.getState().whole.ground));
				useShot.getState().landMade(keyOfRead(read));
			},
			trouble: (trouble) => useStudio.setState({ trouble, wearing: null }),
		});
		stage.current = client;
		set({ stage: client });
		return () => {
			client.close();
			stage.current = null;
			set({ stage: null, root: null, proof: null });
		};
	}, [set]);
	const still = playing === null;
	useEffect(() => {
		// While a move is played, the player asks for its frames.
		if (!still) return;
		const now = wholePreview ?? whole;
		// A hand is shown the moment that it works on, what rests the time for which the shutter is open.
		const shutterS = now.move && !wholePreview ? shutterSeconds(now.move) : 0;
		const moment = now.move && timeS !== null ? { timeS, shutterS } : STILL;
		const show = () => stage.current?.show(now, wholePreview === null, moment);
		if (!wholePreview || !useStudio.getState().heavy) return void show();
		stage.current?.hold();
		return afterPause(show);
	}, [whole, wholePreview, timeS, still]);
	const { move } = whole;
	const open = timeS !== null && !!move;
	const [length, from, to] = move ? [move.frames, move.range?.from, move.range?.to] : [0];
	useEffect(() => {
		const every = Math.max(1, Math.ceil(length / SMALL.most));
		const all = open ? framesOf({ from: 0, to: length - 1 }, every) : [];
		// What is played comes before the rest of the move.
		const first = all.filter((f) => f >= (from ?? 0) && f <= (to ?? length));
		const frames = [...tellingOrder(first), ...tellingOrder(all.filter((f) => !first.includes(f)))];
		useStudio.setState((s) => ({
			smallWanted: all.length,
			smallFrames: open ? new Map([...s.smallFrames].filter(([f]) => all.includes(f))) : s.smallFrames,
		}));
		if (!open || fetched.current === shotId) return stage.current?.small(frames);
		// What was traced some other day is there at once; what has changed since is traced again.
		let here = true;
		void keptFrames(shotId).then((kept) => {
			if (!here) return;
			fetched.current = shotId;
			const known = kept.filter((k) => all.includes(k.frame));
			useStudio.setState((s) => ({
				smallFrames: new Map([...known.map((k) => [k.frame, k] as const), ...s.smallFrames]),
				// Where all of them are there, the move plays as it was traced.
				...(known.length === all.length ? { playsSmall: true } : {}),
			}));
			stage.current?.small(
				frames,
				known.map((k) => [k.frame, k.sign]),
			);
		});
		return () => {
			here = false;
		};
	}, [shotId, open, length, from, to]);
	useEffect(() => {
		stage.current?.setProof(warm && !free && !print && isLit(look), frameSize.width, frameSize.height, clean);
	}, [frameSize, free, print, look, clean, warm]);
	/** What the proof gives way to: prints under way, a wish, and a hand at work. */
	const held = useHeldProof();
	const before = useRef({ rests: busy, hand: false });
	useEffect(() => {
		before.current.rests = busy || held;
		stage.current?.rest(before.current.rests || before.current.hand);
	}, [busy, held]);
	useEffect(() => {
		const heavy = () => useStudio.getState().heavy;
		return watchHands(window, heavy, (hand) => {
			before.current.hand = hand;
			stage.current?.rest(hand || before.current.rests);
		});
	}, []);
	// It stands among the lens's own lines.
	const lens = step === "Match";
	useEffect(() => stage.current?.wantRooms(lens), [lens]);
	useEffect(() => {
		const side = 1 / zoom.k;
		stage.current?.look(zoom.k > 1 ? { x: zoom.x - side / 2, y: zoom.y - side / 2, width: side, height: side } : null);
	}, [zoom]);
}
