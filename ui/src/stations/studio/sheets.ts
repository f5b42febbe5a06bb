import type { Column, Option } from "../../parts/fields/column";
import type { Row } from "../../parts/fields/fields";
import { typed } from "../../number";

/** Lines that belong to a thing: skills of a person, hours of the air. */
export interface Lines {
  key: string;
  title: string;
  more?: string; // the word for adding a line
  columns: Column[];
  fresh?: () => Row;
  fixed?: boolean; // as many as there are
  label?: (index: number) => string;
}

/** All that is said of one kind of thing in the workshop. */
export interface Sheet {
  columns: Column[];
  lines: Lines[];
}

/** What a sheet offers to choose from, and how minutes are said. */
export interface Around {
  surroundings: Option[];
  parts: Option[];
  mixes: Option[];
  tools: Option[];
  suppliers: Option[];
  classes: Option[];
  families: Option[];
  skills: string[];
  moment: NonNullable<Column["as"]>;
}

const words = (...all: string[]): Option[] => all.map((w) => ({ title: w, value: w }));
export const weekdays = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];

const name: Column = { key: "name", label: "name", kind: "text", width: 240 };
const outOfUse: Column = { key: "outOfUse", label: "out of use", kind: "flag" };
const clock = (key: string, label: string): Column => ({ key, label, kind: "text", input: "time", width: 96 });
const day: Column = {
  key: "day",
  label: "on",
  kind: "choice",
  options: weekdays.map((d) => ({ title: d[0]!.toUpperCase() + d.slice(1), value: d })),
};
const hours = (key: string, title: string, more: string): Lines => ({
  key,
  title,
  more,
  columns: [day, clock("from", "from"), clock("to", "to")],
  fresh: () => ({ day: "monday", from: "09:00", to: "17:00" }),
});
const spans = (key: string, title: string, more: string, moment: Around["moment"], now: () => number): Lines => ({
  key,
  title,
  more,
  columns: ["from", "to"].map((k) => ({
    key: k,
    label: k,
    kind: "text",
    input: "datetime-local",
    as: moment,
    width: 190,
  })),
  fresh: () => ({ from: now(), to: now() + 240 }),
});
/** Marks of a measure, one a line: its name, then its size in mm. */
const marks: NonNullable<Column["as"]> = {
  shown: (value) =>
    (value as { name: string; sizeMicrometres: number }[])
      .map((m) => `${m.name} ${m.sizeMicrometres / 1000}`)
      .join("\n"),
  kept: (text) =>
    text
      .split("\n")
      .map((line) => line.trim())
      .filter(Boolean)
      .map((line) => {
        const at = line.lastIndexOf(" ");
        return { name: line.slice(0, at).trim(), sizeMicrometres: Math.round(typed(line.slice(at + 1)) * 1000) };
      }),
};
/** An amount of a material in the unit that people use for it. */
const amount = (key: string, label: string): Column[] =>
  (
    [
      ["mg", "g", 1000],
      ["µm", "m", 1_000_000],
      ["pieces", "pieces", 1],
    ] as const
  ).map(([kept, unit, scale]) => ({
    key,
    label,
    kind: "text",
    unit,
    blank: "—",
    when: (row: Row) => row.unit === kept,
    as: {
      shown: (value) => String(Number((value as number) / scale)),
      kept: (text) => {
        const n = typed(text.replace(/\s*[a-zA-Z]+$/, ""));
        return scale === 1 ? n : Math.round(n * scale);
      },
    },
  }));
export const air = (key: string, title: string): Lines => ({
  key,
  title,
  fixed: true,
  label: (hour) => `${String(hour).padStart(2, "0")}:00`,
  columns: [
    { key: "tenthsCelsius", label: "warm", kind: "degrees" },
    { key: "humidityPerMille", label: "damp", kind: "percent" },
  ],
});
export const ordinaryAir = () => Array.from({ length: 24 }, () => ({ tenthsCelsius: 200, humidityPerMille: 500 }));

/** The sheets of all kinds. */
export function sheets(a: Around, now: () => number): Record<string, Sheet> {
  return {
    people: {
      columns: [
        name,
        { key: "away", label: "away on these days, one a line", kind: "list", width: 200 },
        ...a.families.map((f): Column => ({
          key: `colours.${f.value}`,
          label: `${f.title}: last colour`,
          kind: "choice",
          blank: "none yet",
          options: a.mixes,
        })),
        outOfUse,
      ],
      lines: [
        {
          key: "skills",
          title: "Can do",
          more: "Another skill",
          columns: [
            { key: "skill", label: "what", kind: "text", suggest: a.skills, width: 150 },
            { key: "paceHundredths", label: "pace, % of the recipe's", kind: "whole", width: 90 },
          ],
          fresh: () => ({ skill: "", paceHundredths: 100 }),
        },
        hours("hours", "Works", "More hours"),
        {
          key: "breaks",
          title: "Breaks, every day",
          more: "A break",
          columns: [clock("from", "from"), clock("to", "to")],
          fresh: () => ({ from: "12:30", to: "13:00" }),
        },
        spans("awayTimes", "Away for some hours", "Away from … to …", a.moment, now),
        spans("shifts", "Extra hours", "Extra hours on a day", a.moment, now),
        hours("overtime", "Overtime that they allow", "Overtime on a weekday"),
        spans("overtimeShifts", "Overtime on a day", "Overtime on a day", a.moment, now),
      ],
    },
    places: {
      columns: [
        name,
        { key: "slots", label: "how many", kind: "whole" },
        { key: "sizeMicrometres", label: "width of a cup", kind: "mm", blank: "—" },
        { key: "in", label: "stands in", kind: "choice", blank: "the room", options: a.surroundings },
        { key: "keepsMinutes", label: "keeps soft for", kind: "wall", blank: "no limit" },
        { key: "madeBy", label: "homemade, by", kind: "choice", blank: "bought", options: a.parts },
        outOfUse,
      ],
      lines: [],
    },
    surroundings: {
      columns: [name, { key: "closed", label: "closed: nothing goes soft in it", kind: "flag" }],
      lines: [air("hours", "Its usual air")],
    },
    tools: {
      columns: [
        name,
        { key: "number", label: "how many", kind: "whole" },
        { key: "sizeMicrometres", label: "a cutter cuts", kind: "mm", blank: "—" },
        {
          key: "standIns",
          label: "instead of it, one a line",
          kind: "list",
          width: 240,
          as: {
            shown: (ids) => (ids as string[]).map((id) => a.tools.find((t) => t.value === id)?.title ?? id).join("\n"),
            kept: (text) =>
              text
                .split("\n")
                .map((line) => line.trim())
                .filter(Boolean)
                .map((line) => a.tools.find((t) => t.title === line)?.value ?? line),
          },
        },
        outOfUse,
      ],
      lines: [],
    },
    machines: {
      columns: [name, { key: "slots", label: "holds, slots", kind: "whole" }, outOfUse],
      lines: [
        {
          key: "dries",
          title: "Dries",
          more: "Another kind of paste",
          columns: [
            { key: "class", label: "what", kind: "choice", options: a.classes, width: 170 },
            { key: "minutes", label: "within", kind: "wall" },
          ],
          fresh: () => ({ class: a.classes[0]?.value ?? "", minutes: 60 }),
        },
      ],
    },
    materials: {
      columns: [
        name,
        {
          key: "unit",
          label: "counted in",
          kind: "choice",
          options: [
            { title: "pieces", value: "pieces" },
            { title: "grams", value: "mg" },
            { title: "metres", value: "µm" },
          ],
        },
        {
          key: "form",
          label: "looks like",
          kind: "choice",
          blank: "—",
          options: words("stamens", "thread", "pearl", "foam"),
        },
        { key: "wire.gauge", label: "wire: gauge", kind: "whole", blank: "—", when: (row) => row.unit === "pieces" },
        { key: "wire.cover", label: "cover", kind: "text", when: (row) => !!row.wire },
        { key: "wire.lengthMicrometres", label: "full length", kind: "mm", when: (row) => !!row.wire },
        { key: "wire.diameterMicrometres", label: "thick", kind: "mm", when: (row) => !!row.wire },
        { key: "supplier", label: "bought from", kind: "choice", blank: "a shop", options: a.suppliers },
        ...amount("pack", "in packs of"),
        ...amount("keepAtLeast", "keep at least"),
        outOfUse,
      ],
      lines: [],
    },
    suppliers: {
      columns: [name, { key: "days", label: "comes after, working days", kind: "whole" }, outOfUse],
      lines: [],
    },
    dryingClasses: {
      columns: [
        name,
        { key: "firmMinutes", label: "firm after", kind: "wall" },
        { key: "stiffMinutes", label: "too stiff after", kind: "wall" },
        { key: "dryMinutes", label: "dry after", kind: "wall" },
        { key: "thicknessMicrometres", label: "at a thickness of", kind: "mm" },
        { key: "spreadPerMille", label: "scatter", kind: "percent" },
        { key: "stallHumidityPerMille", label: "does not dry above", kind: "percent" },
        { key: "softensMinutes", label: "above that, limp after", kind: "wall", blank: "never" },
        { key: "percentile", label: "planned so that of a hundred are dry", kind: "whole", blank: "as the studio" },
      ],
      lines: [],
    },
    dryingMethods: {
      columns: [name, { key: "factorPerMille", label: "takes, of the usual time", kind: "percent" }],
      lines: [],
    },
    setupFamilies: {
      columns: [
        name,
        { key: "fullMinutes", label: "a change takes", kind: "wall" },
        {
          key: "reset",
          label: "begins anew after",
          kind: "choice",
          blank: "nothing",
          options: [
            { title: "a night", value: "night" },
            { title: "other work", value: "other-work" },
          ],
        },
      ],
      lines: [
        {
          key: "changes",
          title: "Changes that take less or more, light to dark",
          more: "Another change",
          columns: [
            { key: "from", label: "from", kind: "choice", options: a.mixes, width: 140 },
            { key: "to", label: "to", kind: "choice", options: a.mixes, width: 140 },
            { key: "minutes", label: "takes", kind: "wall" },
          ],
          fresh: () => ({ from: a.mixes[0]?.value ?? "", to: a.mixes[1]?.value ?? "", minutes: 5 }),
        },
      ],
    },
    settings: {
      columns: [
        {
          key: "manner.mass",
          label: "masses in",
          kind: "choice",
          blank: "grams",
          options: [{ title: "ounces", value: "oz" }],
        },
        {
          key: "manner.length",
          label: "lengths in",
          kind: "choice",
          blank: "millimetres",
          options: [{ title: "inches", value: "in" }],
        },
        {
          key: "manner.decimal",
          label: "decimal sign",
          kind: "choice",
          blank: "as the browser",
          options: [
            { title: "point", value: "." },
            { title: "comma", value: "," },
          ],
        },
        { key: "manner.clock", label: "hours", kind: "choice", blank: "24", options: words("12") },
        {
          key: "manner.week",
          label: "a week begins on",
          kind: "choice",
          blank: "Monday",
          options: [{ title: "Sunday", value: "sunday" }],
        },
        { key: "safetyMinutes", label: "flowers ready before they leave by", kind: "wall" },
        { key: "gatheringMinutes", label: "orders are gathered over", kind: "days" },
        { key: "horizonMinutes", label: "plans look ahead", kind: "days" },
        { key: "planningPercentile", label: "waits are planned for, of a hundred pieces", kind: "whole" },
        {
          key: "sparesFor",
          label: "spares are reckoned for",
          kind: "choice",
          options: [
            { title: "the least cost, where what is short can be made again", value: "remaking" },
            { title: "the service level, always", value: "service" },
          ],
          width: 220,
        },
        { key: "defaultServiceLevelPerMille", label: "orders that need nothing made again", kind: "percent" },
        { key: "remakeMinutes", label: "making again costs, beside its setup", kind: "wall" },
        { key: "priorWeightPieces", label: "a recipe's breakage counts as so many pieces", kind: "whole" },
        { key: "mostPiecesOfOneOrder", label: "of one line at most", kind: "whole" },
        { key: "sittingMinutes", label: "for one sitting, later by", kind: "wall" },
        { key: "lossPerMille", label: "paste lost in kneading", kind: "percent" },
        { key: "sheetYieldPerMille", label: "of a sheet becomes pieces", kind: "percent" },
        { key: "shrinkagePerMille", label: "pieces shrink by", kind: "percent" },
        { key: "densityMilligramsPerMillilitre", label: "a millilitre of paste weighs", kind: "g" },
        { key: "scaleStepMilligrams", label: "the scale's step", kind: "g" },
        { key: "remnantMilligrams", label: "of a mix nothing is kept under", kind: "g" },
        { key: "keepOffcutMicrometres", label: "wire is kept from", kind: "mm" },
      ],
      lines: [
        {
          key: "measures",
          title: "The studio's own measures: ball gauge, roller, rings on a pin, cutter numbers",
          more: "Another measure",
          columns: [
            { key: "name", label: "called", kind: "text", width: 120 },
            { key: "of", label: "of", kind: "choice", options: words("ball", "rope", "thickness", "cut") },
            { key: "marks", label: "its marks, each with its size in mm", kind: "list", as: marks, width: 190 },
          ],
          fresh: () => ({ name: "", of: "ball", marks: [] }),
        },
      ],
    },
  };
}

/** What a new thing of a kind begins as. */
export const fresh: Record<string, () => Row> = {
  people: () => ({
    name: "",
    skills: [],
    hours: weekdays.slice(0, 5).map((d) => ({ day: d, from: "09:00", to: "17:00" })),
    breaks: [{ from: "12:30", to: "13:00" }],
  }),
  places: () => ({ name: "", slots: 1 }),
  surroundings: () => ({ name: "", hours: ordinaryAir() }),
  tools: () => ({ name: "", number: 1 }),
  machines: () => ({ name: "", slots: 1 }),
  materials: () => ({ name: "", unit: "pieces", onHand: 0 }),
  suppliers: () => ({ name: "", days: 3 }),
  dryingClasses: () => ({
    name: "",
    firmMinutes: 30,
    stiffMinutes: 150,
    dryMinutes: 300,
    thicknessMicrometres: 800,
    spreadPerMille: 250,
    stallHumidityPerMille: 800,
  }),
  dryingMethods: () => ({ name: "", factorPerMille: 1000 }),
  setupFamilies: () => ({ name: "", fullMinutes: 5 }),
};
