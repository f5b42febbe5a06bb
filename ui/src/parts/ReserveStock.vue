<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { ref } from "vue";
import { answered, client, type Schemas, useCommands } from "../api/client";
import { stocked } from "../format";
import NumberField from "./NumberField.vue";
import ProblemNote from "./ProblemNote.vue";
import { t } from "../words/said";

/** Who a shelf lot is for: each order's share, what is kept back, and what is free. */
const props = defineProps<{
  stock: { id: string; amount: number; reserved?: Schemas["Claim"][] | null };
  unit: string;
  orders: Schemas["Named"][];
}>();
const send = useCommands();
const order = ref("");
const quantity = ref(0);

const reserve = useMutation({
  mutationFn: (wish: { order: string; quantity: number }) =>
    send([props.stock.id, wish], (header) =>
      answered(
        client.POST("/api/stock/{stock}/reserve", { params: { header, path: { stock: props.stock.id } }, body: wish }),
      ),
    ),
});
const name = (id?: string) =>
  id ? (props.orders.find((o) => o.id === id)?.name ?? t("an order not accepted yet")) : t("kept back");
const scale = () => (props.unit === "mg" ? 1000 : 1);
</script>

<template>
  <div class="reserve">
    <ul>
      <li v-for="c in stock.reserved ?? []" :key="c.order ?? ''">
        <b>{{ stocked(c.quantity, unit) }}</b> {{ name(c.order) }}
        <button
          class="bare add"
          :data-test="`give-back-${name(c.order)}`"
          @click="reserve.mutate({ order: c.order ?? '', quantity: 0 })"
        >
          give back
        </button>
      </li>
    </ul>
    <form @submit.prevent="reserve.mutate({ order, quantity: Math.round(quantity * scale()) })">
      <NumberField v-model="quantity" aria-label="how many" data-test="reserve-quantity" />
      <span v-if="unit === 'mg'">g</span>
      <select class="own" v-model="order" aria-label="for whom" data-test="reserve-order">
        <option value="">keep back</option>
        <option v-for="o in orders" :key="o.id" :value="o.id">for {{ o.name }}</option>
      </select>
      <v-btn type="submit" variant="tonal" size="small" data-test="reserve-go">Reserve</v-btn>
    </form>
    <ProblemNote :error="reserve.error.value" />
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 6px;
  padding: 0;
}
form {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
