<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import type { columnsFor } from "./columns";
import FieldGrid from "../../parts/fields/FieldGrid.vue";
import type { Row } from "../../parts/fields/fields";
import RowsTable from "../../parts/fields/RowsTable.vue";
import type { Recipe, Writing } from "./writing";

/** Spares, lots, yields, forms, what is left over. */
const props = defineProps<{
  w: Writing;
  columns: ReturnType<typeof columnsFor>;
  flaw: (place: string) => string | undefined;
  pages: Schemas["Page"][];
}>();
const r = computed(() => props.w.edited.value!);
const set = (list: keyof Recipe, rows: Row[]) =>
  props.w.edit((x) => Object.assign(x, { [list]: rows.length ? rows : undefined }));
/** Fields of the recipe that are gone from the row are gone from the recipe. */
function lot(row: Row) {
  props.w.edit((x) => {
    const own = x as unknown as Row;
    for (const key of [
      "secondsServe",
      "leastPerLot",
      "mostPerLot",
      "keepInStock",
      "ownColours",
      "build",
      "yield",
      "dries",
    ]) {
      if (row[key] === undefined) delete own[key];
      else own[key] = row[key];
    }
    if (x.yield && !x.yield.gives) x.yield.gives = 2;
    if (x.yield && !x.yield.step) delete x.yield;
    if (x.dries && !x.dries.class) delete x.dries;
    if (x.dries) x.dries.thicknessMicrometres ??= 800;
  });
}
</script>

<template>
  <FieldGrid
    name="spares"
    :row="r.spares as unknown as Row"
    :columns="columns.spares"
    :flaws="(key) => flaw(`spares.${key}`)"
    @row="(row) => w.edit((x) => (x.spares = row as never))"
  />
  <template v-if="r.kind !== 'mix'">
    <h3>Lots</h3>
    <FieldGrid name="lot" :row="r as unknown as Row" :columns="columns.lot" :flaws="flaw" @row="lot" />
    <RowsTable
      name="forms"
      title="Forms that share out a lot"
      :rows="(r.forms ?? []) as unknown as Row[]"
      :columns="columns.forms"
      more="Add a form"
      :fresh="() => ({ name: '', sharePerMille: 500 })"
      :flaws="(i, key) => flaw(`forms[${i}].${key}`)"
      @rows="(rows) => set('forms', rows)"
    />
    <RowsTable
      name="byproducts"
      title="Left over"
      :rows="(r.byproducts ?? []) as unknown as Row[]"
      :columns="columns.byproducts"
      more="Add what is left over"
      :fresh="() => ({ material: '', amount: 1 })"
      :flaws="(i) => flaw(`byproducts[${i}]`)"
      @rows="(rows) => set('byproducts', rows)"
    />
  </template>
</template>

<style scoped>
h3 {
  margin: 14px 0 2px;
}
</style>
