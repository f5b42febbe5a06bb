/** Minutes of the studio as local wall time for a browser's own field, and back. */
export function momentIn(epoch: string, zone: string) {
  const begins = Date.parse(epoch);
  const wall = new Intl.DateTimeFormat("sv", { timeZone: zone, dateStyle: "short", timeStyle: "short" });
  const shown = (minute: number) => wall.format(begins + minute * 60_000).replace(" ", "T");
  return {
    shown: (value: unknown) => shown(value as number),
    /** The first minute that has this wall time; in a gap of summer time, that after it. */
    kept(text: string): number {
      const wished = Date.parse(`${text}:00Z`);
      const guess = Math.round((wished - begins) / 60_000);
      const off = Math.round((Date.parse(`${shown(guess)}:00Z`) - wished) / 60_000);
      for (const minute of [guess - off - 60, guess - off, guess - off + 60]) if (shown(minute) === text) return minute;
      return guess - off;
    },
  };
}
