<script setup lang="ts">
import { computed } from "vue";
import { lengthFigure } from "../format";
import { lengthUnit } from "../manner";

/** One wire with its cuts, to the scale of a full one; from is its length, less where it is an offcut. */
const props = defineProps<{ cuts: number[]; from: number; offcut: number; kept: boolean; full: number }>();

const pieces = computed(() => {
  let from = 0;
  return props.cuts.map((length) => {
    const piece = { from: (from / props.full) * 390, width: (length / props.full) * 390, length };
    from += length;
    return piece;
  });
});
</script>

<template>
  <svg
    viewBox="0 0 390 34"
    class="drawn"
    role="img"
    :aria-label="`${cuts.map((c) => lengthFigure(c)).join(' + ')} ${lengthUnit()}`"
  >
    <g v-for="(p, i) in pieces" :key="i">
      <rect :x="p.from + 1" y="12" :width="Math.max(1, p.width - 2)" height="9" rx="2" class="piece" />
      <text v-if="p.width > 26" :x="p.from + p.width / 2" y="32" text-anchor="middle">
        {{ lengthFigure(p.length) }}
      </text>
    </g>
    <g v-if="offcut > 0">
      <rect
        :x="((from - offcut) / full) * 390"
        y="15.500"
        :width="(offcut / full) * 390"
        height="2.500"
        :class="kept ? 'kept' : 'waste'"
      />
      <text
        v-if="(offcut / full) * 390 > 50"
        :x="((from - 0.77 * offcut) / full) * 390"
        y="10"
        text-anchor="middle"
        class="rest"
      >
        {{ $t(kept ? "keep {length}" : "waste {length}", { length: lengthFigure(offcut) }) }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.drawn {
  width: 100%;
  max-width: 390px;
  display: block;
}
.piece {
  fill: var(--leaf);
}
.kept {
  fill: var(--dust);
}
.waste {
  fill: #c9c2b8;
}
text {
  font: 11px var(--count);
  fill: var(--ink);
}
.rest {
  fill: var(--soft);
}
</style>
