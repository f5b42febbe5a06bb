<script setup lang="ts">
import type { OpenedCell, Schemas } from "../api/client";
import PartDrawing from "../drawings/PartDrawing.vue";
import Swatch from "../drawings/Swatch.vue";
import { stocked, useTimes } from "../format";
import ReserveStock from "../parts/ReserveStock.vue";
import WorkingSheet from "../parts/WorkingSheet.vue";
import LotDecisions from "./LotDecisions.vue";

/** One cell of the count, opened: its working, its lots and whom they serve. */
const props = defineProps<{ cell: OpenedCell; orders: Schemas["Named"][] }>();
const emit = defineEmits<{ close: []; decided: [] }>();
const times = useTimes();
const unit = props.cell.kind === "mix" ? "mg" : "pieces";
const names = (ids: string[]) => ids.map((id) => props.orders.find((o) => o.id === id)?.name ?? "").join(", ");
</script>

<template>
  <v-dialog :model-value="true" :aria-label="cell.name" max-width="720" @update:model-value="emit('close')">
    <div class="sheet opened" data-test="working">
      <div class="top">
        <PartDrawing :form="cell.form" :colour="cell.colour" :size="56" />
        <div>
          <h2>{{ cell.name }}</h2>
          <span><Swatch :colour="cell.colour" /> {{ cell.mix }}</span>
        </div>
        <div class="grow" />
        <span class="figure">{{ cell.started }}<span class="unit"> to start</span></span>
      </div>
      <p>For {{ names(cell.orders) }}. It can be late from {{ times.full(cell.latestStart) }}.</p>
      <WorkingSheet :workings="cell.workings" />
      <template v-if="cell.stock.length">
        <h3>On the shelf</h3>
        <div v-for="s in cell.stock" :key="s.id" class="stock">
          <p>
            <b>{{ stocked(s.amount, unit) }}</b> made {{ times.dayShort(s.madeOn)
            }}<template v-if="s.place">, {{ s.place }}</template>
          </p>
          <ReserveStock :stock="s" :unit="unit" :orders="orders" />
        </div>
      </template>
      <h3>Lots</h3>
      <LotDecisions :cell="cell" :orders="orders" @decided="emit('decided')" />
    </div>
  </v-dialog>
</template>

<style scoped>
.stock {
  display: grid;
  grid-template-columns: 200px 1fr;
  border-bottom: 1px solid var(--vein);
  padding: 4px 0;
}
.top {
  display: flex;
  gap: 14px;
  align-items: center;
}
</style>
