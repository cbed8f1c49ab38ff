import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 3;

export const rivetedPlate: Recipe = {
	name: "plate, riveted and painted",
	family: "metal",
	found: "ship hull dock iron grey boiler",
	sideM: SIDE_M,
	depthMm: 13,
	grain: { blocks: 1 },
	made: (p) => {
		const plate = p.courses({ rows: 2, inRow: 1, shift: 0.5 }, SIDE_M);
		const seam = plate.edgeM.between(0.004, 0);
		const far = plate.edgeM.minus(0.045).absolute;
		const rivets = p.here.u.times(40).minus(p.here.u.times(40).floor).minus(0.5).by(40).times(SIDE_M);
		const upright = p.here.v.times(40).minus(p.here.v.times(40).floor).minus(0.5).by(40).times(SIDE_M);
		const byRow = plate.underM.minus(0.045).squared.plus(rivets.squared).root;
		const byColumn = plate.asideM.minus(0.045).squared.plus(upright.squared).root;
		const rivet = byRow.atMost(byColumn).by(0.013).from(1).round;
		const rust = p
			.cloudy({ cells: 5, octaves: 7, gain: 0.6 })
			.plus(far.between(0.06, 0).times(0.16))
			.plus(seam.times(0.2))
			.between(0.16, 0.3);
		const scale = p.cloudy({ cells: 80, octaves: 4 });
		const heightMm = rivet
			.times(7)
			.minus(seam.times(3))
			.plus(p.cloudy({ cells: 4, octaves: 3 }).times(4))
			.plus(rust.times(scale));
		const brown = blend([0.1, 0.036, 0.014], [0.27, 0.1, 0.035], scale.plus(0.5));
		const colour = blend([0.1, 0.11, 0.115], [0.16, 0.17, 0.175], p.cloudy({ cells: 6 }).plus(0.5)).under(brown, rust);
		return { heightMm, colour, roughness: rust.times(0.4).plus(0.45) };
	},
};
