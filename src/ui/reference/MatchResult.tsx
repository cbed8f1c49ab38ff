"use client";
/** The solver's answer, made once for all who read it. */
import { createContext, type ReactNode, useContext, useMemo } from "react";
import { useShown } from "../store/shotStore.ts";
import { type MatchResult, solveMatch } from "./match.ts";

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
	return <Result.Provider value={result}>{children}</Result.Provider>;
}

export const useMatchResult = (): MatchResult | null => useContext(Result);
