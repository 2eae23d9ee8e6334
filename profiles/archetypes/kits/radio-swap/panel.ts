import { lowerFirst } from "../../../../core/model/labels";
import type { KitProfile, KitStep } from "../../../../core/model/profile";
import { pressed } from "../../car/fittings";
import { CLIMATE, ZONES } from "../../car/plugs";
import { KNOB } from "../../radio/plugs";
import type { RadioSwapLeaflet } from "./leaflet";

/** The new bezel brings its own climate panel: what it has no key for is lost, what the car has no flap for is dead. */
export function addPanel(l: RadioSwapLeaflet, kit: KitProfile): void {
  const zones = l.climateZones;
  const oneZone = { fact: "bodyComputer.climateZones", is: ["1"] };
  kit.parts.push(
    pressed(
      "climatePanel",
      "Climate panel in the new bezel",
      CLIMATE,
      3,
      ZONES.slice(0, zones).map((z) => [z.id, z.press]),
    ),
  );
  kit.plug.push({
    id: "k-climate",
    a: "climatePanel.main",
    b: "loom.climatePanel",
    say: "Climate plug into the new bezel",
  });
  kit.needs.push(...l.blanks.map((b) => ({ kind: "part" as const, say: `Blank: ${lowerFirst(b)}`, price: 6 })));
  kit.steps = [...(kit.steps ?? []), bezel(l)];
  if (zones < 2) return;
  kit.needs.push({
    kind: "person",
    say: "Tell the customer: two zones on the panel, one in the car; both keys set one temperature",
    when: oneZone,
  });
  kit.card.push({ say: "The keys of the right zone do nothing: this car has one climate zone.", when: oneZone });
  kit.normal = [
    ...(kit.normal ?? []),
    {
      id: "deadZone",
      title: "The right zone has no flap",
      seen: "The keys of the right zone change the display and not the air.",
      why: "The panel is made for two zones and this car has one.",
      remedy: "Nothing to mend; the customer was told.",
      functions: ["climateLeft", "climateRight"],
      when: oneZone,
    },
  ];
}

/** The old panel is emptied into the new bezel before it goes in. */
function bezel(l: RadioSwapLeaflet): KitStep {
  return {
    id: "kit-bezel",
    title: "Old panel emptied into the new bezel",
    detail: `Move over: ${l.transfers.join(", ")}. The screws behind the old screen are seen only once it is out.`,
    back: { title: "New bezel in", detail: "Every switch plugged before it clicks; blanks in, no opening left." },
    behind: "climatePanel.main",
    after: [],
    minutes: { low: 6, likely: 10, high: 20 },
    tool: "T10",
    level: "middle",
    fasteners: [
      { kind: "T10 screw", count: 4, lengthMm: 10, tray: "U1", place: "behind the screen", hiddenBehind: "screen" },
    ],
    transfer: l.transfers,
    ...(l.blanks.length > 0 ? { blanks: l.blanks } : {}),
  };
}

export function addKnob(kit: KitProfile): void {
  const when = { choice: "knob", is: ["knob"] };
  kit.parts.push({ ...pressed("volumeKnob", "Volume knob with its harness", KNOB, 2, [["1", "knob"]]), when });
  kit.plug.push({
    id: "k-knob",
    a: "volumeKnob.main",
    b: "radio.knob",
    say: "Small harness of the volume knob into the new module",
    when,
  });
  kit.choices.push({
    id: "knob",
    label: "Volume knob",
    kind: "offer",
    default: "none",
    options: [
      { id: "none", label: "Panel without knob", why: "Volume only by the wheel keys." },
      {
        id: "knob",
        label: "Panel with knob and small harness",
        why: "Needed where the wheel has no volume keys.",
        price: 85,
        minutes: 10,
      },
    ],
  });
  kit.needs.push({
    kind: "part",
    say: "Order the panel with knob: the wheel of this car has no volume keys",
    when: { all: [{ fact: "bodyComputer.wheelKeys", is: ["no"] }, { not: when }] },
  });
}
