<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref } from "vue";
import type { TaskCard } from "../api/client";
import { usePlan } from "../api/queries";
import { shelve, timeScale } from "../drawings/timeScale";
import WorkGlyph from "../drawings/WorkGlyph.vue";
import { lasting, useTimes } from "../format";
import ProblemNote from "../parts/ProblemNote.vue";
import SafetyWord from "../parts/SafetyWord.vue";
import StationHead from "../parts/StationHead.vue";
import TaskDrawer from "./TaskDrawer.vue";

const { data: plan, error } = usePlan();
const times = useTimes();
const opened = ref<string>();
const lit = ref<string>("");
const frame = ref<HTMLElement>();
const view = ref(1080);

const laneHeight = 56;
const top = 50;
const measure = () => (view.value = frame.value?.clientWidth ?? 1080);
onMounted(() => {
  measure();
  window.addEventListener("resize", measure);
});
onUnmounted(() => window.removeEventListener("resize", measure));

const scale = computed(() => {
  const p = plan.value;
  const until = Math.max(0, ...(p?.cards.map((c) => c.end) ?? []));
  return timeScale(p?.open ?? [], p?.now ?? 0, until + 600, view.value);
});
const begin = (c: TaskCard) => c.resume ?? c.start;
const cards = computed(() => new Map(plan.value?.cards.map((c) => [c.id, c])));
const shown = (c: TaskCard) => c.end > (scale.value.days[0]?.from ?? 0);

const lanes = computed(() =>
  (plan.value?.people ?? []).map((person, i) => ({
    person,
    y: top + i * laneHeight,
    off: scale.value.days.flatMap((d) => absent(person.hours, d)),
    blocks: (plan.value?.cards ?? [])
      .filter((c) => c.person === person.id && shown(c))
      .map((c) => {
        const from = c.state === "done" ? c.start : begin(c);
        const x = scale.value.x(from);
        return { card: c, x, width: Math.max(3, scale.value.x(c.end) - x) };
      }),
  })),
);

/** The parts of a day in which somebody is not at work. */
function absent(hours: { from: number; to: number }[], day: { from: number; to: number }) {
  const gaps: { from: number; to: number }[] = [];
  let at = day.from;
  for (const h of hours) {
    if (h.to <= day.from || h.from >= day.to) continue;
    if (h.from > at) gaps.push({ from: at, to: h.from });
    at = Math.max(at, h.to);
  }
  if (at < day.to) gaps.push({ from: at, to: day.to });
  return gaps;
}

const places = computed(() => {
  let y = top + lanes.value.length * laneHeight + 34;
  return (plan.value?.places ?? []).map((place) => {
    const height = Math.min(66, Math.max(26, place.slots * 3));
    const holds = (plan.value?.cards ?? []).flatMap((c) =>
      (c.holds ?? []).filter((h) => h.place === place.id && shown({ ...c, end: h.to })).map((h) => ({ ...h, card: c })),
    );
    const lane = { place, y, height, holds: shelve(holds) };
    y += height + 14;
    return lane;
  });
});
const height = computed(() => (places.value.at(-1)?.y ?? 300) + (places.value.at(-1)?.height ?? 0) + 16);

/** A thread drops from the block that puts pieces down, and climbs to the one that takes them up. */
const threads = computed(() => {
  const laneOf = new Map(lanes.value.map((l) => [l.person.id, l.y + laneHeight - 10]));
  return places.value.flatMap((lane) =>
    lane.holds.map((h) => {
      const mine = [...cards.value.values()].filter((c) => c.lot === h.card.lot && c.person);
      const taker = mine.find((c) => begin(c) >= h.card.end && c.start > h.card.start);
      const y = lane.y + ((h.level + h.slots / 2) / lane.place.slots) * lane.height;
      const put = `M${scale.value.x(h.card.end)} ${laneOf.get(h.card.person ?? "") ?? y} V${y}`;
      const end = scale.value.x(h.to);
      const take = taker ? `M${end} ${y} H${scale.value.x(begin(taker))} V${laneOf.get(taker.person ?? "")}` : "";
      return { card: h.card, path: `${put} ${take}`, colour: h.card.colour };
    }),
  );
});
const flags = computed(() => {
  let last = -200;
  let row = 0;
  return (plan.value?.orders ?? [])
    .filter((o) => o.outcome)
    .map((o) => ({ order: o, x: scale.value.x(o.outcome!.readyBy), late: o.outcome!.late > 0 }))
    .sort((a, b) => a.x - b.x)
    .map((f) => {
      row = f.x - last < 190 ? 1 - row : 0;
      last = f.x;
      return { ...f, row };
    });
});
const slack = (o: (typeof flags.value)[number]["order"]) =>
  o.outcome!.slack === undefined
    ? "cannot be finished"
    : `${lasting(o.outcome!.slack)} ${o.outcome!.slack < 0 ? "late" : "slack"}`;
const dim = (c: TaskCard) => lit.value !== "" && !c.orders.includes(lit.value);
const says = computed(() => {
  const p = plan.value;
  if (!p) return "";
  const open = p.cards.filter((c) => c.kind === "work" && c.state !== "done").length;
  return `${open} tasks to do, version ${p.version}${p.unplaced.length ? `, ${p.unplaced.length} without a place` : ""}`;
});

/** Arrow keys walk along a lane and between lanes. */
function walk(event: KeyboardEvent) {
  const blocks = [...document.querySelectorAll<SVGElement>("[data-block]")];
  const here = blocks.indexOf(event.target as SVGElement);
  if (here < 0) return;
  const lane = blocks[here].dataset.block;
  let next: SVGElement | undefined;
  if (event.key === "ArrowRight") next = blocks[here + 1];
  if (event.key === "ArrowLeft") next = blocks[here - 1];
  if (event.key === "ArrowDown") next = blocks.find((b, i) => i > here && b.dataset.block !== lane);
  if (event.key === "ArrowUp") next = blocks.findLast((b, i) => i < here && b.dataset.block !== lane);
  if (event.key === "Enter") opened.value = blocks[here].dataset.card;
  if (!next) return;
  event.preventDefault();
  next.focus();
}
</script>

<template>
  <div class="station">
    <StationHead title="Plan" :says="says">
      <RouterLink v-if="plan?.hasWishes" to="/orders" class="word tight">A proposed plan awaits you</RouterLink>
      <div class="orders">
        <button
          v-for="o in plan?.orders"
          :key="o.order.id"
          class="bare pick"
          :class="{ on: lit === o.order.id }"
          @click="lit = lit === o.order.id ? '' : o.order.id"
        >
          {{ o.order.name }} <SafetyWord :outcome="o.outcome" />
        </button>
      </div>
    </StationHead>
    <ProblemNote :error="error" />
    <ul v-if="plan?.unplaced.length" class="gone">
      <li v-for="u in plan.unplaced.filter((u) => u.reason !== 'something it needs is unplaced')" :key="u.task">
        <b>Without a place:</b> {{ u.detail }}: {{ u.reason }}.
      </li>
    </ul>
    <div v-if="plan" class="sheet board">
      <div class="labels" :style="{ height: `${height}px` }">
        <div v-for="l in lanes" :key="l.person.id" class="name" :style="{ top: `${l.y}px`, height: `${laneHeight}px` }">
          {{ l.person.name }}
        </div>
        <div v-for="p in places" :key="p.place.id" class="place" :style="{ top: `${p.y}px`, height: `${p.height}px` }">
          {{ p.place.name }}<br /><span class="quiet">{{ p.place.slots }} slots</span>
        </div>
      </div>
      <div ref="frame" class="frame" tabindex="-1">
        <svg :width="scale.width" :height="height" @keydown="walk">
          <g v-for="n in scale.nights" :key="n.from">
            <rect :x="n.x" y="0" :width="n.width" :height="height" class="night" />
            <path :d="`M${n.x + n.width / 2 + 4} 14a7 7 0 1 1-7-7 5.500 5.500 0 0 0 7 7z`" class="moon" />
          </g>
          <g v-for="d in scale.days" :key="d.from">
            <text :x="d.x + 8" y="17" class="day">{{ times.dayShort(d.from) }}</text>
            <template v-for="h in Math.floor((d.to - d.from) / 60)" :key="h">
              <path v-if="h % 2 === 0" :d="`M${scale.x(d.from + h * 60)} ${top - 6}V${height}`" class="hour" />
              <text v-if="h % 2 === 0" :x="scale.x(d.from + h * 60)" :y="top - 9" class="tick">
                {{ times.clock(d.from + h * 60) }}
              </text>
            </template>
          </g>
          <g v-for="l in lanes" :key="l.person.id">
            <rect
              v-for="(o, i) in l.off"
              :key="i"
              :x="scale.x(o.from)"
              :y="l.y + 4"
              :width="scale.x(o.to) - scale.x(o.from)"
              :height="laneHeight - 8"
              class="off"
            />
            <path :d="`M0 ${l.y + laneHeight}H${scale.width}`" class="line" />
          </g>
          <g v-for="p in places" :key="p.place.id">
            <rect x="0" :y="p.y" :width="scale.width" :height="p.height" class="shelf" />
            <rect
              v-for="(h, i) in p.holds"
              :key="i"
              :x="scale.x(h.from)"
              :y="p.y + (h.level / p.place.slots) * p.height"
              :width="Math.max(2, scale.x(h.to) - scale.x(h.from))"
              :height="Math.max(3, (h.slots / p.place.slots) * p.height - 1)"
              :fill="h.card.colour"
              class="held"
              :class="{ dim: dim(h.card), chosen: opened === h.card.id }"
              @click="opened = h.card.id"
            >
              <title>{{ h.card.of }}, {{ h.slots }} slots until {{ times.moment(h.to) }}</title>
            </rect>
          </g>
          <path
            v-for="(t, i) in threads"
            :key="i"
            :d="t.path"
            :stroke="t.colour"
            class="thread"
            :class="{ dim: dim(t.card), chosen: opened === t.card.id }"
          />
          <g v-for="l in lanes" :key="l.person.id">
            <g
              v-for="b in l.blocks"
              :key="b.card.id"
              class="block"
              :class="[b.card.state, { dim: dim(b.card), chosen: opened === b.card.id }]"
              tabindex="0"
              role="button"
              :data-block="l.person.id"
              :data-card="b.card.id"
              :aria-label="`${b.card.name}, ${b.card.of}, ${times.moment(b.card.start)}`"
              @click="opened = b.card.id"
            >
              <title>
                {{ b.card.name }}, {{ b.card.of }}: {{ times.moment(b.card.start) }} to {{ times.moment(b.card.end) }}
              </title>
              <svg :x="b.x" :y="l.y + 7" :width="b.width - 1" :height="laneHeight - 15" overflow="hidden">
                <rect
                  x="0.6"
                  y="0.6"
                  :width="Math.max(1, b.width - 2.2)"
                  :height="laneHeight - 16.2"
                  rx="3"
                  class="body"
                />
                <rect
                  x="1.2"
                  y="1.2"
                  :width="Math.max(1, b.width - 3.4)"
                  height="6.5"
                  :fill="b.card.colour || '#e9e2d6'"
                  class="paint"
                />
                <g v-if="b.width > 21" :transform="`translate(${b.width < 40 ? (b.width - 19) / 2 : 3} 13)`">
                  <WorkGlyph :glyph="b.card.glyph" :size="18" />
                </g>
                <text v-if="b.width > 44" x="25" y="22" class="count">
                  {{ b.card.making === "mix" ? `${Math.round(b.card.quantity / 1000)} g` : b.card.quantity }}
                </text>
                <text v-if="b.width > 84" x="5" y="37" class="of">{{ b.card.of }}</text>
              </svg>
            </g>
          </g>
          <g v-for="f in flags" :key="f.order.order.id" class="flag" @click="lit = f.order.order.id">
            <path :d="`M${f.x} ${4 + f.row * 19}V${height}`" :class="{ late: f.late }" />
            <text :x="f.x - 5" :y="15 + f.row * 17" text-anchor="end" :class="{ late: f.late }">
              {{ f.order.order.name }}: {{ slack(f.order) }} ⚑
            </text>
          </g>
          <path :d="`M${scale.x(plan.now)} 24V${height}`" class="now" />
        </svg>
      </div>
      <TaskDrawer
        v-if="opened && cards.get(opened)"
        :card="cards.get(opened)!"
        :cards="cards"
        :plan="plan"
        @close="opened = undefined"
        @go="(id) => (opened = id)"
      />
    </div>
  </div>
</template>

<style scoped>
.board {
  display: grid;
  grid-template-columns: 128px minmax(0, 1fr) auto;
  overflow: hidden;
}
.labels {
  position: relative;
  border-right: 1px solid var(--vein);
}
.labels > div {
  position: absolute;
  left: 14px;
  right: 4px;
  display: flex;
  align-items: center;
}
.name {
  font-family: var(--name);
  font-size: 17px;
}
.labels .place {
  display: block;
  font-size: 13px;
  line-height: 1.15;
}
.frame {
  overflow-x: auto;
}
svg {
  display: block;
}
.night {
  fill: var(--night);
}
.moon {
  fill: var(--soft);
  opacity: 0.5;
}
.day {
  font: 560 16px var(--name);
  fill: var(--ink);
}
.tick {
  font: 11px var(--count);
  fill: var(--soft);
  text-anchor: middle;
}
.hour {
  stroke: var(--vein);
  stroke-dasharray: 1 4;
}
.line {
  stroke: var(--vein);
}
.off {
  fill: #ece7e0;
}
.shelf {
  fill: #f1ede6;
}
.held {
  stroke: #35202f;
  stroke-width: 0.7;
  cursor: pointer;
}
.thread {
  fill: none;
  stroke-width: 1.6;
  opacity: 0.55;
  pointer-events: none;
  filter: brightness(0.82);
}
.block {
  cursor: pointer;
}
.body {
  fill: #fff;
  stroke: #35202f;
  stroke-width: 1.2;
}
.started .body {
  fill: var(--petal-wash);
}
.paused .body {
  fill: var(--dust-wash);
}
.done {
  opacity: 0.45;
}
.count {
  font: 700 16px var(--count);
  fill: var(--ink);
}
.of {
  font: 11px var(--count);
  fill: var(--soft);
}
.dim {
  opacity: 0.14;
}
.chosen .body,
rect.chosen {
  stroke: var(--petal);
  stroke-width: 3;
}
path.chosen {
  stroke-width: 3;
  opacity: 1;
}
.flag path {
  stroke: var(--leaf);
  stroke-dasharray: 5 4;
}
.flag text {
  font: 650 12.5px var(--count);
  fill: var(--leaf);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 4px;
  cursor: pointer;
}
.flag path.late {
  stroke: #a32740;
}
.flag text.late {
  fill: #a32740;
}
.now {
  stroke: var(--petal);
  stroke-width: 2;
}
.orders {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  justify-content: flex-end;
}
.pick {
  padding: 4px 2px;
  border-bottom: 2px solid transparent;
}
.pick.on {
  border-color: var(--petal);
  font-weight: 650;
}
.gone {
  margin: 0 0 12px;
  padding: 10px 14px 10px 30px;
  background: var(--petal-wash);
}
.block:focus-visible {
  outline: none;
}
.block:focus-visible .body {
  stroke: var(--petal);
  stroke-width: 3;
}
</style>
