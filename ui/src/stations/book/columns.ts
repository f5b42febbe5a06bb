import type { Schemas } from "../../api/client";
import type { Column, Option } from "../../parts/fields/column";
import type { Recipe } from "./writing";
import { t, word } from "../../words/said";

export type Words = Schemas["Words"];

const words = (...all: string[]): Option[] => all.map((w) => ({ title: word(w), value: w }));
/** What can be chosen, by name; what is out of use last, and said so. */
const named = (all: { id: string; name: string; outOfUse?: boolean }[]): Option[] =>
  [...all]
    .sort((a, b) => Number(a.outOfUse ?? false) - Number(b.outOfUse ?? false))
    .map((x) => ({ title: x.outOfUse ? t("{name}, out of use", { name: x.name }) : x.name, value: x.id }));

export const forms = [
  "petal",
  "round petal",
  "pointed petal",
  "notched petal",
  "heart petal",
  "frilled petal",
  "daisy",
  "notched ring",
  "blossom",
  "star",
  "leaf",
  "long leaf",
  "lobed leaf",
  "cone",
  "centre",
  "ball",
  "bead",
  "bud",
  "brush",
  "calyx",
  "disc",
  "former",
  "wired",
  "layered",
  "filler",
  "cluster",
  "sprig",
  "frond",
  "trail",
  "spray",
  "paste",
  "dust",
  "icing",
  "glue",
];
const states = words("firm", "stiff", "dry");
const wanted = words("soft", "firm", "dry", "any");

/** The tables of a recipe, each with the words that it may choose from. */
export function columnsFor(w: Words, r: Recipe, all: Recipe[], book: Schemas["Page"][]) {
  const steps: Option[] = r.steps.map((s) => ({ title: s.name || s.key, value: s.key }));
  const pieces = new Map<string, string>();
  const mixes = new Map<string, string>();
  for (const p of book) (p.kind === "mix" ? mixes : pieces).set(p.recipe, p.name);
  for (const x of all) (x.kind === "mix" ? mixes : pieces).set(x.id, x.name);
  pieces.delete(r.id);
  const sorted = (m: Map<string, string>) =>
    [...m].map(([value, title]) => ({ title, value })).sort((a, b) => a.title.localeCompare(b.title));
  const of = (id: unknown) => all.find((x) => x.id === id);
  const variantsOf = (id: unknown): string[] =>
    of(id)
      ? [...(of(id)!.variants ?? []), ...(of(id)!.sizes ?? [])].map((v) => v.name)
      : (book.find((p) => p.recipe === id)?.variants ?? []);
  const step = (label = t("at step")): Column => ({ key: "step", label, kind: "choice", options: steps, width: 118 });
  const weighed = named(w.materials.filter((m) => m.unit === "mg"));
  const classes = named(w.dryingClasses);
  const methods = named(w.dryingMethods);
  const slots: Option[] = words(...new Set(all.flatMap((x) => (x.pastes ?? []).map((p) => p.slot)).filter(Boolean)));
  const shape = (key: string) => (row: Record<string, unknown>) =>
    ((row.shape as Record<string, unknown> | undefined)?.shape ?? "") === key;
  const flat: Column[] = [
    {
      key: "shape.lengthMicrometres",
      label: t("length"),
      kind: "mm",
      width: 62,
      when: (x) => shape("cut")(x) || shape("rope")(x),
    },
    { key: "shape.widthMicrometres", label: t("width"), kind: "mm", width: 62, when: shape("cut") },
    { key: "shape.thicknessMicrometres", label: t("thick"), kind: "mm", width: 66, when: shape("cut") },
  ];
  const round: Column[] = [
    {
      key: "shape.diameterMicrometres",
      label: t("across"),
      kind: "mm",
      width: 62,
      when: (x) => shape("ball")(x) || shape("rope")(x),
    },
    { key: "shape.massMilligrams", label: t("mass"), kind: "g", width: 62, when: shape("weighed") },
  ];
  const drying: Column[] = [
    { key: "class", label: t("drying class"), kind: "choice", options: classes, blank: "—", width: 120 },
    { key: "thicknessMicrometres", label: t("thick"), kind: "mm", width: 66 },
    { key: "method", label: t("way of drying"), kind: "choice", options: methods, blank: t("as it lies"), width: 105 },
    { key: "slot", label: t("made of slot"), kind: "choice", options: slots, blank: "—", width: 90 },
  ];
  const window: Column[] = [
    { key: "atLeastMinutes", label: t("at least"), kind: "wall", width: 66 },
    { key: "atMostMinutes", label: t("at most"), kind: "wall", width: 66 },
    { key: "from", label: t("from"), kind: "choice", options: states, blank: "—", width: 72 },
    { key: "before", label: t("before"), kind: "choice", options: states, blank: "—", width: 72 },
    ...drying,
    { key: "whole", label: t("of the lot as a whole"), kind: "flag", width: 66 },
  ];
  return {
    parts: [
      { key: "recipe", label: t("what"), kind: "choice", options: sorted(pieces), width: 156 },
      { key: "count", label: t("how many"), kind: "whole", width: 58 },
      { key: "least", label: t("at least"), kind: "whole", width: 56, blank: t("all") },
      { key: "rows", label: t("in rows"), kind: "numbers", width: 84 },
      {
        key: "set",
        label: t("set"),
        kind: "choice",
        options: words("over-gaps", "level", "alternating"),
        blank: "—",
        width: 96,
      },
      {
        key: "join",
        label: t("joined"),
        kind: "choice",
        options: words("taped", "glued", "wet", "slotted", "threaded", "iced"),
        blank: "—",
        width: 84,
      },
      step(),
      {
        key: "variant",
        label: t("variant"),
        needed: (x) => variantsOf(x.recipe).length > 0 || !!x.variant,
        kind: "choice",
        options: (x) => words(...variantsOf(x.recipe)),
        blank: "—",
        width: 82,
      },
      {
        key: "form",
        label: t("form"),
        needed: (x) => !!of(x.recipe)?.forms?.length || !!x.form,
        kind: "choice",
        options: (x) => words(...(of(x.recipe)?.forms ?? []).map((f) => f.name)),
        blank: "—",
        width: 82,
      },
    ] as Column[],
    partsMore: [
      { key: "wants", label: t("wanted"), kind: "choice", options: wanted, blank: t("by how it is joined") },
      { key: "inRun", label: t("made in the run"), kind: "flag" },
      { key: "sizes", label: t("all sizes of its table"), kind: "flag" },
      { key: "reversed", label: t("put on reversed"), kind: "flag" },
      { key: "between.least", label: t("made with from"), kind: "whole" },
      { key: "between.most", label: t("to"), kind: "whole" },
      { key: "sequence", label: t("order around one cut-out"), kind: "numbers" },
      { key: "atMicrometres", label: t("distances from the tip, mm"), kind: "numbers", scale: 1000 },
      ...window.map((c) => ({ ...c, key: `window.${c.key}`, label: t("fresh: {label}", { label: c.label }) })),
    ] as Column[],
    pastes: [
      step(),
      { key: "slot", label: t("colour slot"), kind: "text", width: 96 },
      {
        key: "shape.shape",
        label: t("shape"),
        kind: "choice",
        options: words("cut", "ball", "rope", "weighed"),
        width: 86,
      },
      ...flat,
      { key: "shape.factorPerMille", label: t("fills"), kind: "percent", width: 62, when: shape("cut") },
      ...round,
      { key: "shape.driedMicrometres", label: t("wanted dry"), kind: "mm", width: 66, when: shape("cut") },
      { key: "number", label: t("each takes"), kind: "whole", width: 58, blank: "1" },
      { key: "run", label: t("to a sheet"), kind: "whole", width: 58 },
      { key: "where", label: t("where it goes"), kind: "text", width: 120 },
    ] as Column[],
    sizes: [
      { key: "name", label: t("size"), kind: "text", width: 92 },
      { key: "count", label: t("to a flower"), kind: "whole", width: 62 },
      ...flat,
      ...round,
      { key: "tool", label: t("cutter, in words"), kind: "text", width: 130 },
      {
        key: "wire",
        label: t("wire"),
        kind: "choice",
        options: named(w.materials.filter((m) => m.wire)),
        blank: t("as the part"),
        width: 116,
      },
      { key: "stemMicrometres", label: t("free stem"), kind: "mm", width: 66, blank: t("as the part") },
      { key: "pieceMilliminutes", label: t("each takes"), kind: "min", width: 66, blank: t("as the step") },
    ] as Column[],
    wires: [
      step(),
      {
        key: "material",
        label: t("wire"),
        kind: "choice",
        options: named(w.materials.filter((m) => m.wire)),
        width: 130,
      },
      { key: "number", label: t("wires"), kind: "whole", width: 50 },
      { key: "depthMicrometres", label: t("in the paste"), kind: "mm", width: 72 },
      { key: "stemMicrometres", label: t("free stem"), kind: "mm", width: 72 },
      { key: "allowanceMicrometres", label: t("for the hook"), kind: "mm", width: 72 },
      {
        key: "hook",
        label: t("hook"),
        kind: "choice",
        options: words("open", "closed", "tape-wound", "straight"),
        blank: "—",
        width: 100,
      },
      { key: "turns", label: t("turns"), kind: "whole", width: 50 },
    ] as Column[],
    materials: [
      step(),
      {
        key: "material",
        label: t("what"),
        kind: "choice",
        options: w.materials.filter((m) => !m.wire).map((m) => ({ title: `${m.name}, ${m.unit}`, value: m.id })),
        width: 190,
      },
      { key: "amount", label: t("amount"), kind: "whole", width: 80 },
      { key: "least", label: t("at least"), kind: "whole", width: 64, blank: t("as much") },
      { key: "most", label: t("at most"), kind: "whole", width: 64, blank: t("as much") },
      { key: "perPieces", label: t("for every"), kind: "whole", width: 60, blank: "1" },
      { key: "outAtStep", label: t("comes out at"), kind: "choice", options: steps, blank: t("stays in"), width: 130 },
    ] as Column[],
    blend: [
      {
        key: "material",
        label: t("material"),
        kind: "choice",
        options: weighed,
        blank: "—",
        width: 190,
        when: (x) => !x.mix,
      },
      {
        key: "mix",
        label: t("or a mix"),
        kind: "choice",
        options: sorted(mixes).filter((m) => m.value !== r.id),
        blank: "—",
        width: 190,
        when: (x) => !x.material,
      },
      { key: "parts", label: r.byPercent ? t("per cent") : "parts", kind: "whole", width: 70 },
    ] as Column[],
    additives: [
      { key: "material", label: t("material"), kind: "choice", options: weighed, width: 190 },
      { key: "milligramsPer100g", label: t("g in 100 g"), kind: "g", width: 80, when: (x) => !x.dropsPer100g },
      {
        key: "dropsPer100g",
        label: t("or drops in 100 g"),
        kind: "whole",
        width: 96,
        when: (x) => !x.milligramsPer100g,
      },
      { key: "dropMilligrams", label: t("g a drop"), kind: "g", width: 74, when: (x) => !x.milligramsPer100g },
    ] as Column[],
    windows: [
      {
        key: "after",
        label: t("since the end of"),
        kind: "choice",
        options: steps,
        blank: t("the step before"),
        width: 130,
      },
      ...window,
    ] as Column[],
    holds: [
      { key: "place", label: t("place"), kind: "choice", options: named(w.places), width: 150 },
      { key: "perSlot", label: t("pieces a slot"), kind: "whole", width: 72 },
      { key: "sharePerMille", label: t("share"), kind: "percent", width: 62, blank: t("all") },
      {
        key: "standIns.0.place",
        label: t("or else in"),
        kind: "choice",
        options: named(w.places),
        blank: "—",
        width: 120,
      },
      {
        key: "standIns.0.perSlot",
        label: t("a slot there"),
        kind: "whole",
        width: 62,
        blank: t("as many"),
        when: (x) => !!(x.standIns as unknown[] | undefined)?.length,
      },
      {
        key: "standIns.0.pieceMilliminutes",
        label: t("more time"),
        kind: "min",
        width: 62,
        blank: t("none"),
        when: (x) => !!(x.standIns as unknown[] | undefined)?.length,
      },
      {
        key: "standIns.0.says",
        label: t("what is other"),
        kind: "text",
        width: 110,
        when: (x) => !!(x.standIns as unknown[] | undefined)?.length,
      },
      {
        key: "until",
        label: t("until the end of"),
        kind: "choice",
        options: steps,
        blank: "—",
        width: 130,
        when: (x) => !x.untilNext,
      },
      { key: "untilNext", label: t("or a step of what it goes into"), kind: "text", width: 110, when: (x) => !x.until },
    ] as Column[],
    tools: [
      { key: "tool", label: t("tool"), kind: "choice", options: named(w.tools), width: 180 },
      { key: "number", label: t("how many"), kind: "whole", width: 60, blank: "1" },
    ] as Column[],
    work: [
      { key: "skill", label: t("skill"), kind: "choice", options: words(...w.skills), width: 110 },
      {
        key: "glyph",
        label: t("kind of work"),
        kind: "choice",
        options: words(
          ...new Set(["shape", "assemble", "mix", "cut", "roll", "glue", ...w.kindsOfWork.map((k) => k.kind)]),
        ),
        width: 100,
      },
      { key: "setupMilliminutes", label: t("setup"), kind: "min", width: 66 },
      { key: "pieceMilliminutes", label: t("each"), kind: "min", width: 66 },
      { key: "mayPause", label: t("may pause"), kind: "flag", width: 60 },
      { key: "sharePerMille", label: t("share of the pieces"), kind: "percent", width: 66, blank: t("all") },
      {
        key: "form",
        label: t("or of the form"),
        kind: "choice",
        options: (r.forms ?? []).map((f) => ({ title: f.name, value: f.name })),
        blank: t("all"),
        width: 96,
      },
      { key: "together", label: t("at once"), kind: "whole", width: 56, blank: "1" },
      { key: "stint", label: t("stint"), kind: "text", width: 84 },
      { key: "run", label: t("a run of"), kind: "whole", width: 60 },
      { key: "tool", label: t("tool, in words"), kind: "text", width: 150 },
      { key: "alsoSkills", label: t("also able to"), kind: "list", width: 110 },
      {
        key: "setupFamily",
        label: t("colour setup"),
        kind: "choice",
        options: named(w.setupFamilies),
        blank: t("none"),
        width: 120,
      },
      { key: "setupSlot", label: t("by slot"), kind: "text", width: 90 },
    ] as Column[],
    /** Of a step: the state in which it wants the piece, and what breaks at it. */
    wants: (kind: string, step: string): Column[] => [
      {
        key: "wants",
        label: t("wants the piece"),
        kind: "choice",
        options: wanted,
        blank: t("as its kind: {wants}", { wants: w.kindsOfWork.find((k) => k.kind === kind)?.wants ?? "any" }),
        width: 150,
      },
      {
        key: "loses",
        label: t("what breaks at it"),
        kind: "choice",
        options: [
          { title: t("the piece"), value: "piece" },
          { title: t("a piece of what goes into it"), value: "input" },
          { title: t("nothing"), value: "nothing" },
        ],
        blank: (r.parts ?? []).some((p) => p.step === step) ? t("a piece of what goes into it") : t("the piece"),
        width: 170,
      },
      { key: "losesPerMille", label: t("how often"), kind: "percent", blank: t("as the recipe"), width: 90 },
    ],
    mend: [
      { key: "skill", label: t("skill"), kind: "choice", options: words(...w.skills), width: 110 },
      { key: "pieceMilliminutes", label: t("each"), kind: "min", width: 66 },
    ] as Column[],
    wait: [
      {
        key: "state",
        label: t("dries until"),
        kind: "choice",
        options: states,
        blank: t("a fixed time"),
        width: 100,
        when: (x) => !x.minutes && !x.load,
      },
      { key: "minutes", label: t("minutes"), kind: "wall", width: 66, when: (x) => !x.state },
      ...drying.map((c) => ({ ...c, when: (x: Record<string, unknown>) => !!x.state || !!x.wished })),
      {
        key: "wished.state",
        label: t("better until"),
        kind: "choice",
        options: states,
        blank: "—",
        width: 90,
        when: (x) => !x.load,
      },
      { key: "wished.minutes", label: t("or better, minutes"), kind: "wall", width: 76, when: (x) => !x.load },
      {
        key: "continues",
        label: t("goes on from"),
        kind: "choice",
        options: r.steps.filter((s) => s.wait?.state).map((s) => ({ title: s.name, value: s.key })),
        blank: "—",
        width: 120,
        when: (x) => !!x.state,
      },
    ] as Column[],
    load: [
      {
        key: "machine",
        label: t("in"),
        kind: "choice",
        options: named(w.machines),
        blank: t("no machine"),
        width: 120,
      },
      { key: "setting", label: t("setting"), kind: "text", width: 80 },
      { key: "perSlot", label: t("pieces a slot"), kind: "whole", width: 66 },
    ] as Column[],
    forms: [
      { key: "name", label: t("form"), kind: "text", width: 150 },
      { key: "sharePerMille", label: t("share of a lot"), kind: "percent", width: 80 },
    ] as Column[],
    byproducts: [
      { key: "material", label: t("leaves over"), kind: "choice", options: named(w.materials), width: 180 },
      { key: "amount", label: t("of each piece"), kind: "whole", width: 80 },
    ] as Column[],
    spares: [
      {
        key: "rule",
        label: t("spares"),
        kind: "choice",
        options: [
          { title: t("from recorded breakage"), value: "breakage" },
          { title: t("a fixed number"), value: "number" },
          { title: t("a percentage"), value: "percent" },
          { title: t("none"), value: "none" },
        ],
        width: 160,
      },
      {
        key: "breakagePerMille",
        label: t("expected to break"),
        kind: "percent",
        width: 80,
        when: (x) => x.rule === "breakage",
      },
      { key: "number", label: t("how many"), kind: "whole", width: 70, when: (x) => x.rule === "number" },
      { key: "percent", label: t("per cent"), kind: "whole", width: 70, when: (x) => x.rule === "percent" },
    ] as Column[],
    lot: [
      { key: "secondsServe", label: t("seconds serve where they don't show"), kind: "flag" },
      { key: "leastPerLot", label: t("fewest in a lot"), kind: "whole", blank: "1" },
      { key: "mostPerLot", label: t("most in a lot"), kind: "whole", blank: t("no limit") },
      { key: "keepInStock", label: t("kept ready in stock"), kind: "whole", blank: t("none") },
      { key: "ownColours", label: t("keeps its colours in what it goes into"), kind: "flag" },
      { key: "dries.class", label: t("dries as"), kind: "choice", options: classes, blank: t("its first wait says") },
      { key: "dries.thicknessMicrometres", label: t("thick"), kind: "mm", when: (x) => !!x.dries },
      {
        key: "build",
        label: t("built"),
        kind: "choice",
        options: words("inside-out", "outside-in"),
        blank: t("inside out"),
      },
      {
        key: "yield.step",
        label: t("each unit gives several after"),
        kind: "choice",
        options: r.steps.filter((s) => s.work).map((s) => ({ title: s.name, value: s.key })),
        blank: t("gives one"),
      },
      { key: "yield.gives", label: t("gives"), kind: "whole", when: (x) => !!x.yield },
    ] as Column[],
    mix: [
      { key: "colour", label: t("swatch"), kind: "colour", width: 60 },
      { key: "byPercent", label: t("blend by per cent"), kind: "flag" },
      { key: "lifeMinutes", label: t("keeps wrapped"), kind: "days", width: 90 },
      { key: "lifeColdMinutes", label: t("keeps cold"), kind: "days", width: 90, blank: "—" },
      { key: "dryingPerMille", label: t("drying takes, of the usual"), kind: "percent", width: 150, blank: "100 %" },
    ] as Column[],
    steps,
  };
}
