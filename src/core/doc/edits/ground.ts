import * as S from "../schema.ts";
import { define } from "./define.ts";

export const groundEdits = {
	"ground.set": define("ground", S.Ground.partial(), (d, e) => {
		Object.assign(d.ground, e);
	}),
	"water.set": define("water", S.Water.partial(), (d, e) => {
		Object.assign(d.water, e);
	}),
};
