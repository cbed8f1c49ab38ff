import { z } from "zod";
import * as S from "../schema.ts";
import { define, EditError, find, refuseTaken } from "./define.ts";

export const printEdits = {
	"finish.set": define("finish", S.Finish.partial(), (d, e) => {
		Object.assign(d.finish, e);
	}),
	"delivery.add": define("add a delivery", z.object({ delivery: S.Delivery }), (d, e) => {
		d.deliveries ??= [];
		refuseTaken(d.deliveries, e.delivery.id, "delivery");
		if (d.deliveries.length >= S.MOST_DELIVERIES)
			throw new EditError("full", `A shot has at most ${S.MOST_DELIVERIES} deliveries. Take one away first.`);
		d.deliveries.push(e.delivery);
	}),
	"delivery.set": define(
		"delivery",
		z.object({ id: S.Id, change: S.Delivery.omit({ id: true }).partial() }),
		(d, e) => {
			Object.assign(find(d.deliveries ?? [], e.id, "delivery"), e.change);
		},
	),
	"delivery.remove": define("take a delivery away", z.object({ id: S.Id }), (d, e) => {
		find(d.deliveries ?? [], e.id, "delivery");
		d.deliveries = d.deliveries?.filter((x) => x.id !== e.id);
	}),
	"print.set": define("print settings", S.PrintSettings.partial(), (d, e) => {
		Object.assign(d.print, e);
	}),
};
