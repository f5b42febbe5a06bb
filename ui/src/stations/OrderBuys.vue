<script setup lang="ts">
import { computed } from "vue";
import { person, type OrderView, type Schemas } from "../api/client";
import { stockOf, useTimes } from "../format";
import ProblemNote from "../parts/ProblemNote.vue";
import SureButton from "../parts/SureButton.vue";
import { useOrdering } from "./stores/ordering";

/** What has to be ordered so that an order can be made, by when, in one touch from its supplier. */
const props = defineProps<{ order: OrderView }>();
const times = useTimes();
const ordering = useOrdering();

const suppliers = computed(() => {
  const all = new Map<string, Schemas["OrderBuy"][]>();
  for (const b of props.order.buys) all.set(b.supplier, [...(all.get(b.supplier) ?? []), b]);
  return [...all.entries()].map(([id, buys]) => ({ id, buys, name: buys[0]!.from, by: first(buys) }));
});
/** The first time by which one of some things has to be ordered. */
function first(buys: Schemas["OrderBuy"][]): number | undefined {
  const times = buys.flatMap((b) => b.orderBy ?? []);
  return times.length ? Math.min(...times) : undefined;
}
const buy = (s: { id: string; buys: Schemas["OrderBuy"][] }) =>
  ordering.mutate({ supplier: s.id, packs: Object.fromEntries(s.buys.map((b) => [b.material, b.packs])) });
</script>

<template>
  <div v-for="s in suppliers" :key="s.id" class="buys" :data-test="`buys-${order.order.name}`">
    <p>
      Order
      <template v-for="(b, i) in s.buys" :key="b.material"
        ><template v-if="i">{{ i === s.buys.length - 1 ? $t(" and ") : ", " }}</template
        ><b>{{ stockOf(b.short, b.unit, b.name) }}</b></template
      >
      <template v-if="s.by !== undefined"> by {{ times.full(s.by) }}</template
      >{{ order.outcome?.late ? $t(": it is late even so.") : $t(", and it is in time.") }}
    </p>
    <RouterLink v-if="s.buys[0]!.shop" class="add" to="/stores?view=To+buy">Buy it at {{ s.name }}</RouterLink>
    <SureButton
      v-else
      variant="tonal"
      size="small"
      :test="`order-from-${s.name}`"
      :disabled="!person || ordering.isPending.value"
      :asks="$t('Send this to {name}?', { name: s.name })"
      :yes="$t('Send it')"
      :no="$t('Not yet')"
      @sure="buy(s)"
    >
      Order from {{ s.name }}
    </SureButton>
    <ProblemNote :error="ordering.error.value" />
  </div>
</template>

<style scoped>
.buys {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  border-left: 3px solid var(--vein);
  padding: 4px 0 4px 10px;
  margin: 2px 0 6px;
}
p {
  flex: 1 1 220px;
  margin: 0;
  font-size: 1rem;
}
</style>
