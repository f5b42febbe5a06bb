<script setup lang="ts">
import { computed } from "vue";
import type { Column } from "./column";
import FieldCell from "./FieldCell.vue";
import { put, type Row } from "./fields";

/** A compact table of lines that can be written in, added to, moved and taken from. */
const props = defineProps<{
  name: string;
  title?: string;
  rows: Row[];
  columns: Column[];
  more?: string; // the word for adding a line
  fresh?: () => Row;
  selected?: number;
  label?: (index: number) => string; // a word before each line
  fixed?: boolean; // lines are neither added nor taken away
  flaws?: (index: number, key: string) => string | undefined;
}>();
const emit = defineEmits<{ rows: [rows: Row[]]; choose: [index: number] }>();

/** Columns that no line has a use for are left out. */
const shown = computed(() => props.columns.filter((c) => !c.needed || props.rows.some((row) => c.needed!(row))));
const copy = () => JSON.parse(JSON.stringify(props.rows)) as Row[];
function write(i: number, key: string, value: unknown) {
  const rows = copy();
  put(rows[i]!, key, value);
  emit("rows", rows);
}
function move(i: number, by: number) {
  const rows = copy();
  const [row] = rows.splice(i, 1);
  rows.splice(i + by, 0, row!);
  emit("rows", rows);
}
</script>

<template>
  <section class="rows" :data-test="`table-${name}`">
    <h3 v-if="title">{{ title }}</h3>
    <div v-if="rows.length" class="scroll">
      <table>
        <thead>
          <tr>
            <td v-if="label" />
            <th v-for="c in shown" :key="c.key" :style="{ minWidth: c.width ? `${c.width}px` : undefined }">
              {{ c.label }}
            </th>
            <td v-if="!fixed" class="tools" />
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, i) in rows" :key="i" :class="{ chosen: selected === i }" @focusin="emit('choose', i)">
            <td v-if="label" class="quiet">{{ label(i) }}</td>
            <td v-for="c in shown" :key="c.key">
              <FieldCell
                :row="row"
                :column="c"
                :name="`${name}-${i}-${c.key}`"
                :flaw="flaws?.(i, c.key)"
                @put="write(i, c.key, $event)"
              />
            </td>
            <td v-if="!fixed" class="tools">
              <slot name="row" :row="row" :index="i" />
              <button v-if="i > 0" type="button" class="bare" title="One up" aria-label="One up" @click="move(i, -1)">
                ↑
              </button>
              <button
                type="button"
                class="bare"
                title="Take this line away"
                aria-label="Take this line away"
                @click="
                  emit(
                    'rows',
                    copy().filter((_, j) => j !== i),
                  )
                "
              >
                ✕
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <button
      v-if="fresh && !fixed"
      type="button"
      class="bare add"
      :data-test="`add-${name}`"
      @click="emit('rows', [...copy(), fresh()])"
    >
      {{ more }}
    </button>
  </section>
</template>

<style scoped>
.rows {
  margin-bottom: 12px;
}
h3 {
  margin-bottom: 2px;
}
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 500;
  font-size: 0.8rem;
  color: var(--soft);
  padding: 2px 4px;
  white-space: nowrap;
}
td {
  padding: 1px 4px;
  vertical-align: top;
}
tr.chosen td {
  background: var(--petal-wash);
}
.tools {
  position: sticky;
  right: 0;
  white-space: nowrap;
  color: var(--soft);
  background: var(--sheet);
}
.tools button,
.tools :deep(button) {
  padding: 3px 5px;
}
.tools :deep(button:hover) {
  color: var(--leaf);
}
.add {
  color: var(--leaf);
  font-weight: 650;
  padding: 4px 4px;
}
</style>
