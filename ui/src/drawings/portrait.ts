import type { Schemas } from "../api/client";
import { lobes, outline, scatter } from "./outlines";

export type Portrait = Schemas["Portrait"];

/** One drawn piece, in millimetres, to be painted in order. */
export interface Mark {
  d: string;
  fill: string;
  at: string; // transform
  ring: number; // the input it belongs to, -1 for none
  shade?: number; // 0 light to 1 dark over its colour
  line?: boolean; // a stroke only
  width?: number;
}

const mm = (um: number | undefined) => (um ?? 0) / 1000;
const ink = "#e9e2d6";

/** How wide and high a piece lies, in millimetres. */
export function size(p: Portrait): { width: number; height: number } {
  const g = p.shape;
  if (!g) return { width: 14, height: 14 };
  switch (g.shape) {
    case "ball": {
      const across = mm(g.diameterMicrometres);
      // a pulled blossom or a bead opens to about twice its ball
      const opened = ["blossom", "star"].includes(p.form) ? across * 2 : across;
      return { width: opened, height: opened };
    }
    case "rope":
      return { width: mm(g.diameterMicrometres), height: mm(g.lengthMicrometres) };
    default:
      return { width: mm(g.widthMicrometres), height: mm(g.lengthMicrometres) };
  }
}

const stemmed = ["sprig", "trail", "spray", "frond", "filler", "cluster"];

/** Whether something is seen from the side, along its stem, and not from above. */
export const fromTheSide = (p: Portrait): boolean => stemmed.includes(p.form);

/** Half of what a thing is across when it is drawn, in millimetres. */
export function reach(p: Portrait): number {
  const s = size(p);
  let far = lobes(p.form).count ? Math.max(s.width, s.height) / 2 : Math.max(s.width / 2, s.height);
  if (fromTheSide(p)) {
    const b = sideBounds(p);
    return Math.max(b.up, b.down, b.side);
  }
  const rows = p.rings.filter((r) => isPetal(r.of)).reduce((sum, r) => sum + r.rows.length, 0);
  const closed = p.form === "layered" && rows === 1 ? 0.6 : 1; // a bud
  for (const r of p.rings) {
    let child = reach(r.of);
    if (isPetal(r.of)) child *= lobes(r.of.form).count ? 1 : closed;
    else if (isLeaf(r.of.form) || r.of.kind !== "part") child *= 1.25;
    else if (r.of.rings.length) child *= 1.3;
    else child = size(r.of).width * 0.6;
    far = Math.max(far, child);
  }
  return far;
}

const isLeaf = (form: string) => form.includes("leaf") || form === "frond" || form === "sprig";

/** The marks of a thing, back to front, around the origin. */
export function drawn(p: Portrait, depth = 0): Mark[] {
  if (p.kind === "mix") return [];
  if (depth > 4) return [];
  return p.rings.length ? (fromTheSide(p) ? alongStem(p, depth) : around(p, depth)) : piece(p, -1);
}

/** One piece by itself, its middle at the origin for rings and round things, its foot else. */
function piece(p: Portrait, ring: number, at = "", shade = 0, squash = 1): Mark[] {
  const s = size(p);
  const fill = p.colour || ink;
  const many = lobes(p.form);
  if (many.count) {
    const long = Math.max(s.width, s.height) / 2;
    const wide = (p.form === "star" || p.form === "calyx" ? 0.55 : 1.15) * long * Math.sin(Math.PI / many.count) * 1.35;
    const marks: Mark[] = [];
    for (let i = 0; i < many.count; i++)
      marks.push({
        d: outline(many.of, wide, long * squash),
        fill,
        at: `${at}rotate(${(360 / many.count) * i})`,
        ring,
        shade,
      });
    if (p.form !== "calyx")
      marks.push({ d: circle(long * 0.12), fill: p.form === "daisy" ? fill : "#d8b45c", at, ring, shade: shade + 0.2 });
    return marks;
  }
  switch (p.form) {
    case "ball":
    case "bead":
    case "centre":
    case "disc": {
      const r = Math.max(s.width, p.form === "disc" ? s.height : s.width) / 2 || 4;
      return [{ d: circle(r), fill, at, ring, shade }];
    }
    case "brush":
      return brush(s.width || 12, fill === ink ? "#e3c770" : fill, at, ring);
    default: {
      const d = outline(p.form, s.width, s.height * squash);
      const marks: Mark[] = [{ d, fill, at, ring, shade }];
      if (isLeaf(p.form)) marks.push({ d: `M0 0V${-s.height * squash * 0.9}`, fill, at, ring, line: true, width: 0.7 });
      return marks;
    }
  }
}

const circle = (r: number) => `M${-r} 0a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;

function brush(across: number, fill: string, at: string, ring: number): Mark[] {
  const marks: Mark[] = [];
  const long = Math.max(5, across * 0.7);
  for (let i = 0; i < 22; i++) {
    const turn = (360 / 22) * i + 9 * scatter(i);
    const far = long * (0.7 + 0.4 * scatter(i + 50));
    marks.push({
      d: `M0 0V${-far.toFixed(1)}`,
      fill: "#9a8a5c",
      at: `${at}rotate(${turn.toFixed(1)})`,
      ring,
      line: true,
      width: 0.45,
    });
    marks.push({ d: circle(0.9), fill, at: `${at}rotate(${turn.toFixed(1)})translate(0 ${-far.toFixed(1)})`, ring });
  }
  marks.push({ d: circle(long * 0.32), fill, at, ring, shade: 0.15 });
  return marks;
}

/** A flower from above: its rings around the middle, the outermost painted first. */
function around(p: Portrait, depth: number): Mark[] {
  const rings = p.rings.map((r, i) => ({ ...r, order: i }));
  if (p.build === "outside-in") {
    const built = rings.filter((r) => size(r.of).height > 12);
    built.reverse().forEach((r, i) => (r.order = i));
    rings.sort((a, b) => a.order - b.order);
  }
  const petals = rings.filter((r) => isPetal(r.of));
  const rows = petals.flatMap((r) => r.rows.map(() => r));
  const behind: Mark[] = [];
  const rowsDrawn: Mark[][] = [];
  const middle: Mark[] = [];
  let row = 0;
  let foot = 0;
  let turned = 0;
  const wired = p.form === "wired" || p.form === "blossom";
  for (const r of rings) {
    if (r.of.form === "calyx") {
      behind.unshift(...piece(r.of, r.input, "", 0.1));
    } else if (isLeaf(r.of.form) || (r.of.kind !== "part" && fromTheSide(r.of))) {
      behind.push(...spread(r, p, depth));
    } else if (isPetal(r.of)) {
      for (const n of r.rows) {
        const t = rows.length > 1 ? row / (rows.length - 1) : 1;
        const squash = wired ? 1 : rows.length > 1 ? 0.5 + 0.5 * t : 0.55; // a bud is closed
        const away = wired ? foot : foot * 0.6;
        const half = 180 / Math.max(1, n);
        turned += r.set === "level" ? 0 : r.set === "alternating" ? half / 2 : half;
        const marks: Mark[] = [];
        for (let i = 0; i < n; i++) {
          const turn = (360 / n) * i + turned + (scatter(row * 31 + i) - 0.5) * Math.min(10, half * 0.5);
          const shade = (1 - t) * (wired ? 0.09 : 0.16) + scatter(row * 17 + i) * 0.07 + (r.reversed ? 0.12 : 0);
          if (lobes(r.of.form).count) marks.push(...piece(r.of, r.input, `rotate(${turn.toFixed(1)})`, shade, 1));
          else
            marks.push(
              ...piece(r.of, r.input, `rotate(${turn.toFixed(1)})translate(0 ${(-away).toFixed(1)})`, shade, squash),
            );
        }
        rowsDrawn.push(marks);
        foot += Math.min(3, size(r.of).height * 0.05);
        row++;
      }
    } else if (r.of.rings.length) {
      middle.push(...assembled(r, depth));
    } else {
      middle.push(...(p.form === "layered" ? heart(r, petals[0]?.of.colour) : core(r)));
    }
  }
  for (const bit of p.bits) middle.push(...bits(bit));
  return [...behind, ...rowsDrawn.reverse().flat(), ...middle];
}

const isPetal = (p: Portrait) =>
  p.rings.length === 0 && (p.form.includes("petal") || ["daisy", "blossom", "notched ring"].includes(p.form));

/** The core of a layered flower hardly shows: its first petals close over it. */
function heart(r: Schemas["Ring"], colour: string | undefined): Mark[] {
  if (!["ball", "cone", "centre"].includes(r.of.form)) return core(r);
  return [{ d: circle(Math.max(2, size(r.of).width / 6)), fill: colour || ink, at: "", ring: r.input, shade: 0.22 }];
}

/** What stands in the middle: one thing at the heart, several packed around it. */
function core(r: Schemas["Ring"]): Mark[] {
  if (["former", "disc"].includes(r.of.form)) return [];
  if (r.of.form === "brush" && r.count > 3)
    return brush(Math.min(26, 8 + r.count * 0.5), r.of.colour || "#e3c770", "", r.input);
  const s = size(r.of);
  const seen = r.of.form === "cone" ? Math.max(3, s.width / 3) : r.of.form === "bud" ? s.width / 4.5 : s.width / 2;
  if (r.of.form === "brush") return brush(s.width, r.of.colour || "#e3c770", "", r.input);
  const marks: Mark[] = [];
  const n = Math.min(r.count, 40);
  for (let i = 0; i < n; i++) {
    const far = n === 1 ? 0 : seen * 1.05 * Math.sqrt(i);
    const turn = i * 137.5;
    marks.push({
      d: circle(seen),
      fill: r.of.colour || ink,
      at: `rotate(${turn.toFixed(1)})translate(0 ${(-far).toFixed(1)})`,
      ring: r.input,
      shade: 0.05 + 0.1 * scatter(i),
    });
  }
  for (const bit of r.of.bits) marks.push(...bits(bit));
  return marks;
}

/** Assemblies within an assembly: bunched around the middle. */
function assembled(r: Schemas["Ring"], depth: number): Mark[] {
  const marks: Mark[] = [];
  const one = reach(r.of);
  const far = r.count > 1 ? one * 0.75 : 0;
  for (let i = 0; i < r.count; i++) {
    const at = `rotate(${((360 / r.count) * i).toFixed(1)})translate(0 ${(-far).toFixed(1)})`;
    marks.push(...moved(drawn(r.of, depth + 1), at, r.input));
  }
  return marks;
}

/** Leaves and sprigs: spread out behind the flower. */
function spread(r: Schemas["Ring"], p: Portrait, depth: number): Mark[] {
  const marks: Mark[] = [];
  const inner = Math.max(...p.rings.filter((x) => isPetal(x.of)).map((x) => size(x.of).height), 6) * 0.75;
  for (let i = 0; i < r.count; i++) {
    const at = `rotate(${((360 / r.count) * i + 35).toFixed(1)})translate(0 ${(-inner).toFixed(1)})`;
    marks.push(
      ...(r.of.rings.length ? moved(drawn(r.of, depth + 1), at, r.input) : piece(r.of, r.input, at, 0.06 * (i % 3))),
    );
  }
  return marks;
}

function moved(marks: Mark[], at: string, ring: number): Mark[] {
  return marks.map((m) => ({ ...m, at: at + m.at, ring }));
}

function bits(b: Schemas["Bit"]): Mark[] {
  const marks: Mark[] = [];
  const n = Math.min(30, b.amount);
  if (b.form === "stamens" || b.form === "thread") return n > 0 ? brush(8 + n * 0.6, "#d8b45c", "", -1) : [];
  if (b.form === "pearl")
    for (let i = 0; i < n; i++)
      marks.push({
        d: circle(1.4),
        fill: "#f4f0ea",
        at: `rotate(${i * 137.5})translate(0 ${-(2.2 * Math.sqrt(i)).toFixed(1)})`,
        ring: -1,
      });
  return marks;
}

/** The stem below its heads, in millimetres. */
const tail = 30;

/** How long a stem with its heads is, in millimetres. */
function stemLength(p: Portrait): number {
  const last = Math.max(0, ...p.rings.flatMap((r) => r.atMicrometres.map(mm)));
  const heads = p.rings.reduce((sum, r) => sum + r.count, 0);
  if (p.form === "frond") return 110;
  if (p.form === "cluster" || p.form === "filler") return 70;
  return (last || heads * 14) + tail;
}

/** How far a thing seen from the side reaches from its middle. */
export function sideBounds(p: Portrait): { up: number; down: number; side: number } {
  const long = stemLength(p);
  if (p.form === "cluster" || p.form === "filler") return { up: long / 2, down: long / 2, side: long / 2 };
  let up = long / 2;
  let side = 12;
  for (const r of p.rings) {
    const whole = fromTheSide(r.of);
    const tall = whole ? stemLength(r.of) : r.of.rings.length ? reach(r.of) : size(r.of).height;
    const first = Math.min(0, ...r.atMicrometres.map((a) => -mm(a)));
    const nearest = r.atMicrometres.length ? Math.min(...r.atMicrometres.map(mm)) : -first;
    up = Math.max(up, long / 2 - nearest + tall * (whole ? 0.65 : 0.8));
    side = Math.max(side, tall * (whole ? 0.4 : 0.85));
  }
  return { up, down: long / 2, side };
}

/** A sprig, trail, spray, frond or cluster from the side, its tip up, the middle at the origin. */
function alongStem(p: Portrait, depth: number): Mark[] {
  const long = stemLength(p);
  const top = -long / 2;
  const stem: Mark = {
    d: `M0 ${top + 4}C3 ${top + long * 0.35} -3 ${top + long * 0.7} 0 ${long / 2}`,
    fill: "#6f7d4a",
    at: "",
    ring: -1,
    line: true,
    width: 1.4,
  };
  if (p.form === "cluster" || p.form === "filler") return clustered(p, depth, long);
  const placed: { y: number; marks: Mark[]; side: number; leaf: boolean }[] = [];
  const all = p.rings.filter((r) => r.of.form !== "calyx");
  const heads = all.reduce((sum, r) => sum + r.count, 0);
  let k = 0;
  for (const r of all) {
    for (let i = 0; i < r.count; i++, k++) {
      const at =
        r.atMicrometres[i] !== undefined
          ? mm(r.atMicrometres[i])
          : ((long - tail) / Math.max(1, heads - 1)) * (p.form === "frond" ? Math.floor(k / 2) * 2 : k);
      const side = k % 2 ? 1 : -1;
      placed.push({
        y: top + 4 + at,
        side,
        leaf: isLeaf(r.of.form),
        marks: moved(drawn(r.of, depth + 1), "", r.input),
      });
    }
  }
  placed.sort((a, b) => b.y - a.y);
  const marks: Mark[] = [stem];
  placed.forEach((h, i) => {
    const whole = h.marks.length > 12;
    const out = whole ? 10 * h.side : h.leaf ? 1.5 * h.side : 6 * h.side;
    const tip = i === placed.length - 1 && !whole;
    const lean = tip ? 0 : whole ? 18 * h.side : (h.leaf ? 52 : 38) * h.side;
    const grown = p.form === "frond" ? 0.45 + 0.75 * ((h.y - top) / long) : 1;
    if (!h.leaf)
      marks.push({
        d: `M0 ${h.y + 7}Q${out * 0.3} ${h.y + 3} ${out} ${h.y}`,
        fill: "#6f7d4a",
        at: "",
        ring: -1,
        line: true,
        width: 0.9,
      });
    marks.push(
      ...moved(
        h.marks,
        `translate(${out} ${h.y.toFixed(1)})rotate(${lean})${grown === 1 ? "" : `scale(${grown.toFixed(2)})`}`,
        h.marks[0]?.ring ?? -1,
      ),
    );
  });
  return marks;
}

/** Heads in a dome on stems that run together. */
function clustered(p: Portrait, depth: number, long: number): Mark[] {
  const stems: Mark[] = [];
  const heads: Mark[] = [];
  for (const r of p.rings.filter((x) => x.of.form !== "calyx")) {
    const one = Math.min(14, reach(r.of));
    for (let i = 0; i < r.count; i++) {
      const far = one * 0.95 * Math.sqrt(i + 0.3);
      const turn = i * 137.5 * (Math.PI / 180);
      const x = far * Math.cos(turn);
      const y = far * 0.72 * Math.sin(turn) - long * 0.18;
      stems.push({
        d: `M${x.toFixed(1)} ${y.toFixed(1)}Q${(x * 0.3).toFixed(1)} ${(y + long * 0.35).toFixed(1)} 0 ${long / 2}`,
        fill: "#6f7d4a",
        at: "",
        ring: -1,
        line: true,
        width: 0.8,
      });
      heads.push(
        ...moved(
          drawn(r.of, depth + 1),
          `translate(${x.toFixed(1)} ${y.toFixed(1)})rotate(${(x * 1.5).toFixed(0)})`,
          r.input,
        ),
      );
    }
  }
  return [...stems, ...heads];
}

/** The part of the plane that shows a thing: its whole reach, and of a part alone some of its wire. */
export function frame(p: Portrait): { x: number; y: number; width: number; height: number } {
  if (p.rings.length === 0 && p.kind === "part") {
    const s = size(p);
    const stem = Math.min(60, mm(p.stemMicrometres));
    const half = Math.max(s.width, s.height, 24) * 0.62;
    return { x: -half - 4, y: -s.height - 8, width: 2 * half + 8, height: s.height + Math.max(14, stem) + 14 };
  }
  if (fromTheSide(p)) {
    const b = sideBounds(p);
    return { x: -b.side * 1.15, y: -b.up * 1.04, width: b.side * 2.3, height: (b.up + b.down) * 1.06 };
  }
  const far = Math.max(14, reach(p) * 1.18);
  return { x: -far, y: -far, width: 2 * far, height: 2 * far };
}

const pictures = new WeakMap<Portrait, string>();

/** A thing as a small picture to show by address: drawn once, however often it is shown. */
export function address(p: Portrait): string {
  const known = pictures.get(p);
  if (known) return known;
  const f = frame(p);
  const stroke = Math.max(f.width, f.height) / 300;
  const plain = (colour: string) => (/^#[0-9a-f]{6}$/.test(colour) ? colour : ink);
  const body =
    p.kind === "mix"
      ? `<path d="M-11-3c0-6 5-9 11-9s12 4 11 10-5 8-11 8-11-3-11-9z" fill="${plain(p.colour)}" stroke="#35202f" stroke-width=".5"/>`
      : drawn(p)
          .map((m) =>
            m.line
              ? `<path d="${m.d}" transform="${m.at}" fill="none" stroke="${plain(m.fill)}" stroke-width="${m.width}"/>`
              : `<path d="${m.d}" transform="${m.at}" fill="${plain(m.fill)}" stroke="#35202f" stroke-width="${stroke}"/>` +
                (m.shade
                  ? `<path d="${m.d}" transform="${m.at}" fill="#35202f" opacity="${m.shade.toFixed(2)}"/>`
                  : ""),
          )
          .join("");
  const box = p.kind === "mix" ? "-16 -16 32 32" : `${f.x} ${f.y} ${f.width} ${f.height}`;
  const made = `data:image/svg+xml,${encodeURIComponent(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box}">${body}</svg>`)}`;
  pictures.set(p, made);
  return made;
}

export const drawnAlready = (p: Portrait): boolean => pictures.has(p);

const waiting = new Set<() => void>();
let working = false;

/** Does something between frames, a few milliseconds at a time; answers with how to call it off. */
export function soon(work: () => void): () => void {
  waiting.add(work);
  if (!working) {
    working = true;
    requestAnimationFrame(() => setTimeout(slice));
  }
  return () => waiting.delete(work);
}

function slice(): void {
  const until = performance.now() + 6;
  for (const work of waiting) {
    waiting.delete(work);
    work();
    if (performance.now() > until) break;
  }
  if (waiting.size) requestAnimationFrame(() => setTimeout(slice));
  else working = false;
}
