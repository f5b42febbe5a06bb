import Papa from "papaparse";

/** A file of a spreadsheet as text, and how its letters were read. */
export interface ReadFile {
  text: string;
  encoding: "UTF-8" | "UTF-16" | "Windows-1252";
}

/**
 * Reads the letters of a file: by the mark that it begins with, else as UTF-8, else, where it is none, as Windows-1252,
 * which older spreadsheets write. What holds bytes that no text has is no table: then nothing is given.
 */
export function readLetters(bytes: Uint8Array): ReadFile | undefined {
  const as = (label: string, encoding: ReadFile["encoding"]) => ({
    text: new TextDecoder(label, { fatal: true }).decode(bytes),
    encoding,
  });
  try {
    if (bytes[0] === 0xff && bytes[1] === 0xfe) return as("utf-16le", "UTF-16");
    if (bytes[0] === 0xfe && bytes[1] === 0xff) return as("utf-16be", "UTF-16");
    if (bytes.includes(0)) return undefined;
    try {
      return as("utf-8", "UTF-8");
    } catch {
      return as("windows-1252", "Windows-1252");
    }
  } catch {
    return undefined;
  }
}

/** What stands between the cells of a table, as it is found. */
export const separatorOf = (text: string): string => Papa.parse(text.trim(), { preview: 20 }).meta.delimiter;

/** A table with tabs between its cells, which were parted by something else. */
export const parted = (text: string, by: string): string =>
  Papa.unparse(Papa.parse<string[]>(text.trim(), { delimiter: by, skipEmptyLines: "greedy" }).data, {
    delimiter: "\t",
    newline: "\n",
  });
