import { lengthScale, lengthUnit, locale, manner, massScale, massUnit, moneyDigits, moneyScale } from "./manner";
import { t } from "./words/said";

/** Formats are dear to make, and few. */
const formats = new Map<string, Intl.NumberFormat>();
function formatOf(options: Intl.NumberFormatOptions): Intl.NumberFormat {
  const key = JSON.stringify([locale(), options]);
  let known = formats.get(key);
  if (!known) formats.set(key, (known = new Intl.NumberFormat(locale(), options)));
  return known;
}
const number = (digits: number) => formatOf({ maximumFractionDigits: digits });

/** A mass in the studio's unit, without it: with as many decimals as a kitchen scale shows. */
export function massFigure(milligrams: number): string {
  const digits = manner.value.mass !== "oz" ? 1 : Math.abs(milligrams) < massScale() / 10 ? 3 : 2;
  const said = formatOf({ minimumFractionDigits: digits, maximumFractionDigits: digits });
  return said.format(milligrams / massScale());
}

/** A mass too small for the scale's step, without its unit: to two figures that count. */
export const fineMassFigure = (milligrams: number): string =>
  formatOf({ maximumSignificantDigits: 2 }).format(milligrams / massScale());

/** A length in the studio's unit, without it. */
export const lengthFigure = (micrometres: number): string =>
  number(manner.value.length === "in" ? 2 : 1).format(micrometres / lengthScale());

/** A length with its unit. */
export const length = (micrometres: number): string => `${lengthFigure(micrometres)} ${lengthUnit()}`;

/** An amount of money in the studio's currency. */
export function money(minor: number): string {
  const digits = moneyDigits();
  const currency = manner.value.money;
  const said = formatOf({
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

/** An amount of something by its name: what is counted is told apart from a name that begins with a number. */
export const stockOf = (amount: number, unit: string, name: string): string =>
  unit === "mg" || unit === "µm" ? `${stocked(amount, unit)} ${name}` : `${plain(amount)} × ${name}`;

/** How much of what is kept makes one of the unit that people give it in. */
export const spokenScale = (unit: string): number => ({ mg: massScale(), µm: 1_000_000 })[unit] ?? 1;

/** The unit in which people give an amount of what is kept in a unit. */
export const spokenUnit = (unit: string): string => ({ mg: massUnit(), µm: "m" })[unit] ?? "pieces";

/** An amount as people gave it, as the studio takes it. */
export const given = (value: number, unit: string): { value: number; unit: string } =>
  unit === "mg" ? { value: (value * massScale()) / 1000, unit: "g" } : { value, unit: spokenUnit(unit) };

/** A mass with its unit: of less than a scale shows, two figures that count. */
export const mass = (milligrams: number): string =>
  `${milligrams && Math.abs(milligrams) < 50 ? fineMassFigure(milligrams) : massFigure(milligrams)} ${massUnit()}`;

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

/** Time that people work, in hours however long it is: "40 min", "46 h". */
export function worked(minutes: number): string {
  const m = Math.round(minutes);
  return m < 60 ? lasting(m) : t("{hours} h", { hours: number(m < 600 ? 1 : 0).format(m / 60) });
}

/** An amount in the unit it is kept in, as it is said: of stock, of a piece's length, of a share, of time. */
export function measured(amount: number, unit: string): string {
  if (unit === "length") return length(amount);
  if (unit === "mg") return mass(amount);
  if (unit === "‰") return `${plain(amount / 10)} %`;
  if (unit === "min") return lasting(amount);
  if (unit === "min/1000") return amount % 1000 ? `${plain(amount / 1000)} min` : lasting(amount / 1000);
  return stocked(amount, unit);
}
