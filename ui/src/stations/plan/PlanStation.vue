<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { useEventListener, useThrottleFn } from "@vueuse/core";
import { useRouteQuery } from "@vueuse/router";
import { computed, nextTick, ref, watch } from "vue";
import { answered, type Block, client, command, person, type Schemas } from "../../api/client";
import { useBenches, useChain, usePlan, useProposal, useTask, useWholePlan } from "../../api/queries";
import { useTimes } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import ProposalPanel from "../../parts/ProposalPanel.vue";
import SafetyWord from "../../parts/SafetyWord.vue";
import SearchControl from "../../parts/SearchControl.vue";
import StationHead from "../../parts/StationHead.vue";
import { unplacedWords } from "../../words";
import ChainDrawer from "./ChainDrawer.vue";
import { type Draft, moved } from "./draft";
import PinDrawer from "./PinDrawer.vue";
import PlanBoard from "./PlanBoard.vue";
import PlanList from "./PlanList.vue";
import PlanSeason from "./PlanSeason.vue";
import ScarceDrawer from "./ScarceDrawer.vue";
import TaskDrawer from "./TaskDrawer.vue";
import VersionsDrawer from "./VersionsDrawer.vue";
import { t } from "../../words/said";

const times = useTimes();
const week = 7 * 1440;

// Which plan is shown, from when, and how many days fill the view.
const shown = ref("");
const from = ref(0);
/** How near the plan is looked at: days that fill the view; far out it is drawn to its end, without tasks. */
const zooms = [1, 2, 6, 0];
const zoom = useRouteQuery("days", "2", { transform: Number, mode: "push" });
const across = computed(() => zoom.value || 6);
const asList = useRouteQuery<"" | "list">("as", "", { mode: "push" });
const typed = useRouteQuery("text", "", { mode: "replace" });
const { data: plan, error } = usePlan(shown, from, () => (across.value > 2 ? 7 : 3));
const { data: whole } = useWholePlan(shown, () => zoom.value === 0);
function nearer(by: number) {
  const i = zooms.indexOf(zoom.value) - by;
  if (i >= 0 && i < zooms.length) zoom.value = zooms[i];
}
/** The wheel with Ctrl, which is what a pinch is, one step a turn. */
const turned = useThrottleFn((by: number) => nearer(by), 250);
function wheel(event: WheelEvent) {
  if (!event.ctrlKey) return;
  event.preventDefault();
  void turned(event.deltaY < 0 ? 1 : -1);
}
function key(event: KeyboardEvent) {
  if (/^(INPUT|TEXTAREA|SELECT)$/.test((event.target as HTMLElement).tagName) || event.ctrlKey || event.metaKey) return;
  if (event.key === "+" || event.key === "-") nearer(event.key === "+" ? 1 : -1);
}
useEventListener("keydown", key);
/** Whether all words that were typed are in a task: its work, what is made, its maker, its place or its orders. */
function has(b: Block): boolean {
  const words = (typed.value ?? "").toLocaleLowerCase().split(/\s+/).filter(Boolean);
  if (!words.length) return true;
  const p = plan.value!;
  const all = [
    b.name,
    b.of,
    p.people.find((one) => one.id === b.person)?.name,
    ...b.holds.map((h) => p.places.find((one) => one.id === h.place)?.name),
    ...b.orders.map((id) => p.orders.find((o) => o.id === id)?.name),
  ]
    .join(" ")
    .toLocaleLowerCase();
  return words.every((w) => all.includes(w));
}
function toDay(minute: number) {
  from.value = Math.floor(minute / 1440) * 1440;
  zoom.value = 2;
}

// What the drawer holds: one thing at a time.
const opened = ref("");
const lit = ref("");
const drawer = ref<"" | "proposal" | "versions" | "scarce">("");
const draft = ref<Draft>();

const choice = ref("");
const { data: proposal } = useProposal(choice);
const { data: chain } = useChain(shown, lit);
const lifted = ref("");
const { data: card } = useTask(shown, lifted);
const board = ref<InstanceType<typeof PlanBoard>>();

const earlier = computed(() => shown.value.startsWith("v"));
const proposed = computed(() => shown.value !== "" && !earlier.value);
const changeable = computed(
  () => person.value !== "" && (shown.value === "" || shown.value === proposal.value?.chosen),
);
const litOrder = computed(() => plan.value?.orders.find((o) => o.id === lit.value));
const block = (id: string) => plan.value?.blocks.find((b) => b.id === id);
const drafted = computed(() => (draft.value ? block(draft.value.task) : undefined));
const links = computed(() => (lit.value && chain.value?.order === lit.value ? chain.value.links : []));
const was = computed(() => (proposed.value ? (proposal.value?.differences.moved ?? []) : []));

/** The orders that are nearest to being late, and the one that is lit. */
const nearest = computed(() => {
  const all = [...(plan.value?.orders ?? [])].sort(
    (a, b) => (a.outcome.slack ?? -Infinity) - (b.outcome.slack ?? -Infinity),
  );
  const first = all.slice(0, 4);
  if (litOrder.value && !first.includes(litOrder.value)) first.push(litOrder.value);
  return first;
});
const others = computed(() => (plan.value?.orders ?? []).filter((o) => !nearest.value.includes(o)));

const says = computed(() => {
  const p = plan.value;
  if (!p) return "";
  const late = p.orders.filter((o) => o.outcome.late > 0).length;
  const saved = p.bound && p.weightedLateness ? Math.round(100 - (100 * p.bound) / p.weightedLateness) : undefined;
  const proven =
    !late || saved === undefined
      ? ""
      : saved
        ? t(" (the best plan there can be would take off {saved} % of that at most)", { saved })
        : t(" (no plan does better)");
  const without = p.without ? t(", {without} without a place", { without: p.without }) : "";
  return t("{left} tasks to do, version {version}{proven}{without}", {
    left: p.left,
    version: p.version,
    proven: late ? t(", {late} orders late{proven}", { late, proven }) : "",
    without,
  });
});

// A chain of which nothing is in view is gone to.
watch(links, (now) => {
  const p = plan.value;
  const first = now.at(-1);
  if (p && first && !now.some((l) => l.begin < p.to && l.end > p.from)) void go(first.task, first.begin);
});

// A proposal that comes or goes, and one that is chosen, is what is shown.
watch(
  () => proposal.value?.waits,
  (waits, before) => {
    if (waits) drawer.value = "proposal";
    else if (drawer.value === "proposal") drawer.value = "";
    if (waits && before === false) shown.value = proposal.value?.chosen ?? "";
    if (!waits && proposed.value) shown.value = "";
  },
  { immediate: true },
);
watch(
  () => proposal.value?.chosen,
  (chosen) => {
    if (proposed.value && chosen) shown.value = chosen;
  },
);

function light(order: string) {
  lit.value = lit.value === order ? "" : order;
  opened.value = "";
}
function open(task: string) {
  if (draft.value) return;
  opened.value = opened.value === task ? "" : task;
}

/** Shows a task wherever it lies. */
async function go(task: string, at?: number) {
  const begin = at ?? block(task)?.from;
  const p = plan.value;
  if (p && begin !== undefined && (begin < p.from || begin >= p.to)) from.value = Math.floor(begin / 1440) * 1440;
  await nextTick();
  if (begin !== undefined) board.value?.reveal(begin);
}

const pin = useMutation({
  mutationFn: (wish: { task: string; body: Schemas["PinBody"] }) =>
    answered(
      client.POST("/api/tasks/{task}/pin", {
        params: { header: command(), path: { task: wish.task } },
        body: wish.body,
      }),
    ),
});

/** Pins a block where it lies, or lets it go: nothing but that changes. */
function togglePin(b: Block) {
  if (!person.value || b.state === "done") return;
  const body = b.pin ? {} : { person: b.person, start: b.state === "planned" ? b.from : undefined };
  pin.mutate({ task: b.id, body });
}
function nudge(b: Block, key: string) {
  lifted.value = b.id;
  const may = card.value?.id === b.id ? card.value.may : [];
  if (!plan.value || (key !== "ArrowLeft" && key !== "ArrowRight" && !may.length)) {
    waiting = { block: b, key };
    return;
  }
  draft.value = moved(draft.value, b, key, plan.value, may);
}
// A key that came before it was known who may do the task.
let waiting: { block: Block; key: string } | undefined;
watch(card, (known) => {
  const then = waiting;
  waiting = undefined;
  if (then && known?.id === then.block.id) nudge(then.block, then.key);
});
function hand(task: string, to: string) {
  opened.value = "";
  draft.value = { task, person: to, confirmed: false };
}
function pinned(accepted: boolean) {
  refocused = draft.value?.task ?? "";
  setTimeout(() => (refocused = ""), settled);
  draft.value = undefined;
  opened.value = "";
  if (!accepted) drawer.value = "proposal";
}
// A task that was pinned keeps the focus where it comes to lie, until all plans are read anew.
let refocused = "";
const settled = 3000;
watch(
  plan,
  () => {
    if (refocused && document.activeElement === document.body) board.value?.focus(refocused);
  },
  { flush: "post" },
);
function leave() {
  draft.value = undefined;
  opened.value = "";
}
const { data: benches } = useBenches();
/** Who asks for help at a bench. */
const asking = computed(() => benches.value?.filter((b) => b.asks) ?? []);
</script>

<template>
  <div class="station">
    <StationHead title="Plan" :says="says">
      <div class="orders">
        <button v-for="o in nearest" :key="o.id" class="bare pick" :class="{ on: lit === o.id }" @click="light(o.id)">
          {{ o.name }} <SafetyWord :outcome="o.outcome" />
        </button>
        <select
          v-if="others.length"
          aria-label="Light up another order"
          data-test="other-orders"
          @change="light(($event.target as HTMLSelectElement).value)"
        >
          <option value="">{{ others.length }} more orders…</option>
          <option v-for="o in others" :key="o.id" :value="o.id">{{ o.name }}</option>
        </select>
      </div>
    </StationHead>
    <p v-for="b in asking" :key="b.person" class="remark" data-test="plan-asks">
      <b>{{ b.name }}</b> asks for help: “{{ b.asks }}”
      <RouterLink class="add" :to="{ path: '/bench', query: { all: '' } }">To the benches</RouterLink>
    </p>
    <ProblemNote :error="error ?? pin.error.value" />
    <div class="bar">
      <span class="pager">
        <button
          class="bare"
          aria-label="A week earlier"
          data-test="week-before"
          @click="from = (plan?.from ?? 0) - week"
        >
          ‹
        </button>
        <button class="bare" data-test="today" @click="from = 0">{{ from ? $t("back to today") : $t("today") }}</button>
        <button class="bare" aria-label="A week later" data-test="week-after" @click="from = (plan?.from ?? 0) + week">
          ›
        </button>
      </span>
      <span v-if="plan" class="quiet" data-test="days"
        >{{ times.dayShort(plan.from) }} to {{ times.dayShort(plan.to - 1) }}</span
      >
      <span class="sides" role="group" aria-label="How much is in view">
        <button class="bare" :class="{ here: zoom === 1 }" data-test="a-day" @click="zoom = 1">a day</button>
        <button class="bare" :class="{ here: zoom === 2 }" data-test="two-days" @click="zoom = 2">two days</button>
        <button class="bare" :class="{ here: zoom === 6 }" data-test="a-week" @click="zoom = 6">a week</button>
        <button class="bare" :class="{ here: zoom === 0 }" data-test="to-its-end" @click="zoom = 0">to its end</button>
      </span>
      <button class="bare" :class="{ here: asList }" data-test="as-list" @click="asList = asList ? '' : 'list'">
        as a list
      </button>
      <input
        v-model="typed"
        class="own"
        type="search"
        name="plan-text"
        :placeholder="$t('An order, flower, maker or place')"
        :aria-label="$t('An order, flower, maker or place')"
      />
      <span v-if="proposal?.waits" class="sides" role="group" aria-label="Which plan is shown">
        <button class="bare" :class="{ here: shown === '' }" data-test="show-in-force" @click="shown = ''">
          in force
        </button>
        <button
          class="bare"
          :class="{ here: proposed }"
          data-test="show-proposed"
          @click="
            shown = proposal?.chosen ?? '';
            drawer = 'proposal';
          "
        >
          proposed
        </button>
      </span>
      <span v-if="earlier" class="word tight">Version {{ shown.slice(1) }}, as it was</span>
      <span class="grow" />
      <SearchControl />
      <RouterLink class="bare add" to="/what-if" data-test="what-if">What if…</RouterLink>
      <button class="bare" :class="{ here: drawer === 'scarce' }" data-test="open-scarce" @click="drawer = 'scarce'">
        What is scarce
      </button>
      <button
        class="bare"
        :class="{ here: drawer === 'versions' }"
        data-test="open-versions"
        @click="drawer = 'versions'"
      >
        Versions
      </button>
    </div>
    <ul v-if="plan?.unplaced.length" class="gone">
      <li v-for="u in plan.unplaced" :key="u.task">
        <b>Without a place:</b> {{ u.name }}: {{ unplacedWords(u, times.full) }}.
      </li>
    </ul>
    <div v-if="plan" class="sheet board" @wheel="wheel">
      <PlanSeason v-if="zoom === 0 && whole" :whole="whole" :lit="lit" @day="toDay" @light="(order) => light(order)" />
      <PlanList v-else-if="asList" :plan="plan" :shows="has" @open="open" />
      <PlanBoard
        v-else
        ref="board"
        :has="typed ? has : undefined"
        :plan="plan"
        :across="across"
        :lit="lit"
        :links="links"
        :opened="opened"
        :draft="draft"
        :may="card?.id === lifted ? (card?.may ?? []) : []"
        :was="was"
        :changeable="changeable"
        @open="open"
        @light="light"
        @lift="(id) => (lifted = id)"
        @drop="(d) => (draft = d)"
        @nudge="nudge"
        @pin="togglePin"
        @leave="leave"
        @confirm="draft && (draft = { ...draft, confirmed: true })"
      />
      <PinDrawer
        v-if="draft && drafted"
        :key="draft.task"
        :draft="draft"
        :block="drafted"
        :plan="plan"
        @close="leave"
        @pinned="pinned"
        @move="draft = { ...draft, start: $event, confirmed: false }"
      />
      <TaskDrawer
        v-else-if="opened"
        :task="opened"
        :of="shown"
        :plan="plan"
        :may="changeable"
        @close="opened = ''"
        @go="
          (id) => {
            opened = id;
            go(id);
          }
        "
        @light="light"
        @pin="block(opened) && togglePin(block(opened)!)"
        @unpin="block(opened) && togglePin(block(opened)!)"
        @hand="(to) => hand(opened, to)"
      />
      <ChainDrawer
        v-else-if="litOrder"
        :chain="chain"
        :order="litOrder"
        :plan="plan"
        @close="lit = ''"
        @go="(l) => go(l.task, l.begin)"
      />
      <VersionsDrawer
        v-else-if="drawer === 'versions'"
        v-model="shown"
        @close="
          drawer = '';
          if (earlier) shown = '';
        "
        @proposed="drawer = 'proposal'"
      />
      <ScarceDrawer v-else-if="drawer === 'scarce'" :of="shown" :plan="plan" @close="drawer = ''" />
      <ProposalPanel
        v-else-if="drawer === 'proposal' && proposal?.waits"
        v-model:chosen="choice"
        :proposal="proposal"
        class="drawer"
        @task="
          (id) => {
            shown = proposal?.chosen ?? '';
            go(id);
          }
        "
      />
    </div>
    <p class="quiet keys">
      Drag a block to another time or maker, or use Alt with the arrow keys; p pins it where it lies. Arrow keys walk
      along lanes.
    </p>
  </div>
</template>

<style scoped>
.board {
  display: grid;
  grid-template-columns: 128px minmax(0, 1fr) auto;
  overflow: hidden;
}
.board :deep(.drawer) {
  width: 300px;
  box-sizing: border-box;
  padding: 16px 18px;
  border: 0;
  border-left: 1px solid var(--ink);
  border-radius: 0;
  position: relative;
  top: 0;
  overflow-y: auto;
  max-height: max(640px, calc(100vh - 195px));
}
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 20px;
  margin: -6px 0 8px;
  font-size: 0.9333rem;
}
.pager,
.sides {
  display: inline-flex;
  gap: 10px;
}
.pager button {
  padding: 0 4px;
  font-weight: 650;
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
select {
  font: inherit;
  color: var(--soft);
  background: none;
  border: 0;
  border-bottom: 1px solid var(--vein);
}
.gone {
  margin: 0 0 12px;
  padding: 10px 14px 10px 30px;
  background: var(--petal-wash);
}
.keys {
  margin: 8px 2px 0;
}
</style>
