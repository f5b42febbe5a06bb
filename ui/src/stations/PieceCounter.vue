<script setup lang="ts">
import NumberField from "../parts/NumberField.vue";

/** One count with minus and plus, large enough for floury fingers. */
const count = defineModel<number>({ required: true });
const props = defineProps<{ name: string; most: number }>();

/** One more or less, within what there is; what is typed stays as it is, for the bench to refuse. */
function step(by: number) {
  const now = Number.isFinite(count.value) ? count.value : 0;
  count.value = Math.min(props.most, Math.max(0, now + by));
}
</script>

<template>
  <div class="counter">
    <label :for="`count-${name}`">{{ name }}</label>
    <button type="button" :aria-label="`one ${name} less`" @click="step(-1)">−</button>
    <NumberField
      :id="`count-${name}`"
      :model-value="count"
      whole
      :data-test="`count-${name}`"
      @update:model-value="count = $event ?? NaN"
    />
    <button type="button" :aria-label="`one ${name} more`" :data-test="`more-${name}`" @click="step(1)">+</button>
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
  font-size: 18px;
  font-weight: 600;
}
button,
input {
  height: 58px;
  border: 1.5px solid var(--ink);
  background: var(--sheet);
  color: var(--ink);
  font: 640 26px var(--count);
  border-radius: 3px 12px;
  text-align: center;
  min-width: 0;
}
button {
  cursor: pointer;
}
</style>
