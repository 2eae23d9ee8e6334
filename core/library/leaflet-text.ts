/** What the text of a leaflet seems to say, field by field. Nothing of it is taken before a person has seen it. */
import { waysWords } from "../model/labels";

/** One finding: where it stands and which field of a leaflet it would fill. */
export interface Proposal {
  /** Path in the leaflet, for example `switches.front`. */
  field: string;
  value: unknown;
  /** In words: what would be entered. */
  say: string;
  /** Line of the text, from 1, and what stands there. */
  line: number;
  text: string;
}

/** Colours of housings and wires as leaflets name them; the longest first, so that “dark blue” is not “blue”. */
const COLOURS = [
  "water blue",
  "light blue",
  "dark blue",
  "light green",
  "dark green",
  "black",
  "white",
  "brown",
  "violet",
  "purple",
  "green",
  "grey",
  "gray",
  "blue",
  "red",
  "yellow",
  "orange",
  "pink",
  "beige",
];
const COLOUR = `(${COLOURS.join("|")})`;
const LONGEST = 40_000;

/** Reads one line; several findings may stand in it. */
type Reader = (line: string) => { field: string; value: unknown; say: string }[];

/** The two plugs of a kit by the word beside them; ways, code letter and colour by the shapes in which people write them. */
const plug: Reader = (line) => {
  const ways = /(\d{1,3})\s*-?\s*(?:way|pin|pole|position)s?\b/i.exec(line)?.[1];
  if (!ways) return [];
  const field = /ribbon|video|picture|display|lvds|screen lead/i.test(line) ? "pictureLink" : "radioPlug";
  const keying = /\b(?:code|keying|key|letter)\s*:?\s*([A-Z])\b/.exec(line)?.[1];
  const colour = new RegExp(`\\b${COLOUR}\\b`, "i").exec(line)?.[1]?.toLowerCase();
  const found = { ways: Number(ways), ...(keying ? { keying } : {}), ...(colour ? { colour } : {}) };
  const name = field === "pictureLink" ? "Plug of the picture link" : "Radio plug";
  return Object.entries(found).map(([key, value]) => ({
    field: `${field}.${key}`,
    value,
    say: `${name}: ${key === "ways" ? waysWords(Number(value)) : key === "keying" ? `code letter ${value}` : value}`,
  }));
};

const formats: Reader = (line) => {
  const found = [...line.matchAll(/\b(\d{3,4})\s*[x×]\s*(\d{3,4})\b/g)].map((m) => `${m[1]}x${m[2]}`);
  return found.length === 0 ? [] : [{ field: "formats", value: found, say: `Screen formats: ${found.join(", ")}` }];
};

/** Jobs of loose wires, by the words that stand with a colour. */
const WIRE_JOBS: readonly [RegExp, string, string][] = [
  [/camera.{0,20}(?:feed|supply|power|\+)|(?:feed|supply|power).{0,20}camera/i, "cameraFeed", "camera feed"],
  [/revers/i, "reverseTrigger", "reverse trigger"],
];

const wires: Reader = (line) => {
  const look = new RegExp(`\\b${COLOUR}(?:\\s*[/-]\\s*${COLOUR})?\\b`, "i").exec(line);
  const job = WIRE_JOBS.find(([words]) => words.test(line));
  if (!look || !job || !/wire|lead|cable/i.test(line)) return [];
  const [base = "", tracer] = [look[1], look[2]].map((c) => c?.toLowerCase());
  const value = { job: job[1], base, ...(tracer ? { tracer } : {}) };
  return [{ field: `wires[${job[1]}]`, value, say: `${job[2]}: ${tracer ? `${base}, tracer ${tracer}` : base} wire` }];
};

/** Roles of switches, by their words. */
const ROLES: readonly [RegExp, string, string][] = [
  [/front.{0,20}(?:manual|by hand|key)/i, "manualFront", "front camera by hand"],
  [/front/i, "front", "front camera"],
  [/rear|revers/i, "rear", "added rear camera"],
  [/touch/i, "touch", "touch reader"],
  [/(?:old|older|wheel).{0,20}key/i, "olderKeys", "older wheel key messages"],
];

const SWITCH = /\b(?:sw(?:itch)?|dip)\s*\.?\s*(\d{1,2})\b/i;

const switches: Reader = (line) => {
  const count = /\b(\d{1,2})\s*(?:-\s*)?(?:small\s+)?(?:dip\s*)?switches\b/i.exec(line)?.[1];
  const number = SWITCH.exec(line)?.[1];
  const role = number ? ROLES.find(([words]) => words.test(line)) : undefined;
  return [
    ...(count ? [{ field: "switches.count", value: Number(count), say: `${count} switches in the bank` }] : []),
    ...(number && role
      ? [{ field: `switches.${role[1]}`, value: Number(number), say: `Switch ${number}: ${role[2]}` }]
      : []),
  ];
};

const hold: Reader = (line) => {
  const found =
    /(?:hold|press).{0,60}?(\d{1,2}(?:[.,]\d)?)\s*(?:(?:to|-|–)\s*(\d{1,2}(?:[.,]\d)?)\s*)?s(?:ec(?:onds?)?)?\b/i.exec(
      line,
    );
  if (!found) return [];
  const number = (text: string) => Number(text.replace(",", "."));
  const min = number(found[1] ?? "");
  const max = found[2] ? number(found[2]) : min + 2;
  return [{ field: "holdS", value: { min, max }, say: `The key is held for ${min} to ${max} s` }];
};

const firmware: Reader = (line) => {
  const found = /(?:firmware|software|version)\D{0,30}?([A-Z]{0,3}\d?[A-Z]?-?\d+(?:[.-]\d+)+|[A-Z]\d-\d+)/i.exec(
    line,
  )?.[1];
  return found && /or newer|at least|from|minimum|and above|or later/i.test(line)
    ? [{ field: "firmwareFloor", value: found, say: `Lowest firmware of the radio: ${found}` }]
    : [];
};

const SOUND: readonly [RegExp, string, string][] = [
  [/line[ -]?in(?:put)?|\baux\b/i, "line", "line input"],
  [/(?:car|factory|own).{0,12}bluetooth|bluetooth audio/i, "carBluetooth", "the car's own Bluetooth"],
  [/usb.{0,12}(?:sound|audio)/i, "usbSound", "USB sound adapter"],
];

const sound: Reader = (line) =>
  SOUND.flatMap(([words, value, name]) =>
    words.test(line) ? [{ field: `soundPaths[${value}]`, value, say: `Sound path: ${name}` }] : [],
  );

const FLAGS: readonly [RegExp, string, string][] = [
  [/touch\s*(?:screen|panel|reader|control)/i, "touch", "touch"],
  [/optical|fib(?:re|er)|ring\b/i, "ring", "optical ring"],
  [/both ways round|either way|reversible/i, "reversible", "a picture plug that goes in both ways round"],
  [/(?:loaded|programmed|coded).{0,30}computer|comes blank/i, "blank", "loading from a computer"],
];

/** A “no” counts for its own sentence; a line of the switch table says where a thing is set, not that it is there. */
const flags: Reader = (line) => {
  if (SWITCH.test(line)) return [];
  return line.split(/[.;](?:\s|$)/).flatMap((sentence) => {
    const no = /\b(?:no|not|without)\b/i.test(sentence);
    return FLAGS.flatMap(([words, field, name]) =>
      words.test(sentence) ? [{ field, value: !no, say: no ? `Without ${name}` : `With ${name}` }] : [],
    );
  });
};

const price: Reader = (line) => {
  const found = /(?:price\b[^\d]{0,30}|€|£|\$|EUR|GBP)\s*(\d{1,5}(?:[.,]\d{2})?)\b/i.exec(line)?.[1];
  return found ? [{ field: "price", value: Number(found.replace(",", ".")), say: `Price: ${found}` }] : [];
};

const READERS: readonly Reader[] = [plug, formats, wires, switches, hold, firmware, sound, flags, price];

/**
 * Searches the text of a leaflet for plugs, formats, wire colours, the switch table, box contents and the like.
 *
 * @param fields names of the fields that the leaflet at hand has: nothing else is proposed
 * @returns in the order of the text, each finding once; a later line that says the same field otherwise stays beside it
 */
export function readLeafletText(text: string, fields: ReadonlySet<string>): Proposal[] {
  const lines = text.slice(0, LONGEST).split(/\r?\n/);
  const found: Proposal[] = [];
  const box: { say: string; line: number }[] = [];
  let inBox = false;
  for (const [i, raw] of lines.entries()) {
    const line = raw.trim();
    if (/^(?:in the box|box contents?|contents?|package|included|what's in)/i.test(line)) {
      inBox = true;
      box.push(...itemsOf(line.replace(/^[^:]*:?/, "")).map((say) => ({ say, line: i + 1 })));
      continue;
    }
    if (inBox && line === "") inBox = false;
    if (inBox) box.push(...itemsOf(line).map((say) => ({ say, line: i + 1 })));
    else
      for (const read of READERS)
        for (const p of read(line)) found.push({ ...p, line: i + 1, text: line.slice(0, 160) });
  }
  const first = box[0];
  if (first)
    found.push({
      field: "box",
      value: box.map((b) => b.say),
      say: `In the box: ${box.map((b) => b.say).join("; ")}`,
      line: first.line,
      text: lines[first.line - 1]?.trim().slice(0, 160) ?? "",
    });
  const seen = new Set<string>();
  /** True for the first that says the same. */
  const isNew = (p: Proposal) => {
    const name = `${p.field} ${JSON.stringify(p.value)}`;
    return !seen.has(name) && seen.add(name);
  };
  return found
    .filter((p) => fields.has(p.field.split(/[.[]/)[0] ?? ""))
    .filter(isNew)
    .sort((a, b) => a.line - b.line);
}

/** The items of a line: by bullets, commas or semicolons. */
function itemsOf(line: string): string[] {
  return line
    .replace(/^[-*•–\d.)\s]+/, "")
    .split(/[;,]\s*/)
    .map((t) => t.trim())
    .filter((t) => t.length > 1)
    .map((t) => t.charAt(0).toUpperCase() + t.slice(1));
}

/** A leaflet with some proposals taken over; lists grow, everything else is replaced. */
export function withProposals(leaflet: Record<string, unknown>, taken: readonly Proposal[]): Record<string, unknown> {
  const next = structuredClone(leaflet);
  for (const { field, value } of taken) {
    const member = /^(\w+)\[(\w+)\]$/.exec(field);
    if (member) {
      const [, list = "", id = ""] = member;
      const items = Array.isArray(next[list]) ? (next[list] as unknown[]) : [];
      const same = (x: unknown) => x === id || (typeof x === "object" && x !== null && "job" in x && x.job === id);
      next[list] = [...items.filter((x) => !same(x)), value];
      continue;
    }
    const [head = "", key] = field.split(".");
    if (key === undefined) next[head] = value;
    else next[head] = { ...(next[head] as object | undefined), [key]: value };
  }
  return next;
}
