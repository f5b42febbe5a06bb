<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import Swatch from "../../drawings/Swatch.vue";

/** The colourway that the picture is seen in. */
const props = defineProps<{ colourways: Schemas["ColourwayState"][]; pages: Schemas["Page"][]; slots: string[] }>();
const chosen = defineModel<string>({ required: true });
const colour = (mix: string | undefined) => props.pages.find((p) => p.recipe === mix)?.colour ?? "";
const ways = computed(() =>
  props.colourways.map((c) => ({
    ...c,
    shown: (props.slots.some((s) => c.slots[s]) ? props.slots : Object.keys(c.slots).sort())
      .filter((s) => c.slots[s])
      .map((s) => colour(c.slots[s])),
  })),
);
</script>

<template>
  <div class="ways" role="radiogroup" aria-label="Colourway">
    <button
      v-for="c in ways"
      :key="c.id"
      class="bare"
      role="radio"
      :aria-checked="c.id === chosen"
      :class="{ here: c.id === chosen }"
      :data-test="`way-${c.name}`"
      @click="chosen = c.id"
    >
      <Swatch v-for="(s, i) in c.shown.slice(0, 4)" :key="i" :colour="s" :size="13" /> {{ c.name }}
    </button>
  </div>
</template>

<style scoped>
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 3px 10px;
  margin: 8px 2px 10px;
  font-size: 0.9rem;
}
</style>
