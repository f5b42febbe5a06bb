import type { Block, PlanView, Schemas } from "../api/client";
import { shelve, type TimeScale } from "./timeScale";

type Span = Schemas["Span"];

export const laneHeight = 56;
export const top = 72;

/** A block where it lies on the board, in as many parts as it is done in. */
export interface Laid {
  block: Block;
  x: number;
  width: number;
  y: number;
  parts: { x: number; width: number }[];
}

export interface Lane {
  person: PlanView["people"][number];
  y: number;
  off: Span[];
  blocks: Laid[];
}

/** Tasks of one batch, or of one kind of work, that one maker does one after the other. */
export interface Sitting {
  key: string;
  blocks: Laid[];
  x: number;
  width: number;
  y: number;
  /** The kind of work of a sitting that is of several batches, or of none. */
  glyph?: string;
}

/** The longest working gap, in minutes, over which tasks are one sitting. */
const pauseWithin = 20;

/** Narrower than this, in pixels, a task cannot be told apart from those beside it. */
const legible = 34;

/**
 * Finds the sittings of two tasks and more among the blocks of a lane, which come in order of time: tasks of a
 * batch, and of one kind of work where each by itself is too narrow to be read.
 */
export function sittings(blocks: Laid[]): Sitting[] {
  const batches = inARow(blocks, (l) => l.block.batch?.root);
  const inside = new Set(batches.flatMap((s) => s.blocks.filter(() => s.width >= legible)));
  const kinds = inARow(blocks, (l) =>
    l.width < legible && !inside.has(l) && !l.block.pin ? l.block.glyph : undefined,
  ).map((s) => ({ ...s, glyph: s.blocks[0]!.block.glyph }));
  const taken = new Set(kinds.flatMap((s) => s.blocks));
  return [...batches.filter((s) => !s.blocks.some((b) => taken.has(b))), ...kinds].sort((a, b) => a.x - b.x);
}

/** What follows one another in a lane and is of one kind; nothing is of no kind. */
function inARow(blocks: Laid[], kind: (l: Laid) => string | undefined): Sitting[] {
  const found: Sitting[] = [];
  let was: string | undefined;
  for (const laid of blocks) {
    const last = found.at(-1);
    const before = last?.blocks.at(-1);
    const is = kind(laid);
    if (last && before && is && is === was && laid.block.from - before.block.to <= pauseWithin) {
      last.blocks.push(laid);
      last.width = laid.x + laid.width - last.x;
    } else {
      found.push({ key: `${is ?? ""}/${laid.block.id}`, blocks: [laid], x: laid.x, width: laid.width, y: laid.y });
    }
    was = is;
  }
  return found.filter((s) => s.blocks.length > 1);
}

export interface Shelf {
  place: PlanView["places"][number];
  y: number;
  height: number;
  holds: { block: Block; from: number; to: number; x: number; width: number; y: number; height: number }[];
}

export interface Board {
  lanes: Lane[];
  shelves: Shelf[];
  height: number;
}

/** The parts of a day in which somebody is not at work. */
function absent(hours: Span[], day: Span): Span[] {
  const gaps: Span[] = [];
  let at = day.from;
  for (const h of hours) {
    if (h.to <= day.from || h.from >= day.to) continue;
    if (h.from > at) gaps.push({ from: at, to: h.from });
    at = Math.max(at, h.to);
  }
  if (at < day.to) gaps.push({ from: at, to: day.to });
  return gaps;
}

/** The stretches of a block between its pauses. */
function parts(block: Block, scale: TimeScale): { x: number; width: number }[] {
  const spans: { x: number; width: number }[] = [];
  let at = block.from;
  const add = (to: number) => {
    const x = scale.x(at);
    if (to > at) spans.push({ x, width: Math.max(3, scale.x(to) - x) });
  };
  for (const pause of block.pauses) {
    if (pause.to <= at) continue;
    add(pause.from);
    at = pause.to;
  }
  add(block.to);
  return spans;
}

/** Lays out people's lanes and under them the places, as high as their slots. */
export function layBoard(plan: PlanView, scale: TimeScale): Board {
  const byPerson = new Map<string, Block[]>();
  for (const b of plan.blocks) {
    if (b.person) byPerson.set(b.person, [...(byPerson.get(b.person) ?? []), b]);
  }
  const lanes = plan.people.map((person, i) => {
    const y = top + i * laneHeight;
    const blocks = (byPerson.get(person.id) ?? [])
      .sort((a, b) => a.from - b.from)
      .map((block) => {
        const x = scale.x(block.from);
        return { block, x, width: Math.max(3, scale.x(block.to) - x), y, parts: parts(block, scale) };
      })
      .filter((l) => l.block.to > (scale.days[0]?.from ?? 0));
    return { person, y, off: scale.days.flatMap((d) => absent(person.hours, d)), blocks };
  });

  const held = new Map<string, { block: Block; from: number; to: number; slots: number }[]>();
  for (const block of plan.blocks) {
    for (const h of block.holds) held.set(h.place, [...(held.get(h.place) ?? []), { ...h, block }]);
  }
  let y = top + lanes.length * laneHeight + 34;
  const shelves = plan.places.map((place) => {
    const height = Math.min(66, Math.max(26, place.slots * 3));
    const each = height / place.slots;
    const holds = shelve(held.get(place.id) ?? []).map((h) => {
      const x = scale.x(h.from);
      return {
        block: h.block,
        from: h.from,
        to: h.to,
        x,
        width: Math.max(2, scale.x(h.to) - x),
        y: y + h.level * each,
        height: Math.max(3, h.slots * each - 1),
      };
    });
    const shelf = { place, y, height, holds };
    y += height + 14;
    return shelf;
  });
  return { lanes, shelves, height: y + 2 };
}

/** What of a board lies between two places, some way beyond them too. */
export function within<T extends { x: number; width: number }>(all: T[], from: number, to: number): T[] {
  return all.filter((l) => l.x < to && l.x + l.width > from);
}

export interface Thread {
  block: Block;
  path: string;
  x: number;
  width: number;
}

/** A thread drops from the block that puts pieces down, and climbs to the one that takes them up. */
export function threads(plan: PlanView, board: Board, scale: TimeScale): Thread[] {
  const lane = new Map(board.lanes.map((l) => [l.person.id, l.y + laneHeight - 10]));
  const ofLot = new Map<string, Block[]>();
  for (const b of plan.blocks) if (b.person) ofLot.set(b.lot, [...(ofLot.get(b.lot) ?? []), b]);
  return board.shelves.flatMap((shelf) =>
    shelf.holds.map((h) => {
      const y = h.y + h.height / 2;
      const down = scale.x(h.block.to);
      const put = `M${down} ${lane.get(h.block.person ?? "") ?? y} V${y}`;
      const taker = ofLot.get(h.block.lot)?.find((b) => b.from >= h.block.to && b.from > h.block.from);
      if (!taker) return { block: h.block, path: put, x: down, width: 1 };
      const up = scale.x(taker.from);
      const path = `${put} M${h.x + h.width} ${y} H${up} V${lane.get(taker.person ?? "") ?? y}`;
      return { block: h.block, path, x: Math.min(down, h.x), width: Math.abs(up - down) + h.width };
    }),
  );
}

/** Where a task lies: in its person's lane, or on the shelf where it waits. */
function whereabouts(board: Board): Map<string, { x: number; end: number; y: number }> {
  const at = new Map<string, { x: number; end: number; y: number }>();
  for (const s of board.shelves)
    for (const h of s.holds) at.set(h.block.id, { x: h.x, end: h.x + h.width, y: h.y + h.height / 2 });
  for (const l of board.lanes)
    for (const b of l.blocks) at.set(b.block.id, { x: b.x, end: b.x + b.width, y: l.y + laneHeight / 2 });
  return at;
}

/** The line through the tasks of an order's chain, as far as they lie on the board. */
export function chainLine(links: Schemas["LinkView"][], board: Board): string {
  const at = whereabouts(board);
  const points = links
    .map((l) => at.get(l.task))
    .filter((p) => p !== undefined)
    .reverse();
  return points
    .map((p, i) => {
      const last = points[i - 1];
      if (!last) return `M${p.x} ${p.y} H${p.end}`;
      const bend = Math.max(6, Math.min(40, (p.x - last.end) / 2));
      return `C${last.end + bend} ${last.y} ${p.x - bend} ${p.y} ${p.x} ${p.y} H${p.end}`;
    })
    .join(" ");
}
