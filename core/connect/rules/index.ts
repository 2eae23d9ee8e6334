/**
 * The rules of the trade for connections, each with its identifier. A rule looks at one prepared context and says what
 * it found; a new rule is one function and one line here.
 */
import { busFindings } from "./bus";
import { colourFindings } from "./colours";
import { type CheckContext, prepare } from "./context";
import { openFactoryPlugs } from "./factory";
import type { CheckInput, Finding } from "./finding";
import { placeFindings } from "./places";
import { exchangeRisks, kindFindings, matingFindings, reversedFindings, reversibleRisks } from "./plugs";
import { reverseFindings } from "./reverse";
import { ringFindings } from "./ring";
import { driverFindings, shortFindings } from "./signals";
import { needFindings, wiringFindings } from "./supply";

export type { CheckInput, Finding } from "./finding";

const RULES: readonly ((context: CheckContext) => Finding[])[] = [
  shortFindings,
  matingFindings,
  kindFindings,
  reversedFindings,
  driverFindings,
  openFactoryPlugs,
  needFindings,
  wiringFindings,
  ringFindings,
  reverseFindings,
  busFindings,
  placeFindings,
  colourFindings,
  exchangeRisks,
  reversibleRisks,
];

const ORDER = { stop: 0, watch: 1, note: 2 } as const;

/** Checks the connections of a system against the rules of the trade; what stops the job comes first. */
export function checkConnections(input: CheckInput): Finding[] {
  const context = prepare(input);
  return RULES.flatMap((rule) => rule(context)).sort((a, b) => ORDER[a.level] - ORDER[b.level]);
}
