<script setup lang="ts">
import { computed } from "vue";
import { top } from "../../drawings/board";
import type { TimeScale } from "../../drawings/timeScale";
import { useTimes } from "../../format";

/** The hours behind the board: days with their dates and ticks, nights as dim seams. */
const props = defineProps<{ scale: TimeScale; height: number; far: boolean }>();
const times = useTimes();
const each = computed(() => (props.far ? 4 : 2));
</script>

<template>
  <g :class="{ far }">
    <g v-for="n in scale.nights" :key="n.from">
      <rect :x="n.x" y="0" :width="n.width" :height="height" class="night" />
      <path v-if="!far" :d="`M${n.x + n.width / 2 + 4} 14a7 7 0 1 1-7-7 5.500 5.500 0 0 0 7 7z`" class="moon" />
    </g>
    <g v-for="d in scale.days" :key="d.from">
      <text :x="d.x + 8" y="17" class="day">{{ times.dayShort(d.from) }}</text>
      <template v-for="h in Math.floor((d.to - d.from) / 60)" :key="h">
        <path v-if="h % each === 0" :d="`M${scale.x(d.from + h * 60)} ${top - 6}V${height}`" class="hour" />
        <text v-if="h % each === 0" :x="scale.x(d.from + h * 60)" :y="top - 9" class="tick">
          {{ times.clock(d.from + h * 60) }}
        </text>
      </template>
    </g>
  </g>
</template>

<style scoped>
.night {
  fill: var(--night);
}
.moon {
  fill: var(--soft);
  opacity: 0.5;
}
.day {
  font: 560 1.0667rem var(--name);
  fill: var(--ink);
}
.far .day {
  font-size: 0.9333rem;
}
.tick {
  font: 0.7333rem var(--count);
  fill: var(--soft);
  text-anchor: middle;
}
.hour {
  stroke: var(--vein);
  stroke-dasharray: 1 4;
}
</style>
