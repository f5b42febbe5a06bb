import { createI18n } from "vue-i18n";
import en from "./en";
import { flat } from "./flat";

/**
 * The interface's words. A message is looked up by its English: by what stands in the code, or by a code that
 * en.ts words. The build gathers them all in words.json. A language is a file of the same form: its own words for
 * the English ones, and `language`, the tag that its plural forms go by.
 */
export interface Language {
  language: string;
  words: Record<string, string>;
}

/** Which of a message's forms belongs to a number: they stand in the order of the language's own categories. */
function forms(language: string): (n: number, forms: number) => number {
  const rules = new Intl.PluralRules(language);
  const categories = rules.resolvedOptions().pluralCategories as string[];
  const order = ["zero", "one", "two", "few", "many", "other"].filter((c) => categories.includes(c));
  return (n, forms) => Math.min(order.indexOf(rules.select(n)), forms - 1);
}

let formOf = (n: number, of: number) => (n === 1 ? 0 : of - 1);

export const i18n = createI18n({
  legacy: false,
  locale: "en",
  fallbackLocale: "en",
  messages: { en: Object.fromEntries(flat(en)), other: {} } as Record<string, Record<string, string>>,
  pluralRules: { other: (n, of) => formOf(n, of) },
  messageResolver: (words, key) => (words as unknown as Record<string, string>)[key] ?? null,
  // what has no entry is its own English
  fallbackFormat: true,
  missingWarn: false,
  fallbackWarn: false,
});

export const { t, te } = i18n.global;

/** A text of the program in the language that is spoken here, where it is in the catalogue. */
export const translated = (text: string): string => (te(text) ? t(text) : text);

/** A code in words; what is none, as it is. */
export const word = (code: string): string => (te(`word.${code}`) ? t(`word.${code}`) : code);

/**
 * The language that this browser spoke last is there before anything is asked or shown, and without a connection:
 * whatever is worded once, when a module is read, is worded in it.
 */
const key = "bractum.words";
export const remembered = () => globalThis.localStorage?.getItem(key) ?? undefined;
export const remember = (language: string | undefined) =>
  language ? localStorage.setItem(key, language) : localStorage.removeItem(key);

const other = remembered();
if (other) {
  const { language, words } = JSON.parse(other) as Language;
  formOf = forms(language);
  i18n.global.setLocaleMessage("other", words);
  i18n.global.locale.value = "other";
  document.documentElement.lang = language;
}
