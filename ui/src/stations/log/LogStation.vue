<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, person, useCommands } from "../../api/client";
import { useClosedLots, useFalls, useLog, useRemarks } from "../../api/queries";
import RecordChart from "../../drawings/RecordChart.vue";
import { lasting, stocked, useTimes } from "../../format";
import HistoryPages from "../../parts/HistoryPages.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import StationHead from "../../parts/StationHead.vue";
import { fellBecause, fellBy } from "../../words/falls";
import ProposalCard from "./ProposalCard.vue";
import { about, rests, sure, valued } from "./words";
import { t } from "../../words/said";

const { data: log, error } = useLog();
const { data: falls } = useFalls();
const { data: remarks } = useRemarks();
const history = ref(false);
const { sought, lines: lots, more, busy, earlier } = useClosedLots(history);
const times = useTimes();
const send = useCommands();
const kinds = [
  { kind: "class", name: t("Drying") },
  { kind: "step", name: t("Steps") },
  { kind: "pace", name: t("People") },
  { kind: "breakage", name: t("Breakage") },
] as const;
const kind = ref<(typeof kinds)[number]["kind"]>("class");
const proposals = computed(() => log.value?.records.filter((r) => r.proposes) ?? []);
const shown = computed(() => log.value?.records.filter((r) => r.kind === kind.value && !r.proposes) ?? []);
const of = (k: string) => log.value?.records.filter((r) => r.kind === k).length ?? 0;

const percentile = useMutation({
  mutationFn: (wish: { class?: string; percentile: number }) =>
    send([wish], (header) => answered(client.POST("/api/log/percentile", { params: { header }, body: wish }))),
});
const choices = [50, 65, 80, 90, 95];
const number = (event: Event) => Number((event.target as HTMLSelectElement).value);
</script>

<template>
  <div class="station">
    <StationHead
      title="Log"
      :says="
        proposals.length
          ? $t(
              '{n} standard is clearly other than what was recorded | {n} standards are clearly other than what was recorded',
              proposals.length,
            )
          : $t('Nothing recorded is clearly other than its standard')
      "
    >
      <p v-if="log" class="quiet">since {{ times.dayShort(log.since) }}</p>
    </StationHead>
    <ProblemNote :error="error ?? percentile.error.value" />
    <template v-if="log">
      <section class="proposals">
        <ProposalCard v-for="r in proposals" :key="r.key" :record="r" :may="person !== ''" />
      </section>
      <nav>
        <button
          v-for="k in kinds"
          :key="k.kind"
          class="bare"
          :class="{ here: kind === k.kind }"
          :data-test="`log-${k.kind}`"
          @click="kind = k.kind"
        >
          {{ k.name }} <span class="quiet">{{ of(k.kind) }}</span>
        </button>
      </nav>
      <section v-if="kind === 'class'" class="sheet planned">
        <p>
          Waits are planned so that
          <select
            :aria-label="$t('of a hundred pieces')"
            class="own"
            data-test="percentile"
            :value="log.percentile"
            @change="percentile.mutate({ percentile: number($event) })"
          >
            <option v-for="c in choices" :key="c" :value="c">{{ c }}</option>
          </select>
          of a hundred pieces are there, unless said otherwise:
        </p>
        <label v-for="c in log.classes" :key="c.id">
          {{ c.name }}
          <select
            :aria-label="$t('of a hundred pieces')"
            class="own"
            :value="c.percentile ?? log.percentile"
            @change="percentile.mutate({ class: c.id, percentile: number($event) })"
          >
            <option v-for="p in choices" :key="p" :value="p">{{ p }}</option>
          </select>
        </label>
      </section>
      <p v-if="!shown.length" class="sheet empty">
        Nothing else is recorded of this yet. What is finished at the bench and found by touch in the drying room is
        weighed here.
      </p>
      <table v-else class="ledger sheet">
        <thead>
          <tr>
            <th>what</th>
            <th class="n">standard</th>
            <th class="n">recorded</th>
            <th>how sure</th>
            <th>findings</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in shown" :key="r.key">
            <td>
              {{ about(r) }}
              <span v-if="r.refused" class="word plain">kept by choice</span>
            </td>
            <td class="n">{{ valued(r, r.standard) }}</td>
            <td class="n">
              <b>{{ valued(r, r.found) }}</b>
            </td>
            <td class="quiet">{{ rests(r) }}, {{ sure(r) }}</td>
            <td><RecordChart :record="r" /></td>
          </tr>
        </tbody>
      </table>
      <details v-if="falls?.length" class="sheet closed" data-test="falls">
        <summary>Orders that lost slack, and why</summary>
        <table class="ledger">
          <tbody>
            <tr v-for="(f, i) in falls" :key="i">
              <td>{{ times.full(f.at) }}</td>
              <td>
                <b>{{ f.name || $t("an order that is over") }}</b> {{ fellBy(f) }}
              </td>
              <td class="quiet">{{ fellBecause(f) }}</td>
            </tr>
          </tbody>
        </table>
      </details>
      <details v-if="remarks?.length" class="sheet closed" data-test="remarks">
        <summary>Not as it should be: what was said at the benches</summary>
        <table class="ledger">
          <tbody>
            <tr v-for="(r, i) in remarks" :key="i">
              <td>{{ times.full(r.at) }}</td>
              <td>
                <b>{{ r.of }}</b>, {{ r.doing }}
              </td>
              <td>
                {{ r.says }}
                <a v-if="r.picture" :href="`/api/book/pictures/${r.picture}`" target="_blank">the photo</a>
              </td>
              <td class="quiet">{{ r.who }}</td>
            </tr>
          </tbody>
        </table>
      </details>
      <details
        class="sheet closed"
        data-test="closed-lots"
        @toggle="history = ($event.target as HTMLDetailsElement).open"
      >
        <summary>Lots that are made and used up</summary>
        <HistoryPages v-model="sought" test="closed" :number="lots.length" :more="more" :busy="busy" @earlier="earlier">
          <table class="ledger">
            <thead>
              <tr>
                <th>finished</th>
                <th>what</th>
                <th class="n">started</th>
                <th class="n">good</th>
                <th class="n">lost</th>
                <th class="n">at hand</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="l in lots" :key="l.id">
                <td>{{ times.full(l.ended) }}</td>
                <td>{{ l.name }}{{ l.variant ? `, ${l.variant}` : "" }}</td>
                <td class="n">{{ l.good + l.lost ? l.started : stocked(l.started, "mg") }}</td>
                <td class="n">{{ l.good + l.lost ? l.good : "" }}</td>
                <td class="n">{{ l.good + l.lost ? l.lost : "" }}</td>
                <td class="n">{{ lasting(l.minutes) }}</td>
              </tr>
            </tbody>
          </table>
        </HistoryPages>
      </details>
    </template>
  </div>
</template>

<style scoped>
.proposals {
  display: grid;
  gap: 10px;
  margin-bottom: 18px;
}
nav {
  display: flex;
  gap: 22px;
  margin-bottom: 12px;
}
nav button {
  padding: 6px 0;
  font-size: 1.0667rem;
}
.closed {
  padding: 12px 18px;
  margin-top: 18px;
}
.planned {
  padding: 10px 18px;
  margin-bottom: 12px;
}
.planned label {
  margin-right: 22px;
}
table.sheet td:first-child,
table.sheet th:first-child {
  padding-left: 18px;
}
</style>
