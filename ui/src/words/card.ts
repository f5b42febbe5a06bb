import type { Schemas } from "../api/client";
import { lasting, length, lengthFigure, mass, plain, stocked } from "../format";
import { lengthUnit } from "../manner";
import { i18n } from "./index";

type Step = Schemas["CardStep"];
const { t, te } = i18n.global;
const said = (of: string, code: string | undefined) =>
  code && te(`card.${of}.${code}`) ? t(`card.${of}.${code}`) : "";
const also = (...words: (string | false | undefined)[]) => words.filter(Boolean).join(", ");

/** Less than this no kitchen scale shows. */
const tooLittle = 50;

/** A mass as a bench says it: what no kitchen scale shows is never "0.0 g". */
export const weight = (milligrams: number): string =>
  milligrams < tooLittle ? t("card.touch", { mg: plain(milligrams) }) : mass(milligrams);

/** What a piece of paste is: how large, by the studio's own measures and in the unit of lengths. */
export function shapeWords(p: Schemas["CardPaste"]): string {
  const long = (v: number | undefined) => length(v ?? 0);
  const sizes: Record<string, number | undefined> = {
    ball: p.shape.diameterMicrometres,
    rope: p.shape.diameterMicrometres,
    cut: p.shape.lengthMicrometres,
    thickness: p.shape.thicknessMicrometres,
  };
  const mark = (of: string) => {
    const own = p.sizes?.find((s) => s.of === of);
    if (!own) return "";
    const off = own.sizeMicrometres === sizes[of] ? "" : `, which is ${long(own.sizeMicrometres)}`;
    return ` (${own.measure}, ${off && "nearest "}${own.mark}${off})`;
  };
  const s = p.shape;
  const each = p.each > 1 ? `${p.each} × ` : "";
  switch (s.shape) {
    case "ball":
      return `${each}ball ${long(s.diameterMicrometres)}${mark("ball")}`;
    case "rope":
      return `${each}rope ${long(s.diameterMicrometres)} across, ${long(s.lengthMicrometres)} long${mark("rope")}`;
    case "weighed":
      return p.mass < tooLittle ? t("card.little", { mg: plain(p.mass) }) : `${each}${weight(p.mass)} each`;
    default:
      return also(
        `${each}${lengthFigure(s.lengthMicrometres ?? 0)} × ${long(s.widthMicrometres)}${mark("cut")}`,
        `${long(s.thicknessMicrometres)} thick${mark("thickness")}`,
        s.driedMicrometres ? `to be ${long(s.driedMicrometres)} once dry` : "",
      );
  }
}

/** How much of a paste: for the next run where there are runs, and in all. */
export const pasteWords = (p: Schemas["CardPaste"]): string =>
  also(
    p.now < p.all ? `${weight(p.now)} for this run, ${weight(p.all)} in all` : `${weight(p.all)} in all`,
    p.cut && p.sheet ? `${weight(p.sheet)} rolled for ${p.cut} ${p.cut === 1 ? "piece" : "pieces"}` : "",
  );

export function wireWords(w: Schemas["CardWire"]): string {
  return also(
    `${w.each > 1 ? `${w.each} × ` : ""}${w.name}, cut ${length(w.lengthMicrometres)}`,
    `${length(w.depthMicrometres)} deep in the piece`,
    said("hook", w.hook) + (w.turns ? ` ${w.turns} turns` : ""),
  );
}

/** A number of bought things, by unit. */
const amount = (m: Schemas["Bought"], of: number) =>
  m.unit === "µm" ? `${length(of)}` : m.unit === "mg" ? weight(of) : plain(of);

export function boughtWords(m: Schemas["Bought"]): string {
  const range = m.least !== undefined || m.most !== undefined;
  const much = range
    ? `${amount(m, m.least ?? m.amount)} to ${amount(m, m.most ?? m.amount)}, by eye`
    : amount(m, m.amount);
  return also(
    m.per > 1 ? `${m.name}, ${much} for every ${m.per}` : `${m.name}, ${much} each`,
    `${stocked(m.all, m.unit) || m.all} in all`,
    m.outAt ? `comes out again at “${m.outAt}”` : "",
  );
}

/** Bought things that come out again, as many as went in. */
export const outWords = (m: Schemas["Bought"]): string => `${m.name}: ${amount(m, m.now)} come out, as many as went in`;

export function partWords(p: Schemas["Part"]): string {
  const count = p.least !== undefined && p.least < p.each ? `${p.least} to ${p.each}, by eye` : `${p.each} each`;
  return also(
    `${p.name}${p.of ? `, ${p.of}` : ""}: ${count}`,
    p.rows?.length && p.rows.length > 1 ? `in rows of ${p.rows.join(" + ")}` : "",
    said("set", p.set),
    said("join", p.join),
    p.reversed && "the other way round",
    p.sequence?.length ? `in the order ${p.sequence.join(", ")}` : "",
    p.atMicrometres?.length ? `at ${p.atMicrometres.map(lengthFigure).join(", ")} ${lengthUnit()} from the tip` : "",
    p.wants && said("wants", p.wants),
  );
}

export function layWords(l: Schemas["Lay"]): string {
  const until = l.until && l.until !== l.place ? ` until “${l.until}”` : "";
  return also(
    `${l.place}${l.slots ? `: ${l.slots} ${l.slots === 1 ? "slot" : "slots"}` : ""}, ${l.perSlot} in each${until}`,
    l.pieces ? `${l.pieces} of them` : "",
    l.says,
    l.keepsMinutes ? `keeps them soft for ${lasting(l.keepsMinutes)}` : "",
  );
}

export const toolWords = (tool: Schemas["CardTool"]): string =>
  `${tool.number > 1 ? `${tool.number} × ` : ""}${tool.name}${tool.instead ? `, in place of ${tool.instead}` : ""}`;

export function freshWords(w: Schemas["Within"]): string {
  const minutes = also(
    w.atLeastMinutes ? `not before ${lasting(w.atLeastMinutes)} after “${w.after}”` : "",
    w.atMostMinutes !== undefined ? `within ${lasting(w.atMostMinutes)} of “${w.after}”` : "",
  );
  const state =
    w.from && w.before
      ? `once ${said("state", w.from)}, and before ${said("state", w.before)}`
      : w.from
        ? `once ${said("state", w.from)}`
        : w.before
          ? `before it is ${said("state", w.before)}`
          : "";
  return also(minutes, minutes ? state : state && `“${w.after}”: ${state}`);
}

export const wantsWords = (wants: string | undefined): string => said("wants", wants);

/** What comes after a task: how long, where, in what state. */
export function afterWords(a: Schemas["After"], clock: (m: number) => string): string {
  if (!a.wait) return a.start === undefined ? a.name : `${a.name}, ${clock(a.start)}`;
  return also(
    a.name,
    a.state ? `until it is ${said("state", a.state)}` : a.minutes ? lasting(a.minutes) : "",
    a.wished?.state
      ? `better ${said("state", a.wished.state)}`
      : a.wished?.minutes
        ? `better ${lasting(a.wished.minutes)}`
        : "",
    a.method,
    a.machine && `${a.machine}${a.setting ? ` at ${a.setting}` : ""}`,
    a.end !== undefined ? `about ${clock(a.end)}` : "",
  );
}

/** The piece of paste that some steps shape, to be drawn to scale, and the wire in it. */
export function shapedBy(steps: Step[]): { paste: Schemas["CardPaste"]; wire?: Schemas["CardWire"] } | undefined {
  const paste = steps.flatMap((s) => s.pastes ?? []).find((p) => ["cut", "ball", "rope"].includes(p.shape.shape));
  return paste && { paste, wire: steps.flatMap((s) => s.wires ?? [])[0] };
}

/** How large a piece is as it is cut or rolled, in short; nothing of what is weighed. */
export function sizeWords(g: Schemas["Geometry"] | undefined): string {
  const { lengthMicrometres: long = 0, widthMicrometres: wide = 0, diameterMicrometres: across = 0 } = g ?? {};
  if (g?.shape === "cut") return `${lengthFigure(long)} × ${length(wide)}`;
  if (g?.shape === "ball") return `ball of ${length(across)}`;
  return g?.shape === "rope" ? `${lengthFigure(across)} × ${length(long)}` : "";
}
