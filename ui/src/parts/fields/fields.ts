import { lengthScale, lengthUnit, manner, massScale, massUnit, moneyScale } from "../../manner";
import { typed } from "../../number";
import { v7 } from "uuid";
import type { Column } from "./column";
import { measured, plain } from "../../figures";
import { t, translated, word } from "../../words/said";

export type Row = Record<string, unknown>;

/** What stands at a path such as "shape.lengthMicrometres". */
export function at(row: Row, path: string): unknown {
  return path.split(".").reduce<unknown>((of, key) => (of as Row | undefined)?.[key], row);
}

/** Puts a value at a path; nothing takes the field away, and what holds only it as well. */
export function put(row: Row, path: string, value: unknown): void {
  const keys = path.split(".");
  const last = keys.pop()!;
  const chain: Row[] = [row];
  keys.forEach((key, i) => {
    const of = chain.at(-1)!;
    of[key] ??= /^\d+$/.test(keys[i + 1] ?? last) ? [] : {};
    chain.push(of[key] as Row);
  });
  if (value === undefined) delete chain.at(-1)![last];
  else chain.at(-1)![last] = value;
  for (let i = keys.length - 1; i >= 0; i--) if (Object.keys(chain[i + 1]!).length === 0) delete chain[i]![keys[i]!];
}

const scaleOf = (c: Column): number | undefined =>
  ({ mm: lengthScale(), g: massScale(), money: moneyScale() })[c.kind as string] ?? scales[c.kind];
const scales: Partial<Record<Column["kind"], number>> = {
  min: 1000,
  percent: 10,
  degrees: 10,
  whole: 1,
  wall: 1,
  days: 1440,
};
const units: Partial<Record<Column["kind"], string>> = {
  min: "min",
  percent: "%",
  degrees: "°C",
  wall: "min",
  days: t("days"),
};

export const unitOf = (c: Column): string =>
  c.unit ?? { mm: lengthUnit(), g: massUnit(), money: manner.value.money }[c.kind as string] ?? units[c.kind] ?? "";

/** A number as it is written here, with the studio's decimal sign. */
const signed = (n: number, digits: number): string => {
  const text = String(Number(n.toFixed(digits)));
  return manner.value.decimal === "," ? text.replace(".", ",") : text;
};

/** A kept value as it is written. */
export function shown(c: Column, value: unknown): string {
  if (value === undefined || value === null || value === "") return "";
  if (c.as) return c.as.shown(value);
  const scale = scaleOf(c);
  if (c.kind === "list") return (value as string[]).join("\n");
  if (c.kind === "mistakes")
    return (value as Mistake[]).map((m) => (m.why ? `${m.what}: ${m.why}` : m.what)).join("\n");
  if (c.kind === "numbers") return (value as number[]).map((n) => String(n / (c.scale ?? 1))).join(" + ");
  if (scale) return signed((value as number) / scale, 4);
  return String(value as string | number);
}

type Mistake = { what: string; why?: string };

/** What was written as it is kept; undefined for nothing. Decimal commas are understood. */
export function kept(c: Column, text: string): unknown {
  const written = text.trim();
  if (written === "") return undefined;
  if (c.as) return c.as.kept(written);
  const scale = scaleOf(c);
  if (c.kind === "list")
    return written
      .split("\n")
      .map((l) => l.trim())
      .filter(Boolean);
  if (c.kind === "mistakes")
    return written
      .split("\n")
      .map((line): Mistake => {
        const [, what = line, why = ""] = /^([^:]*):(.*)$/.exec(line) ?? [];
        return { what: what.trim(), ...(why.trim() && { why: why.trim() }) };
      })
      .filter((m) => m.what);
  if (c.kind === "numbers")
    return written
      .split(/[+\s;]+/)
      .filter(Boolean)
      .map((n) => scaled(typed(n), c.scale ?? 1));
  if (scale) {
    return scaled(withUnit(written, c), scale);
  }
  return text;
}

/** What people write behind a number: millimetres, grams, minutes, days or percent each. */
const unitsWritten: Partial<Record<Column["kind"], Record<string, number>>> = {
  mm: { mm: 1, cm: 10, m: 1000, in: 25.4, '"': 25.4 },
  g: { g: 1, kg: 1000, mg: 0.001, oz: 28.349523 },
  min: { min: 1, h: 60, s: 1 / 60 },
  wall: { min: 1, h: 60, d: 1440 },
  days: { d: 1, days: 1, day: 1, h: 1 / 24 },
  percent: { "%": 1, "‰": 0.1 },
  degrees: { "°C": 1, C: 1 },
};

/** A number with or without a unit behind it, as "35,5 g", "36 cm" or "1.5 h"; NaN for what is none. */
function withUnit(text: string, c: Column): number {
  const [, number = text, unit] = /^([+-]?[\d.,]+)\s*([a-zA-Z%‰°"]+)$/.exec(text) ?? [];
  if (unit === undefined || unit === unitOf(c)) return typed(number);
  return (typed(number) * (unitsWritten[c.kind]?.[unit] ?? NaN)) / (unitsWritten[c.kind]?.[unitOf(c)] ?? 1);
}

/** A number in the small unit it is kept in. Where that is its own unit, a part of one is not rounded away. */
const scaled = (n: number, scale: number): number => (scale === 1 ? n : Math.round(n * scale));

/** The unit that the end of a field's name says: `thicknessMicrometres` is a length. */
const unitsOfNames: Record<string, string> = {
  Micrometres: "length",
  Milligrams: "mg",
  Milliminutes: "min/1000",
  PerMille: "‰",
  Minutes: "min",
};
const unitOfName = (name: string) => Object.keys(unitsOfNames).find((unit) => name.endsWith(unit) && name !== unit);

/** A place in a document as people would say it: "step “Dry upright”, wait, thickness". */
export function placeWords(place: string): string {
  return place
    .split(/\.(?![^"]*"(?:[^"]*"[^"]*")*[^"]*$)/)
    .map((part) => {
      const [, name = part, index, called] = /^([A-Za-z0-9]*)(?:\[(\d+)\])?\s*(?:"(.*)")?$/.exec(part) ?? [];
      const plain = name
        .slice(0, name.length - (unitOfName(name) ?? "").length)
        .replace(/([A-Z])/g, (c) => ` ${c.toLowerCase()}`);
      const one = translated(index === undefined ? plain : plain.replace(/s$/, ""));
      return one + (called ? ` “${called}”` : index === undefined ? "" : ` ${Number(index) + 1}`);
    })
    .join(", ");
}

/** A value at a place in a document, in words and in the studio's units. */
export function valueWords(place: string, kept: string | undefined): string {
  if (kept === undefined || kept === "") return "—";
  if (kept === "true") return t("yes");
  if (kept === "false") return t("no");
  const n = Number(kept);
  if (Number.isNaN(n) || kept.trim() === "") return word(kept);
  const unit = unitOfName(place.split(".").at(-1)!);
  return unit ? measured(n, unitsOfNames[unit]!) : plain(n);
}

/** A key that no step of a recipe has yet, from its name. */
export function keyFor(name: string, taken: string[]): string {
  const word =
    name
      .trim()
      .toLowerCase()
      .split(/[^a-z0-9]+/)
      .filter(Boolean)
      .slice(0, 3)
      .join(" ") || t("step");
  if (!taken.includes(word)) return word;
  for (let n = 2; n < 1000; n++) if (!taken.includes(`${word} ${n}`)) return `${word} ${n}`;
  return v7();
}
