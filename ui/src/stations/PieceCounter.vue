<script setup lang="ts">
/** One count with minus and plus, large enough for floury fingers. */
const count = defineModel<number>({ required: true });
const props = defineProps<{ name: string; most: number }>();

function set(to: number) {
  count.value = Math.min(props.most, Math.max(0, Math.round(to) || 0));
}
</script>

<template>
  <div class="counter">
    <label :for="`count-${name}`">{{ name }}</label>
    <button type="button" :aria-label="`one ${name} less`" @click="set(count - 1)">−</button>
    <input
      :id="`count-${name}`"
      :value="count"
      inputmode="numeric"
      :data-test="`count-${name}`"
      @change="set(Number(($event.target as HTMLInputElement).value))"
    />
    <button type="button" :aria-label="`one ${name} more`" :data-test="`more-${name}`" @click="set(count + 1)">
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
