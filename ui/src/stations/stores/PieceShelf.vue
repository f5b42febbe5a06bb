<script setup lang="ts">
import { computed, ref } from "vue";
import type { Schemas } from "../../api/client";
import PartDrawing from "../../drawings/PartDrawing.vue";
import Swatch from "../../drawings/Swatch.vue";
import { lasting, stocked, useTimes } from "../../format";
import ReserveStock from "../../parts/ReserveStock.vue";
import StockTaking from "./StockTaking.vue";
import ThingDrawer from "./ThingDrawer.vue";
import { t } from "../../words/said";

/** What lies dry, half made or mixed: where, since when, until when, and for whom. */
const props = defineProps<{ stores: Schemas["StoresView"] }>();
const times = useTimes();
const opened = ref<Schemas["StockRow"]>();
const counting = ref(false);

const groups = computed(() => {
  const of = (test: (s: Schemas["StockRow"]) => boolean) => props.stores.shelf.filter(test);
  return [
    { name: t("Pieces"), rows: of((s) => s.kind !== "mix" && !s.reached) },
    { name: t("Half made"), rows: of((s) => s.kind !== "mix" && !!s.reached) },
    { name: t("Mixes"), rows: of((s) => s.kind === "mix") },
  ].filter((g) => g.rows.length);
});
const unit = (s: Schemas["StockRow"]) => (s.kind === "mix" ? "mg" : "pieces");
const kept: Record<string, string> = { board: t("on the board"), wrapped: t("wrapped"), cold: t("in the cold") };
const reserved = (s: Schemas["StockRow"]) => (s.reserved ?? []).reduce((sum, c) => sum + c.quantity, 0);
/** Share of a bar, out of the whole lot. */
const share = (part: number, s: Schemas["StockRow"]) =>
  `${(100 * Math.max(0, part)) / Math.max(1, s.amount, reserved(s))}%`;
const things = computed(() =>
  props.stores.shelf.map((s) => ({
    id: s.id,
    length: 0,
    name: `${s.name}, ${s.mix}${s.place ? `, ${s.place}` : ""}`,
    unit: unit(s),
    amount: s.amount,
  })),
);
const current = computed(() => props.stores.shelf.find((s) => s.id === opened.value?.id));
</script>

<template>
  <div class="row">
    <p class="quiet">Bars are what there is: <span class="key held" /> for an order, <span class="key free" /> free.</p>
    <v-btn variant="tonal" data-test="take-stock" @click="counting = true">Count the shelf</v-btn>
  </div>
  <p v-if="!groups.length" class="sheet empty">Nothing lies on the shelf: finish a lot, or make some ahead.</p>
  <section v-for="g in groups" :key="g.name" class="sheet shelf">
    <h2>{{ g.name }}</h2>
    <table class="ledger">
      <thead>
        <tr>
          <th>what</th>
          <th class="n">there</th>
          <td class="bar" />
          <th class="n">reserved</th>
          <th class="n">free</th>
          <th>made</th>
          <th>keeps until</th>
          <th>lies in</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in g.rows" :key="s.id" :data-test="`stock-${s.name}`">
          <td>
            <button class="bare what" @click="opened = s">
              <PartDrawing v-if="s.kind !== 'mix'" :form="s.form" :colour="s.colour" :size="26" />
              <Swatch v-else :colour="s.colour" :size="20" />
              <span
                >{{ s.name }} <span class="quiet">{{ s.kind === "mix" ? "" : s.mix }}</span>
                <span v-if="s.step" class="quiet"> · as far as “{{ s.step }}”</span>
                <span v-if="s.quality === 'second'" class="word tight">second</span></span
              >
            </button>
          </td>
          <td class="n" :class="{ minus: s.amount < 0 }">
            <b>{{ stocked(s.amount, unit(s)) }}</b>
          </td>
          <td class="bar">
            <span class="held" :style="{ width: share(reserved(s), s) }" /><span
              class="free"
              :style="{ width: share(s.free, s) }"
            />
          </td>
          <td class="n">{{ reserved(s) ? stocked(reserved(s), unit(s)) : "" }}</td>
          <td class="n">{{ stocked(s.free, unit(s)) }}</td>
          <td>
            {{ times.dayShort(s.madeOn) }} <span class="quiet">{{ lasting(stores.now - s.madeOn) }} ago</span>
          </td>
          <td>
            <template v-if="s.useBy !== undefined">
              <span :class="s.useBy < stores.now ? 'word late' : s.useBy < stores.now + 2880 ? 'word tight' : ''">{{
                times.full(s.useBy)
              }}</span>
            </template>
            <span v-else class="quiet">dry</span>
          </td>
          <td>
            {{ s.place }} <span v-if="s.kept" class="quiet">{{ kept[s.kept] }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
  <ThingDrawer
    v-if="current"
    :id="current.id"
    :length="0"
    :name="current.name"
    :unit="unit(current)"
    :amount="current.amount"
    :stock="current"
    @close="opened = undefined"
  >
    <h3>For whom</h3>
    <ReserveStock :stock="current" :unit="unit(current)" :orders="stores.orders" />
  </ThingDrawer>
  <StockTaking v-if="counting" title="Count the shelf" :things="things" @close="counting = false" />
</template>

<style scoped>
.row {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-bottom: 8px;
}
.shelf {
  padding: 14px 20px;
  margin-bottom: 14px;
}
.what {
  display: inline-flex;
  gap: 9px;
  align-items: center;
  font-weight: 600;
}
.shelf table {
  table-layout: fixed;
}
.shelf th:first-child {
  width: 31%;
}
.shelf th.n {
  width: 70px;
}
.shelf th:nth-child(6) {
  width: 190px;
}
.shelf th.bar {
  width: 150px;
}
.what .word {
  margin-left: 10px;
}
.shelf td {
  vertical-align: middle;
}
td.bar {
  width: 150px;
  padding-right: 6px;
}
td.bar span {
  display: inline-block;
  height: 11px;
}
.key {
  display: inline-block;
  width: 22px;
  height: 10px;
}
.held {
  background: var(--petal);
}
.free {
  background: var(--leaf);
  opacity: 0.55;
}
.minus {
  color: var(--late);
}
</style>
