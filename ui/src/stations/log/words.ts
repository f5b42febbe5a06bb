import type { Schemas } from "../../api/client";
import { lasting, plain } from "../../format";
import { t } from "../../words/said";

type Record = Schemas["RecordView"];

/** A value of a record in the unit that people say it in. */
export function valued(r: Record, value: number): string {
  switch (r.kind) {
    case "class":
      return lasting(value);
    case "step":
      return t("{plain} min", { plain: plain(value / 1000) });
    case "pace":
      return t("{plain} × the book's pace", { plain: plain(value / 100) });
    default:
      return `${plain(value / 10)} %`;
  }
}

/** What a record is about. */
export function about(r: Record): string {
  switch (r.kind) {
    case "class":
      return t("{of}: until it is dry", { of: r.of });
    case "step":
      return t("{what}, {toLowerCase}: a piece", { what: r.what, toLowerCase: r.of.toLowerCase() });
    case "pace":
      return `${r.of}, ${r.what}`;
    default:
      return t("{of}: what breaks", { of: r.of });
  }
}

/** What it rests on. */
export function rests(r: Record): string {
  if (r.kind === "class") return t("from {n} wait | from {n} waits", r.evidence);
  return t("from {n} piece | from {n} pieces", r.evidence);
}

/** How sure it is. */
export function sure(r: Record): string {
  const by =
    r.kind === "breakage"
      ? t("{unsurePerMille} of a hundred", { unsurePerMille: plain(r.unsurePerMille / 10) })
      : `${Math.round(r.unsurePerMille / 10)} %`;
  return t("give or take {by}", { by });
}
