<script setup lang="ts">
import { useRouteQuery } from "@vueuse/router";
import { useMutation } from "@tanstack/vue-query";
import { refDebounced } from "@vueuse/core";
import { computed, ref } from "vue";
import { answered, client, useCommands } from "../api/client";
import { useCell, useCount, useStudio } from "../api/queries";
import { plain, useTimes } from "../format";
import DaySpan from "../parts/DaySpan.vue";
import FilterBar from "../parts/FilterBar.vue";
import { useGradually } from "../parts/gradually";
import NoteList from "../parts/NoteList.vue";
import ProblemNote from "../parts/ProblemNote.vue";
import StationHead from "../parts/StationHead.vue";
import { walk } from "../parts/walking";
import { noteWords } from "../words";
import { t } from "../words/said";
import CountList from "./count/CountList.vue";
import CountMatrix from "./count/CountMatrix.vue";
import { dense, inRows } from "./count/grouping";
import WorkingDrawer from "./WorkingDrawer.vue";

/** Whether it is counted as the lead wishes, accepted or not. */
const wished = ref(false);
const typed = useRouteQuery("text", "", { mode: "replace" });
const by = useRouteQuery<"flower" | "when">("by", "flower", { mode: "push" });
const days = ref(0);
const soon = refDebounced(typed, 200);
const { data: count, error } = useCount(wished, days, () => soon.value ?? "");
const { data: studio } = useStudio();
const times = useTimes();
const openedKey = ref<string>();
const { data: opened } = useCell(wished, openedKey);

const pieces = computed(() => count.value?.cells.filter((c) => c.kind !== "mix") ?? []);
/** What may be late, and what the lead has decided on. */
const first = computed(() => pieces.value.filter((c) => c.late || c.decided));
const rest = computed(() => pieces.value.filter((c) => !c.late && !c.decided));
const groups = computed(() => {
  if (by.value === "flower") {
    const flowers = [...new Set(rest.value.flatMap((c) => c.flowers))].sort((a, b) => a.localeCompare(b));
    return flowers.map((flower) => {
      const rows = inRows(
        rest.value.filter((c) => c.flowers[0] === flower),
        flower,
      );
      return { name: flower, flower, rows };
    });
  }
  const named = new Map<string, typeof pieces.value>();
  const today = times.value.date(studio.value?.now ?? 0);
  for (const c of rest.value) {
    const date = times.value.date(c.latestStart);
    const name = date <= today ? t("Today") : times.value.day(c.latestStart);
    named.set(name, [...(named.get(name) ?? []), c]);
  }
  return [...named].map(([name, cells]) => ({ name, flower: "", rows: inRows(cells) }));
});
const drawn = useGradually(() => groups.value.length, 3, 3);
const choices = [
  { key: "flower" as const, name: t("By flower") },
  { key: "when" as const, name: t("By when it must begin") },
];
const send = useCommands();
const spares = useMutation({
  mutationFn: (wish: { for: "remaking" | "service"; minutes: number }) =>
    send([wish], (header) => answered(client.POST("/api/count/spares", { params: { header }, body: wish }))),
});
function setSpares(reckoned: string, minutes: number) {
  if (Number.isFinite(minutes)) spares.mutate({ for: reckoned === "service" ? "service" : "remaking", minutes });
}
const chosen = (event: Event) => (event.target as HTMLInputElement | HTMLSelectElement).value;
/** What there is to be said of the count, each once. */
const notes = computed(() => [...new Set(count.value?.notes.map(noteWords))]);
</script>

<template>
  <div class="station" @keydown="walk($event, '.cell')">
    <StationHead
      title="Count-up"
      :says="
        count
          ? $t('{toMake} pieces to start, {shelf} taken dry from the shelf', {
              toMake: plain(count.started),
              shelf: plain(count.fromShelf),
            })
          : ''
      "
    >
      <p class="quiet legend">
        <b>to start</b> of which spare · needed · on the shelf · for whom, and from when it can be late
      </p>
    </StationHead>
    <ProblemNote :error="error ?? spares.error.value" />
    <p v-if="count?.pending" class="remark">
      <button class="bare" :class="{ here: !wished }" data-test="count-accepted" @click="wished = false">
        As it is accepted
      </button>
      ·
      <button class="bare" :class="{ here: wished }" data-test="count-wished" @click="wished = true">
        As you wish it now
      </button>
      <span v-if="wished">
        · the plan in force knows it once you
        <router-link to="/orders" class="add">accept the proposal</router-link></span
      >
    </p>
    <NoteList v-if="notes" :notes="notes" />
    <FilterBar
      v-model:text="typed"
      v-model:show="by"
      :choices="choices"
      :placeholder="$t('A part, flower or colour')"
      test="count"
    >
      <span class="grow" />
      <DaySpan v-model="days" :chosen="count?.days" />
    </FilterBar>
    <p v-if="count && !pieces.length" class="sheet empty">
      {{
        count.later
          ? $t("Nothing has to be begun in these days.")
          : typed
            ? $t("Nothing like that is to be made.")
            : $t("Nothing has to be made: enter an order and accept its plan.")
      }}
    </p>
    <section v-if="first.length && count" class="sheet group" data-test="first">
      <h2>First <span class="quiet">what may be late by now, and what you decided on</span></h2>
      <CountList :rows="inRows(first)" :orders="count.orders" @open="openedKey = $event" />
    </section>
    <template v-for="g in groups.slice(0, drawn)" :key="g.name">
      <section v-if="g.rows.length && count" class="sheet group">
        <h2>{{ g.name }}</h2>
        <CountMatrix
          v-if="g.flower && dense(g.rows)"
          :rows="g.rows"
          :orders="count.orders"
          @open="openedKey = $event"
        />
        <CountList v-else :rows="g.rows" :orders="count.orders" @open="openedKey = $event" />
      </section>
    </template>
    <p v-if="count?.later && pieces.length" class="remark" data-test="later">
      {{ $t("{n} more can wait longer. | {n} more can wait longer.", count.later) }}
    </p>
    <p v-if="count" class="quiet spares">
      Spares that go by breakage are
      <select
        class="own"
        data-test="spares-for"
        aria-label="what spares are reckoned for"
        :value="count.sparesFor"
        @change="setSpares(chosen($event), count.remakeMinutes)"
      >
        <option value="remaking">as cost the least, where more can be made in time</option>
        <option value="service">for the service level of the order</option>
      </select>
      <template v-if="count.sparesFor === 'remaking'">
        · making more costs, beside its setup,
        <input
          class="own"
          data-test="remake-minutes"
          aria-label="minutes that making more costs"
          type="number"
          min="0"
          max="14400"
          :value="count.remakeMinutes"
          @change="setSpares('remaking', Number(chosen($event)))"
        />
        min
      </template>
    </p>
    <WorkingDrawer
      v-if="openedKey && opened && count"
      :cell="opened"
      :orders="count.orders"
      @decided="wished = true"
      @close="openedKey = undefined"
    />
  </div>
</template>

<style scoped>
.legend {
  margin: 0;
}
.spares {
  margin: 18px 0 0;
  font-size: 0.8667rem;
}
.spares input {
  width: 64px;
}
.group {
  padding: 12px 18px 14px;
  margin-bottom: 12px;
}
.group h2 {
  margin-bottom: 4px;
}
.group h2 .quiet {
  font: 400 0.8667rem var(--count);
  margin-left: 8px;
}
.empty {
  padding: 24px;
}
</style>
