/** What was tried and what came of it, as a table; and whether anything that must be was not. */
export class Report {
	private rows: [string, string, string][] = [];
	private failed = 0;

	/** A line for whoever watches. */
	say(text: string): void {
		process.stderr.write(`${text}\n`);
	}

	row(of: string, what: string, value: number | string): void {
		this.rows.push([of, what, String(value)]);
	}

	/** A value that must be as wanted. */
	must(of: string, what: string, value: number, wanted: number): void {
		const right = value === wanted;
		if (!right) this.failed++;
		this.row(of, what, right ? value : `${value}, where it must be ${wanted}`);
	}

	/** The table; false when something was not as it must be. */
	end(): boolean {
		const widths = [0, 1, 2].map((c) => Math.max(...this.rows.map((r) => r[c].length)));
		const line = (r: readonly string[]) => `| ${r.map((v, c) => v.padEnd(widths[c])).join(" | ")} |\n`;
		process.stdout.write(line(["of", "what", "result"]));
		process.stdout.write(line(widths.map((w) => "-".repeat(w))));
		for (const row of this.rows) process.stdout.write(line(row));
		process.stdout.write(this.failed ? `${this.failed} not as they must be\n` : "all as they must be\n");
		return this.failed === 0;
	}
}
