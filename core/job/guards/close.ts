/** Guards over closing: a car that is not ready does not go as if it were. */
import type { AskedOf } from "../../log/entry";
import { openPoints } from "../report";
import { whileWriting } from "./car";
import { asksFor, type Pressing, refused, type Stop, wantsReason } from "./guard";

export function closing(press: Pressing, { as = "ready" }: AskedOf<"handover.close">): Stop | null {
  const { job, car, at, plan, state } = press;
  const writing = whileWriting(plan, state);
  if (writing) return writing;
  const points = openPoints(job, at).filter((p) => p.level !== "told" && p.accepted === null);
  if (as === "unfinished") {
    if (points.length === 0)
      return refused(
        "unfinished",
        "job",
        "Nothing is open.",
        "Close the job as ready; unfinished would say too little.",
      );
    const loose = car.selector !== "P" && !car.parkingBrake;
    return loose
      ? asksFor(
          "brake",
          car,
          { parkingBrake: true },
          "Selector out of park and the parking brake is not set: the car can roll.",
        )
      : wantsReason(
          "unfinished",
          "job",
          `The car leaves unfinished: ${points.map((p) => p.text).join(" ")}`,
          "Say why, and what the customer was told.",
        );
  }
  const blocks = points.filter((p) => p.level === "blocks");
  const [first] = blocks.length > 0 ? blocks : points;
  if (first) {
    const more = (blocks.length > 0 ? blocks : points).length - 1;
    return refused(
      "ready",
      "job",
      `${first.text}${more > 0 ? ` And ${more} more.` : ""}`,
      blocks.length > 0
        ? "Put it right, or close the job as unfinished."
        : "Do it, or have the lead say in Hand over why it may stay open.",
    );
  }
  return asksFor(
    "selector",
    car,
    { selector: "P", key: "off", rolling: false, maintainer: false },
    "The car is handed over in park, with the key off and the maintainer off the battery.",
  );
}

/** What may stay open is for the lead to say. */
export function accepting({ who }: Pressing): Stop | null {
  return who.role === "lead"
    ? null
    : refused(
        "right",
        "open points",
        "What may stay open is decided by the lead.",
        "Ask the lead to sign in and give the reason.",
      );
}
