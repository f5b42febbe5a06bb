import type { Schemas } from "../api/client";
import { lasting } from "../format";
import { t } from "../words/said";

const tasks = (n: number) => t("{n} task | {n} tasks", n);

/** What a plan changes, in a line. */
export function changes(d: Schemas["Differences"]): string {
  const words = [];
  if (d.moved.length) words.push(t("{n} task moves | {n} tasks move", d.moved.length));
  if (d.added.length) words.push(t("{added} more", { added: tasks(d.added.length) }));
  if (d.gone.length) words.push(t("{gone} fewer", { gone: tasks(d.gone.length) }));
  return words.length ? words.join(", ") : t("Nothing moves");
}

/** How an order fares: what slack it has, and what it had. */
export function fares(o: Schemas["OrderChange"]): string {
  if (!o.after) return t("is no longer made");
  if (o.after.slack === undefined) return t("cannot be finished");
  if (!o.before) return t("is new");
  if (o.before.slack === undefined) return t("can be finished after all");
  const by = o.after.slack - o.before.slack;
  if (by === 0) return t("as before");
  return t(by > 0 ? "{time} more slack" : "{time} less slack", { time: lasting(by) });
}
