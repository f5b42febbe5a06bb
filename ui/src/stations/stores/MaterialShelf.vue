<script setup lang="ts">
import { computed, ref } from "vue";
import type { Schemas } from "../../api/client";
import { length, stocked, useTimes } from "../../format";
import StockTaking from "./StockTaking.vue";
import ThingDrawer from "./ThingDrawer.vue";

/** Materials: on hand, taken by the plan, free, on the way, and when they run out. */
const props = defineProps<{ stores: Schemas["StoresView"] }>();
const times = useTimes();
const counting = ref(false);
const opened = ref<{ id: string; length: number }>();

const cutOf = (material: string) => props.stores.cut.filter((c) => c.material === material);
const things = computed(() =>
  props.stores.materials.flatMap((m) => [
    { id: m.material, length: 0, name: m.name, unit: m.unit as string, amount: m.onHand },
    ...cutOf(m.material).map((c) => ({
      id: m.material,
      length: c.lengthMicrometres,
      name: `${m.name}, ${length(c.lengthMicrometres)}`,
      unit: "pieces",
      amount: c.number,
    })),
  ]),
);
const current = computed(() =>
  things.value.find((t) => t.id === opened.value?.id && t.length === opened.value?.length),
);
</script>

<template>
  <div class="row">
    <v-btn variant="tonal" data-test="take-stock" @click="counting = true">Count materials</v-btn>
  </div>
  <section class="sheet materials">
    <table class="ledger">
      <thead>
        <tr>
          <th>material</th>
          <th class="n">on hand</th>
          <th class="n">reserved</th>
          <th class="n">free</th>
          <th class="n">coming</th>
          <th>runs out on</th>
        </tr>
      </thead>
      <tbody v-for="m in stores.materials" :key="m.material" :data-test="`material-${m.name}`">
        <tr>
          <td>
            <button class="bare what" @click="opened = { id: m.material, length: 0 }">{{ m.name }}</button>
          </td>
          <td class="n" :class="{ minus: m.onHand < 0 }">
            <b>{{ stocked(m.onHand, m.unit) }}</b>
          </td>
          <td class="n">{{ m.reserved ? stocked(m.reserved, m.unit) : "" }}</td>
          <td class="n">
            <span v-if="m.free < 0" class="word late">{{ stocked(-m.free, m.unit) }} short</span>
            <template v-else>{{ stocked(m.free, m.unit) }}</template>
          </td>
          <td class="n">{{ m.coming ? stocked(m.coming, m.unit) : "" }}</td>
          <td>
            <span v-if="m.runsOut !== undefined" class="word late">{{ times.full(m.runsOut) }}</span>
          </td>
        </tr>
        <tr v-for="c in cutOf(m.material)" :key="c.lengthMicrometres" class="cut">
          <td colspan="6">
            <button class="bare" @click="opened = { id: m.material, length: c.lengthMicrometres }">
              <span class="piece" :style="{ width: `${c.lengthMicrometres / 1500}px` }" /> {{ c.number }} cut to
              {{ length(c.lengthMicrometres) }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
  <ThingDrawer
    v-if="current"
    :id="current.id"
    :key="`${current.id}/${current.length}`"
    :length="current.length"
    :name="current.name"
    :unit="current.unit"
    :amount="current.amount"
    @close="opened = undefined"
  />
  <StockTaking v-if="counting" title="Count materials" :things="things" @close="counting = false" />
</template>

<style scoped>
.row {
  display: flex;
  justify-content: flex-end;
  margin-bottom: 8px;
}
.materials {
  padding: 14px 20px;
}
.what {
  font-weight: 600;
}
.cut td {
  padding: 2px 0 6px 18px;
  font-size: 0.9rem;
}
.piece {
  display: inline-block;
  height: 5px;
  background: var(--wire);
  border-radius: 2px;
  vertical-align: middle;
  margin-right: 8px;
}
.minus {
  color: var(--late);
}
</style>
