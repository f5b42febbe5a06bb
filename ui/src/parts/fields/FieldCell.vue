<script setup lang="ts">
import { computed, ref } from "vue";
import type { Column } from "./column";
import { at, kept, type Row, shown, unitOf } from "./fields";

/** One field of a line: written as people say it, kept as the core counts it. */
const props = defineProps<{ row: Row; column: Column; name: string; flaw?: string }>();
const emit = defineEmits<{ put: [value: unknown] }>();

const value = computed(() => at(props.row, props.column.key));
const active = computed(() => props.column.when?.(props.row) ?? true);
const options = computed(() => {
  const given = props.column.options ?? [];
  const all = typeof given === "function" ? given(props.row) : given;
  const now = value.value as string | undefined;
  return now && !all.some((o) => o.value === now) ? [...all, { title: now, value: now }] : all;
});
/** What is being typed stays as it is typed; every key counts at once. */
const typing = ref<string>();
const text = computed(() => typing.value ?? shown(props.column, value.value));
function type(event: Event) {
  typing.value = written(event);
  emit("put", kept(props.column, typing.value));
}
const written = (event: Event) => (event.target as HTMLInputElement).value;
</script>

<template>
  <span v-if="!active" class="off">·</span>
  <input
    v-else-if="column.kind === 'flag'"
    type="checkbox"
    :name="name"
    :aria-label="column.label"
    :checked="!!value"
    @change="emit('put', ($event.target as HTMLInputElement).checked || undefined)"
  />
  <input
    v-else-if="column.kind === 'colour'"
    type="color"
    :name="name"
    :aria-label="column.label"
    :value="value"
    @change="emit('put', written($event))"
  />
  <select
    v-else-if="column.kind === 'choice'"
    :name="name"
    :aria-label="column.label"
    :class="{ flawed: flaw, empty: !value }"
    :aria-invalid="!!flaw || undefined"
    :value="value ?? ''"
    @change="emit('put', written($event) || undefined)"
  >
    <option v-if="column.blank !== undefined || !value" value="">{{ column.blank ?? $t("choose…") }}</option>
    <option v-for="o in options" :key="o.value" :value="o.value">{{ o.title }}</option>
  </select>
  <textarea
    v-else-if="['long', 'list', 'mistakes'].includes(column.kind)"
    :name="name"
    :aria-label="column.label"
    rows="2"
    :class="{ flawed: flaw }"
    :aria-invalid="!!flaw || undefined"
    :value="text"
    @input="type"
    @blur="typing = undefined"
  />
  <span v-else class="with-unit">
    <input
      :type="column.input ?? 'text'"
      :list="column.suggest ? `${name}-usual` : undefined"
      :name="name"
      :aria-label="column.label"
      :inputmode="column.kind === 'text' ? 'text' : 'decimal'"
      :class="{ flawed: flaw, figure: column.kind !== 'text' }"
      :aria-invalid="!!flaw || undefined"
      :placeholder="column.blank"
      :value="text"
      @input="type"
      @blur="typing = undefined"
    />
    <datalist v-if="column.suggest" :id="`${name}-usual`">
      <option v-for="s in column.suggest" :key="s" :value="s" />
    </datalist>
    <i v-if="unitOf(column) && value !== undefined && value !== null">{{ unitOf(column) }}</i>
  </span>
  <small v-if="active && flaw" class="flaw" role="alert">{{ flaw }}</small>
</template>

<style scoped>
input:not([type="checkbox"], [type="color"]),
select,
textarea {
  font: inherit;
  font-size: 0.9333rem;
  color: var(--ink);
  width: 100%;
  min-height: 28px;
  padding: 2px 5px;
  border: 1px solid transparent;
  border-bottom-color: var(--vein);
  background: transparent;
  border-radius: 2px 6px 2px 6px;
}
select {
  appearance: none;
  text-overflow: ellipsis;
}
textarea {
  resize: vertical;
}
select.empty {
  color: var(--soft);
}
input:hover,
select:hover,
textarea:hover {
  border-color: var(--vein);
  background: var(--marble);
}
input:focus,
select:focus,
textarea:focus {
  border-color: var(--petal);
  background: var(--field);
  outline: none;
}
.flawed {
  border-color: var(--late) !important;
  background: var(--petal-wash) !important;
}
.flaw {
  display: block;
  max-width: 16rem;
  white-space: normal;
  color: var(--late);
}
.figure {
  font-variant-numeric: tabular-nums;
  text-align: right;
}
.with-unit {
  display: flex;
  align-items: baseline;
  gap: 3px;
}
.with-unit i {
  font-style: normal;
  font-size: 0.7667rem;
  color: var(--soft);
}
.off {
  color: var(--vein);
}
</style>
