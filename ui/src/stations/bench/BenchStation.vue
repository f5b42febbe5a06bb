<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { useLocalStorage, useWakeLock } from "@vueuse/core";
import { useRoute, useRouter } from "vue-router";
import { person, Refused, type Schemas } from "../../api/client";
import { record as keep } from "../../api/outbox";
import { useBench, useDryingRoom, useFalls, useStudio, useUndo } from "../../api/queries";
import Swatch from "../../drawings/Swatch.vue";
import WorkGlyph from "../../drawings/WorkGlyph.vue";
import { lasting, mass, useTimes } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import AlertList from "../drying/AlertList.vue";
import BenchCard from "./BenchCard.vue";
import BenchesBoard from "./BenchesBoard.vue";
import BenchLoads from "./BenchLoads.vue";
import BenchTalk from "./BenchTalk.vue";
import FirstTime from "./FirstTime.vue";
import OutboxNote from "./OutboxNote.vue";
import PieceCounter from "./PieceCounter.vue";
import RingSign from "./RingSign.vue";
import { fellBy } from "../../words/falls";
import { t } from "../../words/said";

const { data: bench, error } = useBench();
const { data: studio } = useStudio();
const { data: room } = useDryingRoom();
const rings = computed(() => room.value?.timers.filter((t) => t.rings && t.person === person.value) ?? []);
const mine = computed(() => room.value?.alerts.filter((a) => a.person === person.value) ?? []);
const times = useTimes();
const undo = useUndo();

const task = computed(() => bench.value?.task);
const mix = computed(() => task.value?.making === "mix");
const running = computed(() => task.value?.state === "started");
/** Orders that lost slack by what was recorded here last. */
const { data: falls } = useFalls();
const fell = computed(() =>
  (falls.value ?? []).filter((f) => f.task === said.value?.task && f.at >= (bench.value?.now ?? 0) - 30),
);
const second = ref(0);
const broken = ref(0);
const mend = ref(0);
const good = ref(0);
/** What was used by eye and what broke on the way, by the place of each in the bench's list. */
const eyed = ref<number[]>([]);
const said = ref<Schemas["Recorded"] & { what: string }>();

/** Where a maker is in a task of several steps: kept on the tablet, one touch each. */
const at = useLocalStorage("bractum.step", { task: "", counted: 0, step: 0, since: 0, done: 0 });
const steps = computed(() => bench.value?.card?.steps ?? []);
const here = computed(() => at.value.task === task.value?.id && at.value.counted === (task.value?.counted ?? 0));
const step = computed(() => (here.value ? Math.min(at.value.step, Math.max(0, steps.value.length - 1)) : 0));
function go(to: number) {
  at.value = {
    task: task.value?.id ?? "",
    counted: task.value?.counted ?? 0,
    step: to,
    since: here.value && to ? at.value.since : (bench.value?.now ?? 0),
    done: 0,
  };
}
/** How many pieces of the step at hand are done: where pieces are counted, those counted good. */
const reached = computed(() => (counting.value ? good.value : here.value ? (at.value.done ?? 0) : 0));
function reach(pieces: number) {
  if (counting.value) {
    good.value = pieces;
    return;
  }
  if (!here.value) go(step.value);
  at.value = { ...at.value, done: pieces };
}
/** Minutes since this run was begun, where that was seen. */
const inRun = computed(() => (here.value && at.value.since ? (bench.value?.now ?? 0) - at.value.since : undefined));

/** Runs are counted one by one; all that is left at once where the maker says so, and in the last. */
const atOnce = ref(false);
const inRuns = computed(
  () => !!task.value?.run && task.value.run.number < task.value.run.of && !atOnce.value && !mix.value,
);
const due = computed(() => (inRuns.value ? (steps.value.at(-1)?.of ?? 0) : (task.value?.quantity ?? 0)));

// Good is prefilled with what remains, and gives way to what else is counted.
watch(
  [() => task.value?.id, due],
  () => {
    second.value = 0;
    broken.value = 0;
    mend.value = 0;
    good.value = due.value;
    eyed.value = (bench.value?.eyes ?? []).map((e) => e.usual);
  },
  { immediate: true },
);
watch(
  () => bench.value?.eyes.map((e) => e.recipe ?? e.material).join(),
  () => (eyed.value = (bench.value?.eyes ?? []).map((e) => e.usual)),
);
const eyes = computed(() =>
  (bench.value?.eyes ?? []).map((e, i) => ({
    ...e,
    key: `${e.breaks ? "broke" : "used"}-${i}`,
    label: e.breaks
      ? t("{name} that broke", { name: e.name })
      : t("{name} used{unit}", { name: e.name, unit: e.unit && e.unit !== "pieces" ? `, ${e.unit}` : "" }),
  })),
);
/** What differs from what would be taken if nothing were said. */
const used = (): Schemas["Used"][] =>
  (bench.value?.eyes ?? []).flatMap((e, i): Schemas["Used"][] => {
    const number = eyed.value[i] ?? e.usual;
    const of = { recipe: e.recipe, variant: e.variant, material: e.material };
    if (e.breaks) return number ? [{ ...of, broke: number }] : [];
    return [e.material ? { ...of, amount: number } : { ...of, pieces: number }];
  });
watch([second, mend, broken], () => {
  good.value = Math.max(0, due.value - second.value - mend.value - broken.value);
});
watch(
  () => task.value?.id,
  () => (atOnce.value = false),
);

const record = useMutation({
  mutationFn: async (what: "start" | "pause" | "finish" | "ready" | "run") => {
    const { id, of } = task.value!;
    const counted = { second: second.value, broken: broken.value, mend: mend.value || undefined };
    switch (what) {
      case "pause":
        return { what, ...(await keep("pause", id, of, { good: 0, ...counted })) };
      case "run":
        return { what, ...(await keep("count", id, of, { good: good.value, ...counted, used: used() })) };
      case "finish":
        return { what, ...(await keep("finish", id, of, { good: good.value, ...counted, used: used() })) };
      default:
        return { what, ...(await keep("start", id, of, { foundReady: what === "ready" })) };
    }
  },
  onSuccess: (answer) => (said.value = "n" in answer ? (answer as typeof said.value) : undefined),
});
/** Begins another task than the next one. */
const begin = useMutation({ mutationFn: (id: string) => keep("start", id, "", { foundReady: false }) });
const confirmable = computed(
  () =>
    record.error.value instanceof Refused && record.error.value.fields.some((f) => f.location === "body.foundReady"),
);
const fits = computed(() => mix.value || good.value + second.value + mend.value + broken.value === due.value);
/** Pieces are counted at the last step of a run. */
const counting = computed(() => !mix.value && step.value >= steps.value.length - 1);
/** The one large button: what comes next. */
const primary = computed(() => {
  if (!running.value)
    return {
      says: task.value?.state === "paused" ? t("Go on") : t("Start"),
      test: "start",
      off: false,
      act: () => record.mutate("start"),
    };
  if (step.value < steps.value.length - 1)
    return {
      says: t("Next step: {name}", { name: steps.value[step.value + 1]!.name }),
      test: "next-step",
      off: false,
      act: () => go(step.value + 1),
    };
  if (inRuns.value)
    return {
      says: t("Run {number} is done", { number: task.value!.run!.number }),
      test: "run-done",
      off: !fits.value,
      act: () => record.mutate("run"),
    };
  return { says: t("Done"), test: "finish", off: !fits.value, act: () => record.mutate("finish") };
});

const route = useRoute();
const router = useRouter();
/** The lead's look at all benches, and where nobody sits yet. */
const all = computed(() => !person.value || route.query.all !== undefined);
const name = computed(() => studio.value?.people.find((p) => p.id === person.value)?.name);

/** The screen stays awake while a task goes on. */
const wake = useWakeLock();
watch(
  running,
  (on) => {
    if (wake.isSupported.value) void (on ? wake.request("screen") : wake.release()).catch(() => undefined);
  },
  { immediate: true },
);
</script>

<template>
  <div class="station bench-station">
    <section v-if="all" class="choose">
      <h1>{{ person ? $t("All benches") : $t("Who is at this bench?") }}</h1>
      <RouterLink v-if="person" class="add" to="/bench">Back to {{ name }}</RouterLink>
      <BenchesBoard @sit="router.push('/bench')" />
    </section>
    <template v-else>
      <OutboxNote />
      <ProblemNote v-if="!bench" :error="error" />
      <RingSign v-if="bench" :bench="bench" @take="begin.mutate($event)" />
      <AlertList v-if="room" :alerts="mine" :now="room.now" />
      <BenchLoads v-if="bench" :loads="bench.loads" :now="bench.now" />
      <p v-for="t in rings" :key="t.id" class="remark" data-test="rings">
        <b>{{ t.name }}</b> rings since {{ times.clock(t.ends) }}.
        <RouterLink to="/drying" class="add">To the timers</RouterLink>
      </p>
      <p
        v-if="said && (said.what === 'finish' || said.what === 'run')"
        class="said"
        :class="{ short: said.after.short }"
        data-test="said"
        role="status"
      >
        <template v-if="said.after.short">
          {{ said.of }}: {{ said.after.short }} short. They are counted up again as a new lot, and the plan has made
          room.
        </template>
        <template v-else-if="said.broken">
          {{ said.of }}: {{ said.broken }} broken so far, within the spares; {{ said.after.sparesLeft }} spare left.
        </template>
        <template v-else>{{ said.of }}: {{ said.what === "run" ? $t("the run is counted") : $t("done") }}.</template>
        <template v-for="f in fell" :key="f.order">{{ f.name }} {{ fellBy(f) }} by it. </template>
        <button class="bare back" @click="(undo.mutate(said.n), (said = undefined))">Take it back</button>
      </p>
      <ProblemNote :error="undo.error.value" />
      <div v-if="bench && !task" class="sheet rest">
        <h1>Nothing for you now</h1>
        <p>The plan has no work for you. Look at the Plan, or ask the lead.</p>
      </div>
      <div v-else-if="task && bench" class="bench">
        <div class="left">
          <FirstTime
            v-if="bench.first"
            :first="bench.first"
            :of="task.of"
            :recipe="task.recipe"
            :begun="task.state !== 'planned'"
          />
          <BenchCard
            :bench="bench"
            :task="task"
            :step="step"
            :counts="{
              done: reached,
              second: counting ? second : 0,
              mend: counting ? mend : 0,
              broken: counting ? broken : 0,
            }"
            @step="go"
            @reach="reach"
          />
        </div>
        <aside class="counters">
          <template v-if="running && counting">
            <PieceCounter v-model="good" name="good" :most="due" />
            <PieceCounter v-model="second" name="second" :most="due" />
            <PieceCounter v-if="steps[0]?.mayMend" v-model="mend" name="to mend" :most="due" test="mend" />
            <PieceCounter v-model="broken" name="broken" :most="due" />
          </template>
          <section v-if="running && eyes.length" class="eyes" data-test="eyes">
            <PieceCounter
              v-for="(e, i) in eyes"
              :key="e.key"
              v-model="eyed[i]"
              :name="e.label"
              :test="e.key"
              :most="e.most"
              small
            />
          </section>
          <p v-if="running && !fits" class="word late">
            {{ good + second + mend + broken }} counted, {{ due }} are here
          </p>
          <div class="bar">
            <p class="brief" aria-hidden="true">
              <b>{{ mix ? `${mass(task.quantity)}` : due }}</b>
              <template v-if="running">{{
                $t(task.end < bench.now ? "{time} over" : "{time} left", { time: lasting(task.end - bench.now) })
              }}</template>
              <template v-else>{{ times.clock(task.resume ?? task.start) }}</template>
            </p>
            <button
              class="wide"
              :disabled="primary.off"
              :data-test="primary.test"
              @click="record.isPending.value || primary.act()"
            >
              {{ primary.says }}
            </button>
          </div>
          <p v-if="running && inRun !== undefined && steps.length > 1" class="quiet" data-test="in-run">
            {{ lasting(inRun) }} since this run was begun
          </p>
          <div v-if="running" class="pair">
            <button class="small" :disabled="record.isPending.value" data-test="pause" @click="record.mutate('pause')">
              Pause
            </button>
            <button v-if="step < steps.length - 1" class="small" data-test="count-now" @click="go(steps.length - 1)">
              Count now
            </button>
            <button v-else-if="inRuns" class="small" data-test="at-once" @click="atOnce = true">
              All runs are done
            </button>
          </div>
          <ProblemNote :error="record.error.value ?? begin.error.value" />
          <button v-if="confirmable" class="small" data-test="ready" @click="record.mutate('ready')">
            I touched it: it is ready
          </button>
          <BenchTalk :bench="bench" :task="task" />
          <section v-if="bench.early.length" data-test="early">
            <h2 class="lesser">Could be begun now</h2>
            <p v-for="e in bench.early" :key="e.id" class="next">
              <WorkGlyph :glyph="e.glyph" /> <b>{{ e.making === "mix" ? `${mass(e.quantity)}` : e.quantity }}</b>
              {{ e.name }}, {{ e.of }}
              <button
                class="bare add"
                :data-test="`early-${e.of}`"
                :disabled="record.isPending.value"
                @click="begin.mutate(e.id)"
              >
                Start
              </button>
            </p>
          </section>
          <details v-if="bench.sitting.length" class="sitting" data-test="sitting">
            <summary>
              {{ bench.sitting.length }} more of this in one sitting, until {{ times.clock(bench.sitting.at(-1)!.end) }}
            </summary>
            <p v-for="n in bench.sitting" :key="n.id" class="next">
              <WorkGlyph :glyph="n.glyph" /> <b>{{ n.making === "mix" ? `${mass(n.quantity)}` : n.quantity }}</b>
              {{ n.name }}, {{ n.of }}
              <span class="quiet">{{ times.clock(n.start) }}</span>
            </p>
          </details>
          <section v-if="bench.next.length">
            <h2 class="lesser">{{ bench.sitting.length ? $t("After that") : $t("Next") }}</h2>
            <p v-for="n in bench.next" :key="n.id" class="next">
              <WorkGlyph :glyph="n.glyph" /> <b>{{ n.making === "mix" ? `${mass(n.quantity)}` : n.quantity }}</b>
              {{ n.name }}, {{ n.of }}
              <span class="quiet">{{ times.moment(n.start) }}</span>
            </p>
          </section>
          <section v-if="bench.drying.length">
            <h2 class="lesser">Drying meanwhile</h2>
            <p v-for="d in bench.drying.slice(0, 3)" :key="d.id" class="next">
              <Swatch :colour="d.colour" /> {{ d.of }}
              <span class="quiet">about {{ lasting(d.end - bench.now) }} more</span>
            </p>
          </section>
        </aside>
      </div>
      <div v-if="bench" class="ways">
        <RouterLink class="add" to="/bench/day" data-test="day">My whole day</RouterLink>
        <RouterLink v-if="task" class="add" :to="`/bench/card/${task.id}`" data-test="paper">On paper</RouterLink>
        <RouterLink class="add" :to="{ path: '/bench', query: { all: '' } }" data-test="all">All benches</RouterLink>
      </div>
    </template>
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(300px, 1fr);
  gap: 22px;
}
.counters {
  display: grid;
  gap: 12px;
  align-content: start;
}
.counters .add {
  min-height: 56px;
  padding: 0 0.8rem;
}
.bar {
  display: grid;
}
.brief {
  display: none;
}
.wide,
.small {
  font: 650 1.45rem var(--count);
  min-height: 72px;
  border: 0;
  border-radius: 3px 16px;
  background: var(--leaf);
  color: var(--on-ink);
  cursor: pointer;
  padding: 0.3rem 0.8rem;
}
.wide:disabled {
  background: var(--stone);
}
.small {
  min-height: 56px;
  font-size: 1.15rem;
  background: none;
  border: 2px solid var(--ink);
  color: var(--ink);
}
.pair {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  gap: 12px;
}
.next {
  margin: 6px 0;
  line-height: 1.3;
  font-size: 1.05rem;
}
.next svg {
  vertical-align: -4px;
}
.said {
  margin: 0 0 14px;
  padding: 12px 18px;
  background: var(--leaf-wash);
  border-left: 5px solid var(--leaf);
  font-size: 1.15rem;
  display: flex;
  gap: 18px;
  align-items: center;
}
.said.short {
  background: var(--petal-wash);
  border-color: var(--late);
}
.back {
  color: var(--petal);
  font-weight: 650;
  min-height: 56px;
  white-space: nowrap;
}
.rest {
  padding: 40px;
}
.ways {
  display: flex;
  gap: 1.6rem;
  margin-top: 1rem;
  font-size: 1.1rem;
}
.ways > * {
  min-height: 56px;
  align-content: center;
}
@media (max-width: 820px) {
  .bench {
    grid-template-columns: 1fr;
  }
  .bar {
    position: fixed;
    inset: auto 0 0;
    z-index: 6;
    grid-template-columns: auto 1fr;
    gap: 0.9rem;
    align-items: center;
    padding: 0.6rem 0.9rem;
    background: var(--sheet);
    border-top: 1px solid var(--vein);
  }
  .brief {
    display: grid;
    margin: 0;
    line-height: 1.1;
  }
  .brief b {
    font-size: 2.2rem;
  }
  .bench-station {
    padding-bottom: 130px;
  }
}
</style>
