<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import PartDrawing from "../../drawings/PartDrawing.vue";
import Swatch from "../../drawings/Swatch.vue";
import CountFigures from "./CountFigures.vue";
import type { Row } from "./grouping";

/** Parts by size down, colours across. */
const props = defineProps<{ rows: Row[]; orders: Schemas["Named"][] }>();
const emit = defineEmits<{ open: [key: string] }>();
const columns = computed(() => {
  const seen = new Map<string, string>();
  for (const r of props.rows) for (const c of r.cells) seen.set(c.mix, c.colour);
  return [...seen].map(([mix, colour]) => ({ mix, colour }));
});
</script>

<template>
  <div class="scroll">
    <table>
      <thead>
        <tr>
          <td />
          <th v-for="c in columns" :key="c.mix" scope="col">
            <Swatch :colour="c.colour" :size="26" /><br />{{ c.mix }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.name + r.size">
          <th scope="row">
            <PartDrawing :form="r.form" :size="24" :colour="r.cells[0]?.colour" /> {{ r.short }}
            <span v-if="r.size" class="size">{{ r.size }}</span>
          </th>
          <td v-for="column in columns" :key="column.mix">
            <template v-for="cell in r.cells.filter((c) => c.mix === column.mix)" :key="cell.key">
              <b class="mix">{{ cell.mix }}</b>
              <button class="bare cell" :data-test="`cell-${cell.name}-${cell.mix}`" @click="emit('open', cell.key)">
                <CountFigures :cell="cell" :orders="orders" />
              </button>
            </template>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
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
}
thead tr {
  border-bottom: 1px solid var(--ink);
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
tbody tr + tr {
  border-top: 1px solid var(--vein);
}
tbody td {
  vertical-align: top;
}
.cell {
  padding: 6px 10px 7px;
  width: 100%;
  max-width: 240px;
}
.cell:hover {
  background: var(--leaf-wash);
}
.mix {
  display: none;
}
.size {
  display: block;
  margin-left: 30px;
  font-size: 0.8333rem;
  font-weight: 400;
  color: var(--soft);
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
</style>
