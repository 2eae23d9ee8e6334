/** Rules about plugs: what goes into what, and what could go in wrongly. */
import { exchangeable } from "../../model/fault-kinds/plugs";
import { KIND_NAMES, layerOf } from "../../model/kinds";
import { describePort } from "../../model/labels";
import { matedContacts, mates } from "../../model/mating";
import { findPort } from "../../model/ports";
import type { Link, System } from "../../model/types";
import type { CheckContext } from "./context";
import type { Finding } from "./finding";

const ends = (system: System, link: Link) => `${describePort(system, link.a)} – ${describePort(system, link.b)}`;

/** Both halves must be of one family, with as many ways, one male and one female, of one keying. */
export function matingFindings({ system, plugged }: CheckContext): Finding[] {
  return plugged.flatMap((link): Finding[] => {
    if (link.air) return [];
    const [a, b] = [findPort(system, link.a), findPort(system, link.b)];
    if (!a || !b || (!a.connector && !b.connector)) return [];
    const problem = mates(a, b);
    if (!problem) return [];
    return [
      {
        rule: "mating",
        level: "stop",
        link: link.id,
        where: ends(system, link),
        text: problem.text,
        remedy: "These two halves are not meant for each other. Look for the right place of each.",
      },
    ];
  });
}

/** Contacts that touch must carry one kind of signal. Jacks and small plugs mate whatever they carry. */
export function kindFindings({ system, plugged }: CheckContext): Finding[] {
  return plugged.flatMap((link): Finding[] => {
    const [a, b] = [findPort(system, link.a), findPort(system, link.b)];
    if (!a || !b) return [];
    const pair = matedContacts(a, b, link.reversed ?? false).find(([x, y]) => y && x.kind !== y.kind);
    const [x, y] = pair ?? [];
    // Halves that do not mate are told by their own rule.
    if (!x || !y || (a.connector && b.connector && mates(a, b))) return [];
    const kinds = [x.kind, y.kind];
    const feed = kinds.some((k) => layerOf(k) === 0 && k !== "ground");
    const jack = kinds.includes("microphone") && kinds.includes("lineAudio");
    return [
      {
        rule: jack ? "microphone-jack" : "contact-kind",
        level: "stop",
        link: link.id,
        where: ends(system, link),
        text: jack
          ? "The microphone sits in the jack of the line audio. Nobody hears the voice, and the line output drives the microphone."
          : `Contact ${x.id} carries ${KIND_NAMES[x.kind]} on one half and ${KIND_NAMES[y.kind]} on the other.`,
        remedy: jack
          ? "Pull it and look for the jack with the sign of a microphone."
          : "One of the leads is in the wrong place.",
        ...(feed ? { damages: `${KIND_NAMES[layerOf(x.kind) === 0 ? x.kind : y.kind]} on a signal contact` } : {}),
      },
    ];
  });
}

/** Plugs of the kit that each fit in the other's place. Known before plugging, so that one looks twice. */
export function exchangeRisks({ system, plugged, kitParts }: CheckContext): Finding[] {
  const mine = plugged.filter((l) => !l.air && kitParts.has(l.a.split(".")[0] ?? ""));
  return mine.flatMap((one, i) =>
    mine.slice(i + 1).flatMap((two): Finding[] => {
      if (!exchangeable(system, one, two)) return [];
      const [x, y] = [one.b, two.b].map((p) => findPort(system, p));
      const colours = [x, y].map((p) => p?.connector?.colour).filter(Boolean);
      return [
        {
          rule: "exchange-risk",
          level: "note",
          link: one.id,
          where: `${describePort(system, one.b)} and ${describePort(system, two.b)}`,
          text: "Each of the two plugs fits in the other's place.",
          remedy:
            colours.length === 2 && colours[0] !== colours[1]
              ? `Read the labels, then compare the colours: ${x?.label} ${colours[0]}, ${y?.label} ${colours[1]}.`
              : "Colours do not tell them apart: read the labels, and mark the first one before the second goes in.",
        },
      ];
    }),
  );
}

/** Plugs that go in both ways round. */
export function reversibleRisks({ system, plugged, kitParts }: CheckContext): Finding[] {
  return plugged.flatMap((link): Finding[] => {
    if (link.reversed || ![link.a, link.b].some((p) => kitParts.has(p.split(".")[0] ?? ""))) return [];
    if (!isReversible(system, link)) return [];
    return [
      {
        rule: "reversible",
        level: "note",
        link: link.id,
        where: ends(system, link),
        text: "This plug goes in both ways round and makes contact only one way.",
        remedy: "Open the lock bar, contact side as the drawing shows, push in square, shut the bar.",
      },
    ];
  });
}

export function isReversible(system: System, link: Pick<Link, "a" | "b">): boolean {
  return [link.a, link.b].some((p) => findPort(system, p)?.connector?.reversible);
}

/** A plug that the technician marked as turned over. */
export function reversedFindings({ system, plugged }: CheckContext): Finding[] {
  return plugged.flatMap((link): Finding[] =>
    link.reversed
      ? [
          {
            rule: "reversed",
            level: "stop",
            link: link.id,
            where: ends(system, link),
            text: "It sits the wrong way round: the contacts are exchanged from end to end.",
            remedy: "Power out, lock open, turn it over, lock shut.",
            fix: {
              say: "It is turned over",
              press: [{ kind: "connect.plug", data: { link: link.id, plugged: true } }],
            },
          },
        ]
      : [],
  );
}
