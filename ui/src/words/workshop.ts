import type { Schemas } from "../api/client";
import { lasting } from "../format";
import { t } from "./said";

type Effect = Schemas["Effect"];

/** In one line, what a change does to the plan: how much moves, and which order loses most by it. */
export function effectLine(e: Effect): string {
  const { moved, added, gone } = e.differences;
  const parts = [
    moved.length ? `${t("{n} task moves | {n} tasks move", moved.length)}` : "",
    added.length ? t("{added} more", { added: added.length }) : "",
    gone.length ? t("{gone} fewer", { gone: gone.length }) : "",
  ].filter(Boolean);
  const slack = (o: Schemas["Outcome"] | undefined) => o?.slack;
  const losses = e.orders
    .map((o) => ({ name: o.name, was: slack(o.was), is: slack(o.is) }))
    .filter((o) => o.was !== undefined)
    .map((o) => ({ ...o, lost: o.is === undefined ? Infinity : o.was! - o.is }))
    .sort((a, b) => b.lost - a.lost);
  const worst = losses[0];
  if (worst && worst.lost === Infinity) parts.push(t("{name} would not be ready", { name: worst.name }));
  else if (worst && worst.lost > 0)
    parts.push(
      worst.is! < 0
        ? t("{name} {is} late", { name: worst.name, is: lasting(-worst.is!) })
        : t("{name} {lost} less slack", { name: worst.name, lost: lasting(worst.lost) }),
    );
  else if (losses.at(-1) && losses.at(-1)!.lost < 0)
    parts.push(t("{name} {lost} more slack", { name: losses.at(-1)!.name, lost: lasting(-losses.at(-1)!.lost) }));
  return parts.length ? parts.join("; ") : t("Nothing in the plan moves");
}
