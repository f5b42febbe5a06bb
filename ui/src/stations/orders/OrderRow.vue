<script setup lang="ts">
import { computed } from "vue";
import type { OrderView, Schemas } from "../../api/client";
import { useStudio } from "../../api/queries";
import PartDrawing from "../../drawings/PartDrawing.vue";
import { useTimes } from "../../format";
import SafetyWord from "../../parts/SafetyWord.vue";
import { sure } from "../../words/chances";
import { waitedFor } from "../plan/because";
import { asksWords } from "./standing";

/** An order as one line: when it leaves, what of, how safe, how far, and what it hangs on. */
const props = defineProps<{ order: OrderView; chance?: Schemas["ChanceView"] }>();
const emit = defineEmits<{ open: [] }>();
const { data: studio } = useStudio();
const times = useTimes();
const shownFlowers = 4;
const flower = (id: string) => studio.value?.flowers.find((f) => f.id === id);
const pieces = computed(() => props.order.order.lines.reduce((sum, l) => sum + l.quantity, 0));
const asks = computed(() => asksWords(props.order, times.value));
const done = computed(() => (props.order.tasksAll ? (100 * props.order.tasksDone) / props.order.tasksAll : 0));
</script>

<template>
  <button type="button" class="bare row" :data-test="`order-${order.order.name}`" @click="emit('open')">
    <span class="when">
      <b>{{ times.wallDay(order.order.leaves) }}</b>
      <span class="quiet">{{ times.wallClock(order.order.leaves) }}</span>
    </span>
    <span class="name">
      <b>{{ order.order.name }}</b>
      <span class="quiet"> {{ order.order.client?.name ?? order.order.occasion }}</span>
      <span v-if="order.order.state === 'quote'" class="word plain">quote only</span>
      <span v-for="a in asks" :key="a" class="ask">{{ a }}</span>
    </span>
    <span class="of">
      <PartDrawing
        v-for="l in order.order.lines.slice(0, shownFlowers)"
        :key="l.id"
        :form="flower(l.recipe)?.form"
        :colour="flower(l.recipe)?.colours[l.colourway]"
        :size="24"
      />
      <span class="quiet">{{ $t("{n} piece | {n} pieces", pieces) }}</span>
    </span>
    <SafetyWord v-if="order.outcome" :outcome="order.outcome" />
    <span v-else class="quiet">{{ order.order.state === "open" ? $t("planned when its time comes") : "" }}</span>
    <span class="hangs quiet">
      <template v-if="chance">{{ sure(chance) }}</template>
      <template v-else-if="order.limit">
        {{ order.limit.name }}, {{ order.limit.of
        }}<template v-if="order.limit.cause && order.limit.cause !== 'now'"
          >:
          {{
            $t("waits for {toOrder}", {
              toOrder: waitedFor(order.limit.cause, order.limit.short, order.limit.toOrder),
            })
          }}</template
        >
      </template>
    </span>
    <span class="done" :title="$t('{tasksDone} of {tasksAll} tasks done', { ...order })">
      <i :style="{ width: `${done}%` }" />
    </span>
  </button>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 128px minmax(170px, 1.3fr) minmax(120px, 0.8fr) 132px minmax(150px, 1.2fr) 60px;
  gap: 14px;
  align-items: center;
  width: 100%;
  min-height: 38px;
  content-visibility: auto;
  contain-intrinsic-size: auto 46px;
  padding: 4px 14px;
  border-bottom: 1px solid var(--vein);
}
.row:hover {
  background: var(--leaf-wash);
}
.when .quiet {
  margin-left: 6px;
}
.when {
  white-space: nowrap;
}
.name {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  align-items: baseline;
}
.ask {
  flex-basis: 100%;
  font-size: 0.8667rem;
  color: var(--late);
}
.of {
  display: flex;
  align-items: center;
  gap: 2px;
}
.of .quiet {
  margin-left: 6px;
}
.hangs {
  overflow: hidden;
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
}
.done {
  height: 4px;
  background: var(--vein);
  border-radius: 2px;
}
.done i {
  display: block;
  height: 100%;
  background: var(--leaf);
  border-radius: 2px;
}
@media (max-width: 980px) {
  .row {
    grid-template-columns: 1fr auto;
    gap: 2px 12px;
    padding: 8px 12px;
    min-height: 56px;
  }
  .hangs,
  .done {
    display: none;
  }
}
</style>
