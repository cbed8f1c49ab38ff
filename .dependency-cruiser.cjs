/** The rooms of the house and which way they may lean on each other (see docs/how-it-is-built.md). */
const rooms = {
	core: [],
	tracer: ["core"],
	store: ["core"],
	wire: ["core"],
	server: ["store", "wire", "core"],
	press: ["store", "tracer", "core"],
	cli: ["store", "tracer", "core"],
	ui: ["tracer", "wire", "core"],
	app: ["ui", "server", "store", "wire", "core"],
};
/** Within core: each may use itself, what stands before it, and maths, colour and doc. */
const order = [
	["maths", "colour"],
	["doc"],
	["lens", "air"],
	["ground", "shape"],
	["surface", "light"],
	["dress"],
	["scene"],
	["study"],
];
const before = (name) => order.slice(0, order.findIndex((g) => g.includes(name)) + 1).flat();

module.exports = {
	forbidden: [
		{ name: "no-circles", severity: "error", from: {}, to: { circular: true, dependencyTypesNot: ["type-only"] } },
		...Object.entries(rooms).map(([room, may]) => ({
			name: `${room}-leans-on-${may.join("-") || "nothing"}`,
			severity: "error",
			from: { path: `^src/${room}/`, pathNot: "\\.test\\.ts$" },
			to: { path: "^(src|demo)/", pathNot: `^(src/(${[room, ...may].join("|")})/${room === "cli" ? "|demo/" : ""})` },
		})),
		...order.flat().map((name) => ({
			name: `core-${name}`,
			severity: "error",
			from: { path: `^src/core/${name}/`, pathNot: "\\.test\\.ts$" },
			to: { path: "^src/core/", pathNot: `^src/core/(${before(name).join("|")})/` },
		})),
		...["finish", "formats"].map((name) => ({
			name: `core-${name}`,
			severity: "error",
			from: { path: `^src/core/${name}/`, pathNot: "\\.test\\.ts$" },
			to: { path: "^src/core/", pathNot: `^src/core/(${name}|maths|colour|doc)/` },
		})),
		{
			name: "core-is-pure",
			severity: "error",
			from: { path: "^src/core/", pathNot: "\\.test\\.ts$" },
			to: { dependencyTypes: ["core", "npm"], pathNot: "node_modules/(zod|immer|fflate)/" },
		},
	],
	options: {
		tsConfig: { fileName: "tsconfig.json" },
		tsPreCompilationDeps: true,
		exclude: "src/tracer/kernel|\\.next|build/",
		doNotFollow: { path: "node_modules" },
	},
};
