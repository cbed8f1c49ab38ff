"use client";
/** The solver's answer, made once for all who read it. */
import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef } from "react";
import type { ShotDocument } from "../../core/doc/schema.ts";
import { useShot, useShown } from "../store/shotStore.ts";
import { becameWorse, type MatchResult, solveMatch } from "./match.ts";

const Result = createContext<MatchResult | null>(null);

/** Solves again with every movement of a line. */
export function MatchResultProvider({ children }: { children: ReactNode }) {
	const doc = useShown();
	const { match, references, shown, camera } = doc;
	// biome-ignore lint/correctness/useExhaustiveDependencies: only these parts of the document enter the match
	const result = useMemo(
		() => solveMatch(doc),
		[match, references, shown.reference, camera.film.widthMm, camera.ratio],
	);
	const held = useRef<{ doc: ShotDocument; result: MatchResult } | null>(null);
	const stands = useShot((s) => s.preview === null);
	useEffect(() => {
		// What a gesture previews is judged when it has ended.
		if (!stands || held.current?.doc.match === doc.match) return;
		const now = { doc, result };
		const worse = held.current && becameWorse(held.current, now);
		held.current = now;
		if (worse) useShot.getState().say(worse);
	}, [doc, result, stands]);
	return <Result.Provider value={result}>{children}</Result.Provider>;
}

export const useMatchResult = (): MatchResult | null => useContext(Result);
