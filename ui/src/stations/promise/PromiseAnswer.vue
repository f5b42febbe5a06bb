<script setup lang="ts">
import { computed } from "vue";
import { usePromiseChance, useStudio } from "../../api/queries";
import ChanceGrains from "../../drawings/ChanceGrains.vue";
import { lasting, money, stockOf, useTimes, worked } from "../../format";
import { manner } from "../../manner";
import DearNote from "../../parts/DearNote.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import SafetyWord from "../../parts/SafetyWord.vue";
import WorkingSheet from "../../parts/WorkingSheet.vue";
import { waitedFor } from "../plan/because";
import { unplacedWords } from "../../words";
import { metWords } from "../../words/allergies";
import { hourGives, lateBy, sure } from "../../words/chances";
import { t } from "../../words/said";
import type { usePromise } from "./asking";
import PromiseLine from "./PromiseLine.vue";
import { quarter, sentence } from "./saying";

/** Whether an order can be taken on: a sentence, a line of time, other answers to choose from, and what stands behind it. */
const props = defineProps<{ promise: ReturnType<typeof usePromise>; plain?: boolean }>();
const emit = defineEmits<{ later: [leaves: string]; fewer: [could: { line: number; could: number }[]] }>();
const times = useTimes();
const { data: studio } = useStudio();

const answer = computed(() => props.promise.answer.value);
/** Of what can be taken on it is said how sure it is, once nobody types any more. */
const { data: chance } = usePromiseChance(() =>
  props.plain || props.promise.stale.value || answer.value?.verdict === "not" ? undefined : answer.value?.id,
);
const says = computed(() => (answer.value ? sentence(answer.value, times.value) : ""));
/** The links of its chain that waited, the longest first: what stands in its way. */
const hangs = computed(() =>
  [...(answer.value?.chain.links ?? [])]
    .filter((l) => l.waitedMinutes > 0)
    .sort((a, b) => b.waitedMinutes - a.waitedMinutes),
);
const lessOf = computed(() => (answer.value?.fewer ?? []).filter((f) => f.could < f.asked));
const said = (f: { could: number; asked: number; name: string }) =>
  f.could ? t("{could} {name} instead of {asked}", f) : t("without the {asked} {name}", f);
const hours = computed(() => answer.value?.bill.hours ?? []);
const costs = computed(() => !!answer.value?.bill.total && !!manner.value.money);
const slackOf = (o?: { slack?: number }) => (o?.slack === undefined ? t("no place") : lasting(o.slack));
</script>

<template>
  <section
    class="answer"
    :class="answer?.verdict"
    :data-verdict="answer?.verdict"
    data-test="promise"
    aria-live="polite"
  >
    <ProblemNote :error="promise.error.value" />
    <p v-if="!answer && !promise.error.value" class="quiet first">
      {{
        promise.busy.value ? $t("Working it out…") : $t("Say how many of what, and by when: the answer stands here.")
      }}
    </p>
    <template v-if="answer">
      <p class="says" :class="{ stale: promise.stale.value }" data-test="promise-says">{{ says }}</p>
      <p v-if="answer.verdict === 'if'" class="quiet">
        {{ $t("With {slack} in hand then.", { slack: lasting(answer.outcome.slack ?? 0) }) }}
      </p>
      <p v-for="m in answer.met" :key="m.material + m.into + m.of" class="met" role="alert" data-test="allergy-met">
        {{ metWords(m) }}
      </p>
      <p v-if="answer.uncompared.length" class="met" data-test="uncompared">
        {{
          $t("No material says whether it holds {what}: ask, and write it on the materials' sheets.", {
            what: answer.uncompared.join(", "),
          })
        }}
      </p>
      <DearNote v-if="promise.looking.value" what="Looking for something better." />
      <PromiseLine v-if="answer.work.length" :answer="answer" :now="studio?.now ?? 0" />

      <div v-if="chance && !plain" class="chance" data-test="promise-chance">
        <b>{{ sure(chance) }}</b>
        <ChanceGrains :chance="chance" />
        <span class="quiet">{{ lateBy(chance) }} {{ hourGives(chance) }}</span>
      </div>

      <ul v-if="answer.verdict === 'not' && answer.searched && (answer.earliest || lessOf.length)" class="others">
        <li v-if="answer.earliest">
          <v-btn
            variant="tonal"
            data-test="take-later"
            @click="
              promise.take();
              emit('later', quarter(answer.earliest));
            "
          >
            {{ $t("All of it by {earliest}", { earliest: times.wall(quarter(answer.earliest)) }) }}
          </v-btn>
        </li>
        <li v-if="lessOf.length">
          <v-btn variant="tonal" data-test="take-fewer" @click="emit('fewer', answer.fewer)">
            {{ $t("By then {fewer}", { fewer: lessOf.map(said).join(", ") }) }}
          </v-btn>
        </li>
      </ul>

      <ul v-if="answer.unplaced.length" class="why">
        <li v-for="u in answer.unplaced.slice(0, 3)" :key="u.task">{{ u.name }}: {{ unplacedWords(u, times.full) }}</li>
      </ul>
      <p v-if="hangs.length" class="hangs">
        Hangs on <b>{{ hangs[0]!.name }}</b>, which waits {{ lasting(hangs[0]!.waitedMinutes) }} for
        {{ waitedFor(hangs[0]!.cause, hangs[0]!.short, hangs[0]!.toOrder) }}.
      </p>
      <template v-if="answer.harms.length">
        <h2 class="lesser">Would be late by it</h2>
        <p v-for="h in answer.harms" :key="h.id" class="harm">
          <b>{{ h.name }}</b> <SafetyWord :outcome="h.is" />
          <span class="quiet">{{ $t("had {slack} slack", { slack: slackOf(h.was) }) }}</span>
        </p>
      </template>

      <div v-if="!plain" class="more">
        <details v-if="answer.buys.length" open>
          <summary>To order</summary>
          <ul>
            <li v-for="b in answer.buys" :key="b.material">
              {{ stockOf(b.short, b.unit, b.name) }}, {{ b.from
              }}<template v-if="b.orderBy !== undefined"> by {{ times.full(b.orderBy) }}</template
              ><template v-if="b.price && manner.money">, {{ money(b.price) }}</template>
            </li>
          </ul>
        </details>
        <details v-if="hours.length">
          <summary>
            Hours <span class="quiet">{{ worked(hours.reduce((sum, h) => sum + h.milliminutes, 0) / 1000) }}</span>
          </summary>
          <ul>
            <li v-for="h in hours" :key="h.person">{{ h.name }}, {{ worked(h.milliminutes / 1000) }}</li>
          </ul>
        </details>
        <details v-if="answer.takes.length">
          <summary>
            Takes slack from
            <span class="quiet">{{ $t("{n} order | {n} orders", answer.takes.length) }}, all in time</span>
          </summary>
          <ul>
            <li v-for="o in answer.takes.slice(0, 12)" :key="o.id">
              {{ o.name }}, {{ $t("{is} left of {was}", { is: slackOf(o.is), was: slackOf(o.was) }) }}
            </li>
          </ul>
        </details>
        <details v-if="costs" data-test="promise-costs">
          <summary>
            Costs <span class="quiet">{{ money(answer.bill.total) }}, asked {{ money(answer.bill.price) }}</span>
          </summary>
          <dl>
            <dt>Hours</dt>
            <dd>{{ money(answer.bill.labour) }}</dd>
            <dt>Materials</dt>
            <dd>{{ money(answer.bill.materialsCost) }}</dd>
            <template v-if="answer.bill.house">
              <dt>The house</dt>
              <dd>{{ money(answer.bill.house) }}</dd>
            </template>
            <template v-if="answer.bill.box || answer.bill.delivery">
              <dt>Box and delivery</dt>
              <dd>{{ money(answer.bill.box + answer.bill.delivery) }}</dd>
            </template>
            <dt class="sum">Together</dt>
            <dd class="sum">{{ money(answer.bill.total) }}</dd>
          </dl>
          <WorkingSheet :workings="[answer.bill.working]" />
          <p v-if="answer.bill.unpriced.length" class="quiet">
            No price is known of {{ answer.bill.unpriced.join(", ") }}.
          </p>
          <p v-if="answer.bill.unrated.length" class="quiet">
            Nobody has said what an hour costs of {{ answer.bill.unrated.join(", ") }}.
          </p>
          <p v-if="answer.bill.fromShelf" class="quiet">
            {{
              $t(
                "{n} piece lies there already and costs nothing here | {n} pieces lie there already and cost nothing here",
                answer.bill.fromShelf,
              )
            }}
          </p>
        </details>
      </div>
    </template>
  </section>
</template>

<style scoped>
.met {
  color: var(--late);
  font-weight: 650;
  margin: 4px 0;
}
.answer {
  --word: var(--leaf);
  border-left: 4px solid var(--word);
  padding: 4px 0 4px 18px;
  min-width: 0;
}
.answer.if {
  --word: var(--dust);
}
.answer.not {
  --word: var(--late);
}
.answer:not([data-verdict]) {
  --word: var(--vein);
}
.says {
  font-family: var(--name);
  font-size: 1.7rem;
  line-height: 1.2;
  margin: 0 0 6px;
  color: var(--word);
}
.says.stale {
  opacity: 0.45;
}
.first {
  font-size: 1.1rem;
}
.others {
  list-style: none;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 10px 0;
}
.others :deep(.v-btn) {
  height: auto;
  min-height: 44px;
  white-space: normal;
  text-align: left;
}
.hangs,
.why {
  margin: 8px 0;
}
.why {
  padding-left: 18px;
}
.harm {
  margin: 2px 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: baseline;
}
.more {
  margin-top: 12px;
  display: grid;
  gap: 6px;
}
summary {
  cursor: pointer;
  font-weight: 650;
}
details ul {
  margin: 4px 0 6px;
  padding-left: 18px;
}
dl {
  display: grid;
  grid-template-columns: max-content max-content;
  gap: 2px 18px;
  margin: 6px 0;
}
dd {
  margin: 0;
  text-align: right;
}
.sum {
  font-weight: 650;
  border-top: 1px solid var(--vein);
}
</style>
