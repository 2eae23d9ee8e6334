import type { Condition } from "../../../core/model/types";
import { all, set } from "../vocabulary";
import type { RadioFeatures } from "./features";

/** A radio that must be listed or coded does nothing before that. */
export function alive(f: RadioFeatures): Condition {
  return all(
    { situation: "key", is: ["accessory", "on", "running"] },
    ...(f.listed === "to be listed" ? [set("listed", "yes")] : []),
    ...(f.coded === "by programming plug" ? [set("coded", "yes")] : []),
  );
}
