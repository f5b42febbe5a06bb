import { ref } from "vue";
import type { Schemas } from "./api/client";

/** How figures are said in this studio; everything is kept in the same small units. Set once the studio is known. */
export const manner = ref<Schemas["Manner"]>({});

/** By what numbers are written: a studio's decimal sign, or the browser's language. */
export const locale = (): string | undefined => ({ ",": "de-DE", ".": "en-GB" })[manner.value.decimal ?? ""];

/** One unit of what is said in what is kept: mg of a mass, µm of a length. */
export const massScale = () => (manner.value.mass === "oz" ? 28_349.523 : 1000);
export const lengthScale = () => (manner.value.length === "in" ? 25_400 : 1000);
/** Minor units in one of the studio's currency: a hundred where none is named. */
export const moneyDigits = () =>
  manner.value.money
    ? new Intl.NumberFormat("en", { style: "currency", currency: manner.value.money }).resolvedOptions()
        .maximumFractionDigits!
    : 2;
export const moneyScale = () => 10 ** moneyDigits();
export const massUnit = () => manner.value.mass || "g";
export const lengthUnit = () => manner.value.length || "mm";
