<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, useCommands } from "../api/client";
import { useCell, useCount } from "../api/queries";
import PartDrawing from "../drawings/PartDrawing.vue";
import Swatch from "../drawings/Swatch.vue";
import { useTimes } from "../format";
import { sizeWords } from "../words/card";
import ProblemNote from "../parts/ProblemNote.vue";
import StationHead from "../parts/StationHead.vue";
import WorkingDrawer from "./WorkingDrawer.vue";
import { noteWords } from "../words";
import { t } from "../words/said";

/** Whether it is counted as the lead wishes, accepted or not. */
const wished = ref(false);
const { data: count, error } = useCount(wished);
const openedKey = ref<string>();
const { data: opened } = useCell(wished, openedKey);

const pieces = computed(() => count.value?.cells.filter((c) => c.kind !== "mix") ?? []);
const columns = computed(() => {
  const seen = new Map<string, string>();
  for (const c of pieces.value) seen.set(c.mix, c.colour);
  return [...seen].map(([mix, colour]) => ({ mix, colour }));
});
const groups = computed(() => {
  const flowers = [...new Set(pieces.value.flatMap((c) => c.flowers))].sort();
  return flowers.map((flower) => {
    const mine = pieces.value.filter((c) => c.flowers.includes(flower));
    const names = [...new Set(mine.map((c) => c.name))];
    return {
      flower,
      rows: names.map((name) => ({
        name,
        form: mine.find((c) => c.name === name)!.form,
        size: sizeWords(mine.find((c) => c.name === name)!.shape),
        cells: columns.value.map((column) => mine.find((c) => c.name === name && c.mix === column.mix)),
      })),
    };
  });
});
const times = useTimes();
/** The orders of a cell in a word or two. */
function whom(ids: string[]): string {
  const names = ids.map((id) => count.value?.orders.find((o) => o.id === id)?.name ?? "");
  return names.length > 2
    ? t("{names} and {names2} more", { names: names[0], names2: names.length - 1 })
    : names.join(", ");
}
const toMake = computed(() => pieces.value.reduce((sum, c) => sum + c.started, 0));
const shelf = computed(() => pieces.value.reduce((sum, c) => sum + c.fromShelf, 0));

/** Arrow keys walk the matrix. */
function walk(event: KeyboardEvent) {
  const steps: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
  };
  const step = steps[event.key];
  const cell = (event.target as HTMLElement).closest<HTMLElement>("[data-row]");
  if (!step || !cell) return;
  event.preventDefault();
  let row = Number(cell.dataset.row);
  let column = Number(cell.dataset.column);
  for (let tries = 0; tries < 60; tries++) {
    row += step[0];
    column += step[1];
    const next = document.querySelector<HTMLElement>(`[data-row="${row}"][data-column="${column}"]`);
    if (next) return next.focus();
  }
}
let index = 0;
const rowIndex = computed(() => {
  index = 0;
  return new Map(groups.value.flatMap((g) => g.rows.map((r) => [`${g.flower}/${r.name}`, index++] as const)));
});
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
  <div class="station">
    <StationHead
      title="Count-up"
      :says="$t('{toMake} pieces to start, {shelf} taken dry from the shelf', { toMake, shelf })"
    >
      <p class="quiet legend">
        <b>to start</b> of which spare · needed · on the shelf · for whom, and from when it can be late
      </p>
    </StationHead>
    <ProblemNote :error="error ?? spares.error.value" />
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
    <p v-for="n in notes" :key="n" class="remark">{{ n }}</p>
    <p v-if="count && !pieces.length" class="sheet empty">
      Nothing has to be made: enter an order and accept its plan.
    </p>
    <div v-else class="sheet scroll">
      <table @keydown="walk">
        <thead>
          <tr>
            <th />
            <th v-for="c in columns" :key="c.mix" scope="col">
              <Swatch :colour="c.colour" :size="26" /><br />{{ c.mix }}
            </th>
          </tr>
        </thead>
        <tbody v-for="g in groups" :key="g.flower">
          <tr>
            <th class="flower" :colspan="columns.length + 1" scope="rowgroup">{{ g.flower }}</th>
          </tr>
          <tr v-for="r in g.rows" :key="r.name">
            <th scope="row">
              <PartDrawing :form="r.form" :size="24" :colour="r.cells.find(Boolean)?.colour" />
              {{ r.name.replace(`${g.flower} `, "").replace(/^./, (c) => c.toUpperCase()) }}
              <span v-if="r.size" class="size">{{ r.size }}</span>
            </th>
            <td v-for="(cell, i) in r.cells" :key="i">
              <b v-if="cell" class="mix">{{ cell.mix }}</b>
              <button
                v-if="cell"
                class="bare cell"
                :data-test="`cell-${cell.name}-${cell.mix}`"
                :data-row="rowIndex.get(`${g.flower}/${r.name}`)"
                :data-column="i"
                @click="openedKey = cell.key"
              >
                <span class="figure">{{ cell.started }}</span>
                <span v-if="cell.spare" class="spare">{{ cell.spare }} spare</span>
                <span class="quiet">
                  {{ cell.gross }} needed<template v-if="cell.fromShelf"> · {{ cell.fromShelf }} on shelf</template>
                  <template v-if="cell.fromWork"> · {{ cell.fromWork }} in work</template>
                </span>
                <span v-if="cell.orders.length" class="whom"
                  >{{ whom(cell.orders) }}, from {{ times.dayShort(cell.latestStart) }}</span
                >
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
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
.scroll {
  overflow-x: auto;
  padding: 10px 18px 16px;
}
.legend {
  margin: 0;
}
.spares {
  margin: 0 0 8px;
  font-size: 0.8667rem;
}
.spares input {
  width: 64px;
}
table {
  border-collapse: collapse;
}
thead th {
  font-weight: 500;
  font-size: 0.8667rem;
  vertical-align: bottom;
  padding: 4px 10px 8px;
  min-width: 104px;
  text-align: left;
  border-bottom: 1px solid var(--ink);
}
th.flower {
  font-family: var(--name);
  font-weight: 560;
  font-size: 1.1333rem;
  text-align: left;
  padding: 14px 0 2px;
}
th[scope="row"] {
  font-weight: 500;
  text-align: left;
  white-space: nowrap;
  padding-right: 20px;
}
th[scope="row"] svg {
  vertical-align: middle;
  margin-right: 6px;
}
tbody td {
  border-bottom: 1px solid var(--vein);
  vertical-align: top;
}
.cell {
  display: grid;
  grid-template-columns: auto 1fr;
  column-gap: 7px;
  align-items: baseline;
  padding: 6px 10px 7px;
  width: 100%;
}
.mix {
  display: none;
}
/* on paper the matrix is a list: what is nothing is left out, and each figure says of which colour it is */
@media print {
  thead {
    display: none;
  }
  table,
  tbody,
  tr {
    display: block;
  }
  tr {
    display: flex;
    flex-wrap: wrap;
    gap: 0 1.4rem;
  }
  tbody td {
    border: 0;
  }
  td:empty,
  td:not(:has(*)) {
    display: none;
  }
  .mix {
    display: inline;
  }
  .cell {
    padding: 0 0 4px;
  }
}
.cell:hover {
  background: var(--leaf-wash);
}
.cell .quiet {
  grid-column: span 2;
  font-size: 0.8333rem;
  white-space: nowrap;
}
.cell .whom {
  grid-column: span 2;
  font-size: 0.8rem;
  color: var(--soft);
  font-style: italic;
}
.size {
  display: block;
  margin-left: 30px;
  font-size: 0.8333rem;
  font-weight: 400;
  color: var(--soft);
}
.spare {
  font-size: 0.8333rem;
  color: var(--dust);
  font-weight: 650;
  white-space: nowrap;
}
</style>
