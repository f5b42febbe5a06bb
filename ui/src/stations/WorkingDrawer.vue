<script setup lang="ts">
import type { CountCell, Schemas } from "../api/client";
import PartDrawing from "../drawings/PartDrawing.vue";
import Swatch from "../drawings/Swatch.vue";
import { useTimes } from "../format";
import WorkingSheet from "../parts/WorkingSheet.vue";

/** One cell of the count, opened: its working, its lots and whom they serve. */
const props = defineProps<{ cell: CountCell; orders: Schemas["Named"][] }>();
const emit = defineEmits<{ close: [] }>();
const times = useTimes();
const names = (ids: string[]) => ids.map((id) => props.orders.find((o) => o.id === id)?.name ?? "").join(", ");
</script>

<template>
  <v-dialog :model-value="true" max-width="520" @update:model-value="emit('close')">
    <div class="sheet opened" data-test="working">
      <header>
        <PartDrawing :form="cell.form" :colour="cell.colour" :size="56" />
        <div>
          <h2>{{ cell.name }}</h2>
          <span><Swatch :colour="cell.colour" /> {{ cell.mix }}</span>
        </div>
        <div class="grow" />
        <span class="figure">{{ cell.started }}<span class="unit"> to start</span></span>
      </header>
      <p>For {{ names(cell.orders) }}. It can be late from {{ times.full(cell.latestStart) }}.</p>
      <WorkingSheet :workings="cell.workings" />
      <h3>Lots</h3>
      <table class="ledger">
        <thead>
          <tr>
            <th>begin by</th>
            <th class="n">must yield</th>
            <th class="n">started</th>
            <th>state</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in cell.lotList" :key="l.id">
            <td>{{ times.full(l.latestStart) }}</td>
            <td class="n">{{ l.need }}</td>
            <td class="n">{{ l.started }}</td>
            <td>{{ l.inWork ? `in work, ${l.alive} left` : "to begin" }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </v-dialog>
</template>

<style scoped>
.opened {
  padding: 22px 26px;
  max-height: 88vh;
  overflow: auto;
}
header {
  display: flex;
  gap: 14px;
  align-items: center;
}
</style>
