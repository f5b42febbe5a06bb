import type { Column, Option } from "../../parts/fields/column";
import type { Row } from "../../parts/fields/fields";
import { lengthScale, lengthUnit, massScale, massUnit } from "../../manner";
import { typed } from "../../number";
import { t, word } from "../../words/said";
import { dayName, weekdays } from "./days";

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
  languages: string[];
  currencies: string[];
  moment: NonNullable<Column["as"]>;
}

const words = (...all: string[]): Option[] => all.map((w) => ({ title: word(w), value: w }));
const name: Column = { key: "name", label: t("name"), kind: "text", width: 240 };
const outOfUse: Column = { key: "outOfUse", label: t("out of use"), kind: "flag" };
const clock = (key: string, label: string): Column => ({ key, label, kind: "text", input: "time", width: 96 });
const day: Column = {
  key: "day",
  label: t("on"),
  kind: "choice",
  options: () => weekdays.map((value) => ({ title: dayName(value, "long"), value })),
};
const hours = (key: string, title: string, more: string): Lines => ({
  key,
  title,
  more,
  columns: [day, clock("from", t("from")), clock("to", t("to"))],
  fresh: () => ({ day: "monday", from: "09:00", to: "17:00" }),
});
const spans = (key: string, title: string, more: string, moment: Around["moment"], now: () => number): Lines => ({
  key,
  title,
  more,
  columns: [t("from"), t("to")].map((label, i) => ({
    key: i ? "to" : "from",
    label,
    kind: "text",
    input: "datetime-local",
    as: moment,
    width: 190,
  })),
  fresh: () => ({ from: now(), to: now() + 240 }),
});
/** Days of the week in a row, as the browser's language calls them: "Tuesday, Friday". */
const someDays: NonNullable<Column["as"]> = {
  shown: (days) => (days as string[]).map((day) => dayName(day, "long")).join(", "),
  kept: (text) =>
    text
      .split(/[,;\s]+/)
      .filter(Boolean)
      .map((said) => weekdays.find((day) => dayName(day, "long").toLowerCase().startsWith(said.toLowerCase())) ?? said),
};
/** Marks of a measure, one a line: its name, then its size in the studio's unit. */
const marks: NonNullable<Column["as"]> = {
  shown: (value) =>
    (value as { name: string; sizeMicrometres: number }[])
      .map((m) => `${m.name} ${Number((m.sizeMicrometres / lengthScale()).toFixed(4))}`)
      .join("\n"),
  kept: (text) =>
    text
      .split("\n")
      .map((line) => line.trim())
      .filter(Boolean)
      .map((line) => {
        const at = line.lastIndexOf(" ");
        return {
          name: line.slice(0, at).trim(),
          sizeMicrometres: Math.round(typed(line.slice(at + 1)) * lengthScale()),
        };
      }),
};
const inPieces = (row: Record<string, unknown>) => row.unit === "pieces";

/** An amount of a material in the unit that people use for it. */
const amount = (key: string, label: string): Column[] =>
  (
    [
      ["mg", massUnit(), massScale()],
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
      shown: (value) => String(Number(((value as number) / scale).toFixed(4))),
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
    { key: "tenthsCelsius", label: t("warm"), kind: "degrees" },
    { key: "humidityPerMille", label: t("damp"), kind: "percent" },
  ],
});
export const ordinaryAir = () => Array.from({ length: 24 }, () => ({ tenthsCelsius: 200, humidityPerMille: 500 }));

/** Parts of what is said of the studio itself. */
export const parts = {
  manner: t("How things are called and figures said"),
  plans: t("What it plans by"),
  paste: t("Paste, wire and measures"),
  costs: t("Costs and prices"),
  air: t("The room's usual air"),
  devices: t("Sensors, scale and printer"),
};
export type Part = keyof typeof parts;

/** The sheets of all kinds. */
export function sheets(a: Around, now: () => number): Record<string, Sheet> {
  return {
    people: {
      columns: [
        name,
        { key: "away", label: t("away on these days, one a line"), kind: "list", width: 200 },
        ...a.families.map((f): Column => ({
          key: `colours.${f.value}`,
          label: t("{title}: last colour", { title: f.title }),
          kind: "choice",
          blank: t("none yet"),
          options: a.mixes,
        })),
        { key: "ratePerHour", label: t("an hour costs"), kind: "money", blank: "—" },
        outOfUse,
      ],
      lines: [
        {
          key: "skills",
          title: t("Can do"),
          more: t("Another skill"),
          columns: [
            { key: "skill", label: t("what"), kind: "text", suggest: a.skills, width: 150 },
            { key: "paceHundredths", label: t("pace, % of the recipe's"), kind: "whole", width: 90 },
          ],
          fresh: () => ({ skill: "", paceHundredths: 100 }),
        },
        hours("hours", t("Works"), t("More hours")),
        {
          key: "breaks",
          title: t("Breaks, every day"),
          more: t("A break"),
          columns: [clock("from", t("from")), clock("to", t("to"))],
          fresh: () => ({ from: "12:30", to: "13:00" }),
        },
        spans("awayTimes", t("Away for some hours"), t("Away from … to …"), a.moment, now),
        spans("shifts", t("Extra hours"), t("Extra hours on a day"), a.moment, now),
        hours("overtime", t("Overtime that they allow"), t("Overtime on a weekday")),
        spans("overtimeShifts", t("Overtime on a day"), t("Overtime on a day"), a.moment, now),
      ],
    },
    places: {
      columns: [
        name,
        { key: "slots", label: t("how many"), kind: "whole" },
        { key: "sizeMicrometres", label: t("width of a cup"), kind: "mm", blank: "—" },
        { key: "in", label: t("stands in"), kind: "choice", blank: t("the room"), options: a.surroundings },
        { key: "keepsMinutes", label: t("keeps soft for"), kind: "wall", blank: t("no limit") },
        { key: "madeBy", label: t("homemade, by"), kind: "choice", blank: t("bought"), options: a.parts },
        outOfUse,
      ],
      lines: [],
    },
    surroundings: {
      columns: [name, { key: "closed", label: t("closed: nothing goes soft in it"), kind: "flag" }],
      lines: [air("hours", t("Its usual air"))],
    },
    tools: {
      columns: [
        name,
        { key: "number", label: t("how many"), kind: "whole" },
        { key: "sizeMicrometres", label: t("a cutter cuts"), kind: "mm", blank: "—" },
        {
          key: "standIns",
          label: t("instead of it, one a line"),
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
      columns: [
        name,
        { key: "slots", label: t("holds, slots"), kind: "whole" },
        { key: "tenthsCelsius", label: t("usually runs at"), kind: "degrees", blank: "—" },
        { key: "cautions", label: t("cautions, one a line"), kind: "list", width: 260 },
        outOfUse,
      ],
      lines: [
        {
          key: "dries",
          title: t("Dries"),
          more: t("Another kind of paste"),
          columns: [
            { key: "class", label: t("what"), kind: "choice", options: a.classes, width: 170 },
            { key: "minutes", label: t("within"), kind: "wall" },
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
          label: t("counted in"),
          kind: "choice",
          options: [
            { title: t("pieces"), value: "pieces" },
            { title: t("grams"), value: "mg" },
            { title: t("metres"), value: "µm" },
          ],
        },
        {
          key: "form",
          label: t("looks like"),
          kind: "choice",
          blank: "—",
          options: words("stamens", "thread", "pearl", "foam"),
        },
        { key: "wire.gauge", label: t("wire: gauge"), kind: "whole", blank: "—", when: (row) => row.unit === "pieces" },
        { key: "wire.cover", label: t("cover"), kind: "text", when: (row) => !!row.wire },
        { key: "wire.lengthMicrometres", label: t("full length"), kind: "mm", when: (row) => !!row.wire },
        { key: "wire.diameterMicrometres", label: t("thick"), kind: "mm", when: (row) => !!row.wire },
        { key: "supplier", label: t("bought from"), kind: "choice", blank: t("a shop"), options: a.suppliers },
        ...amount("pack", t("in packs of")),
        ...amount("keepAtLeast", t("keep at least")),
        { key: "pricePerPack", label: t("a pack costs"), kind: "money", blank: "—" },
        {
          key: "food",
          label: t("may be eaten"),
          kind: "choice",
          blank: t("nobody has said"),
          options: [
            { title: t("food"), value: "food" },
            { title: t("not food: has to come off the cake"), value: "not-food" },
          ],
        },
        { key: "allergens", label: t("allergens, one a line"), kind: "list", width: 150 },
        { key: "label", label: t("words for a label"), kind: "text", width: 240 },
        { key: "holder.deepMicrometres", label: t("a holder, deep"), kind: "mm", blank: "—", when: inPieces },
        { key: "holder.comesBack", label: t("lent, comes back"), kind: "flag", when: (row) => !!row.holder },
        { key: "box.lengthMicrometres", label: t("a box inside, long"), kind: "mm", blank: "—", when: inPieces },
        { key: "box.widthMicrometres", label: t("wide"), kind: "mm", when: (row) => !!row.box },
        { key: "box.heightMicrometres", label: t("high"), kind: "mm", when: (row) => !!row.box },
        outOfUse,
      ],
      lines: [],
    },
    suppliers: {
      columns: [
        name,
        {
          key: "takes",
          label: t("takes an order"),
          kind: "choice",
          blank: t("at an order desk, where one is connected"),
          options: [
            { title: t("that somebody sends: a table, a letter, a call"), value: "by-hand" },
            { title: t("not: it is a shop"), value: "shop" },
          ],
          width: 220,
        },
        { key: "days", label: t("comes after, working days"), kind: "whole" },
        clock("cutOff", t("for the same day until")),
        { key: "comes", label: t("brings on"), kind: "text", as: someDays, blank: t("Monday to Friday"), width: 200 },
        {
          key: "address",
          label: t("its order desk's address"),
          kind: "text",
          blank: "http://…",
          width: 240,
          when: (row) => !row.takes,
        },
        outOfUse,
      ],
      lines: [],
    },
    dryingClasses: {
      columns: [
        name,
        { key: "firmMinutes", label: t("firm after"), kind: "wall" },
        { key: "stiffMinutes", label: t("too stiff after"), kind: "wall" },
        { key: "dryMinutes", label: t("dry after"), kind: "wall" },
        { key: "thicknessMicrometres", label: t("at a thickness of"), kind: "mm" },
        { key: "spreadPerMille", label: t("scatter"), kind: "percent" },
        { key: "stallHumidityPerMille", label: t("does not dry above"), kind: "percent" },
        { key: "softensMinutes", label: t("above that, limp after"), kind: "wall", blank: t("never") },
        {
          key: "percentile",
          label: t("planned so that of a hundred are dry"),
          kind: "whole",
          blank: t("as the studio"),
        },
      ],
      lines: [],
    },
    dryingMethods: {
      columns: [name, { key: "factorPerMille", label: t("takes, of the usual time"), kind: "percent" }],
      lines: [],
    },
    setupFamilies: {
      columns: [
        name,
        { key: "fullMinutes", label: t("a change takes"), kind: "wall" },
        {
          key: "reset",
          label: t("begins anew after"),
          kind: "choice",
          blank: t("nothing"),
          options: [
            { title: t("a night"), value: "night" },
            { title: t("other work"), value: "other-work" },
          ],
        },
      ],
      lines: [
        {
          key: "changes",
          title: t("Changes that take less or more, light to dark"),
          more: t("Another change"),
          columns: [
            { key: "from", label: t("from"), kind: "choice", options: a.mixes, width: 140 },
            { key: "to", label: t("to"), kind: "choice", options: a.mixes, width: 140 },
            { key: "minutes", label: t("takes"), kind: "wall" },
          ],
          fresh: () => ({ from: a.mixes[0]?.value ?? "", to: a.mixes[1]?.value ?? "", minutes: 5 }),
        },
      ],
    },
    settings: {
      columns: [
        {
          key: "manner.mass",
          label: t("masses in"),
          kind: "choice",
          blank: t("grams"),
          options: [{ title: t("ounces"), value: "oz" }],
        },
        {
          key: "manner.length",
          label: t("lengths in"),
          kind: "choice",
          blank: t("millimetres"),
          options: [{ title: t("inches"), value: "in" }],
        },
        {
          key: "manner.decimal",
          label: t("decimal sign"),
          kind: "choice",
          blank: t("as the browser"),
          options: [
            { title: t("point"), value: "." },
            { title: t("comma"), value: "," },
          ],
        },
        {
          key: "manner.language",
          label: t("language"),
          kind: "choice",
          blank: "English",
          options: words(...a.languages),
        },
        { key: "manner.clock", label: t("hours"), kind: "choice", blank: "24", options: words("12") },
        {
          key: "manner.week",
          label: t("a week begins on"),
          kind: "choice",
          blank: t("Monday"),
          options: [{ title: t("Sunday"), value: "sunday" }],
        },
        {
          key: "manner.money",
          label: t("money in"),
          kind: "choice",
          blank: t("no currency"),
          options: () => a.currencies.map((value) => ({ title: value, value })),
        },
        { key: "moneyStep", label: t("sums are rounded up to"), kind: "money" },
        { key: "costing.overheadPerHour", label: t("the house costs, an hour of work"), kind: "money" },
        {
          key: "costing.chargedPerHour",
          label: t("an hour of work is charged at"),
          kind: "money",
          blank: t("what it costs"),
        },
        {
          key: "costing.materialsFactorPerMille",
          label: t("materials are charged at, of what they cost"),
          kind: "percent",
          blank: t("what they cost"),
        },
        { key: "costing.box", label: t("a box, packed"), kind: "money" },
        { key: "allergens", label: t("allergens that are told apart, one a line"), kind: "list", width: 150 },
        { key: "costing.delivery", label: t("bringing or posting an order"), kind: "money" },
        {
          key: "seatMinutes",
          label: t("untouched, a tablet forgets who is there after"),
          kind: "wall",
          blank: t("the day's end"),
        },
        { key: "safetyMinutes", label: t("flowers ready before they leave by"), kind: "wall" },
        { key: "gatheringMinutes", label: t("orders are gathered over"), kind: "days" },
        { key: "horizonMinutes", label: t("plans look ahead"), kind: "days" },
        { key: "planningPercentile", label: t("waits are planned for, of a hundred pieces"), kind: "whole" },
        {
          key: "sparesFor",
          label: t("spares are reckoned for"),
          kind: "choice",
          options: [
            { title: t("the least cost, where what is short can be made again"), value: "remaking" },
            { title: t("the service level, always"), value: "service" },
          ],
          width: 220,
        },
        { key: "defaultServiceLevelPerMille", label: t("orders that need nothing made again"), kind: "percent" },
        { key: "remakeMinutes", label: t("making again costs, beside its setup"), kind: "wall" },
        { key: "priorWeightPieces", label: t("a recipe's breakage counts as so many pieces"), kind: "whole" },
        { key: "mostPiecesOfOneOrder", label: t("of one line at most"), kind: "whole" },
        { key: "sittingMinutes", label: t("for one sitting, later by"), kind: "wall" },
        { key: "lossPerMille", label: t("paste lost in kneading"), kind: "percent" },
        { key: "sheetYieldPerMille", label: t("of a sheet becomes pieces"), kind: "percent" },
        { key: "shrinkagePerMille", label: t("pieces shrink by"), kind: "percent" },
        { key: "densityMilligramsPerMillilitre", label: t("a millilitre of paste weighs"), kind: "g" },
        { key: "scaleStepMilligrams", label: t("the scale's step"), kind: "g" },
        { key: "remnantMilligrams", label: t("of a mix nothing is kept under"), kind: "g" },
        { key: "keepOffcutMicrometres", label: t("wire is kept from"), kind: "mm" },
        { key: "devices.scale", label: t("the scale's address"), kind: "text", blank: "http://…", width: 260 },
        { key: "devices.printer", label: t("the label printer's"), kind: "text", blank: "http://…", width: 260 },
      ],
      lines: [
        {
          key: "measures",
          title: t("The studio's own measures: ball gauge, roller, rings on a pin, cutter numbers"),
          more: t("Another measure"),
          columns: [
            { key: "name", label: t("called"), kind: "text", width: 120 },
            { key: "of", label: t("of"), kind: "choice", options: words("ball", "rope", "thickness", "cut") },
            {
              key: "marks",
              label: t("its marks, each with its size in {unit}", { unit: lengthUnit() }),
              kind: "list",
              as: marks,
              width: 190,
            },
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
