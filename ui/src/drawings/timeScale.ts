import type { Schemas } from "../api/client";

type Span = Schemas["Span"];

const nightWidth = 40;
const breakMinutes = 120;

/** Working days of the plan laid out left to right, nights narrowed to a seam. */
export interface TimeScale {
  width: number;
  days: (Span & { x: number; width: number })[];
  nights: (Span & { x: number; width: number })[];
  x(minute: number): number;
}

/** Lays out all stretches of work from the day of now on; two working days fill the view. */
export function timeScale(open: Span[], now: number, until: number, view: number): TimeScale {
  const days: Span[] = [];
  for (const span of open) {
    const last = days.at(-1);
    if (last && span.from - last.to < breakMinutes) last.to = span.to;
    else days.push({ ...span });
  }
  const first = Math.max(
    0,
    days.findIndex((d) => d.to > now),
  );
  const past = days.findIndex((d) => d.from > until);
  const shown = days.slice(first, past < 0 ? undefined : past);
  const two = shown.slice(0, 2).reduce((sum, d) => sum + d.to - d.from, 0) || 1000;
  const perMinute = Math.max(0.5, (view - 2 * nightWidth) / two);

  const scale: TimeScale = { width: 0, days: [], nights: [], x: () => 0 };
  let x = 0;
  shown.forEach((day, i) => {
    const width = (day.to - day.from) * perMinute;
    scale.days.push({ ...day, x, width });
    x += width;
    const next = shown[i + 1];
    if (next) {
      scale.nights.push({ from: day.to, to: next.from, x, width: nightWidth });
      x += nightWidth;
    }
  });
  scale.width = x + nightWidth;
  const pieces = [...scale.days, ...scale.nights].sort((a, b) => a.from - b.from);
  scale.x = (minute) => {
    if (!pieces.length || minute <= pieces[0].from) return 0;
    const piece = pieces.findLast((p) => p.from <= minute)!;
    return piece.x + Math.min(1, (minute - piece.from) / (piece.to - piece.from)) * piece.width;
  };
  return scale;
}

/** Puts holds of a place into its slots, each as low as there is room. */
export function shelve<T extends { from: number; to: number; slots: number }>(holds: T[]): (T & { level: number })[] {
  const placed: (T & { level: number })[] = [];
  for (const hold of [...holds].sort((a, b) => a.from - b.from)) {
    const beside = placed.filter((p) => p.from < hold.to && hold.from < p.to).sort((a, b) => a.level - b.level);
    let level = 0;
    for (const other of beside) {
      if (level + hold.slots <= other.level) break;
      level = Math.max(level, other.level + other.slots);
    }
    placed.push({ ...hold, level });
  }
  return placed;
}
