/** The rooms of the house and which way they may lean on each other (see docs/how-it-is-built.md). */
const rooms = {
	core: [],
	tracer: ["core"],
	makers: ["core"],
	store: ["core", "makers"],
	wire: ["core"],
	server: ["store", "wire", "core"],
	press: ["store", "tracer", "core"],
	cli: ["store", "tracer", "core"],
	ui: ["tracer", "makers", "wire", "core"],
	app: ["ui", "server", "store", "wire", "core"],
};
/** Within core: each may use itself and what stands before it. Rooms of one line may use each other. */
const order = [
	["maths", "colour"],
	["doc"],
	["formats", "volume"],
	["lens", "air", "match", "brief"],
	["ground", "shape"],
	["surface", "light", "time"],
	["dress"],
	["scene"],
	["study"],
	["out"],
];
/** Rooms of core that use nothing but these. */
const narrow = {
	finish: ["maths", "colour", "doc", "lens"],
};
/** What of other rooms the document may read: the schemas of kinds, which in turn read its numbers alone. */
const SCHEMAS = "^src/core/(shape|dress/rules|ground/ledger|surface/where)/([^/]+/schema|schemas)\\.ts$";
/** Within ui, likewise. */
const uiOrder = [
	["parts", "stage", "view"],
	["store"],
	["reference"],
	["frame"],
	["plan", "ribbon", "sheet", "strip"],
	["steps"],
	["room"],
];
const before = (list, name) => list.slice(0, list.findIndex((g) => g.includes(name)) + 1).flat();
const source = { pathNot: "\\.test\\.tsx?$" };

module.exports = {
	forbidden: [
		{
			name: "no-circles",
			severity: "error",
			from: {},
			// Types alone may go round: they are gone when anything runs.
			to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
		},
		...Object.entries(rooms).map(([room, may]) => ({
			name: `${room}-leans-on-${may.join("-") || "nothing"}`,
			severity: "error",
			from: { path: `^src/${room}/`, ...source },
			to: { path: "^(src|demo)/", pathNot: `^(src/(${[room, ...may].join("|")})/${room === "cli" ? "|demo/" : ""})` },
		})),
		...order.flat().map((name) => ({
			name: `core-${name}`,
			severity: "error",
			from: { path: `^src/core/${name}/`, pathNot: `\\.test\\.ts$|${SCHEMAS}` },
			to: {
				path: "^src/core/",
				pathNot: [`^src/core/(${before(order, name).join("|")})/`, ...(name === "doc" ? [SCHEMAS] : [])],
			},
		})),
		{
			name: "core-schemas",
			severity: "error",
			from: { path: SCHEMAS },
			to: { path: "^src/", pathNot: [SCHEMAS, "^src/core/doc/schema/(numbers|measure|curve|land)\\.ts$"] },
		},
		...Object.entries(narrow).map(([name, may]) => ({
			name: `core-${name}`,
			severity: "error",
			from: { path: `^src/core/${name}/`, ...source },
			to: { path: "^src/core/", pathNot: `^src/core/(${[name, ...may].join("|")})/` },
		})),
		{
			name: "core-has-no-other-room",
			severity: "error",
			from: { path: "^src/core/", pathNot: `^src/core/(${[...order.flat(), ...Object.keys(narrow)].join("|")})/` },
			to: {},
		},
		...uiOrder.flat().map((name) => ({
			name: `ui-${name}`,
			severity: "error",
			from: { path: `^src/ui/${name}/`, ...source },
			to: { path: "^src/ui/", pathNot: `^src/ui/(${before(uiOrder, name).join("|")})/` },
		})),
		{
			name: "core-is-pure",
			severity: "error",
			from: { path: "^src/core/", ...source },
			to: { dependencyTypes: ["core", "npm"], pathNot: "node_modules/(zod|immer|fflate)/" },
		},
	],
	options: {
		tsConfig: { fileName: "tsconfig.json" },
		tsPreCompilationDeps: true,
		exclude: "src/tracer/kernel|src/makers/[a-z]+/kernel|\\.next|build/",
		doNotFollow: { path: "node_modules" },
	},
};
