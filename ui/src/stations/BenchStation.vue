<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { answered, client, person, Refused, type Schemas, sitDown, useCommands } from "../api/client";
import { useBench, useDryingRoom, useStudio, useUndo } from "../api/queries";
import PartDrawing from "../drawings/PartDrawing.vue";
import Swatch from "../drawings/Swatch.vue";
import WorkGlyph from "../drawings/WorkGlyph.vue";
import { grams, mass, lasting, millimetres, plain, useTimes } from "../format";
import ProblemNote from "../parts/ProblemNote.vue";
import AlertList from "./drying/AlertList.vue";
import BenchLoads from "./BenchLoads.vue";
import PieceCounter from "./PieceCounter.vue";

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
const second = ref(0);
const broken = ref(0);
const good = ref(0);
/** What was used by eye and what broke on the way, by the place of each in the bench's list. */
const eyed = ref<number[]>([]);
const said = ref<Schemas["Recorded"] & { what: string }>();

// Good is prefilled with what remains, and gives way to what else is counted.
watch(
  [() => task.value?.id, () => task.value?.quantity],
  () => {
    second.value = 0;
    broken.value = 0;
    good.value = task.value?.quantity ?? 0;
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
    label: e.breaks ? `${e.name} that broke` : `${e.name} used${e.unit && e.unit !== "pieces" ? `, ${e.unit}` : ""}`,
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
watch([second, broken], () => {
  good.value = Math.max(0, (task.value?.quantity ?? 0) - second.value - broken.value);
});

const send = useCommands();
const record = useMutation({
  mutationFn: (what: "start" | "pause" | "finish" | "ready") => {
    const id = task.value!.id;
    const counted = { second: second.value, broken: broken.value };
    return send([what, id, good.value, counted, used()], async (header) => {
      const params = { path: { task: id }, header };
      if (what === "pause")
        return {
          what,
          ...(await answered(client.POST("/api/tasks/{task}/pause", { params, body: { good: 0, ...counted } }))),
        };
      if (what === "finish")
        return {
          what,
          ...(await answered(
            client.POST("/api/tasks/{task}/finish", { params, body: { good: good.value, ...counted, used: used() } }),
          )),
        };
      return {
        what,
        ...(await answered(client.POST("/api/tasks/{task}/start", { params, body: { foundReady: what === "ready" } }))),
      };
    });
  },
  onSuccess: (answer) => (said.value = answer),
});
/** Begins another task than the next one. */
const begin = useMutation({
  mutationFn: (task: string) =>
    send(["start", task], (header) =>
      answered(
        client.POST("/api/tasks/{task}/start", { params: { path: { task }, header }, body: { foundReady: false } }),
      ),
    ),
});
/** How long there is until the first piece is too stiff. */
const stiffens = (s: Schemas["StiffenView"], now: number) =>
  s.by < now ? `${lasting(now - s.by)} too late:` : `${lasting(s.by - now)} left:`;
const confirmable = computed(
  () =>
    record.error.value instanceof Refused && record.error.value.fields.some((f) => f.location === "body.foundReady"),
);
const fits = computed(() => good.value + second.value + broken.value === (task.value?.quantity ?? 0));
const takes = computed(() =>
  (task.value?.takes ?? []).map((t) => {
    if (t.unit === "wire") return { ...t, text: `${t.what}, cut to ${millimetres(t.amount)} mm` };
    if (t.unit === "weigh") return { ...t, text: `${mass(t.amount)} ${t.what}` };
    if (t.unit === "thickness")
      return { ...t, text: t.amount ? `${t.what}, ${millimetres(t.amount)} mm thick` : t.what };
    if (t.unit === "slots")
      return {
        ...t,
        text: `into ${t.what}, ${t.amount} ${t.amount === 1 ? "slot" : "slots"}${t.detail ? `: ${t.detail}` : ""}`,
      };
    if (t.unit === "µm") return { ...t, text: `${t.what}, ${millimetres(t.amount)} mm each` };
    if (t.unit === "mg") return { ...t, text: `${t.what}, ${mass(t.amount)} each` };
    return { ...t, text: `${plain(t.amount)} × ${t.what} each` };
  }),
);
</script>

<template>
  <div class="station">
    <section v-if="!person" class="choose">
      <h1>Who is at this bench?</h1>
      <div>
        <button
          v-for="p in studio?.people"
          :key="p.id"
          class="sheet"
          :data-test="`bench-${p.name}`"
          @click="sitDown(p.id)"
        >
          {{ p.name }}
        </button>
      </div>
    </section>
    <template v-else>
      <ProblemNote :error="error" />
      <AlertList v-if="room" :alerts="mine" :now="room.now" />
      <BenchLoads v-if="bench" :loads="bench.loads" :now="bench.now" />
      <p v-for="t in rings" :key="t.id" class="remark" data-test="rings">
        <b>{{ t.name }}</b> rings since {{ times.clock(t.ends) }}.
        <RouterLink to="/drying" class="add">To the timers</RouterLink>
      </p>
      <p
        v-if="said && said.what === 'finish'"
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
        <template v-else>{{ said.of }}: done.</template>
        <button class="bare back" @click="(undo.mutate(said.n), (said = undefined))">Take it back</button>
      </p>
      <ProblemNote :error="undo.error.value" />
      <div v-if="bench && !task" class="sheet rest">
        <h1>Nothing for you now</h1>
        <p>The plan has no work for you. Look at the Plan, or ask the lead.</p>
      </div>
      <div v-else-if="task" class="bench">
        <article class="sheet card" data-test="card">
          <div class="drawing"><PartDrawing :form="task.form" :colour="task.colour" :size="190" /></div>
          <div class="words">
            <span class="quiet when">
              <WorkGlyph :glyph="task.glyph" />
              <template v-if="running"
                >since {{ times.clock(task.start) }}, until about {{ times.moment(task.end) }}</template
              >
              <template v-else>{{ times.moment(task.resume ?? task.start) }} to {{ times.moment(task.end) }}</template>
            </span>
            <h1 data-test="task-name">{{ task.name }}</h1>
            <p class="of">
              <b class="many">{{ mix ? grams(task.quantity) : task.quantity }}</b> {{ mix ? "g" : "" }} {{ task.of }}
              <span v-if="task.batch && task.batch.of > 1" class="quiet" data-test="batch"
                >batch {{ task.batch.number }} of {{ task.batch.of
                }}<template v-if="task.batch.name !== task.of">, for {{ task.batch.name }}</template></span
              >
            </p>
            <p v-if="task.share" class="look" data-test="share">
              <b>{{ task.share.pieces }}</b> of them get it<template v-if="task.share.form"
                >: those that are {{ task.share.form }}</template
              >.
            </p>
            <section v-if="task.run" class="run" data-test="run">
              <b>Run {{ task.run.number }} of {{ task.run.of }}</b>
              <ol>
                <li v-for="s in task.run.steps" :key="s.name">
                  <WorkGlyph :glyph="s.glyph" /> <b>{{ s.pieces }}</b> {{ s.name }}
                </li>
              </ol>
            </section>
            <p
              v-if="bench?.stiffens"
              class="stiffens"
              :class="{ late: bench.stiffens.by < bench.now }"
              data-test="stiffens"
            >
              <b>{{ stiffens(bench.stiffens, bench.now) }}</b>
              {{ bench.stiffens.own ? "begin by" : `then ${bench.stiffens.name}, by` }}
              {{ times.clock(bench.stiffens.by) }}, before the first is too stiff
            </p>
            <p v-if="task.overdueMinutes && !running" class="stiffens late" data-test="overdue">
              <b>Touch them first:</b> what waits longest comes {{ lasting(task.overdueMinutes) }} too late. What is too
              stiff is counted as broken.
            </p>
            <ul class="takes">
              <li v-for="t in takes" :key="t.text">
                <Swatch v-if="t.colour" :colour="t.colour" :size="24" /> {{ t.text }}
              </li>
              <li v-if="task.tool">{{ task.tool }}</li>
            </ul>
            <p v-if="task.look" class="look"><b>Look for:</b> {{ task.look }}</p>
            <p v-for="c in task.cautions" :key="c" class="caution">{{ c }}</p>
          </div>
        </article>
        <aside class="counters">
          <template v-if="running">
            <template v-if="!mix">
              <PieceCounter v-model="good" name="good" :most="task.quantity" />
              <PieceCounter v-model="second" name="second" :most="task.quantity" />
              <PieceCounter v-model="broken" name="broken" :most="task.quantity" />
            </template>
            <section v-if="eyes.length" class="eyes" data-test="eyes">
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
            <p v-if="!fits" class="word late">{{ good + second + broken }} counted, {{ task.quantity }} are here</p>
            <button
              class="wide"
              :disabled="!fits || record.isPending.value"
              data-test="finish"
              @click="record.mutate('finish')"
            >
              Done
            </button>
            <button class="small" :disabled="record.isPending.value" data-test="pause" @click="record.mutate('pause')">
              Pause
            </button>
          </template>
          <template v-else>
            <button class="wide" :disabled="record.isPending.value" data-test="start" @click="record.mutate('start')">
              {{ task.state === "paused" ? "Go on" : "Start" }}
            </button>
          </template>
          <ProblemNote :error="record.error.value ?? begin.error.value" />
          <button v-if="confirmable" class="small" data-test="ready" @click="record.mutate('ready')">
            I touched it: it is ready
          </button>
          <section v-if="bench?.early.length" data-test="early">
            <h3>Could be begun now</h3>
            <p v-for="e in bench.early" :key="e.id" class="next">
              <WorkGlyph :glyph="e.glyph" /> <b>{{ e.making === "mix" ? `${grams(e.quantity)} g` : e.quantity }}</b>
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
          <details v-if="bench?.sitting.length" class="sitting" data-test="sitting">
            <summary>
              {{ bench.sitting.length }} more of this in one sitting, until {{ times.clock(bench.sitting.at(-1)!.end) }}
            </summary>
            <p v-for="n in bench.sitting" :key="n.id" class="next">
              <WorkGlyph :glyph="n.glyph" /> <b>{{ n.making === "mix" ? `${grams(n.quantity)} g` : n.quantity }}</b>
              {{ n.name }}, {{ n.of }}
              <span class="quiet">{{ times.clock(n.start) }}</span>
            </p>
          </details>
          <section v-if="bench?.next.length">
            <h3>{{ bench.sitting.length ? "After that" : "Next" }}</h3>
            <p v-for="n in bench.next" :key="n.id" class="next">
              <WorkGlyph :glyph="n.glyph" /> <b>{{ n.making === "mix" ? `${grams(n.quantity)} g` : n.quantity }}</b>
              {{ n.name }}, {{ n.of }}
              <span class="quiet">{{ times.moment(n.start) }}</span>
            </p>
          </section>
          <section v-if="bench?.drying.length">
            <h3>Drying meanwhile</h3>
            <p v-for="d in bench.drying.slice(0, 3)" :key="d.id" class="next">
              <Swatch :colour="d.colour" /> {{ d.of }}
              <span class="quiet">about {{ lasting(d.end - bench.now) }} more</span>
            </p>
          </section>
        </aside>
      </div>
    </template>
  </div>
</template>

<style scoped>
.choose div {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  margin-top: 18px;
}
.choose button {
  font: 560 24px var(--name);
  color: var(--ink);
  min-width: 170px;
  min-height: 96px;
  cursor: pointer;
}
.bench {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(300px, 1fr);
  gap: 22px;
}
.card {
  display: flex;
  gap: 26px;
  padding: 28px;
  min-height: max(420px, calc(100vh - 120px));
}
.drawing {
  flex: none;
}
.words {
  min-width: 0;
}
.when {
  display: flex;
  gap: 8px;
  align-items: center;
  font-size: 16px;
}
.card h1 {
  font-size: 38px;
  margin: 6px 0;
}
.of {
  font-size: 24px;
  margin: 0 0 14px;
}
.many {
  font-size: 48px;
  line-height: 1;
}
.takes {
  list-style: none;
  padding: 0;
  margin: 0 0 14px;
  font-size: 20px;
  display: grid;
  gap: 6px;
}
.run {
  font-size: 18px;
  margin: 0 0 14px;
}
.run ol {
  list-style: none;
  padding: 0;
  margin: 4px 0 0;
  display: grid;
  gap: 4px;
}
.run svg {
  vertical-align: -4px;
}
.look,
.stiffens {
  font-size: 17px;
}
.stiffens.late {
  color: #a32740;
}
.caution {
  border-left: 4px solid var(--dust);
  padding: 4px 12px;
  background: var(--dust-wash);
  margin: 8px 0;
}
.counters {
  display: grid;
  gap: 12px;
  align-content: start;
}
.wide,
.small {
  font: 650 22px var(--count);
  min-height: 72px;
  border: 0;
  border-radius: 3px 16px;
  background: var(--leaf);
  color: #fff;
  cursor: pointer;
}
.wide:disabled {
  background: #b9b3ab;
}
.small {
  min-height: 56px;
  font-size: 17px;
  background: none;
  border: 2px solid var(--ink);
  color: var(--ink);
}
.next {
  margin: 6px 0;
  line-height: 1.3;
}
.next svg {
  vertical-align: -4px;
}
.said {
  margin: 0 0 14px;
  padding: 12px 18px;
  background: var(--leaf-wash);
  border-left: 5px solid var(--leaf);
  font-size: 17px;
  display: flex;
  gap: 18px;
  align-items: center;
}
.said.short {
  background: var(--petal-wash);
  border-color: #a32740;
}
.back {
  color: var(--petal);
  font-weight: 650;
  min-height: 40px;
  white-space: nowrap;
}
.rest {
  padding: 40px;
}
@media (max-width: 820px) {
  .bench {
    grid-template-columns: 1fr;
  }
  .card {
    padding: 16px;
    gap: 12px;
    min-height: 0;
  }
  .drawing :deep(svg) {
    width: 84px;
    height: 84px;
  }
  .card h1 {
    font-size: 27px;
  }
}
</style>
