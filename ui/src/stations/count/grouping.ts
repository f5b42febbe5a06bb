import type { Schemas } from "../../api/client";
import { sizeWords } from "../../words/card";

type Cell = Schemas["CountCell"];

/** A part in a size, in each of its colours. */
export interface Row {
  name: string;
  short: string;
  size: string;
  form: string;
  cells: Cell[];
}

/** Cells by part and size, in the order in which they come; names are without that of their flower. */
export function inRows(cells: Cell[], flower = ""): Row[] {
  const rows = new Map<string, Row>();
  for (const c of cells) {
    const size = sizeWords(c.shape) ?? "";
    const key = `${c.name}/${size}`;
    const own = flower && c.name !== flower ? c.name.replace(`${flower} `, "") : c.name;
    const short = own.replace(/^./u, (first) => first.toLocaleUpperCase());
    if (!rows.has(key)) rows.set(key, { name: c.name, short, size, form: c.form, cells: [] });
    rows.get(key)!.cells.push(c);
  }
  return [...rows.values()];
}

/** A matrix of more columns is not read at a glance. */
const mostColumns = 6;

/** Whether rows are a matrix that is read as one: of a few colours, and most of it filled. */
export function dense(rows: Row[]): boolean {
  const columns = new Set(rows.flatMap((r) => r.cells.map((c) => c.mix))).size;
  const cells = rows.reduce((sum, r) => sum + r.cells.length, 0);
  return rows.length > 1 && columns > 1 && columns <= mostColumns && 3 * cells >= 2 * rows.length * columns;
}
