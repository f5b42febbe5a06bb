import { computed } from "vue";
import { useLanguages, useStudio, useWorkshop } from "../../api/queries";
import { momentIn } from "./moment";
import { type Around, type Sheet, sheets } from "./sheets";

const options = (all: { id: string; name: string }[] = []) => all.map((x) => ({ title: x.name, value: x.id }));

/** The sheets of all kinds of things, with what this studio has to choose from. */
export function useSheets() {
  const { data: shop } = useWorkshop();
  const { data: studio } = useStudio();
  const { data: languages } = useLanguages();
  return computed<Record<string, Sheet>>(() => {
    const s = shop.value;
    const around: Around = {
      surroundings: options(s?.surroundings),
      parts: options(s?.parts),
      mixes: options(s?.mixes),
      tools: options(s?.tools),
      suppliers: options(s?.suppliers),
      classes: options(s?.dryingClasses),
      families: options(s?.setupFamilies),
      skills: s?.skills ?? [],
      languages: languages.value ?? [],
      currencies: Intl.supportedValuesOf("currency"),
      moment: momentIn(studio.value?.epoch ?? "1970-01-01T00:00:00Z", studio.value?.zone ?? "UTC"),
    };
    return sheets(around, () => studio.value?.now ?? 0);
  });
}
