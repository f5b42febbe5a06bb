import { computed } from "vue";
import { useStudio } from "./api/queries";
import { lengthScale, lengthUnit, locale, manner, massScale, massUnit, moneyDigits, moneyScale } from "./manner";
import { t } from "./words/said";

const number = (digits: number) => new Intl.NumberFormat(locale(), { maximumFractionDigits: digits });

/** A mass in the studio's unit, without it: with as many decimals as a kitchen scale shows. */
export function massFigure(milligrams: number): string {
  const digits = manner.value.mass !== "oz" ? 1 : milligrams < massScale() / 10 ? 3 : 2;
  const said = new Intl.NumberFormat(locale(), { minimumFractionDigits: digits, maximumFractionDigits: digits });
  return said.format(milligrams / massScale());
}

/** A length in the studio's unit, without it. */
export const lengthFigure = (micrometres: number): string =>
  number(manner.value.length === "in" ? 2 : 1).format(micrometres / lengthScale());

/** A length with its unit. */
export const length = (micrometres: number): string => `${lengthFigure(micrometres)} ${lengthUnit()}`;

/** An amount of money in the studio's currency. */
export function money(minor: number): string {
  const digits = moneyDigits();
  const currency = manner.value.money;
  const said = new Intl.NumberFormat(locale(), {
    ...(currency && { style: "currency", currency }),
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
  });
  return said.format(minor / moneyScale());
}

export const plain = (value: number): string => number(2).format(value);

/** An amount in the unit it is kept in, as people say it. */
export function stocked(amount: number, unit: string): string {
  if (unit === "mg") return `${massFigure(amount)} ${massUnit()}`;
  return unit === "µm" ? `${number(1).format(amount / 1_000_000)} m` : plain(amount);
}

/** The unit in which people give an amount of what is kept in a unit. */
export const spokenUnit = (unit: string): string => ({ mg: massUnit(), µm: "m" })[unit] ?? "pieces";

/** An amount as people gave it, as the studio takes it. */
export const given = (value: number, unit: string): { value: number; unit: string } =>
  unit === "mg" ? { value: (value * massScale()) / 1000, unit: "g" } : { value, unit: spokenUnit(unit) };

/** A length of time in words: "40 min", "5 h 20 min", "2 d 3 h". */
export function lasting(minutes: number): string {
  const m = Math.abs(Math.round(minutes));
  if (m < 60) return t("{minutes} min", { minutes: m });
  if (m < 1440)
    return m % 60
      ? t("{hours} h {minutes} min", { hours: Math.floor(m / 60), minutes: m % 60 })
      : t("{hours} h", { hours: m / 60 });
  const hours = Math.round(m / 60);
  return hours % 24
    ? t("{days} d {hours} h", { days: Math.floor(hours / 24), hours: hours % 24 })
    : t("{days} d", { days: hours / 24 });
}

/** Minutes of the studio as local times in its zone, in the browser's language. */
export function useTimes() {
  const { data: studio } = useStudio();
  return computed(() => {
    const epoch = Date.parse(studio.value?.epoch ?? "1970-01-01T00:00:00Z");
    const timeZone = studio.value?.zone ?? "UTC";
    const format = (options: Intl.DateTimeFormatOptions) => {
      const f = new Intl.DateTimeFormat(undefined, {
        timeZone,
        hourCycle: manner.value.clock === "12" ? "h12" : "h23",
        ...options,
      });
      return (minute: number) => f.format(epoch + minute * 60_000);
    };
    const wall = (options: Intl.DateTimeFormatOptions) => {
      const f = new Intl.DateTimeFormat(undefined, {
        timeZone: "UTC",
        hourCycle: manner.value.clock === "12" ? "h12" : "h23",
        ...options,
      });
      return (text: string) => f.format(Date.parse(`${text}:00Z`));
    };
    const date = new Intl.DateTimeFormat("sv", { timeZone, dateStyle: "short" });
    return {
      /** The day a minute falls on, as 2027-09-20. */
      date: (minute: number) => date.format(epoch + minute * 60_000),
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
}

/** A mass with its unit: less than a scale shows is said in milligrams. */
export const mass = (milligrams: number): string =>
  milligrams < 50 ? t("{milligrams} mg", { milligrams: plain(milligrams) }) : `${massFigure(milligrams)} ${massUnit()}`;
