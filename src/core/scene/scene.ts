/**
 * The one thing that every picture is made from. A scene is a small root and keyed, immutable parts; a part's key is
 * the digest of everything it was made from, so receivers keep parts by key and get only what is new.
 */
import type { Dome } from "../air/dome.ts";
import type { FogShape } from "../air/fog.ts";
import type { Camera, Finish } from "../doc/schema.ts";
import type { CellPlants } from "../dress/placeCover.ts";
import type { Planet } from "../ground/planet.ts";
import type { Wave } from "../ground/ripples.ts";
import type { Fan } from "../ground/water/foam.ts";
import type { SceneLight } from "../light/lamps.ts";
import type { Mesh } from "../maths/mesh.ts";
import type { Mat34, Vec3 } from "../maths/vec.ts";
import type { Face } from "../shape/geometry.ts";
import type { Recipe } from "../surface/recipe.ts";
import type { Sheet } from "../surface/sheet.ts";
import type { Band } from "../surface/where/where.ts";
import type { Volume } from "../volume/volume.ts";

export interface MeshPart {
	kind: "mesh";
	key: string;
	mesh: Mesh;
	/** Faces of a piece's body; none of ground, plants and lamps. */
	faces?: readonly Face[];
	/** For copies that are small in the working view, and for its ground; pictures are traced with `mesh`. */
	coarse?: Mesh;
}

export type ScenePart =
	| MeshPart
	| { kind: "plants"; key: string; plants: CellPlants }
	| { kind: "table"; key: string; data: Float32Array }
	| { kind: "texels"; key: string; data: Uint32Array }
	| { kind: "sheet"; key: string; sheet: Sheet }
	| { kind: "volume"; key: string; volume: Volume };

/** A sheet as it lies on a surface. */
export interface SceneLayer {
	/** Its part. */
	sheet: string;
	grain: Recipe["grain"];
	seed: number;
	/** Side after which it repeats, metres. */
	acrossM: number;
	/** Radians. */
	turn: number;
	/** Metres from its lowest to its highest. */
	depthM: number;
	/** How thick what lies over another is besides, metres; 0 without. */
	thickM?: number;
	/** Share in which its mean is the surface's own colour. */
	tint: number;
	wet: number;
	/** Times its colour; and by how much it is rougher. */
	shade?: Vec3;
	rougher?: number;
	/** How far it is worn from the top, and filled with dirt from the bottom. */
	worn?: number;
	dirt?: number;
	/** It counts from the world's own middle, not from the piece's. */
	world: boolean;
	/** How much of it there is at most, and where: all bands together. The first of several is all there is, unless it lies on what is bare. */
	share: number;
	where: readonly Band[];
	/** It is the first, over the material's own colour. */
	bare?: true;
	/**
	 * It does not repeat: it fills the box of its last band that is one, and what its texels say of metal is how much of it is there. `along`
	 * is by how much its slopes up and down are steeper than those across. What is relief has no colour of its own; what cuts out its body is
	 * whole wherever that is.
	 */
	once?: { along: number; as: "picture" | "relief" | "cut" };
}

export interface Material {
	colour: Vec3;
	roughness: number;
	metal: number;
	translucency: number;
	/** Share and roughness of a clear coat. */
	coat?: number;
	coatRoughness?: number;
	/**
	 * A pane or a body of glass; `tint` is what one passage of a pane leaves, or extinction per metre in a body. `water` is the surface of
	 * such a body, which lies in the land and ripples as all water of the scene does; where it slopes it runs, at `runs` m/s times the
	 * root of its slope.
	 */
	glass?: { pane: boolean; index: number; tint: Vec3; water?: boolean; runs?: number } | null;
	/** What lies on it, the lowest first. */
	layers?: readonly SceneLayer[];
	/** It is only where its first layer, which fills the body's front of one by one, is there. */
	cut?: true;
	/** Light that it sends out, cd/m²; the tracer has it from the light whose body it is. */
	glow?: Vec3;
}

/** A mesh standing somewhere. The transform is in float64 and in world metres. */
export interface Draw {
	mesh: string;
	/** Where it is in the middle of the shutter's time. */
	transform: Mat34;
	/** Where it is when the shutter opens and when it closes; none of what stands still. */
	way?: readonly [Mat34, Mat34];
	material: number;
	/** Number in the id layer. */
	id: number;
	/** Index of the light that it is the body of. */
	light?: number;
	/** What it is without the relief of its surface, for whoever does without: files for other programs, measures. */
	flat?: string;
	/** Pictures are traced with it; the working view and files for other programs have something simpler in its place. */
	traced?: true;
}

/** Draws as files for other programs have them: without what is traced alone, and without relief. */
export const drawsForFiles = ({ draws }: Pick<SceneRoot, "draws">): Draw[] =>
	draws.filter(({ traced }) => !traced).map((draw) => (draw.flat ? { ...draw, mesh: draw.flat } : draw));

export interface CoverDraw {
	coverId: string;
	cells: string[];
	/** Mesh of each variant. */
	meshes: string[];
	material: number;
	id: number;
	count: number;
}

export interface SceneFog extends FogShape {
	g: number;
	albedo: Vec3;
	skyClear: boolean;
}

export interface SceneWater {
	/** Of the level plane of the sea; null where there is none, and water lies in the land alone. */
	levelM: number | null;
	/** Its waves are true shapes, among the draws: the plane lies beyond them alone. */
	meshed?: true;
	waves: Wave[];
	/** The moment, seconds: what runs has gone so long. */
	timeS?: number;
	/** Where it is white before the lens: its fan, and the table of its shares. */
	foam?: Fan & { shares: string };
	absorbPerM: Vec3;
}

/** A sky picture hung around the scene, its tables by key; see `core/air/skyPicture.ts`. */
export interface ScenePicture {
	texels: string;
	nodes: string;
	ring: string;
	small: string;
	width: number;
	height: number;
	columns: number;
	rows: number;
	/** Parts of a full turn, clockwise from above. */
	turn: number;
	/** cd/m² of a unit of the texels. */
	gain: number;
	saturation: number;
	/** The scene's sun is that of the picture. */
	ownSun: boolean;
}

export interface SceneRoot {
	/** As it is in the middle of the shutter's time. */
	camera: Camera;
	/** The camera when the shutter opens and when it closes; null while it stands still. */
	shutter: { opening: Camera; closing: Camera } | null;
	/** How many times as wide and as high as the frame what is made for it, so that its lens may bend in what lies beyond. */
	room: number;
	/** What land and water lie on, and where it is level with the scene; null where the world is flat. Draws lie on it as they are. */
	planet: Planet | null;
	/** World place that receivers count from: the lens, or near it while it moves. */
	origin: Vec3;
	finish: Finish;
	dome: Omit<Dome, "sky" | "cloud"> & { sky: string; cloud: string; grid: string; picture: ScenePicture | null };
	fog: SceneFog;
	water: SceneWater | null;
	materials: Material[];
	draws: Draw[];
	/** Lamps and glowing pieces. */
	lights: SceneLight[];
	covers: CoverDraw[];
	/** Names by number in the id layer: 0 sky, 1 ground, 2 water, then pieces, covers and lamps in order. */
	ids: { id: string; name: string }[];
	/** Its surfaces have not been shaped by their relief: it is to be compiled whole. */
	level?: true;
	/** Pieces of which nothing is left after what is done to them. */
	gone?: string[];
	/** Words for surfaces that are laid and not known any more. */
	unknownSurfaces?: string[];
}

export interface Scene {
	root: SceneRoot;
	parts: Map<string, ScenePart>;
}
