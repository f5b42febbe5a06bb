import type { Schemas } from "../api/client";
import { lasting } from "../format";

type Effect = Schemas["Effect"];

/** In one line, what a change does to the plan: how much moves, and which order loses most by it. */
export function effectLine(e: Effect): string {
  const { moved, added, gone } = e.differences;
  const parts = [
    moved.length ? `${moved.length} ${moved.length === 1 ? "task moves" : "tasks move"}` : "",
    added.length ? `${added.length} more` : "",
    gone.length ? `${gone.length} fewer` : "",
  ].filter(Boolean);
  const slack = (o: Schemas["Outcome"] | undefined) => o?.slack;
  const losses = e.orders
    .map((o) => ({ name: o.name, was: slack(o.was), is: slack(o.is) }))
    .filter((o) => o.was !== undefined)
    .map((o) => ({ ...o, lost: o.is === undefined ? Infinity : o.was! - o.is }))
    .sort((a, b) => b.lost - a.lost);
  const worst = losses[0];
  if (worst && worst.lost === Infinity) parts.push(`${worst.name} would not be ready`);
  else if (worst && worst.lost > 0)
    parts.push(
      worst.is! < 0 ? `${worst.name} ${lasting(-worst.is!)} late` : `${worst.name} ${lasting(worst.lost)} less slack`,
    );
  else if (losses.at(-1) && losses.at(-1)!.lost < 0)
    parts.push(`${losses.at(-1)!.name} ${lasting(-losses.at(-1)!.lost)} more slack`);
  return parts.length ? parts.join("; ") : "Nothing in the plan moves";
}
