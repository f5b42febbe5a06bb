<script setup lang="ts">
import type { Schemas } from "../../api/client";
import PartDrawing from "../../drawings/PartDrawing.vue";
import Swatch from "../../drawings/Swatch.vue";
import CountFigures from "./CountFigures.vue";
import type { Row } from "./grouping";

/** What is to be made, a line each, in as many columns as there is room for. */
defineProps<{ rows: Row[]; orders: Schemas["Named"][] }>();
const emit = defineEmits<{ open: [key: string] }>();
</script>

<template>
  <ul>
    <template v-for="r in rows" :key="r.name + r.size">
      <li v-for="cell in r.cells" :key="cell.key">
        <button class="bare cell" :data-test="`cell-${cell.name}-${cell.mix}`" @click="emit('open', cell.key)">
          <PartDrawing :form="cell.form" :size="30" :colour="cell.colour" />
          <span>
            <b>{{ r.short }}</b> <span v-if="r.size" class="quiet">{{ r.size }}</span><br />
            <span class="quiet"><Swatch :colour="cell.colour" :size="12" /> {{ cell.mix }}</span>
          </span>
          <CountFigures :cell="cell" :orders="orders" />
        </button>
      </li>
    </template>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(370px, 1fr));
  gap: 0 22px;
}
li {
  border-bottom: 1px solid var(--vein);
}
.cell {
  display: grid;
  grid-template-columns: 32px 1fr 1fr;
  gap: 10px;
  align-items: start;
  width: 100%;
  padding: 6px 4px;
}
.cell .quiet {
  white-space: nowrap;
}
.cell:hover {
  background: var(--leaf-wash);
}
@media (max-width: 500px) {
  ul {
    grid-template-columns: 1fr;
  }
}
</style>
