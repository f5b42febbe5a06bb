import type { Schemas } from "../api/client";
import { lasting, mass, plain } from "../format";
import { t, te } from "./said";

type With = Record<string, unknown> | undefined;

/**
 * What something is about as people read it: numbers by locale, lists in a row, minutes by
 * what their keys end with (a moment, or a length of time), milligrams with their unit.
 */
export function worded(about: With, moment: (minute: number) => string): Record<string, string> {
  const said: Record<string, string> = {};
  for (const [key, value] of Object.entries(about ?? {})) {
    if (typeof value !== "number") said[key] = Array.isArray(value) ? value.join(", ") : String(value);
    else if (key.endsWith("Minutes")) said[key.slice(0, -"Minutes".length)] = lasting(value);
    else if (key.endsWith("Minute")) said[key.slice(0, -"Minute".length)] = moment(value);
    else if (key === "milligrams") said.grams = mass(value);
    else said[key] = plain(value);
  }
  return said;
}

/** A note of the count. */
export const noteWords = (note: Schemas["Note"]): string => t(`note.${note.code}`, worded(note.with, String));

/** What is out of the usual of a recipe. */
export const proportionWords = (w: Schemas["Warning"]): string => t(`proportion.${w.rule}.${w.case}`);

/** What a working goes by, a figure in it, and how it was rounded. */
export const ruleWords = (rule: string): string => t(`rule.${rule}`);
export const figureWords = (f: Schemas["Figure"]): string => t(`figure.${f.name}`, { of: f.of ?? "" });
export const roundingWords = (rounding: string): string => t(`rounding.${rounding}`);

/** What can be done where a scale cannot weigh so little. */
export const tooLittleWords = (least: number | undefined): string =>
  least ? t("little.least", { grams: mass(least) }) : t("little.never");

/** What limits how many are made at once. */
export function batchWords(batch: Schemas["Batch"]): string {
  const limit = batch.limit;
  const run = batch.run ? t("batch.run", { run: batch.run }) : "";
  if (!limit) return run;
  const about = worded({ ...limit } as With, String);
  const waits = limit.atOnce ? (batch.none ? "no-day" : "day") : batch.none ? "none" : "waits";
  const why = !limit.fit ? waits : limit.to ? "place" : "room";
  return [t(`batch.${why}`, about), run].filter(Boolean).join(" ");
}

/** A total of a recipe's sheet. */
export const totalWords = (d: Schemas["Difference"]): string => t(`total.${d.what}`, { of: d.of ?? "" });

/** Why a thing of a file and one of ours cannot be one; nothing where they can. */
export const clashWords = (thing: Schemas["Thing"]): string =>
  thing.clash ? t(`clash.${thing.clash}`, worded(thing.with, String)) : "";

/** What a method to begin a recipe from is called, and what is done in it. */
export const beginningWords = (key: string): { name: string; says: string } => ({
  name: t(`beginning.${key}.name`),
  says: t(`beginning.${key}.says`),
});

/** What taking another air moved. */
export const movedWords = (moved: Schemas["PlanMoved"]): string =>
  [
    t("moved.tasks", moved.tasks),
    ...(moved.slack ?? []).map((s) =>
      t(s.byMinutes < 0 ? "moved.less" : "moved.more", { name: s.name, time: lasting(Math.abs(s.byMinutes)) }),
    ),
  ].join(", ");

/** Why a task has no place. */
export function unplacedWords(u: Schemas["UnplacedView"], moment: (minute: number) => string): string {
  const special = `unplaced.case.${u.case ?? ""}`;
  let why = u.case && te(special) ? t(special, worded(u.with, moment)) : t(`unplaced.${u.reason}`);
  if (u.earliest !== undefined) why = t("unplaced.earliest", { earliest: moment(u.earliest) });
  if (u.byName) why = t("unplaced.after", { why, by: u.byName });
  return u.limited ? t("unplaced.limited", { why }) : why;
}
