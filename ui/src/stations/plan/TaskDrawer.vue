<script setup lang="ts">
import { computed } from "vue";
import type { PlanView } from "../../api/client";
import { useTask } from "../../api/queries";
import Swatch from "../../drawings/Swatch.vue";
import WorkGlyph from "../../drawings/WorkGlyph.vue";
import { lasting, massFigure, useTimes } from "../../format";
import { massUnit } from "../../manner";
import ProblemNote from "../../parts/ProblemNote.vue";
import WorkingSheet from "../../parts/WorkingSheet.vue";
import { because } from "./because";
import SideDrawer from "../../parts/SideDrawer.vue";

/** One task of the plan: what it is, how long it takes and why, and what it waited for. */
const props = defineProps<{ task: string; of: string; plan: PlanView; may: boolean }>();
const emit = defineEmits<{
  close: [];
  go: [id: string];
  light: [order: string];
  pin: [];
  unpin: [];
  hand: [id: string];
}>();
const { data: card, error } = useTask(
  () => props.of,
  () => props.task,
);
const times = useTimes();

const who = (id?: string) => props.plan.people.find((p) => p.id === id)?.name;
const orders = computed(() => props.plan.orders.filter((o) => card.value?.orders.includes(o.id)));
const cause = computed(() => props.plan.blocks.find((b) => b.id === card.value?.causedBy));
const open = computed(() => props.may && card.value?.kind === "work" && card.value.state !== "done");
const begins = computed(() => card.value?.resume ?? card.value?.start ?? 0);
</script>

<template>
  <SideDrawer :title="card?.name ?? ''" data-test="task-drawer" @close="emit('close')">
    <template v-if="card" #before><WorkGlyph :glyph="card.glyph" :size="24" /></template>
    <ProblemNote :error="error" />
    <template v-if="card">
      <p><Swatch :colour="card.colour" /> {{ card.of }}</p>
      <p class="figure">
        {{ card.making === "mix" ? massFigure(card.quantity) : card.quantity
        }}<span class="unit"
          >{{ card.making === "mix" ? ` ${massUnit()}` : $t(" pieces") }}
          {{ card.need && card.making !== "mix" ? $t(", {need} needed", { need: card.need }) : "" }}</span
        >
      </p>
      <p>
        {{ who(card.person) ?? $t("Nobody: it waits by itself") }}, {{ times.moment(begins) }} to
        {{ times.moment(card.end) }} <span class="quiet">({{ lasting(card.end - begins) }})</span>
      </p>
      <p v-for="h in card.holds" :key="h.place" class="quiet">
        Holds {{ h.slots }} of {{ plan.places.find((p) => p.id === h.place)?.name }} until {{ times.moment(h.to) }}
      </p>
      <p v-if="card.pin" class="pinned" data-test="pinned">
        Pinned<template v-if="card.pin.person"> to {{ who(card.pin.person) }}</template
        ><template v-if="card.pin.start !== undefined"> at {{ times.moment(card.pin.start) }}</template>
      </p>
      <div v-if="open" class="does">
        <v-btn v-if="card.pin" size="small" variant="outlined" data-test="unpin" @click="emit('unpin')">Let go</v-btn>
        <v-btn v-else size="small" variant="outlined" data-test="pin" @click="emit('pin')">Pin it here</v-btn>
        <v-menu v-if="card.may.length > 1">
          <template #activator="{ props: menu }">
            <v-btn size="small" variant="outlined" data-test="hand" v-bind="menu">Hand to…</v-btn>
          </template>
          <v-list density="compact">
            <v-list-item
              v-for="id in card.may.filter((p) => p !== card?.person)"
              :key="id"
              :data-test="`hand-${who(id)}`"
              @click="emit('hand', id)"
              >{{ who(id) }}</v-list-item
            >
          </v-list>
        </v-menu>
      </div>
      <WorkingSheet v-if="card.working" :workings="[card.working]" />
      <h3>It waited for</h3>
      <p>
        {{ because[card.cause ?? "now"] }}
        <button v-if="cause" class="bare link" @click="emit('go', cause.id)">
          {{ cause.name }}, {{ cause.of }} <span class="quiet">until {{ times.moment(cause.to) }}</span>
        </button>
      </p>
      <h3>It is for</h3>
      <p v-for="o in orders" :key="o.id">
        <button class="bare link" @click="emit('light', o.id)">
          {{ o.name }} <span class="quiet">light up its chain</span>
        </button>
      </p>
      <p v-if="!orders.length" class="quiet">No open order; it goes to the shelf.</p>
    </template>
  </SideDrawer>
</template>

<style scoped>
p {
  margin: 6px 0;
}
h3 {
  margin-top: 16px;
}
.link {
  color: var(--leaf);
  font-weight: 600;
}
.does {
  display: flex;
  gap: 8px;
  margin: 10px 0;
}
.pinned {
  color: var(--petal);
  font-weight: 650;
}
</style>
