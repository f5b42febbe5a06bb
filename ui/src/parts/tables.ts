/**
 * What the tables and lists of a station say, row by row, as it is shown: each under its heading, cells as they are read.
 * A station without any gives its articles, a line each.
 */
export function tablesIn(station: Element): string[][] {
  const rows: string[][] = [];
  const said = (e: Element) => ((e as HTMLElement).innerText ?? e.textContent ?? "").replace(/\s+/g, " ").trim();
  const shown = (e: Element) => (e as HTMLElement).checkVisibility?.() ?? true;
  for (const table of station.querySelectorAll("table")) {
    if (!shown(table)) continue;
    if (rows.length) rows.push([]);
    const title = table.caption ?? table.closest("section, article, details")?.querySelector("h2, h3, summary");
    if (title) rows.push([said(title)]);
    for (const row of table.rows) if (shown(row)) rows.push([...row.cells].map(said));
  }
  if (rows.length) return rows;
  for (const article of station.querySelectorAll("article, li"))
    if (shown(article) && !article.parentElement?.closest("article, li"))
      rows.push(
        ((article as HTMLElement).innerText ?? "")
          .split("\n")
          .map((line) => line.trim())
          .filter(Boolean),
      );
  return rows;
}
