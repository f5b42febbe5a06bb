<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { length } from "../format";

/** A box from above, to scale, and what lies where in it. */
const props = defineProps<{ box: Schemas["BoxView"]; colour?: (line: string) => string | undefined; width?: number }>();
const long = computed(() => Math.max(props.box.room.lengthMicrometres, props.box.room.widthMicrometres));
const wide = computed(() => Math.min(props.box.room.lengthMicrometres, props.box.room.widthMicrometres));
const scale = computed(() => long.value / 240);
const u = (micrometres: number) => micrometres / scale.value;
</script>

<template>
  <svg
    :width="width ?? 240"
    :viewBox="`-2 -2 ${u(long) + 4} ${u(wide) + 20}`"
    role="img"
    :aria-label="`${box.name}: ${box.says}`"
  >
    <rect :width="u(long)" :height="u(wide)" class="box" />
    <ellipse
      v-for="(l, i) in box.lies"
      :key="i"
      :cx="u(l.alongMicrometres + l.lengthMicrometres / 2)"
      :cy="u(l.acrossMicrometres + l.breadthMicrometres / 2)"
      :rx="u(l.lengthMicrometres / 2)"
      :ry="u(l.breadthMicrometres / 2)"
      :fill="colour?.(l.line) ?? '#e9e2d6'"
      class="lies"
    />
    <text :y="u(wide) + 14" class="word">{{ length(long) }} × {{ length(wide) }}</text>
  </svg>
</template>

<style scoped>
.box {
  fill: #fffdf8;
  stroke: var(--ink);
}
.lies {
  stroke: var(--ink);
  fill-opacity: 0.8;
}
.word {
  font: 500 10px var(--count);
  fill: var(--soft);
}
</style>
