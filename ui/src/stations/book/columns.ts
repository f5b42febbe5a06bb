import type { Schemas } from "../../api/client";
import type { Column, Option } from "../../parts/fields/column";
import type { Recipe } from "./writing";

export type Words = Schemas["Words"];

const words = (...all: string[]): Option[] => all.map((w) => ({ title: w.replaceAll("-", " "), value: w }));
/** What can be chosen, by name; what is out of use last, and said so. */
const named = (all: { id: string; name: string; outOfUse?: boolean }[]): Option[] =>
  [...all]
    .sort((a, b) => Number(a.outOfUse ?? false) - Number(b.outOfUse ?? false))
    .map((x) => ({ title: x.outOfUse ? `${x.name}, out of use` : x.name, value: x.id }));

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
  const step = (label = "at step"): Column => ({ key: "step", label, kind: "choice", options: steps, width: 118 });
  const weighed = named(w.materials.filter((m) => m.unit === "mg"));
  const classes = named(w.dryingClasses);
  const methods = named(w.dryingMethods);
  const slots: Option[] = words(...new Set(all.flatMap((x) => (x.pastes ?? []).map((p) => p.slot)).filter(Boolean)));
  const shape = (key: string) => (row: Record<string, unknown>) =>
    ((row.shape as Record<string, unknown> | undefined)?.shape ?? "") === key;
  const flat: Column[] = [
    {
      key: "shape.lengthMicrometres",
      label: "length",
      kind: "mm",
      width: 62,
      when: (x) => shape("cut")(x) || shape("rope")(x),
    },
    { key: "shape.widthMicrometres", label: "width", kind: "mm", width: 62, when: shape("cut") },
    { key: "shape.thicknessMicrometres", label: "thick", kind: "mm", width: 66, when: shape("cut") },
  ];
  const round: Column[] = [
    {
      key: "shape.diameterMicrometres",
      label: "across",
      kind: "mm",
      width: 62,
      when: (x) => shape("ball")(x) || shape("rope")(x),
    },
    { key: "shape.massMilligrams", label: "mass", kind: "g", width: 62, when: shape("weighed") },
  ];
  const drying: Column[] = [
    { key: "class", label: "drying class", kind: "choice", options: classes, blank: "—", width: 120 },
    { key: "thicknessMicrometres", label: "thick", kind: "mm", width: 66 },
    { key: "method", label: "way of drying", kind: "choice", options: methods, blank: "as it lies", width: 105 },
    { key: "slot", label: "made of slot", kind: "choice", options: slots, blank: "—", width: 90 },
  ];
  const window: Column[] = [
    { key: "atLeastMinutes", label: "at least", kind: "wall", width: 66 },
    { key: "atMostMinutes", label: "at most", kind: "wall", width: 66 },
    { key: "from", label: "from", kind: "choice", options: states, blank: "—", width: 72 },
    { key: "before", label: "before", kind: "choice", options: states, blank: "—", width: 72 },
    ...drying,
    { key: "whole", label: "of the lot as a whole", kind: "flag", width: 66 },
  ];
  return {
    parts: [
      { key: "recipe", label: "what", kind: "choice", options: sorted(pieces), width: 156 },
      { key: "count", label: "how many", kind: "whole", width: 58 },
      { key: "least", label: "at least", kind: "whole", width: 56, blank: "all" },
      { key: "rows", label: "in rows", kind: "numbers", width: 84 },
      {
        key: "set",
        label: "set",
        kind: "choice",
        options: words("over-gaps", "level", "alternating"),
        blank: "—",
        width: 96,
      },
      {
        key: "join",
        label: "joined",
        kind: "choice",
        options: words("taped", "glued", "wet", "slotted", "threaded", "iced"),
        blank: "—",
        width: 84,
      },
      step(),
      {
        key: "variant",
        label: "variant",
        needed: (x) => variantsOf(x.recipe).length > 0 || !!x.variant,
        kind: "choice",
        options: (x) => words(...variantsOf(x.recipe)),
        blank: "—",
        width: 82,
      },
      {
        key: "form",
        label: "form",
        needed: (x) => !!of(x.recipe)?.forms?.length || !!x.form,
        kind: "choice",
        options: (x) => words(...(of(x.recipe)?.forms ?? []).map((f) => f.name)),
        blank: "—",
        width: 82,
      },
    ] as Column[],
    partsMore: [
      { key: "wants", label: "wanted", kind: "choice", options: wanted, blank: "by how it is joined" },
      { key: "inRun", label: "made in the run", kind: "flag" },
      { key: "sizes", label: "all sizes of its table", kind: "flag" },
      { key: "reversed", label: "put on reversed", kind: "flag" },
      { key: "between.least", label: "made with from", kind: "whole" },
      { key: "between.most", label: "to", kind: "whole" },
      { key: "sequence", label: "order around one cut-out", kind: "numbers" },
      { key: "atMicrometres", label: "distances from the tip, mm", kind: "numbers", scale: 1000 },
      ...window.map((c) => ({ ...c, key: `window.${c.key}`, label: `fresh: ${c.label}` })),
    ] as Column[],
    pastes: [
      step(),
      { key: "slot", label: "colour slot", kind: "text", width: 96 },
      {
        key: "shape.shape",
        label: "shape",
        kind: "choice",
        options: words("cut", "ball", "rope", "weighed"),
        width: 86,
      },
      ...flat,
      { key: "shape.factorPerMille", label: "fills", kind: "percent", width: 62, when: shape("cut") },
      ...round,
      { key: "shape.driedMicrometres", label: "wanted dry", kind: "mm", width: 66, when: shape("cut") },
      { key: "number", label: "each takes", kind: "whole", width: 58, blank: "1" },
      { key: "run", label: "to a sheet", kind: "whole", width: 58 },
      { key: "where", label: "where it goes", kind: "text", width: 120 },
    ] as Column[],
    sizes: [
      { key: "name", label: "size", kind: "text", width: 92 },
      { key: "count", label: "to a flower", kind: "whole", width: 62 },
      ...flat,
      ...round,
      { key: "tool", label: "cutter, in words", kind: "text", width: 130 },
      {
        key: "wire",
        label: "wire",
        kind: "choice",
        options: named(w.materials.filter((m) => m.wire)),
        blank: "as the part",
        width: 116,
      },
      { key: "stemMicrometres", label: "free stem", kind: "mm", width: 66, blank: "as the part" },
      { key: "pieceMilliminutes", label: "each takes", kind: "min", width: 66, blank: "as the step" },
    ] as Column[],
    wires: [
      step(),
      { key: "material", label: "wire", kind: "choice", options: named(w.materials.filter((m) => m.wire)), width: 130 },
      { key: "number", label: "wires", kind: "whole", width: 50 },
      { key: "depthMicrometres", label: "in the paste", kind: "mm", width: 72 },
      { key: "stemMicrometres", label: "free stem", kind: "mm", width: 72 },
      { key: "allowanceMicrometres", label: "for the hook", kind: "mm", width: 72 },
      {
        key: "hook",
        label: "hook",
        kind: "choice",
        options: words("open", "closed", "tape-wound", "straight"),
        blank: "—",
        width: 100,
      },
      { key: "turns", label: "turns", kind: "whole", width: 50 },
    ] as Column[],
    materials: [
      step(),
      {
        key: "material",
        label: "what",
        kind: "choice",
        options: w.materials.filter((m) => !m.wire).map((m) => ({ title: `${m.name}, ${m.unit}`, value: m.id })),
        width: 190,
      },
      { key: "amount", label: "amount", kind: "whole", width: 80 },
      { key: "least", label: "at least", kind: "whole", width: 64, blank: "as much" },
      { key: "most", label: "at most", kind: "whole", width: 64, blank: "as much" },
      { key: "perPieces", label: "for every", kind: "whole", width: 60, blank: "1" },
      { key: "outAtStep", label: "comes out at", kind: "choice", options: steps, blank: "stays in", width: 130 },
    ] as Column[],
    blend: [
      {
        key: "material",
        label: "material",
        kind: "choice",
        options: weighed,
        blank: "—",
        width: 190,
        when: (x) => !x.mix,
      },
      {
        key: "mix",
        label: "or a mix",
        kind: "choice",
        options: sorted(mixes).filter((m) => m.value !== r.id),
        blank: "—",
        width: 190,
        when: (x) => !x.material,
      },
      { key: "parts", label: r.byPercent ? "per cent" : "parts", kind: "whole", width: 70 },
    ] as Column[],
    additives: [
      { key: "material", label: "material", kind: "choice", options: weighed, width: 190 },
      { key: "milligramsPer100g", label: "g in 100 g", kind: "g", width: 80, when: (x) => !x.dropsPer100g },
      { key: "dropsPer100g", label: "or drops in 100 g", kind: "whole", width: 96, when: (x) => !x.milligramsPer100g },
      { key: "dropMilligrams", label: "g a drop", kind: "g", width: 74, when: (x) => !x.milligramsPer100g },
    ] as Column[],
    windows: [
      { key: "after", label: "since the end of", kind: "choice", options: steps, blank: "the step before", width: 130 },
      ...window,
    ] as Column[],
    holds: [
      { key: "place", label: "place", kind: "choice", options: named(w.places), width: 150 },
      { key: "perSlot", label: "pieces a slot", kind: "whole", width: 72 },
      { key: "sharePerMille", label: "share", kind: "percent", width: 62, blank: "all" },
      {
        key: "standIns.0.place",
        label: "or else in",
        kind: "choice",
        options: named(w.places),
        blank: "—",
        width: 120,
      },
      {
        key: "standIns.0.perSlot",
        label: "a slot there",
        kind: "whole",
        width: 62,
        blank: "as many",
        when: (x) => !!(x.standIns as unknown[] | undefined)?.length,
      },
      {
        key: "standIns.0.pieceMilliminutes",
        label: "more time",
        kind: "min",
        width: 62,
        blank: "none",
        when: (x) => !!(x.standIns as unknown[] | undefined)?.length,
      },
      {
        key: "standIns.0.says",
        label: "what is other",
        kind: "text",
        width: 110,
        when: (x) => !!(x.standIns as unknown[] | undefined)?.length,
      },
      {
        key: "until",
        label: "until the end of",
        kind: "choice",
        options: steps,
        blank: "—",
        width: 130,
        when: (x) => !x.untilNext,
      },
      { key: "untilNext", label: "or a step of what it goes into", kind: "text", width: 110, when: (x) => !x.until },
    ] as Column[],
    tools: [
      { key: "tool", label: "tool", kind: "choice", options: named(w.tools), width: 180 },
      { key: "number", label: "how many", kind: "whole", width: 60, blank: "1" },
    ] as Column[],
    work: [
      { key: "skill", label: "skill", kind: "choice", options: words(...w.skills), width: 110 },
      {
        key: "glyph",
        label: "kind of work",
        kind: "choice",
        options: words(
          ...new Set(["shape", "assemble", "mix", "cut", "roll", "glue", ...w.kindsOfWork.map((k) => k.kind)]),
        ),
        width: 100,
      },
      { key: "setupMilliminutes", label: "setup", kind: "min", width: 66 },
      { key: "pieceMilliminutes", label: "each", kind: "min", width: 66 },
      { key: "mayPause", label: "may pause", kind: "flag", width: 60 },
      { key: "sharePerMille", label: "share of the pieces", kind: "percent", width: 66, blank: "all" },
      {
        key: "form",
        label: "or of the form",
        kind: "choice",
        options: (r.forms ?? []).map((f) => ({ title: f.name, value: f.name })),
        blank: "all",
        width: 96,
      },
      { key: "together", label: "at once", kind: "whole", width: 56, blank: "1" },
      { key: "stint", label: "stint", kind: "text", width: 84 },
      { key: "run", label: "a run of", kind: "whole", width: 60 },
      { key: "tool", label: "tool, in words", kind: "text", width: 150 },
      { key: "alsoSkills", label: "also able to", kind: "list", width: 110 },
      {
        key: "setupFamily",
        label: "colour setup",
        kind: "choice",
        options: named(w.setupFamilies),
        blank: "none",
        width: 120,
      },
      { key: "setupSlot", label: "by slot", kind: "text", width: 90 },
    ] as Column[],
    /** Of a step: the state in which it wants the piece, and what breaks at it. */
    wants: (kind: string, step: string): Column[] => [
      {
        key: "wants",
        label: "wants the piece",
        kind: "choice",
        options: wanted,
        blank: `as its kind: ${w.kindsOfWork.find((k) => k.kind === kind)?.wants ?? "any"}`,
        width: 150,
      },
      {
        key: "loses",
        label: "what breaks at it",
        kind: "choice",
        options: [
          { title: "the piece", value: "piece" },
          { title: "a piece of what goes into it", value: "input" },
          { title: "nothing", value: "nothing" },
        ],
        blank: (r.parts ?? []).some((p) => p.step === step) ? "a piece of what goes into it" : "the piece",
        width: 170,
      },
      { key: "losesPerMille", label: "how often", kind: "percent", blank: "as the recipe", width: 90 },
    ],
    mend: [
      { key: "skill", label: "skill", kind: "choice", options: words(...w.skills), width: 110 },
      { key: "pieceMilliminutes", label: "each", kind: "min", width: 66 },
    ] as Column[],
    wait: [
      {
        key: "state",
        label: "dries until",
        kind: "choice",
        options: states,
        blank: "a fixed time",
        width: 100,
        when: (x) => !x.minutes && !x.load,
      },
      { key: "minutes", label: "minutes", kind: "wall", width: 66, when: (x) => !x.state },
      ...drying.map((c) => ({ ...c, when: (x: Record<string, unknown>) => !!x.state || !!x.wished })),
      {
        key: "wished.state",
        label: "better until",
        kind: "choice",
        options: states,
        blank: "—",
        width: 90,
        when: (x) => !x.load,
      },
      { key: "wished.minutes", label: "or better, minutes", kind: "wall", width: 76, when: (x) => !x.load },
      {
        key: "continues",
        label: "goes on from",
        kind: "choice",
        options: r.steps.filter((s) => s.wait?.state).map((s) => ({ title: s.name, value: s.key })),
        blank: "—",
        width: 120,
        when: (x) => !!x.state,
      },
    ] as Column[],
    load: [
      { key: "machine", label: "in", kind: "choice", options: named(w.machines), blank: "no machine", width: 120 },
      { key: "setting", label: "setting", kind: "text", width: 80 },
      { key: "perSlot", label: "pieces a slot", kind: "whole", width: 66 },
    ] as Column[],
    forms: [
      { key: "name", label: "form", kind: "text", width: 150 },
      { key: "sharePerMille", label: "share of a lot", kind: "percent", width: 80 },
    ] as Column[],
    byproducts: [
      { key: "material", label: "leaves over", kind: "choice", options: named(w.materials), width: 180 },
      { key: "amount", label: "of each piece", kind: "whole", width: 80 },
    ] as Column[],
    spares: [
      {
        key: "rule",
        label: "spares",
        kind: "choice",
        options: [
          { title: "from recorded breakage", value: "breakage" },
          { title: "a fixed number", value: "number" },
          { title: "a percentage", value: "percent" },
          { title: "none", value: "none" },
        ],
        width: 160,
      },
      {
        key: "breakagePerMille",
        label: "expected to break",
        kind: "percent",
        width: 80,
        when: (x) => x.rule === "breakage",
      },
      { key: "number", label: "how many", kind: "whole", width: 70, when: (x) => x.rule === "number" },
      { key: "percent", label: "per cent", kind: "whole", width: 70, when: (x) => x.rule === "percent" },
    ] as Column[],
    lot: [
      { key: "secondsServe", label: "seconds serve where they don't show", kind: "flag" },
      { key: "leastPerLot", label: "fewest in a lot", kind: "whole", blank: "1" },
      { key: "mostPerLot", label: "most in a lot", kind: "whole", blank: "no limit" },
      { key: "keepInStock", label: "kept ready in stock", kind: "whole", blank: "none" },
      { key: "ownColours", label: "keeps its colours in what it goes into", kind: "flag" },
      { key: "dries.class", label: "dries as", kind: "choice", options: classes, blank: "its first wait says" },
      { key: "dries.thicknessMicrometres", label: "thick", kind: "mm", when: (x) => !!x.dries },
      { key: "build", label: "built", kind: "choice", options: words("inside-out", "outside-in"), blank: "inside out" },
      {
        key: "yield.step",
        label: "each unit gives several after",
        kind: "choice",
        options: r.steps.filter((s) => s.work).map((s) => ({ title: s.name, value: s.key })),
        blank: "gives one",
      },
      { key: "yield.gives", label: "gives", kind: "whole", when: (x) => !!x.yield },
    ] as Column[],
    mix: [
      { key: "colour", label: "swatch", kind: "colour", width: 60 },
      { key: "byPercent", label: "blend by per cent", kind: "flag" },
      { key: "lifeMinutes", label: "keeps wrapped", kind: "days", width: 90 },
      { key: "lifeColdMinutes", label: "keeps cold", kind: "days", width: 90, blank: "—" },
      { key: "dryingPerMille", label: "drying takes, of the usual", kind: "percent", width: 150, blank: "100 %" },
    ] as Column[],
    steps,
  };
}
