<script setup lang="ts">
import { computed, ref } from "vue";
import { useRoute } from "vue-router";
import { useStores } from "../api/queries";
import ProblemNote from "../parts/ProblemNote.vue";
import StationHead from "../parts/StationHead.vue";
import ChangeOfMind from "./stores/ChangeOfMind.vue";
import MaterialShelf from "./stores/MaterialShelf.vue";
import PieceShelf from "./stores/PieceShelf.vue";
import ShoppingLists from "./stores/ShoppingLists.vue";
import { word } from "../words/said";

const { data: stores, error } = useStores();
const views = ["Pieces and mixes", "Materials", "To buy", "Change of mind"] as const;
const asked = useRoute().query.view as (typeof views)[number];
const view = ref<(typeof views)[number]>(views.includes(asked) ? asked : "Pieces and mixes");
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
    >
      <nav class="views">
        <button
          v-for="v in views"
          :key="v"
          class="bare"
          :class="{ here: view === v }"
          :data-test="`view-${v}`"
          @click="view = v"
        >
          {{ word(v) }}
        </button>
      </nav>
    </StationHead>
    <ProblemNote :error="error" />
    <p v-if="minus" class="remark">
      {{ $t("{n} line is | {n} lines are", minus) }} below nothing: more was used than the books had. Count it, and say
      what is there.
    </p>
    <template v-if="stores">
      <PieceShelf v-if="view === 'Pieces and mixes'" :stores="stores" />
      <MaterialShelf v-else-if="view === 'Materials'" :stores="stores" />
      <ShoppingLists v-else-if="view === 'To buy'" :stores="stores" />
      <ChangeOfMind v-else />
    </template>
  </div>
</template>

<style scoped>
.views {
  display: flex;
  gap: 22px;
  font-size: 1.0667rem;
}
</style>
