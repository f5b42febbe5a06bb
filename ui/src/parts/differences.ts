import type { Schemas } from "../api/client";
import { lasting } from "../format";

const tasks = (n: number) => `${n} ${n === 1 ? "task" : "tasks"}`;

/** What a plan changes, in a line. */
export function changes(d: Schemas["Differences"]): string {
  const words = [];
  if (d.moved.length) words.push(`${tasks(d.moved.length)} ${d.moved.length === 1 ? "moves" : "move"}`);
  if (d.added.length) words.push(`${tasks(d.added.length)} more`);
  if (d.gone.length) words.push(`${tasks(d.gone.length)} fewer`);
  return words.length ? words.join(", ") : "Nothing moves";
}

/** How an order fares: what slack it has, and what it had. */
export function fares(o: Schemas["OrderChange"]): string {
  if (!o.after) return "is no longer made";
  if (o.after.slack === undefined) return "cannot be finished";
  if (!o.before) return "is new";
  if (o.before.slack === undefined) return "can be finished after all";
  const by = o.after.slack - o.before.slack;
  if (by === 0) return "as before";
  return `${lasting(by)} ${by > 0 ? "more" : "less"} slack`;
}
