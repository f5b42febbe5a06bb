<script setup lang="ts">
import { computed } from "vue";
import { useOrders } from "../../api/queries";
import { useTimes } from "../../format";
import { t } from "../../words/said";
import type { Answer } from "./asking";

/**
 * One line of time from today to the hand-over: where the work would lie, where it lies and dries, by when
 * other orders are to be ready; the date that was asked, and the nearest one where that cannot be.
 */
const props = defineProps<{ answer: Answer; now: number }>();
const times = useTimes();
const { data: orders } = useOrders();

const width = 760;
const height = 118;
const base = 62;

const asked = computed(() => props.answer.leaves);
const earliest = computed(() => (props.answer.verdict === "not" ? props.answer.nearest : undefined));
const until = computed(() => Math.max(asked.value, earliest.value ?? 0, ...props.answer.work.map((w) => w.to)) + 360);
const x = (m: number) => 14 + ((m - props.now) / (until.value - props.now)) * (width - 28);

/** The days of the line, from the midnights of the studio. */
const days = computed(() => {
  const all: { from: number; to: number; words: string; weekend: boolean }[] = [];
  let date = "";
  for (let m = props.now; m < until.value; m += 30) {
    const of = times.value.date(m);
    if (of !== date) {
      const weekday = new Date(`${of}T12:00:00Z`).getUTCDay();
      all.push({ from: m, to: m, words: times.value.dayShort(m), weekend: weekday % 6 === 0 });
      date = of;
    }
    all.at(-1)!.to = Math.min(m + 30, until.value);
  }
  return all;
});
/** So many days have their words that none lies on another. */
const each = computed(() => Math.max(1, Math.ceil((days.value.length * 86) / width)));
const others = computed(() =>
  (orders.value ?? [])
    .filter((o) => o.order.state === "open" && o.outcome)
    .map((o) => ({ name: o.order.name, at: o.outcome!.readyBy, kind: kind(o.outcome!) }))
    .filter((o) => o.at > props.now && o.at < until.value),
);
function kind(o: { slack?: number; late: number }) {
  if (o.slack === undefined || o.late > 0) return "late";
  return o.slack < 1440 ? "tight" : "safe";
}
const says = computed(() =>
  t("Worked on until {until}; asked for {asked}", {
    until: times.value.full(props.answer.work.at(-1)?.to ?? props.now),
    asked: times.value.full(asked.value),
  }),
);
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${height}`" role="img" :aria-label="says">
    <rect
      v-for="(d, i) in days.filter((d) => d.weekend)"
      :key="`w${i}`"
      class="weekend"
      :x="x(d.from)"
      :width="x(d.to) - x(d.from)"
      y="18"
      :height="base + 6"
    />
    <line class="base" x1="14" :x2="width - 14" :y1="base" :y2="base" />
    <g v-for="(d, i) in days" :key="`d${i}`">
      <line class="tick" :x1="x(d.from)" :x2="x(d.from)" :y1="base" :y2="base + 5" />
      <text v-if="i % each === 0 && x(d.from) < width - 78" class="day" :x="x(d.from) + 2" :y="base + 44">
        {{ d.words }}
      </text>
    </g>
    <rect
      v-for="(l, i) in answer.lies"
      :key="`l${i}`"
      class="lies"
      :x="x(l.from)"
      :width="Math.max(1, x(l.to) - x(l.from))"
      :y="base + 3"
      height="6"
      rx="3"
    />
    <rect
      v-for="(w, i) in answer.work"
      :key="i"
      class="work"
      :x="x(w.from)"
      :width="Math.max(2, x(w.to) - x(w.from))"
      :y="base - 20"
      height="20"
    />
    <g v-for="o in others" :key="o.name" :class="['other', o.kind]">
      <title>{{ o.name }}</title>
      <circle v-if="o.kind === 'safe'" :cx="x(o.at)" :cy="base + 22" r="4.5" />
      <path v-else-if="o.kind === 'tight'" :d="`M${x(o.at)} ${base + 16} l6 6 l-6 6 l-6 -6 z`" />
      <path v-else :d="`M${x(o.at) - 5} ${base + 27} h10 l-5 -10 z`" />
    </g>
    <g class="asked">
      <line :x1="x(asked)" :x2="x(asked)" y1="16" :y2="base + 8" />
      <text :x="x(asked)" y="12" :text-anchor="x(asked) > width - 120 ? 'end' : 'middle'">asked for</text>
    </g>
    <g v-if="earliest !== undefined" class="nearest">
      <line :x1="x(earliest)" :x2="x(earliest)" y1="28" :y2="base + 8" />
      <text :x="x(earliest)" y="25" :text-anchor="x(earliest) > width - 120 ? 'end' : 'middle'">nearest</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  display: block;
  margin: 6px 0 2px;
}
.weekend {
  fill: var(--grain);
}
.base {
  stroke: var(--wire);
  stroke-width: 1.5;
}
.tick {
  stroke: var(--wire);
}
.day {
  fill: var(--soft);
  font-size: 11.5px;
}
.work {
  fill: var(--petal);
}
.lies {
  fill: var(--petal-faint);
}
.other.safe {
  fill: var(--leaf);
}
.other.tight {
  fill: var(--dust);
}
.other.late {
  fill: var(--late);
}
.asked line,
.nearest line {
  stroke: var(--ink);
  stroke-width: 2;
}
.nearest line {
  stroke: var(--leaf);
  stroke-dasharray: 4 3;
}
.asked text,
.nearest text {
  font-size: 12.5px;
  font-weight: 650;
  fill: var(--ink);
}
.nearest text {
  fill: var(--leaf);
}
</style>
