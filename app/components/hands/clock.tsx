import { useClockWords } from "~/app/lib/device-clock";

/** Said where this device's clock is wrong; nothing otherwise. */
export function WrongClock() {
  const words = useClockWords();
  return words && <p className="border-b border-rule bg-watch-ground px-4 py-1 text-sm">{words}</p>;
}
