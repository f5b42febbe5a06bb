import { createSharedComposable } from "@vueuse/core";
import { computed } from "vue";
import { useStudio } from "./api/queries";
import { manner } from "./manner";

export * from "./figures";

/** Formats are dear to make, and the same for every component. */
const formats = new Map<string, Intl.DateTimeFormat>();
function formatOf(locale: string | undefined, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = JSON.stringify([locale, options]);
  let known = formats.get(key);
  if (!known) formats.set(key, (known = new Intl.DateTimeFormat(locale, options)));
  return known;
}

/** Minutes of the studio as local times in its zone, in the browser's language. */
export const useTimes = createSharedComposable(() => {
  const { data: studio } = useStudio();
  return computed(() => {
    const epoch = Date.parse(studio.value?.epoch ?? "1970-01-01T00:00:00Z");
    const timeZone = studio.value?.zone ?? "UTC";
    const format = (options: Intl.DateTimeFormatOptions) => {
      const f = formatOf(undefined, {
        timeZone,
        hourCycle: manner.value.clock === "12" ? "h12" : "h23",
        ...options,
      });
      return (minute: number) => f.format(epoch + minute * 60_000);
    };
    const wall = (options: Intl.DateTimeFormatOptions) => {
      const f = formatOf(undefined, {
        timeZone: "UTC",
        hourCycle: manner.value.clock === "12" ? "h12" : "h23",
        ...options,
      });
      return (text: string) => f.format(Date.parse(`${text}:00Z`));
    };
    const date = formatOf("sv", { timeZone, dateStyle: "short" });
    const time = formatOf("sv", { timeZone, hour: "2-digit", minute: "2-digit" });
    return {
      /** The day a minute falls on, as 2027-09-20. */
      date: (minute: number) => date.format(epoch + minute * 60_000),
      /** How many minutes of its day a minute is from midnight on, by the studio's clocks. */
      clockMinutes: (minute: number) => {
        const [hours = 0, minutes = 0] = time
          .format(epoch + minute * 60_000)
          .split(":")
          .map(Number);
        return hours * 60 + minutes;
      },
      clock: format({ hour: "2-digit", minute: "2-digit" }),
      moment: format({ weekday: "short", hour: "2-digit", minute: "2-digit" }),
      day: format({ weekday: "long", day: "numeric", month: "long" }),
      dayShort: format({ weekday: "short", day: "numeric", month: "short" }),
      full: format({ weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" }),
      /** A local wall time such as 2027-10-02T14:00, which has no zone of its own. */
      wall: wall({ weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" }),
      wallDay: wall({ weekday: "short", day: "numeric", month: "short" }),
      wallDate: wall({ day: "numeric", month: "short", year: "numeric" }),
      wallClock: wall({ hour: "2-digit", minute: "2-digit" }),
    };
  });
});
