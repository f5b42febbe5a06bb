import type { Schemas } from "../api/client";

type Span = Schemas["Span"];

const nightWidth = 40;
const breakMinutes = 120;

/** Working days of the plan laid out left to right, nights narrowed to a seam. */
export interface TimeScale {
  width: number;
  days: (Span & { x: number; width: number })[];
  nights: (Span & { x: number; width: number })[];
  perMinute: number;
  x(minute: number): number;
  /** The minute at a place, a working one: nights give the morning after. */
  minute(x: number): number;
}

/** Lays out the stretches of work from one minute to another; so many working days fill the view. */
export function timeScale(open: Span[], from: number, until: number, view: number, across: number): TimeScale {
  const days: Span[] = [];
  for (const span of open) {
    const last = days.at(-1);
    if (last && span.from - last.to < breakMinutes) last.to = span.to;
    else days.push({ ...span });
  }
  const shown = days.filter((d) => d.to > from && d.from < until);
  const filled = shown.slice(0, across).reduce((sum, d) => sum + d.to - d.from, 0) || 1000;
  const night = across > 2 ? nightWidth / 2 : nightWidth;
  const perMinute = Math.max(0.05, (view - across * night) / filled);

  const scale: TimeScale = { width: 0, days: [], nights: [], perMinute, x: () => 0, minute: () => from };
  let x = 0;
  shown.forEach((day, i) => {
    const width = (day.to - day.from) * perMinute;
    scale.days.push({ ...day, x, width });
    x += width;
    const next = shown[i + 1];
    if (next) {
      scale.nights.push({ from: day.to, to: next.from, x, width: night });
      x += night;
    }
  });
  scale.width = x + night;
  const pieces = [...scale.days, ...scale.nights].sort((a, b) => a.from - b.from);
  scale.x = (minute) => {
    if (!pieces.length || minute <= pieces[0].from) return 0;
    const piece = pieces.findLast((p) => p.from <= minute)!;
    return piece.x + Math.min(1, (minute - piece.from) / (piece.to - piece.from)) * piece.width;
  };
  scale.minute = (at) => {
    const day = scale.days.find((d) => at < d.x + d.width) ?? scale.days.at(-1);
    if (!day) return from;
    return Math.round(Math.max(day.from, Math.min(day.to, day.from + (at - day.x) / perMinute)));
  };
  return scale;
}

/** Puts holds of a place into its slots, each as low as there is room. */
export function shelve<T extends { from: number; to: number; slots: number }>(holds: T[]): (T & { level: number })[] {
  const placed: (T & { level: number })[] = [];
  let lying: (T & { level: number })[] = [];
  for (const hold of [...holds].sort((a, b) => a.from - b.from)) {
    lying = lying.filter((p) => p.to > hold.from).sort((a, b) => a.level - b.level);
    let level = 0;
    for (const other of lying) {
      if (level + hold.slots <= other.level) break;
      level = Math.max(level, other.level + other.slots);
    }
    const laid = { ...hold, level };
    placed.push(laid);
    lying.push(laid);
  }
  return placed;
}
