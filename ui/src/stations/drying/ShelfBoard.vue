<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import { useTimes } from "../../format";

/** One kind of place as a board of wells, each in the colour of what lies in it. */
const props = defineProps<{ shelf: Schemas["ShelfView"]; where: string }>();
const emit = defineEmits<{ edit: [] }>();
const times = useTimes();
const most = 40;
const wells = computed(() => {
  const all = props.shelf.taken.flatMap((t) =>
    Array.from({ length: t.slots }, () => t as Schemas["SlotView"] | undefined),
  );
  while (all.length < props.shelf.slots) all.push(undefined);
  return all.slice(0, most);
});
const next = computed(() => props.shelf.taken[0]);
</script>

<template>
  <div class="board">
    <h2 class="lesser">
      <template v-if="shelf.machine">{{ shelf.name }}</template>
      <button v-else class="bare" :data-test="`place-${shelf.name}`" @click="emit('edit')">{{ shelf.name }}</button>
    </h2>
    <div
      class="wells"
      role="img"
      :aria-label="$t('{free} of {slots} taken', { free: shelf.slots - shelf.free, slots: shelf.slots })"
    >
      <span
        v-for="(w, i) in wells"
        :key="i"
        class="well"
        :class="[w ? 'taken' : 'free', w?.state]"
        :style="w && { background: w.colour || '#e9e2d6' }"
      />
    </div>
    <p class="quiet">
      <b :class="{ none: shelf.free <= 0 }">{{
        shelf.free > 0 ? $t("{free} of {slots} free", { free: shelf.free, slots: shelf.slots }) : $t("none free")
      }}</b>
      <template v-if="next"> · {{ next.slots }} free at {{ times.moment(next.until) }}</template>
      <template v-if="where"> · {{ where }}</template>
      <template v-if="shelf.madeBy && shelf.free <= 0"> · more can be made</template>
    </p>
  </div>
</template>

<style scoped>
.board h2 {
  margin: 0 0 5px;
}
.board p {
  margin: 4px 0 0;
}
.none {
  color: var(--late);
}
.wells {
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
}
.well {
  width: 15px;
  height: 15px;
  border-radius: 50% 50% 46% 46%;
  border: 1px solid var(--edge);
}
.well.free {
  background: var(--marble);
  border: 1px dashed var(--wire);
}
.well.taken.soft {
  border: 2px dashed var(--water);
}
.well.taken.firm {
  border: 2px solid var(--dust);
}
.well.taken.dry {
  border: 2px solid var(--leaf);
  border-radius: 3px;
}
</style>
