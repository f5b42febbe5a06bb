import type { Schemas } from "../api/client";
import { lasting, length, lengthFigure, mass, plain, stocked } from "../format";
import { lengthUnit } from "../manner";
import { t, te } from "./said";

type Step = Schemas["CardStep"];
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
    const off =
      own.sizeMicrometres === sizes[of]
        ? ""
        : t(", which is {sizeMicrometres}", { sizeMicrometres: long(own.sizeMicrometres) });
    return ` (${own.measure}, ${off && "nearest "}${own.mark}${off})`;
  };
  const s = p.shape;
  const each = p.each > 1 ? `${p.each} × ` : "";
  switch (s.shape) {
    case "ball":
      return t("{each}ball {diameterMicrometres}{mark}", {
        each,
        diameterMicrometres: long(s.diameterMicrometres),
        mark: mark("ball"),
      });
    case "rope":
      return t("{each}rope {diameterMicrometres} across, {lengthMicrometres} long{mark}", {
        each,
        diameterMicrometres: long(s.diameterMicrometres),
        lengthMicrometres: long(s.lengthMicrometres),
        mark: mark("rope"),
      });
    case "weighed":
      return p.mass < tooLittle
        ? t("card.little", { mg: plain(p.mass) })
        : t("{each}{mass} each", { each, mass: weight(p.mass) });
    default:
      return also(
        `${each}${lengthFigure(s.lengthMicrometres ?? 0)} × ${long(s.widthMicrometres)}${mark("cut")}`,
        t("{thicknessMicrometres} thick{mark}", {
          thicknessMicrometres: long(s.thicknessMicrometres),
          mark: mark("thickness"),
        }),
        s.driedMicrometres
          ? t("to be {driedMicrometres} once dry", { driedMicrometres: long(s.driedMicrometres) })
          : "",
      );
  }
}

/** How much of a paste: for the next run where there are runs, and in all. */
export const pasteWords = (p: Schemas["CardPaste"]): string =>
  also(
    p.now < p.all
      ? t("{now} for this run, {all} in all", { now: weight(p.now), all: weight(p.all) })
      : t("{all} in all", { all: weight(p.all) }),
    p.cut && p.sheet
      ? t("{sheet} rolled for {n} piece | {sheet} rolled for {n} pieces", { sheet: weight(p.sheet) }, p.cut)
      : "",
  );

export function wireWords(w: Schemas["CardWire"]): string {
  return also(
    t("{each}{name}, cut {lengthMicrometres}", {
      each: w.each > 1 ? `${w.each} × ` : "",
      name: w.name,
      lengthMicrometres: length(w.lengthMicrometres),
    }),
    t("{depthMicrometres} deep in the piece", { depthMicrometres: length(w.depthMicrometres) }),
    said("hook", w.hook) + (w.turns ? t(" {turns} turns", { turns: w.turns }) : ""),
  );
}

/** A number of bought things, by unit. */
const amount = (m: Schemas["Bought"], of: number) =>
  m.unit === "µm" ? `${length(of)}` : m.unit === "mg" ? weight(of) : plain(of);

export function boughtWords(m: Schemas["Bought"]): string {
  const range = m.least !== undefined || m.most !== undefined;
  const much = range
    ? t("{amount} to {amount2}, by eye", {
        amount: amount(m, m.least ?? m.amount),
        amount2: amount(m, m.most ?? m.amount),
      })
    : amount(m, m.amount);
  return also(
    m.per > 1
      ? t("{name}, {much} for every {per}", { name: m.name, much, per: m.per })
      : t("{name}, {much} each", { name: m.name, much }),
    t("{all} in all", { all: stocked(m.all, m.unit) || m.all }),
    m.outAt ? t("comes out again at “{outAt}”", { outAt: m.outAt }) : "",
  );
}

/** Bought things that come out again, as many as went in. */
export const outWords = (m: Schemas["Bought"]): string =>
  t("{name}: {now} come out, as many as went in", { name: m.name, now: amount(m, m.now) });

export function partWords(p: Schemas["Part"]): string {
  const count =
    p.least !== undefined && p.least < p.each
      ? t("{least} to {each}, by eye", { least: p.least, each: p.each })
      : t("{each} each", { each: p.each });
  return also(
    `${p.name}${p.of ? `, ${p.of}` : ""}: ${count}`,
    p.rows?.length && p.rows.length > 1 ? t("in rows of {rows}", { rows: p.rows.join(" + ") }) : "",
    said("set", p.set),
    said("join", p.join),
    p.reversed && t("the other way round"),
    p.sequence?.length ? t("in the order {sequence}", { sequence: p.sequence.join(", ") }) : "",
    p.atMicrometres?.length
      ? t("at {lengthFigure} {lengthUnit} from the tip", {
          lengthFigure: p.atMicrometres.map(lengthFigure).join(", "),
          lengthUnit: lengthUnit(),
        })
      : "",
    p.wants && said("wants", p.wants),
  );
}

export function layWords(l: Schemas["Lay"]): string {
  const until = l.until && l.until !== l.place ? t(" until “{until}”", { until: l.until }) : "";
  return also(
    t("{place}{slots}, {perSlot} in each{until}", {
      place: l.place,
      slots: l.slots ? `: ${t("{n} slot | {n} slots", l.slots)}` : "",
      perSlot: l.perSlot,
      until,
    }),
    l.pieces ? t("{pieces} of them", { pieces: l.pieces }) : "",
    l.says,
    l.keepsMinutes ? t("keeps them soft for {keepsMinutes}", { keepsMinutes: lasting(l.keepsMinutes) }) : "",
  );
}

export const toolWords = (tool: Schemas["CardTool"]): string =>
  `${tool.number > 1 ? `${tool.number} × ` : ""}${tool.name}${tool.instead ? t(", in place of {instead}", { instead: tool.instead }) : ""}`;

export function freshWords(w: Schemas["Within"]): string {
  const minutes = also(
    w.atLeastMinutes
      ? t("not before {atLeastMinutes} after “{after}”", { atLeastMinutes: lasting(w.atLeastMinutes), after: w.after })
      : "",
    w.atMostMinutes !== undefined
      ? t("within {atMostMinutes} of “{after}”", { atMostMinutes: lasting(w.atMostMinutes), after: w.after })
      : "",
  );
  const state =
    w.from && w.before
      ? t("once {from}, and before {before}", { from: said("state", w.from), before: said("state", w.before) })
      : w.from
        ? t("once {from}", { from: said("state", w.from) })
        : w.before
          ? t("before it is {before}", { before: said("state", w.before) })
          : "";
  return also(minutes, minutes ? state : state && `“${w.after}”: ${state}`);
}

export const wantsWords = (wants: string | undefined): string => said("wants", wants);

/** What comes after a task: how long, where, in what state. */
export function afterWords(a: Schemas["After"], clock: (m: number) => string): string {
  if (!a.wait) return a.start === undefined ? a.name : `${a.name}, ${clock(a.start)}`;
  return also(
    a.name,
    a.state ? t("until it is {state}", { state: said("state", a.state) }) : a.minutes ? lasting(a.minutes) : "",
    a.wished?.state
      ? t("better {state}", { state: said("state", a.wished.state) })
      : a.wished?.minutes
        ? t("better {minutes}", { minutes: lasting(a.wished.minutes) })
        : "",
    a.method,
    a.machine && `${a.machine}${a.setting ? t(" at {setting}", { setting: a.setting }) : ""}`,
    a.end !== undefined ? t("about {end}", { end: clock(a.end) }) : "",
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
  if (g?.shape === "ball") return t("ball of {across}", { across: length(across) });
  return g?.shape === "rope" ? `${lengthFigure(across)} × ${length(long)}` : "";
}
