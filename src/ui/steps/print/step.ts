import type { TicketStep } from "../step.ts";
import { PrintMarks } from "./PartMark.tsx";
import { orderPrint, PrintBody } from "./PrintBody.tsx";

export const print: TicketStep = {
	stands: ({ prints }) => {
		if (prints.some((p) => p.state === "tracing" || p.state === "queued")) return "printing";
		return prints.length === 1 ? "1 print" : `${prints.length} prints`;
	},
	Body: PrintBody,
	useAct: () => ({ word: "Print", go: () => void orderPrint() }),
	Marks: PrintMarks,
};
