import type { Schemas } from "../api/client";
import { lasting, length, mass, plain } from "../format";
import { t } from "./said";

/** A difference of totals in words: "31.3 min, was 29.8". */
export function differenceWords(d: Schemas["Difference"]): string {
  return t("{unit}, was {unit2}", { unit: amount(d.is, d.unit), unit2: amount(d.was, d.unit) });
}

export function amount(value: number, unit: string): string {
  switch (unit) {
    case "milliminutes":
      return t("{round} min", { round: plain(Math.round(value / 100) / 10) });
    case "minutes":
      return lasting(value);
    case "mg":
      return `${mass(value)}`;
    case "µm":
      return value > 1_000_000 ? `${plain(value / 1_000_000)} m` : `${length(value)}`;
    default:
      return plain(value);
  }
}
