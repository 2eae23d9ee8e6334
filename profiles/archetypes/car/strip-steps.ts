import type { StripStep } from "../../../core/model/profile";
import type { CarLeaflet } from "./index";

/** A plain way into the dash; the shop replaces it by what it finds on the car. */
export function stripSteps(l: CarLeaflet): StripStep[] {
  const ritual: StripStep[] =
    l.gearbox === "automatic"
      ? [
          step("key-on", "Ignition on", "Engine stays off.", ["brake"], 0.5, { sets: { key: "on" } }),
          step(
            "selector-out",
            "Foot on the brake, selector to neutral",
            "The console panel passes the lever only in neutral.",
            ["key-on"],
            0.5,
            {
              sets: { selector: "N" },
              requires: { parkingBrake: true, key: "on" },
            },
          ),
          step("console", "Console panel out", "Lift at the rear edge, then pull back.", ["selector-out"], 3, {
            tool: "plastic wedge",
            panel: "console panel",
            requires: { selector: ["N", "D"], parkingBrake: true },
          }),
          step("selector-in", "Selector back to park", "Listen for the chime to stop.", ["console"], 0.5, {
            sets: { selector: "P" },
          }),
          step(
            "key-off",
            "Ignition off, key out of the car",
            "Close the doors and let the car go to sleep.",
            ["selector-in"],
            1,
            { sets: { key: "off" } },
          ),
        ]
      : [
          step("console", "Gaiter and console panel out", "Unclip the gaiter, lift at the rear edge.", ["brake"], 3, {
            tool: "plastic wedge",
            panel: "console panel",
          }),
        ];
  const last = ritual.at(-1)?.id ?? "brake";
  return [
    step("cover", "Cover the console and the dash edges", "Cloth on the console, tape along the trim edges.", [], 4, {
      tool: "cloth and tape",
    }),
    step("brake", "Set the parking brake and chock a wheel", "Before anything else.", ["cover"], 1, {
      sets: { parkingBrake: true },
      caution: "On a slope without a parking brake the car rolls.",
    }),
    ...ritual,
    step(
      "battery-off",
      "Battery negative off, then wait as the maker says",
      "The waiting time stands in the maker's procedure.",
      [last],
      10,
      {
        tool: "10 mm spanner",
        sets: { battery: "isolated" },
        ...(l.gearbox === "automatic" ? { requires: { key: "off" } } : {}),
        caution:
          "Needed before any plug near an airbag. Hybrid or electric: the maker's procedure, licensed people only.",
        back: { title: "Battery negative on again", detail: "Key off, nobody near open airbag plugs, doors closed." },
      },
    ),
    step("vents", "Vent panel out", "Wedge at the top edge.", ["battery-off"], 4, {
      tool: "plastic wedge",
      panel: "vent panel",
      opens: [{ a: "loom.vents", b: "ventPanel.main" }],
      airbagZone: true,
      requires: { battery: "isolated" },
    }),
    step("radio-screws", "Radio screws out", "Four screws at the corners.", ["vents"], 4, {
      tool: "T20",
      fasteners: { kind: "T20 screw", count: 4, lengthMm: 16, tray: "A" },
    }),
    step("radio-out", "Radio out, main plug off", "Lever of the main plug up, then pull.", ["radio-screws"], 4, {
      panel: "radio",
      opens: [{ a: "loom.radio", b: "radio.main" }],
    }),
  ];
}

function step(
  id: string,
  title: string,
  detail: string,
  after: string[],
  minutes: number,
  more: Partial<StripStep> = {},
): StripStep {
  return { id, title, detail, after, minutes, ...more };
}
