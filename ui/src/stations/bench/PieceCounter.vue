<script setup lang="ts">
import { computed } from "vue";
import NumberField from "../../parts/NumberField.vue";

/** One count with minus and plus, large enough for floury fingers. */
const count = defineModel<number>({ required: true });
const props = defineProps<{ name: string; most: number; test?: string; small?: boolean }>();
const key = computed(() => props.test ?? props.name);

/** One more or less, within what there is; what is typed stays as it is, for the bench to refuse. */
function step(by: number) {
  const now = Number.isFinite(count.value) ? count.value : 0;
  count.value = Math.min(props.most, Math.max(0, now + by));
}
</script>

<template>
  <div class="counter" :class="{ little: small }">
    <label :for="`count-${key}`">{{ name }}</label>
    <button type="button" :aria-label="$t('one {name} less', { name })" @click="step(-1)">−</button>
    <NumberField
      :id="`count-${key}`"
      :model-value="count"
      whole
      :data-test="`count-${key}`"
      @update:model-value="count = $event ?? NaN"
    />
    <button type="button" :aria-label="$t('one {name} more', { name })" :data-test="`more-${key}`" @click="step(1)">
      +
    </button>
  </div>
</template>

<style scoped>
.counter {
  display: grid;
  grid-template-columns: 84px 60px 1fr 60px;
  align-items: center;
  gap: 8px;
}
label {
  font-size: 1.2rem;
  font-weight: 600;
}
button,
input {
  height: 58px;
  border: 1.5px solid var(--ink);
  background: var(--sheet);
  color: var(--ink);
  font: 640 1.7333rem var(--count);
  border-radius: 3px 12px;
  text-align: center;
  min-width: 0;
}
input.own {
  width: 100%;
  text-align: center;
}
button {
  cursor: pointer;
}
.little {
  grid-template-columns: minmax(84px, 1fr) 44px 84px 44px;
}
.little label {
  font-size: 1rem;
}
.little button,
.little input {
  height: 44px;
  font-size: 1.3333rem;
}
</style>
