"use client";
/** The planet under land and water: how large it is, and where its horizon lies for this lens. */
import { EARTH_M, horizonOf } from "../../../core/ground/planet.ts";
import { frameOfView, horizonRow } from "../../../core/lens/camera.ts";
import { YesNo } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { EditRule } from "../EditRule.tsx";

const EARTH_KM = Math.round(EARTH_M / 1000);
/** Width of the print by whose pixels the horizon is told. */
const PRINT_PX = 1920;

const kilometres = (m: number): string => `${(m / 1000).toFixed(m < 10_000 ? 1 : 0)} km`;

export function PlanetLines() {
	const { ground, water, camera } = useShown();
	const { commit } = useShot.getState();
	const radiusKm = ground.planetKm === undefined ? EARTH_KM : ground.planetKm;
	const { dip, awayM } = horizonOf({ ground, water, camera });
	const view = frameOfView(camera);
	const sunk = ((horizonRow(view, 0.5, dip) - horizonRow(view, 0.5)) * PRINT_PX) / camera.ratio;
	const lies = Number.isFinite(sunk) ? `, ${sunk.toFixed(1)} px of ${PRINT_PX} under the level line` : "";
	const told =
		dip > 0 ? `Open horizon ${kilometres(awayM)} off${lies}.` : "The lens lies below the sea: no open horizon.";
	return (
		<>
			<YesNo
				label="The world"
				value={radiusKm !== null}
				yes="a planet"
				no="flat"
				onPick={(round) => commit({ name: "ground.set", planetKm: round ? EARTH_KM : null })}
			/>
			{radiusKm !== null && (
				<EditRule
					label="Its radius"
					value={radiusKm}
					unit="km"
					min={100}
					max={100_000}
					digits={0}
					logarithmic
					edit={(planetKm) => ({ name: "ground.set", planetKm })}
					says={told}
				/>
			)}
		</>
	);
}
