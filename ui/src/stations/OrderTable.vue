<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../api/client";
import { useStudio } from "../api/queries";
import ProblemNote from "../parts/ProblemNote.vue";
import TableText from "../parts/TableText.vue";
import { word } from "../words/said";
import { orderColumns, ordersPasted } from "./orderTable";
import { inWords } from "../words/refusals";
import { placeWords } from "../parts/fields/fields";

/** Orders from a spreadsheet: pasted, looked at one by one, entered all or none. */
const emit = defineEmits<{ close: [] }>();
const { data: studio } = useStudio();
const send = useCommands();
const text = ref("");
const table = computed(() => ordersPasted(text.value, studio.value ?? { flowers: [], colourways: [] }));
const body = computed(() => ({ orders: table.value.orders }));
const view = ref<Schemas["OrderTableView"]>();
watch(text, () => (view.value = undefined));
const look = useMutation({
  mutationFn: () => answered(client.POST("/api/orders/many/preview", { body: body.value })),
  onSuccess: (answer) => (view.value = answer),
});
const take = useMutation({
  mutationFn: () =>
    send(body.value, (header) => answered(client.POST("/api/orders/many", { params: { header }, body: body.value }))),
  onSuccess: () => emit("close"),
});
const wrong = computed(
  () => table.value.unread.length + (view.value?.rows.filter((r) => r.state === "wrong").length ?? 0),
);
const brings = computed(() => view.value?.rows.some((r) => r.state === "new" || r.state === "changed"));
</script>

<template>
  <v-dialog model-value max-width="860" aria-labelledby="order-table" @update:model-value="emit('close')">
    <form class="sheet table" data-test="order-table" @submit.prevent="look.mutate()">
      <h2 id="order-table">Orders from a spreadsheet</h2>
      <p class="quiet">
        Its first line names the columns, any of: {{ Object.values(orderColumns()).join(", ") }}. Further flowers of an
        order stand on lines below it.
      </p>
      <TableText v-model="text" :rows="9" test="orders-text" />
      <p v-if="table.unknown.length && text.trim()" class="word tight">
        Nothing is known of {{ table.unknown.map((u) => `“${u}”`).join(", ") }}: left out.
      </p>
      <ul v-if="view || table.orders.length" class="rows" data-test="orders-rows">
        <li v-for="u in table.unread" :key="`${u.line} ${u.says}`" class="late">Line {{ u.line }}: {{ u.says }}</li>
        <li v-for="(r, i) in view?.rows" :key="i">
          {{ table.orders[i]?.name }}: <b>{{ word(r.state) }}</b>
          <span v-for="p in r.problems" :key="p.place" class="late">
            {{ placeWords(p.place) }} {{ inWords(p.message, p.says) }}</span
          >
        </li>
      </ul>
      <ProblemNote :error="look.error.value ?? take.error.value" />
      <footer>
        <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
        <v-btn
          type="submit"
          variant="tonal"
          data-test="orders-look"
          :disabled="!table.orders.length || look.isPending.value"
        >
          Look at it
        </v-btn>
        <v-btn
          color="primary"
          data-test="orders-take"
          :disabled="!brings || wrong > 0 || !person || take.isPending.value"
          @click="take.mutate()"
        >
          Enter them all
        </v-btn>
      </footer>
      <p class="quiet">They await acceptance of the plan that they make, as any order does.</p>
    </form>
  </v-dialog>
</template>

<style scoped>
.table {
  padding: 22px 26px;
}
.rows {
  list-style: none;
  margin: 8px 0;
  padding: 0;
  max-height: 240px;
  overflow-y: auto;
}
footer {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
  margin-top: 12px;
}
</style>
