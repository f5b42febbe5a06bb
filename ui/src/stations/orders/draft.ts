import type { Schemas } from "../../api/client";
import { typed } from "../../number";

/** An order as somebody is typing it. */
export interface Draft {
  name: string;
  occasion: string;
  leaves: string;
  leaving: string;
  importance: string;
  allergies: string;
  state: string;
  client: string;
  contact: string;
  goes: string;
  eaten: string;
  cakes: Schemas["Cake"][];
  approvals: Schemas["Approval"][];
  pictures: Schemas["Picture"][];
  lines: DraftLine[];
  quoted?: Schemas["Quoted"];
}

export interface DraftLine {
  id: string;
  recipe: string;
  variant: string;
  otherwise: string[];
  colourway: string;
  quantity: string;
  serviceLevelPerMille?: number;
}

export const newLine = (): DraftLine => ({
  id: crypto.randomUUID(),
  recipe: "",
  variant: "",
  otherwise: [],
  colourway: "",
  quantity: "",
});

/** What a line names, taken apart: a variant of the flower and schools of its techniques. */
function taken(named = ""): { variant: string; otherwise: string[] } {
  const parts = named.split(" · ");
  const own = !parts[0]!.includes(": ");
  return { variant: own ? parts[0]! : "", otherwise: own ? parts.slice(1) : parts };
}

export function draftOf(from?: Schemas["Order"]): Draft {
  return {
    name: from?.name ?? "",
    occasion: from?.occasion ?? "",
    leaves: from?.leaves ?? "",
    leaving: from?.leaving ?? "collected",
    importance: String(from?.importance ?? 10),
    allergies: from?.allergies.join(", ") ?? "",
    state: from?.state ?? "open",
    client: from?.client?.name ?? "",
    contact: from?.client?.contact ?? "",
    goes: from?.goes ?? "",
    eaten: from?.eaten ?? "",
    approvals: (from?.approvals ?? []).map((a) => ({ ...a })),
    pictures: from?.pictures ?? [],
    cakes: JSON.parse(JSON.stringify(from?.cakes ?? [])) as Schemas["Cake"][],
    quoted: from?.quoted,
    lines: from?.lines.map((l) => ({
      id: l.id,
      recipe: l.recipe,
      ...taken(l.variant),
      colourway: l.colourway,
      quantity: String(l.quantity),
      serviceLevelPerMille: l.serviceLevelPerMille || undefined,
    })) ?? [newLine()],
  };
}

/** A draft as the studio takes it. */
export function bodyOf(draft: Draft): Schemas["OrderBody"] {
  return {
    name: draft.name,
    occasion: draft.occasion,
    leaves: draft.leaves,
    leaving: draft.leaving,
    importance: typed(draft.importance),
    allergies: draft.allergies
      .split(",")
      .map((a) => a.trim())
      .filter(Boolean),
    state: draft.state === "quote" ? "quote" : "open",
    quoted: draft.quoted,
    client: draft.client.trim() ? { name: draft.client, contact: draft.contact || undefined } : undefined,
    goes: draft.goes || undefined,
    eaten: draft.eaten || undefined,
    cakes: draft.cakes,
    approvals: draft.approvals,
    pictures: draft.pictures,
    lines: draft.lines.map(({ otherwise, ...l }) => ({
      ...l,
      variant: [l.variant, ...otherwise].filter(Boolean).join(" · ") || undefined,
      quantity: typed(l.quantity),
    })),
  };
}

/** The question that a draft asks, whatever it is called: nothing until there is a date and a flower. A line that is not filled in is left out. */
export function questionOf(draft: Draft, unnamed: string): Schemas["OrderBody"] | undefined {
  const body = bodyOf(draft);
  const lines = body.lines.filter((l) => l.recipe && l.quantity > 0);
  if (!body.leaves || !lines.length || Number.isNaN(body.importance)) return undefined;
  const laid = body.cakes?.map((c) => ({
    ...c,
    placings: c.placings?.filter((p) => lines.some((l) => l.id === p.line)),
  }));
  return { ...body, name: unnamed, state: "open", client: undefined, cakes: laid, lines };
}

/** Takes the numbers of another answer, which counts the lines that are filled in. A line of none goes. */
export function fewer(draft: Draft, could: { line: number; could: number }[]): void {
  const asked = draft.lines.filter((l) => l.recipe && typed(l.quantity) > 0);
  for (const f of could) asked[f.line]!.quantity = String(f.could);
  draft.lines = draft.lines.filter((l) => l.quantity !== "0");
}
