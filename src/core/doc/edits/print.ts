import * as S from "../schema.ts";
import { define } from "./define.ts";

export const printEdits = {
	"finish.set": define("finish", S.Finish.partial(), (d, e) => {
		Object.assign(d.finish, e);
	}),
	"print.set": define("print settings", S.PrintSettings.partial(), (d, e) => {
		Object.assign(d.print, e);
	}),
};
