import { usePreferredDark, useStorage } from "@vueuse/core";
import { computed, watchEffect } from "vue";
import { vuetify } from "./vuetify";

/** By which light this browser shows the bench: as its system says, until somebody here chooses. */
const chosen = useStorage<"morning" | "evening" | "">("bractum.light", "");
const dark = usePreferredDark();
export const light = computed(() => chosen.value || (dark.value ? "evening" : "morning"));

/** The other light; as the system says once that is the same. */
export function turn() {
  const other = light.value === "evening" ? "morning" : "evening";
  chosen.value = other === (dark.value ? "evening" : "morning") ? "" : other;
}

export const follow = () =>
  watchEffect(() => {
    document.documentElement.dataset.light = light.value;
    vuetify.theme.change(light.value);
  });
