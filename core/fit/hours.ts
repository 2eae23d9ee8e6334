/** Hours as a customer reads them. */
import type { Minutes } from "../model/profile";

/** Half hours, the lower end rounded down and the upper one up: “2 to 3½ h”. */
export function hoursRange({ low, high }: Minutes): string {
  const [from, to] = [Math.floor(low / 30), Math.ceil(high / 30)];
  return from === to ? `${halves(from)} h` : `${halves(from)} to ${halves(to)} h`;
}

function halves(n: number): string {
  const whole = Math.floor(n / 2);
  return n % 2 === 0 ? `${whole}` : `${whole === 0 ? "" : whole}½`;
}
