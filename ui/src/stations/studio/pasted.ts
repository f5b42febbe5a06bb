import Papa from "papaparse";
import { v7 } from "uuid";
import type { Column } from "../../parts/fields/column";
import { kept, put, type Row } from "../../parts/fields/fields";
import type { Sheet } from "./sheets";
import { breaksSaid, hoursSaid } from "./week";
import { t } from "../../words/said";

/** One line of a table that was pasted: the thing that it is to be, and as it is there now. */
export interface Pasted {
  name: string;
  was?: Row;
  is: Row;
}

/** A pasted table as things of a kind, and the headings that nothing is known of. */
export interface Table {
  rows: Pasted[];
  unknown: string[];
}

const plain = (word: string) =>
  word
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, " ")
    .trim();

/** The columns that a table may have: those of the sheet, and of people what they can do and when they work, in words. */
export function columnsOf(sheet: Sheet): Column[] {
  if (!sheet.lines.some((l) => l.key === "skills")) return sheet.columns;
  const can: Column = {
    key: "skills",
    label: t("can do"),
    kind: "text",
    as: {
      shown: String,
      kept: (text) =>
        text
          .split(",")
          .map((s) => s.trim())
          .filter(Boolean)
          .map((skill) => ({ skill, paceHundredths: 100 })),
    },
  };
  const works: Column = { key: "hours", label: t("works"), kind: "text", as: { shown: String, kept: hoursSaid } };
  const breaks: Column = { key: "breaks", label: t("breaks"), kind: "text", as: { shown: String, kept: breaksSaid } };
  return [...sheet.columns, can, works, breaks];
}

/** What stands in a cell as it is kept: of a choice the entry that is called so, of a mark whether it is set. */
function cell(column: Column, row: Row, text: string): unknown {
  if (column.kind === "flag") return /^(x|y|yes|true|1|✓)$/i.test(text) || undefined;
  if (column.kind !== "choice") return kept(column, text);
  const all = typeof column.options === "function" ? column.options(row) : (column.options ?? []);
  return all.find((o) => plain(o.title) === plain(text) || o.value === text)?.value ?? (text || undefined);
}

/**
 * Reads a table as a spreadsheet gives it, its first line the headings: words of the sheet, in any order. A line
 * whose name is there already changes that; any other is new, as something usual of that name is, or from the
 * beginning. Cells that are empty leave what is there.
 */
export function pasted(text: string, sheet: Sheet, there: Row[], usual: Row[], fresh: () => Row): Table {
  const lines = Papa.parse<string[]>(text.trim(), { skipEmptyLines: "greedy" }).data;
  const columns = columnsOf(sheet);
  const heads = (lines[0] ?? []).map((h) => ({
    word: h,
    columns: columns.filter((c) => plain(c.label) === plain(h) || plain(c.key) === plain(h)),
  }));
  const known = (all: Row[], name: string) => all.find((t) => plain(String(t.name)) === plain(name));
  const rows = lines.slice(1).map((cells): Pasted => {
    const name = (cells[heads.findIndex((h) => h.columns[0]?.key === "name")] ?? "").trim();
    const was = known(there, name);
    const is = JSON.parse(JSON.stringify(was ?? { id: v7(), ...(known(usual, name) ?? fresh()) })) as Row;
    for (const pass of [0, 1])
      // what other cells depend on, as the unit of an amount, is written by then
      heads.forEach((h, i) => {
        const column = h.columns.find((c) => c.when?.(is) ?? true);
        const written = (cells[i] ?? "").trim();
        if (column && written && (pass || !column.when)) put(is, column.key, cell(column, is, written));
      });
    return { name, was, is };
  });
  return { rows, unknown: heads.filter((h) => !h.columns.length).map((h) => h.word) };
}
