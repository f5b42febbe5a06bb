export const weekdays = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];

/** A day of the week as the browser's language calls it. */
export const dayName = (day: string, as: "long" | "short" | "narrow"): string =>
  new Intl.DateTimeFormat(undefined, { weekday: as, timeZone: "UTC" }).format(
    Date.UTC(2024, 0, 1 + weekdays.indexOf(day)), // a Monday was the first
  );
