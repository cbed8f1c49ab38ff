import { useEffect, useRef } from "react";
import { StageClient } from "../stage/stageClient.ts";
import { useShotOf } from "../store/shotStore.ts";
import { useStudio, useStudioOf } from "../store/studio.ts";

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
	const { document: doc, preview, busy } = useShotOf("document", "preview", "busy");
	const { frameSize, free, print, set, look, clean, zoom, warm } = useStudioOf(
		"frameSize",
		"free",
		"print",
		"set",
		"look",
		"clean",
		"zoom",
		"warm",
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
				});
			},
			proof: (proof) =>
				useStudio.setState((s) => ({
					proof: proof.pixels ? proof : { ...proof, pixels: s.proof?.pixels ?? null, clean: s.proof?.clean ?? false },
				})),
			shares: (shares) => useStudio.setState({ shares: new Map(shares.map((s) => [s.id, s])) }),
			trouble: (trouble) => useStudio.setState({ trouble }),
		});
		stage.current = client;
		set({ stage: client });
		return () => {
			client.close();
			stage.current = null;
			set({ stage: null, root: null, proof: null });
		};
	}, [set]);
	useEffect(() => {
		const show = () => stage.current?.show(preview ?? doc, preview === null);
		if (!preview || !useStudio.getState().heavy) return void show();
		stage.current?.hold();
		return afterPause(show);
	}, [doc, preview]);
	useEffect(() => {
		stage.current?.setProof(warm && !free && !print && look === "surfaces", frameSize.width, frameSize.height, clean);
	}, [frameSize, free, print, look, clean, warm]);
	useEffect(() => stage.current?.rest(busy), [busy]);
	useEffect(() => {
		const side = 1 / zoom.k;
		stage.current?.look(zoom.k > 1 ? { x: zoom.x - side / 2, y: zoom.y - side / 2, width: side, height: side } : null);
	}, [zoom]);
}
