import { lasting, stockOf } from "../../format";
import { t } from "../../words/said";
import type { Answer } from "./asking";

interface Times {
  full: (minute: number) => string;
  wall: (text: string) => string;
}

const listed = (names: string[]) => names.join(", ");

/** What has to be ordered, and by when the first of it. */
function toOrder(a: Answer, times: Times): string {
  const what = listed(a.buys.map((b) => stockOf(b.short, b.unit, b.name)));
  const by = a.buys.flatMap((b) => b.orderBy ?? []);
  return by.length
    ? t("{what} is ordered by {by}", { what, by: times.full(Math.min(...by)) })
    : t("{what} is ordered", { what });
}

/** The answer as it would be said on the telephone. */
export function sentence(a: Answer, times: Times): string {
  if (a.verdict === "yes") return t("Yes, with {slack} in hand.", { slack: lasting(a.outcome.slack ?? 0) });
  if (a.verdict === "if") return t("Yes, if {ordered}.", { ordered: toOrder(a, times) });
  if (a.earliest && a.searched) return t("Not by then: {earliest}.", { earliest: times.wall(a.earliest) });
  if (a.outcome.slack === undefined) return t("Not as it is asked: something of it has no place in the plan.");
  if (a.harms.length && a.outcome.late === 0)
    return t("Not without making others late: {names}.", { names: listed(a.harms.map((h) => h.name)) });
  return a.searched ? t("Not by then, and no later date was found.") : t("Not by then.");
}

/** A local wall time, rounded up to the next quarter of an hour. */
export function quarter(wall: string): string {
  const step = 15 * 60_000;
  const up = Math.ceil(Date.parse(`${wall}:00Z`) / step) * step;
  return new Date(up).toISOString().slice(0, 16);
}
