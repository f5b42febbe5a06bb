<script setup lang="ts">
import { useRouteQuery } from "@vueuse/router";
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { useStores } from "../api/queries";
import FilterBar from "../parts/FilterBar.vue";
import ProblemNote from "../parts/ProblemNote.vue";
import StationHead from "../parts/StationHead.vue";
import ChangeOfMind from "./stores/ChangeOfMind.vue";
import MaterialShelf from "./stores/MaterialShelf.vue";
import PieceShelf from "./stores/PieceShelf.vue";
import ShoppingLists from "./stores/ShoppingLists.vue";
import { word } from "../words/said";

const { data: stores, error } = useStores();
const views = ["Pieces and mixes", "Materials", "To buy", "Change of mind"] as const;
const view = useRouteQuery<(typeof views)[number]>("view", "Pieces and mixes", { mode: "push" });
const typed = useRouteQuery("text", "", { mode: "replace" });
const choices = views.map((key) => ({ key, name: word(key) }));
/** What has all words that were typed in its name; materials that run out first come first. */
const sought = computed(() => {
  const all = stores.value;
  if (!all) return undefined;
  const words = (typed.value ?? "").toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const has = (...names: string[]) => words.every((w) => names.join(" ").toLocaleLowerCase().includes(w));
  const runsOut = (m: Schemas["MaterialRow"]) => m.runsOut ?? Infinity;
  return {
    ...all,
    shelf: all.shelf.filter((s) => has(s.name, s.mix)),
    materials: all.materials
      .filter((m) => has(m.name))
      .sort((a, b) => runsOut(a) - runsOut(b) || Number(b.free < 0) - Number(a.free < 0)),
  };
});
const minus = computed(
  () =>
    (stores.value?.shelf.filter((s) => s.amount < 0).length ?? 0) +
    (stores.value?.materials.filter((m) => m.onHand < 0).length ?? 0),
);
const short = computed(() => stores.value?.materials.filter((m) => m.runsOut !== undefined).length ?? 0);
</script>

<template>
  <div class="station">
    <StationHead
      title="Stores"
      :says="
        short
          ? $t('{n} material runs out under the plan in force | {n} materials run out under the plan in force', short)
          : $t('What the plan in force takes is there')
      "
    />
    <ProblemNote :error="error" />
    <FilterBar
      v-model:text="typed"
      v-model:show="view"
      :choices="choices"
      :placeholder="$t('A part, mix or material')"
      test="view"
    />
    <p v-if="minus" class="remark">
      {{ $t("{n} line is | {n} lines are", minus) }} below nothing: more was used than the books had. Count it, and say
      what is there.
    </p>
    <template v-if="sought">
      <PieceShelf v-if="view === 'Pieces and mixes'" :stores="sought" />
      <MaterialShelf v-else-if="view === 'Materials'" :stores="sought" />
      <ShoppingLists v-else-if="view === 'To buy'" :stores="sought" />
      <ChangeOfMind v-else />
    </template>
  </div>
</template>
