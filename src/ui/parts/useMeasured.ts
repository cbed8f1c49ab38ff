import { useCallback, useState } from "react";

/** The size of an element in pixels, kept while it changes, and what is to be its `ref`. */
export function useMeasured(first: { width: number; height: number }) {
	const [size, setSize] = useState(first);
	const measure = useCallback((element: HTMLElement | null) => {
		if (!element) return;
		const observer = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
		observer.observe(element);
		return () => observer.disconnect();
	}, []);
	return [size, measure] as const;
}
