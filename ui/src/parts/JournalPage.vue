<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { ref } from "vue";
import { answered, client, person, type Schemas } from "../api/client";
import { useJournal, useMayUndo, useUndo } from "../api/queries";
import { length, stocked, useTimes } from "../format";
import { word } from "../words/said";
import { placeWords, valueWords } from "./fields/fields";
import HistoryPages from "./HistoryPages.vue";
import ProblemNote from "./ProblemNote.vue";
import StationHead from "./StationHead.vue";

/** The journal: who did what and when, and of each line what was before and is after it. */
const always = ref(true);
const { sought, lines: entries, more, busy, error, earlier } = useJournal(always);
const times = useTimes();
const undo = useUndo();
const mayUndo = useMayUndo();
const opened = ref<number>();
const { data: line, error: lineError } = useQuery({
  queryKey: ["journal", "line", opened],
  queryFn: () => answered(client.GET("/api/journal/{n}", { params: { path: { n: opened.value! } } })),
  enabled: () => opened.value !== undefined,
});

/** A value in a person's words and units; what is a moment, as one. */
function value(place: string, kept: string | undefined): string {
  const when = /(^|\.)(at|start|end|from|to|madeOn|useBy|due|opens|expected|ordered)$/.test(place);
  return when && kept && /^\d+$/.test(kept) ? times.value.full(Number(kept)) : valueWords(place, kept);
}
const amount = (m: Schemas["Movement"]) => (m.amount > 0 ? "+" : "−") + stocked(Math.abs(m.amount), m.unit ?? "pieces");
</script>

<template>
  <div class="station">
    <StationHead title="Journal" says="Who did what, and when?" />
    <ProblemNote :error="undo.error.value ?? error" />
    <HistoryPages
      v-model="sought"
      test="journal-page"
      :number="entries.length"
      :more="more"
      :busy="busy"
      @earlier="earlier"
    >
      <ol class="sheet">
        <li v-for="e in entries" :key="e.n" :class="{ undone: e.undone }">
          <button
            class="bare line"
            :aria-expanded="opened === e.n"
            :data-test="`line-${e.n}`"
            @click="opened = opened === e.n ? undefined : e.n"
          >
            <span class="quiet">{{ times.full(e.at) }}</span>
            <span class="what">{{ e.summary }}</span>
            <b>{{ e.person }}</b>
          </button>
          <div v-if="opened === e.n" class="within" data-test="line-opened">
            <ProblemNote :error="lineError" />
            <template v-if="line && line.n === e.n">
              <table v-for="(thing, i) in line.touched" :key="i" class="ledger">
                <caption>
                  <b>{{ thing.name || word(thing.thing) }}</b>
                  <span class="quiet"> {{ word(thing.thing) }}, {{ word(thing.state) }}</span>
                </caption>
                <thead v-if="thing.changes.length">
                  <tr>
                    <th>what</th>
                    <th>before</th>
                    <th>after</th>
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="c in thing.changes" :key="c.place">
                    <td>{{ placeWords(c.place) }}</td>
                    <td>{{ value(c.place, c.was) }}</td>
                    <td>{{ value(c.place, c.is) }}</td>
                  </tr>
                </tbody>
                <tfoot v-if="thing.more">
                  <tr>
                    <td colspan="3" class="quiet">
                      and {{ $t("{n} further difference | {n} further differences", thing.more) }}
                    </td>
                  </tr>
                </tfoot>
              </table>
              <ul v-if="line.moved.length" class="moved">
                <li v-for="(m, i) in line.moved" :key="i">
                  {{ m.name }}<template v-if="m.lengthMicrometres">, {{ length(m.lengthMicrometres) }}</template
                  >: {{ amount(m) }} <span class="quiet">{{ word(m.movement) }}</span>
                </li>
              </ul>
              <p v-if="!line.touched.length && !line.moved.length" class="quiet">It changed nothing that is kept.</p>
              <v-btn
                v-if="mayUndo(e)"
                variant="tonal"
                size="small"
                :disabled="!person || undo.isPending.value"
                :data-test="`page-undo-${e.n}`"
                @click="undo.mutate(e.n)"
              >
                Take it back
              </v-btn>
            </template>
          </div>
        </li>
      </ol>
    </HistoryPages>
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 12px 0;
  padding: 6px 20px;
}
ol > li {
  border-bottom: 1px solid var(--vein);
}
.line {
  display: grid;
  grid-template-columns: 150px 1fr auto;
  gap: 14px;
  width: 100%;
  min-height: 40px;
  align-items: center;
  text-align: left;
}
.undone .what {
  text-decoration: line-through;
  color: var(--soft);
}
.within {
  padding: 4px 0 14px 164px;
}
caption {
  text-align: left;
  padding: 6px 0;
}
.moved {
  padding-left: 18px;
}
</style>
