<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import PartDrawing from "../../drawings/PartDrawing.vue";
import PieceToScale from "../../drawings/PieceToScale.vue";
import Swatch from "../../drawings/Swatch.vue";
import WorkGlyph from "../../drawings/WorkGlyph.vue";
import { lasting, massFigure, useTimes } from "../../format";
import { massUnit } from "../../manner";
import WorkingSheet from "../../parts/WorkingSheet.vue";
import { t } from "../../words/said";
import { afterWords, shapedBy, weight } from "../../words/card";
import RunPieces from "./RunPieces.vue";
import StepDetail from "./StepDetail.vue";

/** The task at hand: what, how many, in which run, and all that its current step asks for. */
const props = defineProps<{
  bench: Schemas["BenchView"];
  task: Schemas["TaskCard"];
  step: number;
  /** Of the pieces at hand: how many are done, seconds, to mend, broken. */
  counts?: { done: number; second: number; mend: number; broken: number };
}>();
const emit = defineEmits<{ step: [number]; reach: [number] }>();
const times = useTimes();
const steps = computed(() => props.bench.card?.steps ?? []);
const current = computed(() => steps.value[Math.min(props.step, steps.value.length - 1)]);
const mix = computed(() => props.task.making === "mix");
const running = computed(() => props.task.state === "started");
/** What is drawn to scale: the piece of the current step, or of the nearest step that shapes one. */
const drawn = computed(() => shapedBy(current.value ? [current.value, ...steps.value] : steps.value));
/** How long there is until the first piece is too stiff. */
const stiffens = (s: Schemas["StiffenView"], now: number) =>
  s.by < now ? t("{by} too late:", { by: lasting(now - s.by) }) : t("{now} left:", { now: lasting(s.by - now) });
/** What share of the time until pieces are too stiff is left, of that since the task was begun. */
const fresh = computed(() => {
  const by = props.bench.stiffens?.by ?? 0;
  return Math.min(1, Math.max(0, (by - props.bench.now) / Math.max(1, by - props.task.start)));
});
const left = computed(() => props.task.end - props.bench.now);
const cautions = computed(() => [...new Set([...(current.value?.cautions ?? []), ...props.task.cautions])]);
</script>

<template>
  <article class="sheet card" data-test="card">
    <div class="top">
      <header>
        <span class="when">
          <WorkGlyph :glyph="task.glyph" :size="24" />
          <template v-if="running">
            since {{ times.clock(task.start) }}, until about {{ times.moment(task.end) }}
            <b data-test="left">{{
              left >= 0 ? $t("{left} left", { left: lasting(left) }) : $t("{left} over", { left: lasting(left) })
            }}</b>
          </template>
          <template v-else>{{ times.moment(task.resume ?? task.start) }} to {{ times.moment(task.end) }}</template>
        </span>
        <h1 data-test="task-name">{{ steps.length > 1 && current ? current.name : task.name }}</h1>
        <p class="of">
          <b class="many">{{ mix ? massFigure(task.quantity) : task.quantity }}</b> {{ mix ? massUnit() : "" }}
          {{ task.of }}
          <span v-if="task.batch && task.batch.of > 1" class="quiet" data-test="batch"
            >batch {{ task.batch.number }} of {{ task.batch.of
            }}<template v-if="task.batch.name !== task.of">, for {{ task.batch.name }}</template></span
          >
        </p>
        <p v-if="steps.length > 1 && current && current.pieces < current.of" class="share">
          <b>{{ current.pieces }} of {{ current.of }}</b> in this run get it<template v-if="current.form"
            >: those that are {{ current.form }}</template
          >.
        </p>
        <p v-if="task.share" class="share" data-test="share">
          <b>{{ task.share.pieces }} of {{ task.quantity }}</b> get it<template v-if="task.share.form"
            >: those that are {{ task.share.form }}</template
          >.
        </p>
        <p v-if="bench.card?.forms?.length" class="share" data-test="forms">
          <template v-for="(f, i) in bench.card.forms" :key="f.name"
            >{{ i ? ", " : "" }}<b>{{ f.pieces }}</b> {{ f.name }}</template
          >
        </p>
        <p v-if="bench.card?.gives" class="share">each one gives {{ bench.card.gives }}</p>
        <p v-if="bench.card?.build && t(`card.build.${bench.card.build}`)" class="share">
          {{ t(`card.build.${bench.card.build}`) }}
        </p>
        <p v-if="bench.stiffens" class="stiffens" :class="{ late: bench.stiffens.by < bench.now }" data-test="stiffens">
          <svg
            v-if="running"
            class="empties"
            width="34"
            height="34"
            viewBox="0 0 36 36"
            role="img"
            :aria-label="$t('{fresh} % of the time is left', { fresh: Math.round(100 * fresh) })"
          >
            <circle cx="18" cy="18" r="15" class="all" />
            <circle cx="18" cy="18" r="15" class="left" :stroke-dasharray="`${fresh * 94.2} 94.2`" />
          </svg>
          <b>{{ stiffens(bench.stiffens, bench.now) }}</b>
          {{ bench.stiffens.own ? $t("begin by") : $t("then {name}, by", { name: bench.stiffens.name }) }}
          {{ times.clock(bench.stiffens.by) }}, before the first is too stiff
        </p>
        <p v-if="task.overdueMinutes && !running" class="stiffens late" data-test="overdue">
          <b>Touch them first:</b> what waits longest comes {{ lasting(task.overdueMinutes) }} too late. What is too
          stiff is counted as broken.
        </p>
      </header>
      <div class="drawing">
        <PieceToScale v-if="drawn" :form="task.form" v-bind="drawn" :colour="task.colour" :size="170" />
        <PartDrawing v-else :form="task.form" :colour="task.colour" :size="150" />
      </div>
    </div>
    <section v-if="steps.length > 1" class="run" data-test="run">
      <h2 v-if="task.run && task.run.of > 1">
        Run {{ task.run.number }} of {{ task.run.of }}
        <span class="quiet">{{ $t("{n} piece | {n} pieces", steps.at(-1)?.of ?? 0) }}</span>
      </h2>
      <ol class="strip" aria-label="The steps of this run">
        <li v-for="(s, i) in steps" :key="s.key">
          <button
            :class="{ here: i === step, over: i < step }"
            :aria-current="i === step ? 'step' : undefined"
            @click="emit('step', i)"
          >
            <WorkGlyph :glyph="s.glyph" :size="i === step ? 28 : 20" />
            <span
              ><b>{{ s.pieces }}</b> {{ s.name }}</span
            >
          </button>
        </li>
      </ol>
      <RunPieces
        v-if="running && current && counts"
        :form="task.form"
        :colour="task.colour"
        :of="current.pieces"
        v-bind="counts"
        @reach="emit('reach', $event)"
      />
    </section>
    <div class="words">
      <template v-if="current">
        <StepDetail :step="current" />
      </template>
      <ul v-if="bench.card?.blend?.length" class="blend">
        <li v-for="b in bench.card.blend" :key="b.name">
          <Swatch v-if="b.colour" :colour="b.colour" :size="24" />
          <b>{{ b.drops ? $t("{drops} drops", { drops: b.drops }) : weight(b.weigh) }}</b> {{ b.name }}
        </li>
      </ul>
      <p v-for="m in task.met" :key="m.order + m.material" class="caution met" role="alert" data-test="met">
        {{
          $t("{order} must have no {allergen}, and this takes {material}: stop, and ask.", {
            order: m.order,
            allergen: m.allergen,
            material: m.material,
          })
        }}
      </p>
      <p v-for="c in cautions" :key="c" class="caution">{{ c }}</p>
      <p v-for="a in bench.card?.then" :key="a.name" class="after" data-test="then">
        <WorkGlyph :glyph="a.wait ? 'wait' : 'shape'" /> then {{ afterWords(a, times.moment) }}
      </p>
      <details v-if="task.working" class="counted">
        <summary>How it was counted</summary>
        <WorkingSheet :workings="[task.working]" />
      </details>
    </div>
  </article>
</template>

<style scoped>
.card {
  padding: 1.4rem 1.8rem;
  min-height: max(420px, calc(100vh - 120px));
}
.when {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  font-size: 1.1rem;
  color: var(--soft);
}
.when b {
  color: var(--ink);
  font-size: 1.25rem;
}
h1 {
  font-size: 2.4rem;
  margin: 0.2rem 0;
}
.of {
  font-size: 1.6rem;
  margin: 0 0 0.5rem;
}
.many {
  font-size: 3.2rem;
  line-height: 1;
}
.share {
  font-size: 1.3rem;
  margin: 0 0 0.4rem;
}
.stiffens {
  font-size: 1.15rem;
  margin: 0 0 0.5rem;
}
.empties {
  vertical-align: middle;
  margin-right: 0.3rem;
}
.empties circle {
  fill: none;
  stroke-width: 5;
}
.empties .all {
  stroke: var(--vein);
}
.empties .left {
  stroke: var(--petal);
  transform: rotate(-90deg);
  transform-origin: center;
}
.stiffens.late {
  color: var(--late);
}
.run h2 {
  font-size: 1.3rem;
}
.strip {
  list-style: none;
  padding: 0;
  margin: 0.3rem 0 0.9rem;
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}
.strip button {
  min-height: 56px;
  padding: 0.3rem 0.9rem;
  display: flex;
  gap: 0.5rem;
  align-items: center;
  font: 500 1.05rem var(--count);
  text-align: left;
  color: var(--ink);
  background: var(--marble);
  border: 1.5px solid var(--vein);
  border-radius: 3px 14px;
  cursor: pointer;
}
.strip .here {
  border-color: var(--leaf);
  background: var(--leaf-wash);
  font-size: 1.3rem;
}
.strip .over {
  color: var(--soft);
}
.top {
  display: flex;
  gap: 1.6rem;
  justify-content: space-between;
}
.drawing {
  flex: none;
}
.run h2 .quiet {
  font: 400 1rem var(--count);
}
.blend {
  list-style: none;
  padding: 0;
  margin: 0 0 0.8rem;
  font-size: 1.25rem;
  display: grid;
  gap: 0.4rem;
}
.caution {
  border-left: 4px solid var(--dust);
  padding: 4px 12px;
  background: var(--dust-wash);
  margin: 0.5rem 0;
  font-size: 1.05rem;
}
.after {
  margin: 0.4rem 0;
  font-size: 1.1rem;
}
.after svg {
  vertical-align: -4px;
}
.counted summary {
  min-height: 2.4rem;
  color: var(--soft);
  cursor: pointer;
}
@media (max-width: 820px) {
  .card {
    padding: 0.9rem 1rem;
    min-height: 0;
  }
  .top {
    gap: 0.5rem;
  }
  .drawing :deep(svg) {
    width: 92px;
    height: 98px;
  }
  h1 {
    font-size: 1.7rem;
  }
}
</style>
