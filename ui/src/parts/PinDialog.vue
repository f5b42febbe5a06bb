<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { useMutation } from "@tanstack/vue-query";
import { givesPin, useSeat } from "../api/access";
import { useStudio } from "../api/queries";
import ProblemNote from "./ProblemNote.vue";

/** The PIN of somebody who sits down at a tablet. */
const { data: studio } = useStudio();
const { sit } = useSeat();
const name = computed(() => studio.value?.people.find((p) => p.id === givesPin.value)?.name ?? "");
const pin = ref("");
const go = useMutation({ mutationFn: () => sit(givesPin.value, pin.value), onSuccess: () => (givesPin.value = "") });
watch(givesPin, () => {
  pin.value = "";
  go.reset();
});
</script>

<template>
  <v-dialog :model-value="givesPin !== ''" max-width="360" :aria-label="name" @update:model-value="givesPin = ''">
    <form class="sheet pin" @submit.prevent="go.mutate()">
      <h2>{{ name }}</h2>
      <label>
        PIN
        <input
          v-model="pin"
          type="password"
          inputmode="numeric"
          autocomplete="off"
          maxlength="12"
          autofocus
          data-test="pin-field"
        />
      </label>
      <ProblemNote :error="go.error.value" />
      <v-btn type="submit" size="x-large" color="primary" data-test="pin-go" :disabled="!pin || go.isPending.value">
        Sit down
      </v-btn>
    </form>
  </v-dialog>
</template>

<style scoped>
.pin {
  display: grid;
  gap: 14px;
  padding: 22px;
}
input {
  font: inherit;
  font-size: 1.8rem;
  letter-spacing: 0.3em;
  width: 100%;
  padding: 8px 12px;
  border: 1.5px solid var(--vein);
  border-radius: 3px 10px;
}
</style>
