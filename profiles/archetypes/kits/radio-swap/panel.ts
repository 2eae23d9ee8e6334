import type { KitProfile } from "../../../../core/model/profile";
import { pressed } from "../../car/fittings";
import { CLIMATE, ZONES } from "../../car/plugs";
import { KNOB } from "../../radio/plugs";

/** The new bezel brings its own climate panel: what it has no key for is lost, what the car has no flap for is dead. */
export function addPanel(zones: number, kit: KitProfile): void {
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
  kit.needs.push(
    { kind: "part", say: "Blank for the mode key without hardware", price: 6 },
    { kind: "part", say: "Hazard switch, vents and lighter socket move over from the old panel" },
    { kind: "person", say: "Tell the customer: a two-zone panel on a single-zone car sets one temperature" },
  );
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
}
