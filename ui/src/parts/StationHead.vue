<script setup lang="ts">
import Papa from "papaparse";
import { ref } from "vue";
import { tablesIn } from "./tables";

/** What a station is called and says, and how it goes on paper or into a spreadsheet as it is shown. */
const props = defineProps<{ title: string; says?: string }>();
const head = ref<HTMLElement>();
const print = () => window.print();
function save() {
  const rows = tablesIn(head.value!.closest(".station")!);
  const body = Papa.unparse(rows, { escapeFormulae: true });
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob(["\ufeff", body], { type: "text/csv;charset=utf-8" }));
  link.download = `${props.title}.csv`;
  link.click();
  URL.revokeObjectURL(link.href);
}
</script>

<template>
  <header ref="head" class="station-head">
    <div>
      <h1>{{ title }}</h1>
      <p>{{ says }}</p>
    </div>
    <div class="grow" />
    <span class="ways no-print">
      <button type="button" class="bare add" data-test="on-paper" @click="print">On paper</button>
      <button type="button" class="bare add" data-test="as-csv" @click="save">As CSV</button>
    </span>
    <slot />
  </header>
</template>

<style scoped>
.ways {
  white-space: nowrap;
  display: flex;
  gap: 18px;
}
</style>
