import type { Schemas } from "../api/client";
import { lasting, length, mass, plain } from "../format";

/** A difference of totals in words: "31.3 min, was 29.8". */
export function differenceWords(d: Schemas["Difference"]): string {
  return `${amount(d.is, d.unit)}, was ${amount(d.was, d.unit)}`;
}

export function amount(value: number, unit: string): string {
  switch (unit) {
    case "milliminutes":
      return `${plain(Math.round(value / 100) / 10)} min`;
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
