import type { Schemas } from "../../api/client";
import { lasting, plain } from "../../format";

type Record = Schemas["RecordView"];

/** A value of a record in the unit that people say it in. */
export function valued(r: Record, value: number): string {
  switch (r.kind) {
    case "class":
      return lasting(value);
    case "step":
      return `${plain(value / 1000)} min`;
    case "pace":
      return `${plain(value / 100)} × the book's pace`;
    default:
      return `${plain(value / 10)} %`;
  }
}

/** What a record is about. */
export function about(r: Record): string {
  switch (r.kind) {
    case "class":
      return `${r.of}: until it is dry`;
    case "step":
      return `${r.what}, ${r.of.toLowerCase()}: a piece`;
    case "pace":
      return `${r.of}, ${r.what}`;
    default:
      return `${r.of}: what breaks`;
  }
}

/** What it rests on. */
export function rests(r: Record): string {
  if (r.kind === "class") return `from ${r.evidence} ${r.evidence === 1 ? "wait" : "waits"}`;
  return `from ${r.evidence} ${r.evidence === 1 ? "piece" : "pieces"}`;
}

/** How sure it is. */
export function sure(r: Record): string {
  const by =
    r.kind === "breakage" ? `${plain(r.unsurePerMille / 10)} of a hundred` : `${Math.round(r.unsurePerMille / 10)} %`;
  return `give or take ${by}`;
}
