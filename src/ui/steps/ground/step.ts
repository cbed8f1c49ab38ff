import type { TicketStep } from "../step.ts";
import { GroundBody } from "./GroundBody.tsx";

export const ground: TicketStep = {
	stands: ({ doc: { ground, water } }) => (water.on ? `${ground.preset}, water` : ground.preset),
	Body: GroundBody,
};
