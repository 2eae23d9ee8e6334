import type { SupplyState } from "~/core/connect/connection-plan";

const WORDS: Record<SupplyState, string> = {
  isolated: "Battery isolated and the maker's waiting time over: an airbag is near",
  keyOff: "Key off",
  keyOn: "Key on, in the bench test",
};

/** The state of the car's supply in which a plug is touched. */
export function SupplyMark({ supply }: { supply: SupplyState }) {
  return (
    <p className={`text-sm ${supply === "isolated" ? "font-medium text-watch" : "text-quiet"}`}>{WORDS[supply]}</p>
  );
}
