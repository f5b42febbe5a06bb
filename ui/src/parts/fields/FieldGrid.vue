<script setup lang="ts">
import type { Column } from "./column";
import FieldCell from "./FieldCell.vue";
import { put, type Row } from "./fields";

/** The fields of one thing, with their words before them. */
const props = defineProps<{ name: string; row: Row; columns: Column[]; flaws?: (key: string) => string | undefined }>();
const emit = defineEmits<{ row: [row: Row] }>();

function write(key: string, value: unknown) {
  const row = JSON.parse(JSON.stringify(props.row)) as Row;
  put(row, key, value);
  emit("row", row);
}
</script>

<template>
  <div class="fields">
    <label
      v-for="c in columns.filter((c) => c.when?.(row) ?? true)"
      :key="c.key"
      :style="{ width: c.width ? `${c.width + 14}px` : undefined }"
    >
      <span>{{ c.label }}</span>
      <FieldCell :row="row" :column="c" :name="`${name}-${c.key}`" :flaw="flaws?.(c.key)" @put="write(c.key, $event)" />
    </label>
  </div>
</template>

<style scoped>
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: flex-end;
}
label {
  min-width: 74px;
}
label span:first-child {
  display: block;
  font-size: 0.8rem;
  color: var(--soft);
}
</style>
