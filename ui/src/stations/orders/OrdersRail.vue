<script setup lang="ts">
import { computed, nextTick, ref } from "vue";
import { useElementSize } from "@vueuse/core";
import type { OrderView } from "../../api/client";
import { useStudio } from "../../api/queries";
import { useTimes } from "../../format";
import { type Kind, standing } from "./standing";

/**
 * The days to come as one line with a stalk per hand-over, as high as its work, headed by the shape of its safety. Names
 * stand where there is room for them, of what is late and tight first; the arrow keys go from one to the next.
 */
const props = defineProps<{ orders: OrderView[]; open?: string }>();
const emit = defineEmits<{ open: [id: string] }>();
const { data: studio } = useStudio();
const times = useTimes();
const rail = ref<HTMLElement>();
const { width } = useElementSize(rail, { width: 1180, height: 0 });

const foot = 104;
const rowsOfNames = 3;
const rowHeight = 15;
const perLetter = 6.6;
const headWidth = 11;
const roomOfDay = 84;
const day = 86_400_000;
const gravity: Kind[] = ["late", "tight", "plain", "safe"];

const at = (wall: string) => Date.parse(`${wall}:00Z`);
const sorted = computed(() => [...props.orders].sort((a, b) => at(a.order.leaves) - at(b.order.leaves)));
const span = computed(() => {
  const today = at(`${times.value.date(studio.value?.now ?? 0)}T00:00`);
  const first = Math.min(today, ...sorted.value.slice(0, 1).map((o) => at(o.order.leaves)));
  const last = Math.max(today + 7 * day, ...sorted.value.slice(-1).map((o) => at(o.order.leaves)));
  return { today, first: first - (first % day), last: last - (last % day) + day };
});
const x = (time: number) =>
  ((time - span.value.first) / (span.value.last - span.value.first)) * (width.value - 2 * headWidth);

/** The days, those of no work dimmed; the first and each Monday are named where there is room. */
const days = computed(() => {
  const all: { x: number; width: number; name: string; rests: boolean }[] = [];
  let free = -Infinity;
  for (let d = span.value.first; d < span.value.last; d += day) {
    const [date, from] = [new Date(d), x(d)];
    const named = (date.getUTCDay() === 1 || d === span.value.first) && from >= free;
    if (named) free = from + roomOfDay;
    all.push({
      x: from,
      width: x(d + day) - from,
      rests: date.getUTCDay() % 6 === 0,
      name: named ? times.value.wallDay(date.toISOString().slice(0, 16)) : "",
    });
  }
  return all;
});

const marks = computed(() => {
  const most = Math.max(1, ...sorted.value.map((o) => o.tasksAll));
  let last = -headWidth;
  const all = sorted.value.map((o, i) => {
    last = Math.max(last + headWidth, x(at(o.order.leaves)));
    const { kind, text } = standing(o.outcome);
    return {
      i,
      o,
      kind: o.order.state === "quote" ? ("plain" as Kind) : kind,
      x: Math.min(last, width.value - headWidth),
      y: foot - 12 - 34 * Math.sqrt(o.tasksAll / most),
      says: `${o.order.name}, ${times.value.wall(o.order.leaves)}, ${text}`,
      name: undefined as { x: number; y: number; end: boolean } | undefined,
    };
  });
  const rows: [number, number][][] = Array.from({ length: rowsOfNames }, () => []);
  for (const m of [...all].sort((a, b) => gravity.indexOf(a.kind) - gravity.indexOf(b.kind) || a.i - b.i)) {
    const long = m.o.order.name.length * perLetter + 10;
    const end = m.x + long > width.value;
    const [from, to] = end ? [m.x - long, m.x + 4] : [m.x - 4, m.x + long];
    const row = rows.findIndex((r) => r.every(([a, b]) => to < a || from > b));
    if (row < 0 || from < 0) continue;
    rows[row].push([from, to]);
    m.name = { x: end ? m.x - 6 : m.x + 6, y: 12 + row * rowHeight, end };
  }
  return all;
});

const chosen = ref(0);
async function step(by: number) {
  chosen.value = Math.max(0, Math.min(marks.value.length - 1, chosen.value + by));
  await nextTick();
  rail.value?.querySelector<SVGElement>('[tabindex="0"]')?.focus();
}
const shapes: Record<Kind, string> = {
  late: "M0-7 7 0 0 7-7 0z",
  tight: "M0-7 7 6H-7z",
  safe: "M0-5a5 5 0 1 1 0 10a5 5 0 1 1 0-10z",
  plain: "M-5-2H5V2H-5z",
};
</script>

<template>
  <div ref="rail" class="rail" data-test="rail">
    <svg
      :width="width"
      :height="foot + 22"
      role="group"
      :aria-label="$t('When orders leave')"
      @keydown.right.prevent="step(1)"
      @keydown.left.prevent="step(-1)"
      @keydown.home.prevent="step(-marks.length)"
      @keydown.end.prevent="step(marks.length)"
    >
      <template v-for="d in days" :key="d.x">
        <rect v-if="d.rests" :x="d.x" y="50" :width="d.width" :height="foot - 50" class="rests" />
        <template v-if="d.name">
          <path :d="`M${d.x} 50V${foot + 4}`" class="tick" />
          <text :x="d.x + 3" :y="foot + 16">{{ d.name }}</text>
        </template>
      </template>
      <g
        v-for="m in marks.filter((one) => one.name)"
        :key="m.i"
        class="called"
        :class="[m.kind, { here: open === m.o.order.id }]"
        aria-hidden="true"
      >
        <path :d="`M${m.x} ${m.name!.y - 8}V${m.y}`" class="leader" />
        <text :x="m.name!.x" :y="m.name!.y" :text-anchor="m.name!.end ? 'end' : 'start'">{{ m.o.order.name }}</text>
      </g>
      <path :d="`M0 ${foot}H${width}`" class="ground" />
      <path :d="`M${x(span.today)} 46V${foot + 4}`" class="today" />
      <g
        v-for="m in marks"
        :key="m.o.order.id"
        role="button"
        class="mark"
        :class="[m.kind, { here: open === m.o.order.id }]"
        :tabindex="m.i === chosen ? 0 : -1"
        :aria-label="m.says"
        :data-test="`mark-${m.o.order.name}`"
        @click="emit('open', m.o.order.id)"
        @focus="chosen = m.i"
        @keydown.enter.prevent="emit('open', m.o.order.id)"
        @keydown.space.prevent="emit('open', m.o.order.id)"
      >
        <title>{{ m.says }}</title>
        <rect :x="m.x - headWidth / 2" :y="m.y - 8" :width="headWidth" :height="foot - m.y + 8" fill="transparent" />
        <path :d="`M${m.x} ${foot}V${m.y}`" class="stalk" />
        <path :d="shapes[m.kind]" :transform="`translate(${m.x} ${m.y})`" class="head" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.rail {
  overflow: hidden;
}
svg {
  display: block;
}
text {
  font-size: 0.8rem;
  fill: var(--soft);
}
.rests {
  fill: var(--night);
  opacity: 0.5;
}
.tick,
.leader {
  stroke: var(--vein);
}
.ground {
  stroke: var(--wire);
}
.today {
  stroke: var(--petal);
  stroke-width: 2;
}
.mark {
  cursor: pointer;
  color: var(--leaf);
}
.mark.tight {
  color: var(--dust);
}
.mark.late {
  color: var(--late);
}
.mark.plain {
  color: var(--soft);
}
.stalk {
  stroke: currentColor;
  stroke-width: 3;
}
.head {
  fill: currentColor;
}
.called {
  pointer-events: none;
}
.called text {
  fill: var(--ink);
}
.called.late text {
  fill: var(--late);
  font-weight: 600;
}
.called.here text {
  font-weight: 700;
}
.here .head {
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
