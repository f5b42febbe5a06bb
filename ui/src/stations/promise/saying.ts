import { lasting, stockOf } from "../../format";
import { t } from "../../words/said";
import type { Schemas } from "../../api/client";
import type { Answer } from "./asking";

interface Times {
  full: (minute: number) => string;
  wall: (text: string) => string;
  clock: (minute: number) => string;
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

type Change = Schemas["ChangeView"];

/** When somebody is there besides. */
function spans(c: Change, times: Times): string {
  const all = c.spans ?? [];
  const said = (s: Schemas["Span"]) => t("{from} to {to}", { from: times.full(s.from), to: times.clock(s.to) });
  if (all.length === 1) return said(all[0]!);
  return t(
    "{n} evening, from {first} on | {n} evenings, from {first} on",
    { n: all.length, first: times.full(all[0]!.from) },
    all.length,
  );
}

/** Something that would help, as a lead would say it. */
export function helpful(c: Change, times: Times): string {
  const named = { name: c.named, n: c.number ?? 0, line: c.lineNamed ?? "" };
  switch (c.kind) {
    case "spares":
      return t("Fewer spares for it: in {share} of 100 times there are enough", { share: Math.round(named.n / 10) });
    case "otherwise":
      return t("{line} made otherwise: {way}", { ...named, way: c.variant ?? "" });
    case "recolour":
      return t("{line} in {colour}, which lies mixed", { ...named, colour: c.colourNamed ?? "" });
    case "freed":
      return t("What is kept on the shelf for {name} goes to it", named);
    case "arrives":
      return t("{name} comes sooner, or from elsewhere: {at}", { ...named, at: times.full(c.spans![0]!.from) });
    case "stays":
      return t("{name} is there besides, {spans}", { ...named, spans: spans(c, times) });
    case "helps":
      return t("A helper for {skills}, {spans}", { skills: listed(c.skills ?? []), spans: spans(c, times) });
    case "places":
      return t("{n} more slot of {name} | {n} more slots of {name}", named, named.n);
    case "tools":
      return t("{n} more of {name}", named);
    case "machines":
      return t("{name} once more, with room for {n}", named);
    case "parted":
      return t("{n} {line} leave later: {leaves}", { ...named, leaves: times.wall(c.leaves!) });
    case "moved":
      return t("{name} leaves later: {leaves}", { ...named, leaves: times.wall(c.leaves!) });
  }
  return c.kind;
}

/** What somebody has to see to, or agree to, for something that helps. */
export function asksOf(kind: string): string {
  switch (kind) {
    case "arrives":
      return t("Seeing to the delivery is yours; book it on Stores.");
    case "places":
    case "tools":
    case "machines":
      return t("They have to be there: the studio counts with them from then on.");
    case "stays":
    case "helps":
      return t("They have to agree.");
    case "recolour":
    case "moved":
    case "parted":
      return t("Its client has to agree.");
  }
  return "";
}

/** A local wall time, rounded up to the next quarter of an hour. */
export function quarter(wall: string): string {
  const step = 15 * 60_000;
  const up = Math.ceil(Date.parse(`${wall}:00Z`) / step) * step;
  return new Date(up).toISOString().slice(0, 16);
}
