import { dayName, weekdays } from "./days";

const time = (hour: string, minute: string | undefined) => `${hour.padStart(2, "0")}:${minute ?? "00"}`;
const span = /(\d{1,2})(?:[:.](\d\d))?\s*(?:[-–—]|to)\s*(\d{1,2})(?:[:.](\d\d))?\s*$/;

/** A day of the week by the beginning of its name, in English or as the browser's language calls it. */
function dayOf(said: string): number {
  const begins = (name: string) => name.toLowerCase().startsWith(said.toLowerCase());
  return said.length < 2 ? -1 : weekdays.findIndex((day) => begins(day) || begins(dayName(day, "long")));
}

/**
 * Working hours as people write them, "Mon–Fri 9:00–17:00; Sat 10–14", as a document has them. What cannot be read
 * stands as it is, for the studio to refuse at its field.
 */
export const hoursSaid = (text: string): { day: string; from: string; to: string }[] =>
  text
    .split(/[;\n]/)
    .map((part) => part.trim())
    .filter(Boolean)
    .flatMap((part) => {
      const [whole = "", h1, m1, h2, m2] = span.exec(part) ?? [];
      const days = part
        .slice(0, part.length - whole.length)
        .split(",")
        .flatMap((some) => {
          const [first, last = first] = some.split(/[-–—]|\bto\b/).map((d) => dayOf(d.trim()));
          return first! < 0 || last! < first! ? [] : weekdays.slice(first, last! + 1);
        });
      if (!whole || !days.length) return [{ day: part, from: "", to: "" }];
      return days.map((day) => ({ day, from: time(h1!, m1), to: time(h2!, m2) }));
    });

/** Breaks of a day, "10:30–10:45; 13:00–13:45". */
export const breaksSaid = (text: string): { from: string; to: string }[] =>
  text
    .split(/[;,\n]/)
    .map((part) => part.trim())
    .filter(Boolean)
    .map((part) => {
      const [, h1, m1, h2, m2] = span.exec(part) ?? [];
      return h1 && h2 ? { from: time(h1, m1), to: time(h2, m2) } : { from: part, to: part };
    });
