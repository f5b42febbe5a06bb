<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, reactive } from "vue";
import { answered, client, type OrderView, person, useCommands } from "../api/client";
import NumberField from "../parts/NumberField.vue";
import ProblemNote from "../parts/ProblemNote.vue";

/** An order leaves: all that is owed, or as many of each line as are there. */
const props = defineProps<{ order: OrderView }>();
const emit = defineEmits<{ left: [] }>();
const going = reactive<Record<string, number | undefined>>(
  Object.fromEntries(props.order.lines.map((l) => [l.line, l.there])),
);
const all = computed(() => props.order.lines.every((l) => going[l.line] === l.owed));
const read = computed(() => props.order.lines.every((l) => !Number.isNaN(going[l.line])));
const any = computed(() => read.value && props.order.lines.some((l) => (going[l.line] ?? 0) > 0));
const send = useCommands();
const leave = useMutation({
  mutationFn: () =>
    send([props.order.order.id, props.order.version, { ...going }], (header) => {
      const params = { path: { id: props.order.order.id }, header: { ...header, "If-Match": props.order.version } };
      if (all.value) return answered(client.POST("/api/orders/{id}/hand-over", { params }));
      const lines = props.order.lines.map((l) => ({ line: l.line, quantity: going[l.line] ?? 0 }));
      return answered(client.POST("/api/orders/{id}/hand-over-part", { params, body: { lines } }));
    }),
  onSuccess: () => emit("left"),
});
</script>

<template>
  <section class="leaving" data-test="order-leaves">
    <h3>What leaves</h3>
    <p v-for="l in order.lines" :key="l.line">
      <NumberField v-model="going[l.line]" whole :max="l.owed" :data-test="`leaves-${l.name}`" />
      {{ l.name }}
      <span class="quiet">of {{ l.owed }} owed; {{ $t("{n} lies | {n} lie", l.there) }} there</span>
    </p>
    <ProblemNote :error="leave.error.value" />
    <v-btn
      variant="tonal"
      data-test="hand-over"
      title="The flowers are taken off the shelf"
      :disabled="!person || (!any && !all)"
      :loading="leave.isPending.value"
      @click="leave.mutate()"
    >
      {{ all ? $t("The order has left") : $t("This part has left") }}
    </v-btn>
    <span v-if="!all && any" class="quiet"> The rest is still owed, and stays in the plan.</span>
  </section>
</template>

<style scoped>
.leaving {
  margin-top: 14px;
}
p {
  display: flex;
  gap: 10px;
  align-items: center;
  margin: 6px 0;
}
</style>
