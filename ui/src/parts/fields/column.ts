/** One field of a line in a table, or of a form: where it is kept and how it is written. */
export interface Column {
  key: string; // a path such as "shape.lengthMicrometres"
  label: string;
  kind:
    | "text"
    | "long" // more than a few words
    | "whole"
    | "mm" // kept in micrometres
    | "g" // kept in milligrams
    | "min" // kept in thousandths of a minute
    | "wall" // kept in whole minutes
    | "days" // kept in whole minutes
    | "colour"
    | "percent" // kept per mille
    | "money" // kept in minor units of the studio's currency
    | "degrees" // kept in tenths of a degree
    | "flag"
    | "choice"
    | "list" // texts, one a line
    | "mistakes" // what goes wrong and why, one a line
    | "numbers"; // whole numbers with + or spaces between
  unit?: string;
  /** A way of its own to say what is kept, and to understand what is written. */
  as?: { shown: (value: unknown) => string; kept: (text: string) => unknown };
  input?: "time" | "date" | "datetime-local"; // a browser's own field
  suggest?: string[]; // words that are usual here
  width?: number;
  options?: Option[] | ((row: Record<string, unknown>) => Option[]);
  blank?: string; // the word for nothing chosen
  needed?: (row: Record<string, unknown>) => boolean; // of a table: shown if some line needs it
  when?: (row: Record<string, unknown>) => boolean;
  scale?: number; // of numbers: how many of the kept unit one of the written is
}

export interface Option {
  title: string;
  value: string;
}
