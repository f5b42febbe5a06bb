<script setup lang="ts">
import { useEventListener, useResizeObserver } from "@vueuse/core";
import { computed, nextTick, ref, watch } from "vue";
import type { Block, PlanView, Schemas } from "../../api/client";
import {
  chainLine,
  laneHeight,
  type Laid,
  layBoard,
  type Sitting,
  sittings,
  threads,
  within,
} from "../../drawings/board";
import { timeScale } from "../../drawings/timeScale";
import { lasting, useTimes } from "../../format";
import BoardHours from "./BoardHours.vue";
import { type Draft, step } from "./draft";
import PlanBlock from "./PlanBlock.vue";
import PlanSitting from "./PlanSitting.vue";
import { t } from "../../words/said";

/**
 * The board: makers' lanes and places over the same hours. Only what is in view is drawn.
 * A block is dragged to another time or lane, or moved with Alt and the arrow keys.
 */
const props = defineProps<{
  plan: PlanView;
  across: number;
  lit: string;
  links: Schemas["LinkView"][];
  opened: string;
  draft?: Draft;
  may: string[];
  was: Schemas["Move"][];
  changeable: boolean;
  /** Where only some tasks are looked for: whether a task is one. */
  has?: (block: Block) => boolean;
}>();
const emit = defineEmits<{
  open: [task: string];
  light: [order: string];
  lift: [task: string];
  drop: [draft: Draft];
  nudge: [block: Block, key: string];
  pin: [block: Block];
  leave: [];
  confirm: [];
}>();
const times = useTimes();

const frame = ref<HTMLElement>();
const view = ref(1080);
const left = ref(0);
const labelWidth = 128;
// Hours keep their width when the drawer opens: it only covers some of them.
const room = computed(() => frame.value?.parentElement);
useResizeObserver(room, () => (view.value = (room.value?.clientWidth ?? 1208) - labelWidth));
const scrolled = () => (left.value = frame.value?.scrollLeft ?? 0);

const scale = computed(() => timeScale(props.plan.open, props.plan.from, props.plan.to, view.value, props.across));
const board = computed(() => layBoard(props.plan, scale.value));
const margin = 240;
const seen = <T extends { x: number; width: number }>(all: T[]) =>
  within(all, left.value - margin, left.value + view.value + margin);
/** The sittings that somebody opened; those with what is looked at, moved or lit up open by themselves. */
const unfolded = ref(new Set<string>());
const isOpen = (s: Sitting) =>
  unfolded.value.has(s.key) ||
  s.blocks.some(
    ({ block }) =>
      block.id === props.opened || block.id === props.draft?.task || block.pin || linked.value.has(block.id),
  );
function fold(s: Sitting) {
  if (!unfolded.value.delete(s.key)) unfolded.value.add(s.key);
}
const folded = computed(() =>
  board.value.lanes.map((l) => {
    const all = sittings(l.blocks);
    const closed = all.filter((s) => !isOpen(s));
    const inside = new Set(closed.flatMap((s) => s.blocks.map((b) => b.block.id)));
    return { ...l, blocks: l.blocks.filter((b) => !inside.has(b.block.id)), closed, open: all.filter(isOpen) };
  }),
);
const lanes = computed(() =>
  folded.value.map((l) => ({ ...l, blocks: seen(l.blocks), closed: seen(l.closed), open: seen(l.open) })),
);
const shelves = computed(() => board.value.shelves.map((s) => ({ ...s, holds: seen(s.holds) })));
const allThreads = computed(() => threads(props.plan, board.value, scale.value));
/** With very many, only the threads of what is lit or opened are drawn. */
const seenThreads = computed(() => {
  const all = seen(allThreads.value);
  if (all.length < 120) return all;
  const lit = props.lit !== "" || linked.value.size > 0;
  return all.filter((t) => t.block.id === props.opened || (lit && !dim(t.block)));
});
const line = computed(() => (props.links.length ? chainLine(props.links, board.value) : ""));
const linked = computed(() => new Set(props.links.map((l) => l.task)));
const movedFrom = computed(() => new Map(props.was.map((m) => [m.task, m])));
const laneOf = computed(() => new Map(board.value.lanes.map((l) => [l.person.id, l.y])));
const dim = (b: Block) =>
  (props.has && !props.has(b)) ||
  (linked.value.size > 0 ? !linked.value.has(b.id) : props.lit !== "" && !b.orders.includes(props.lit));
const dimAll = (s: Sitting) => s.blocks.every((b) => dim(b.block));

/** Where the tasks that a proposal moves lie in the plan in force. */
const traces = computed(() =>
  seen(
    board.value.lanes
      .flatMap((l) => l.blocks)
      .flatMap((l) => {
        const m = movedFrom.value.get(l.block.id);
        const y = m && laneOf.value.get(m.before);
        return m && y !== undefined ? [{ id: m.task, x: scale.value.x(m.from), width: l.width, y }] : [];
      }),
  ),
);

const loads = computed(() =>
  board.value.lanes.flatMap((l) =>
    scale.value.days.flatMap((d) => {
      const load = l.person.loads.find((o) => times.value.date(d.from) === o.day);
      if (!load?.thereMinutes) return [];
      const share = Math.min(1, load.takenMinutes / load.thereMinutes);
      return [{ x: d.x, y: l.y + laneHeight - 4, room: d.width, width: share * d.width, full: share > 0.95, load }];
    }),
  ),
);

const slack = (o: PlanView["orders"][number]) =>
  o.outcome.slack === undefined
    ? t("cannot be finished")
    : t(o.outcome.slack < 0 ? "{time} late" : "{time} slack", { time: lasting(o.outcome.slack) });
/** About how wide a letter of a flag is. */
const perLetter = 6.9;
const flags = computed(() => {
  const rows = [-Infinity, -Infinity];
  return props.plan.orders
    .filter((o) => o.outcome.readyBy > props.plan.from && o.outcome.readyBy < props.plan.to)
    .map((o) => {
      const x = scale.value.x(o.outcome.readyBy);
      const says = `${o.name}: ${slack(o)} ⚑`;
      const long = says.length * perLetter + 12;
      // before the line where there is room, else after it
      const begins = x < long ? x : x - long;
      const row = rows.findIndex((end) => end < begins);
      if (row >= 0) rows[row] = begins + long;
      return { order: o, x, row, says, after: x < long, late: o.outcome.late > 0 };
    });
});
// Dragging: the ghost follows the pointer; where it is let go of becomes a draft.
const dragged = ref<{ laid: Laid; dx: number; dy: number; at: { x: number; y: number } }>();
const ghost = computed(() => {
  const d = dragged.value;
  if (d && (Math.abs(d.dx) > 4 || Math.abs(d.dy) > 4))
    return { x: d.laid.x + d.dx, y: d.laid.y + d.dy, width: d.laid.width };
  const draft = props.draft;
  const laid = draft && board.value.lanes.flatMap((l) => l.blocks).find((b) => b.block.id === draft.task);
  if (!draft || !laid) return undefined;
  const y = laneOf.value.get(draft.person ?? laid.block.person ?? "") ?? laid.y;
  return { x: draft.start === undefined ? laid.x : scale.value.x(draft.start), y, width: laid.width };
});
const mayNot = (person: string) =>
  (dragged.value !== undefined || props.draft !== undefined) && props.may.length > 0 && !props.may.includes(person);

function grab(event: PointerEvent, laid: Laid) {
  // A finger moves the board; blocks are handed over in their drawer there.
  if (!props.changeable || event.button !== 0 || event.pointerType === "touch" || laid.block.state === "done") return;
  dragged.value = { laid, dx: 0, dy: 0, at: { x: event.clientX, y: event.clientY } };
  emit("lift", laid.block.id);
}
useEventListener(window, "pointermove", (event: PointerEvent) => {
  const d = dragged.value;
  if (d) dragged.value = { ...d, dx: event.clientX - d.at.x, dy: event.clientY - d.at.y };
});
useEventListener(window, "pointercancel", () => (dragged.value = undefined));
useEventListener(window, "pointerup", () => {
  const d = dragged.value;
  dragged.value = undefined;
  if (!d || (Math.abs(d.dx) <= 4 && Math.abs(d.dy) <= 4)) return;
  const middle = d.laid.y + d.dy + laneHeight / 2;
  const lane = board.value.lanes.find((l) => middle >= l.y && middle < l.y + laneHeight);
  const draft: Draft = { task: d.laid.block.id, confirmed: false };
  if (lane && lane.person.id !== d.laid.block.person) draft.person = lane.person.id;
  if (Math.abs(d.dx) > 12 || draft.person === undefined) {
    draft.start = Math.max(props.plan.now, Math.round(scale.value.minute(d.laid.x + d.dx) / step) * step);
    draft.person ??= d.laid.block.person;
  }
  emit("drop", draft);
});

/** One block is where the Tab key comes in; the arrow keys go on from it. */
const entry = ref("");
const stop = computed(() => {
  const all = lanes.value.flatMap((l) => [
    ...l.blocks.map((b) => b.block.id),
    ...l.closed.map((s) => s.blocks[0].block.id),
  ]);
  return all.includes(entry.value) ? entry.value : all[0];
});

/** Keys on a block: arrows walk, Alt with arrows moves it, p pins it, Enter opens or confirms. */
function press(event: KeyboardEvent) {
  const laid = folded.value.flatMap((l) =>
    [...l.blocks, ...l.closed.map((s) => s.blocks[0])].sort((a, b) => a.block.from - b.block.from),
  );
  const here = laid.findIndex((l) => l.block.id === (event.target as HTMLElement).dataset.card);
  if (here < 0) return;
  const { block, y } = laid[here];
  const closed = folded.value.flatMap((l) => l.closed).find((s) => s.blocks[0] === laid[here]);
  if (closed && (event.key === "Enter" || event.key === "p" || event.altKey)) {
    event.preventDefault();
    unfolded.value.add(closed.key);
    void focus(laid[here]);
    return;
  }
  if (event.altKey && event.key.startsWith("Arrow")) {
    event.preventDefault();
    if (props.changeable && block.state !== "done") emit("nudge", block, event.key);
    return;
  }
  let next: Laid | undefined;
  if (event.key === "ArrowRight") next = laid[here + 1];
  if (event.key === "ArrowLeft") next = laid[here - 1];
  if (event.key === "ArrowDown")
    next = nearest(
      laid.filter((l) => l.y > y),
      laid[here],
    );
  if (event.key === "ArrowUp") next = nearest(laid.filter((l) => l.y < y).reverse(), laid[here]);
  if (event.key === "Enter") {
    if (props.draft?.task === block.id) emit("confirm");
    else emit("open", block.id);
  }
  if (event.key === "Escape") emit("leave");
  if (event.key === "p" && props.changeable) emit("pin", block);
  if (!next && event.key !== "p" && event.key !== "Escape" && event.key !== "Enter") return;
  event.preventDefault();
  event.stopPropagation();
  if (next) void focus(next);
}

/** Of the first lane that has any, the block nearest in time. */
function nearest(laid: Laid[], to: Laid): Laid | undefined {
  const lane = laid.filter((l) => l.y === laid[0]?.y);
  const far = (l: Laid) => Math.abs(l.x - to.x);
  return lane.reduce<Laid | undefined>((best, l) => (best && far(best) <= far(l) ? best : l), undefined);
}

/** Brings a block into view and focuses it. */
async function focus(laid: Laid) {
  show(laid.x, laid.width);
  await nextTick();
  frame.value?.querySelector<SVGElement>(`[data-card="${CSS.escape(laid.block.id)}"]`)?.focus({ preventScroll: true });
}

function show(x: number, width: number) {
  const f = frame.value;
  if (!f) return;
  if (x < f.scrollLeft + 40) f.scrollLeft = Math.max(0, x - 120);
  else if (x + Math.min(width, view.value / 2) > f.scrollLeft + f.clientWidth - 40)
    f.scrollLeft = x - f.clientWidth / 2;
  scrolled();
}

/** Brings a minute into view. */
function reveal(minute: number) {
  show(scale.value.x(minute), 200);
}
defineExpose({
  reveal,
  focus: (id: string) => {
    const laid = board.value.lanes.flatMap((l) => l.blocks).find((l) => l.block.id === id);
    const closed = folded.value.flatMap((l) => l.closed).find((s) => s.blocks.some((b) => b.block.id === id));
    if (closed) unfolded.value.add(closed.key);
    if (laid) void focus(laid);
  },
});
watch(
  () => [props.plan.from, props.across],
  () => {
    if (frame.value) frame.value.scrollLeft = 0;
    scrolled();
  },
);
</script>

<template>
  <div class="labels" :style="{ height: `${board.height}px` }">
    <div
      v-for="l in lanes"
      :key="l.person.id"
      class="name"
      :class="{ not: mayNot(l.person.id) }"
      :style="{ top: `${l.y}px`, height: `${laneHeight}px` }"
    >
      {{ l.person.name }}
    </div>
    <div v-for="p in shelves" :key="p.place.id" class="place" :style="{ top: `${p.y}px`, height: `${p.height}px` }">
      {{ p.place.name }}<br /><span class="quiet">{{ p.place.slots }} slots</span>
    </div>
  </div>
  <div ref="frame" class="frame" tabindex="-1" @scroll.passive="scrolled">
    <svg :width="scale.width" :height="board.height" :class="{ dragging: dragged }" @keydown="press">
      <BoardHours :scale="scale" :height="board.height" :far="across > 2" />
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
        <rect v-if="mayNot(l.person.id)" x="0" :y="l.y" :width="scale.width" :height="laneHeight" class="not" />
        <path :d="`M0 ${l.y + laneHeight}H${scale.width}`" class="line" />
      </g>
      <g v-for="(l, i) in loads" :key="i">
        <rect :x="l.x + 2" :y="l.y" :width="Math.max(0, l.room - 4)" height="3" class="room" />
        <rect :x="l.x + 2" :y="l.y" :width="Math.max(0, l.width - 4)" height="3" class="load" :class="{ full: l.full }">
          <title>
            {{ lasting(l.load.takenMinutes) }} of {{ lasting(l.load.thereMinutes) }} that are left of the day
          </title>
        </rect>
      </g>
      <g v-for="p in shelves" :key="p.place.id">
        <rect x="0" :y="p.y" :width="scale.width" :height="p.height" class="shelf" />
        <rect
          v-for="h in p.holds"
          :key="h.block.id"
          :x="h.x"
          :y="h.y"
          :width="h.width"
          :height="h.height"
          :fill="h.block.colour"
          class="held"
          :class="{ dim: dim(h.block), chosen: opened === h.block.id }"
          @click="emit('open', h.block.id)"
        >
          <title>{{ h.block.of }} until {{ times.moment(h.to) }}</title>
        </rect>
      </g>
      <path
        v-for="t in seenThreads"
        :key="t.block.id"
        :d="t.path"
        :stroke="t.block.colour"
        class="thread"
        :class="{ dim: dim(t.block), chosen: opened === t.block.id }"
      />
      <rect
        v-for="t in traces"
        :key="t.id"
        :x="t.x"
        :y="t.y + 7"
        :width="t.width"
        :height="laneHeight - 15"
        rx="3"
        class="trace"
      />
      <g v-for="l in lanes" :key="l.person.id">
        <PlanBlock
          v-for="b in l.blocks"
          :key="b.block.id"
          :laid="b"
          :tabindex="b.block.id === stop ? 0 : -1"
          :far="across > 2"
          @focus="entry = b.block.id"
          :class="{
            dim: dim(b.block),
            chosen: opened === b.block.id,
            linked: linked.has(b.block.id),
            moved: movedFrom.has(b.block.id),
            lifted: dragged?.laid.block.id === b.block.id || draft?.task === b.block.id,
          }"
          @click="emit('open', b.block.id)"
          @pointerdown="grab($event, b)"
        />
        <PlanSitting v-for="s in l.open" :key="s.key" :sitting="s" open :far="across > 2" @click="fold(s)" />
        <PlanSitting
          v-for="s in l.closed"
          :key="s.key"
          :sitting="s"
          :open="false"
          :tabindex="s.blocks[0].block.id === stop ? 0 : -1"
          :far="across > 2"
          @focus="entry = s.blocks[0].block.id"
          :class="{ dim: dimAll(s) }"
          @click="fold(s)"
        />
      </g>
      <path v-if="line" :d="line" class="chain" data-test="chain-line" />
      <g v-if="ghost" class="ghost" data-test="ghost">
        <rect :x="ghost.x" :y="ghost.y + 7" :width="Math.max(6, ghost.width)" :height="laneHeight - 15" rx="3" />
      </g>
      <g v-for="f in flags" :key="f.order.id" class="flag" @click="emit('light', f.order.id)">
        <path :d="`M${f.x} ${24 + Math.max(0, f.row) * 15}V${board.height}`" :class="{ late: f.late }" />
        <text
          v-if="f.row >= 0"
          :x="f.after ? f.x + 5 : f.x - 5"
          :y="34 + f.row * 15"
          :text-anchor="f.after ? 'start' : 'end'"
          :class="{ late: f.late }"
        >
          {{ f.says }}
        </text>
      </g>
      <path :d="`M${scale.x(plan.now)} 24V${board.height}`" class="now" />
    </svg>
  </div>
</template>

<style scoped>
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
  font-size: 1.1333rem;
}
.name.not {
  opacity: 0.3;
}
.labels .place {
  display: block;
  font-size: 0.8667rem;
  line-height: 1.15;
}
.frame {
  overflow-x: auto;
}
svg {
  display: block;
}
.dragging {
  cursor: grabbing;
  user-select: none;
}
.line {
  stroke: var(--vein);
}
.off {
  fill: var(--grain);
}
rect.not {
  fill: var(--night);
  opacity: 0.8;
}
.room {
  fill: var(--vein);
}
.load {
  fill: var(--leaf);
}
.load.full {
  fill: var(--petal);
}
.shelf {
  fill: var(--lane);
}
.held {
  stroke: var(--edge);
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
.dim {
  opacity: 0.14;
}
.trace {
  fill: none;
  stroke: var(--dust);
  stroke-dasharray: 3 3;
  pointer-events: none;
}
rect.chosen {
  stroke: var(--petal);
  stroke-width: 3;
}
path.chosen {
  stroke-width: 3;
  opacity: 1;
}
.chain {
  fill: none;
  stroke: var(--petal);
  stroke-width: 3;
  opacity: 0.7;
  pointer-events: none;
}
.ghost rect {
  fill: var(--petal-wash);
  fill-opacity: 0.7;
  stroke: var(--petal);
  stroke-width: 2;
  stroke-dasharray: 5 3;
  pointer-events: none;
}
.flag path {
  stroke: var(--leaf);
  stroke-dasharray: 5 4;
}
.flag text {
  font: 650 0.8333rem var(--count);
  fill: var(--leaf);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 4px;
  cursor: pointer;
}
.flag path.late {
  stroke: var(--late);
}
.flag text.late {
  fill: var(--late);
}
.now {
  stroke: var(--petal);
  stroke-width: 2;
}
</style>
