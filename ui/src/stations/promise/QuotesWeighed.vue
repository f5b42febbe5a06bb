<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { ref, watch } from "vue";
import { answered, client, type OrderView } from "../../api/client";
import { lasting } from "../../format";
import DearNote from "../../parts/DearNote.vue";
import ProblemNote from "../../parts/ProblemNote.vue";

/** Which of several quotes can be taken on together: each in time, and nobody else late by them. */
const props = defineProps<{ quotes: OrderView[] }>();
const most = 6;
const weighed = ref<string[]>([]);
const weigh = useMutation({
  mutationFn: () => answered(client.POST("/api/promise/which", { body: { quotes: weighed.value } })),
});
watch([weighed, () => props.quotes], () => weigh.reset());
</script>

<template>
  <fieldset>
    <legend>Which of these?</legend>
    <label v-for="q in quotes" :key="q.order.id">
      <input
        v-model="weighed"
        type="checkbox"
        :value="q.order.id"
        :disabled="weighed.length >= most && !weighed.includes(q.order.id)"
        :data-test="`weigh-${q.order.name}`"
      />
      {{ q.order.name }}
    </label>
    <v-btn
      variant="tonal"
      data-test="weigh"
      :disabled="weighed.length < 2"
      :loading="weigh.isPending.value"
      @click="weigh.mutate()"
    >
      Weigh them against each other
    </v-btn>
    <DearNote v-if="weigh.isPending.value" what="Planning them together." />
    <ProblemNote :error="weigh.error.value" />
    <p v-if="weigh.data.value && !weigh.data.value.length" class="quiet">None of them can be kept as it is asked.</p>
    <ul v-if="weigh.data.value?.length" data-test="weighed">
      <li v-for="s in weigh.data.value" :key="s.orders.join()">
        <b>{{ s.names.join($t(" and ")) }}</b>
        <span class="quiet">
          {{ $t("{slack} in hand at the least", { slack: lasting(s.leastSlackMinutes) })
          }}<template v-if="s.buys">, {{ $t("if what is short is ordered") }}</template>
        </span>
      </li>
    </ul>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  border-top: 1px solid var(--vein);
  margin: 14px 0 0;
  padding: 10px 0 0;
}
legend {
  font-weight: 650;
  padding: 0;
}
label {
  display: block;
  padding: 6px 0;
}
ul {
  padding: 0;
  list-style: none;
}
li span {
  display: block;
}
</style>
