/** All where rules by their kinds. */
import type { Rule } from "../../doc/schema.ts";
import * as makers from "./makers.ts";
import type { WhereRule } from "./rule.ts";

export const RULES: { [K in Rule["kind"]]: WhereRule<Extract<Rule, { kind: K }>> } = makers;

export const ruleOf = (rule: Pick<Rule, "kind">): WhereRule => RULES[rule.kind] as WhereRule;

/** The where rules that a new cover starts with. */
export const usualRules = (): Rule[] =>
	(Object.values(RULES) as WhereRule[])
		.filter((r) => r.usually !== null)
		.sort((a, b) => (a.usually as number) - (b.usually as number))
		.map((r) => ({ ...r.usual }));
