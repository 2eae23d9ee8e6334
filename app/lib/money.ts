import { useRouteLoaderData } from "react-router";
import type { loader } from "~/app/routes/signed-in";

/** Made once for each currency: to make one takes longer than the rest of a row that shows a price. */
const writers = new Map<string, Intl.NumberFormat>();

/** A price in whole units of a currency (ISO 4217), as people write it. */
export function money(amount: number, currency: string): string {
  let writer = writers.get(currency);
  if (!writer) {
    writer = new Intl.NumberFormat("en", { style: "currency", currency, maximumFractionDigits: 0 });
    writers.set(currency, writer);
  }
  return writer.format(amount);
}

/** Writes prices in the currency of the shop. */
export function useMoney(): (amount: number) => string {
  const currency = useRouteLoaderData<typeof loader>("routes/signed-in")?.currency ?? "EUR";
  return (amount) => money(amount, currency);
}
