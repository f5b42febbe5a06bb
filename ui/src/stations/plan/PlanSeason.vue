<script setup lang="ts">
import { useElementSize } from "@vueuse/core";
import { computed, ref } from "vue";
import type { Schemas } from "../../api/client";
import { lasting, useTimes } from "../../format";
import { walk } from "../../parts/walking";
import { t } from "../../words/said";
import { standing } from "../orders/standing";

/** A plan from today to its end: how full everybody's days are, and each order from its first work to its hand-over. */
const props = defineProps<{ whole: Schemas["WholePlan"]; lit: string }>();
const emit = defineEmits<{ day: [minute: number]; light: [order: string, begins?: number] }>();
const times = useTimes();
const frame = ref<HTMLElement>();
const { width } = useElementSize(frame, { width: 1200, height: 0 });

const names = 128;
const head = 34;
const lane = 30;
const row = 15;
const dayMinutes = 1440;
const roomOfDay = 62;

const days = computed(() => Math.max(1, Math.round((props.whole.to - props.whole.from) / dayMinutes)));
const perDay = computed(() => Math.max(7, (width.value - names - 8) / days.value));
const x = (minute: number) => names + ((minute - props.whole.from) / dayMinutes) * perDay.value;
const dates = computed(() => {
  let free = -Infinity;
  return Array.from({ length: days.value }, (_, i) => {
    const minute = props.whole.from + i * dayMinutes + dayMinutes / 2;
    const monday = new Date(`${times.value.date(minute)}T12:00:00Z`).getUTCDay() === 1;
    const named = (monday || i === 0 || perDay.value > roomOfDay) && names + i * perDay.value >= free;
    if (named) free = names + i * perDay.value + roomOfDay;
    return { x: names + i * perDay.value, date: times.value.date(minute), minute, monday, named };
  });
});
const at = computed(() => new Map(dates.value.map((d) => [d.date, d])));
const people = computed(() =>
  props.whole.people.map((p, i) => ({
    ...p,
    y: head + i * lane,
    cells: p.loads.flatMap((load) => {
      const day = at.value.get(load.day);
      if (!day) return [];
      const share = load.thereMinutes ? load.takenMinutes / load.thereMinutes : load.takenMinutes ? 1 : 0;
      const says = t("{who}, {day}: {taken} of {there} taken", {
        who: p.name,
        day: times.value.dayShort(day.minute),
        taken: lasting(load.takenMinutes),
        there: lasting(load.thereMinutes),
      });
      return [{ x: day.x, minute: day.minute, there: load.thereMinutes > 0, share: Math.min(1, share), says }];
    }),
  })),
);
const below = computed(() => head + props.whole.people.length * lane + 16);
const orders = computed(() =>
  props.whole.orders.map((o, i) => {
    const { kind, text } = standing(o.outcome);
    const ready = o.outcome.ready ?? o.outcome.readyBy;
    const begins = Math.max(props.whole.from, Math.min(o.begins ?? ready, ready));
    return {
      o,
      kind,
      y: below.value + i * row,
      begins: x(begins),
      ready: x(ready),
      by: x(o.outcome.readyBy),
      says: `${o.name}: ${text}`,
    };
  }),
);
const height = computed(() => below.value + props.whole.orders.length * row + 12);
</script>

<template>
  <div ref="frame" class="frame" data-test="season">
    <svg
      :width="Math.max(width, names + days * perDay)"
      :height="height"
      role="group"
      :aria-label="$t('The plan to its end')"
      @keydown="walk($event, '[role=button]')"
    >
      <g v-for="d in dates" :key="d.date">
        <path v-if="d.monday" :d="`M${d.x} ${head - 8}V${height}`" class="week" />
        <text v-if="d.named" :x="d.x + 3" y="18">{{ times.dayShort(d.minute) }}</text>
      </g>
      <g v-for="p in people" :key="p.id">
        <text x="14" :y="p.y + 20" class="name">{{ p.name }}</text>
        <g
          v-for="(c, i) in p.cells"
          :key="i"
          role="button"
          :tabindex="i === 0 ? 0 : -1"
          :aria-label="c.says"
          @click="emit('day', c.minute)"
          @keydown.enter="emit('day', c.minute)"
        >
          <title>{{ c.says }}</title>
          <rect v-if="c.there" :x="c.x + 1" :y="p.y + 3" :width="perDay - 2" :height="lane - 6" class="there" />
          <rect
            v-if="c.share"
            :x="c.x + 1"
            :y="p.y + 3 + (1 - c.share) * (lane - 6)"
            :width="perDay - 2"
            :height="c.share * (lane - 6)"
            class="taken"
            :class="{ full: c.share > 0.95 }"
          />
        </g>
      </g>
      <g
        v-for="(b, i) in orders"
        :key="b.o.id"
        role="button"
        class="band"
        :class="[b.kind, { on: lit === b.o.id, dim: lit && lit !== b.o.id }]"
        :tabindex="i === 0 ? 0 : -1"
        :aria-label="b.says"
        :data-test="`band-${b.o.name}`"
        @click="emit('light', b.o.id, b.o.begins)"
        @keydown.enter="emit('light', b.o.id, b.o.begins)"
      >
        <title>{{ b.says }}</title>
        <rect x="0" :y="b.y" :width="width" :height="row" fill="transparent" />
        <text x="14" :y="b.y + 11" aria-hidden="true">{{ b.o.name }}</text>
        <path :d="`M${Math.min(b.ready, b.by)} ${b.y + 7}H${Math.max(b.ready, b.by)}`" class="slack" />
        <rect :x="b.begins" :y="b.y + 3" :width="Math.max(2, b.ready - b.begins)" :height="row - 7" class="work" />
        <path :d="`M${b.by} ${b.y + 1}v${row - 3}m0 -${row - 3}l6 3l-6 3`" class="by" />
      </g>
      <path :d="`M${names} ${head - 8}V${height}`" class="now" />
    </svg>
  </div>
</template>

<style scoped>
.frame {
  overflow-x: auto;
  grid-column: 1 / 3;
}
svg {
  display: block;
}
text {
  font-size: 0.8rem;
  fill: var(--soft);
}
.name {
  font: 500 1rem var(--name);
  fill: var(--ink);
}
.week {
  stroke: var(--vein);
}
.there {
  fill: var(--grain);
}
.taken {
  fill: var(--leaf);
  opacity: 0.75;
}
.taken.full {
  fill: var(--petal);
}
[role="button"] {
  cursor: pointer;
}
.band {
  color: var(--leaf);
}
.band.tight {
  color: var(--dust);
}
.band.late {
  color: var(--late);
}
.band.late text {
  fill: var(--late);
  font-weight: 600;
}
.band.on text {
  fill: var(--ink);
  font-weight: 700;
}
.band.dim {
  opacity: 0.35;
}
.work {
  fill: currentColor;
}
.slack {
  stroke: currentColor;
  stroke-width: 1.5;
  stroke-dasharray: 2 3;
}
.by {
  stroke: currentColor;
  stroke-width: 1.5;
  fill: currentColor;
}
.now {
  stroke: var(--petal);
  stroke-width: 2;
}
</style>
