<script setup lang="ts">
import { computed } from "vue";
import type { PlanView, Schemas } from "../../api/client";
import { lasting, useTimes } from "../../format";
import SafetyWord from "../../parts/SafetyWord.vue";
import { waitedFor } from "./because";
import SideDrawer from "../../parts/SideDrawer.vue";
import { t } from "../../words/said";

/** The chain of an order: from where it begins to the task that sets its date. */
const props = defineProps<{ chain?: Schemas["ChainView"]; order: PlanView["orders"][number]; plan: PlanView }>();
const emit = defineEmits<{ close: []; go: [link: Schemas["LinkView"]] }>();
const times = useTimes();
const links = computed(() => [...(props.chain?.links ?? [])].reverse());
const who = (id?: string) => props.plan.people.find((p) => p.id === id)?.name ?? t("waits");
const long = computed(() => links.value.some((l) => l.end > props.plan.now + 6 * 1440));
/** A time by its weekday, or by its date where there are several such days. */
const said = (minute: number) => (long.value ? times.value.full(minute) : times.value.moment(minute));
/** How the time from its first link to its last is spent. */
const spent = computed(() => {
  const s = props.chain?.spent;
  if (!s || !links.value.length) return "";
  const words = [t("{workMinutes} at benches", { workMinutes: lasting(s.workMinutes) })];
  if (s.liesMinutes > 0) words.push(t("{liesMinutes} drying and resting", { liesMinutes: lasting(s.liesMinutes) }));
  if (s.idleMinutes > 0) words.push(t("{idleMinutes} waiting", { idleMinutes: lasting(s.idleMinutes) }));
  return words.join(", ");
});
</script>

<template>
  <SideDrawer :title="order.name" data-test="chain" @close="emit('close')">
    <p>
      <SafetyWord :outcome="order.outcome" />
      <span v-if="order.outcome.ready !== undefined" class="quiet">
        ready {{ times.full(order.outcome.ready) }}, wanted by {{ times.full(order.outcome.readyBy) }}</span
      >
    </p>
    <h3>What sets its date</h3>
    <p v-if="spent" class="quiet">{{ spent }}.</p>
    <p v-if="chain && !links.length" class="quiet">Nothing is left to do for it.</p>
    <ol>
      <li v-for="l in links" :key="l.task">
        <span v-if="l.waitedMinutes" class="waited"
          >waited {{ lasting(l.waitedMinutes) }} for {{ waitedFor(l.cause, l.short, l.toOrder) }}</span
        >
        <button class="bare" @click="emit('go', l)">
          {{ l.name }}
          <span class="quiet">{{ said(l.begin) }} to {{ said(l.end) }}, {{ who(l.person) }}</span>
        </button>
      </li>
    </ol>
  </SideDrawer>
</template>

<style scoped>
p {
  margin: 4px 0;
}
h3 {
  margin-top: 12px;
}
ol {
  margin: 8px 0 0;
  padding: 0 0 0 14px;
  list-style: none;
  border-left: 3px solid var(--petal);
}
li {
  margin-bottom: 8px;
  font-size: 0.9333rem;
  line-height: 1.3;
}
li button {
  font-weight: 600;
}
li .quiet {
  font-weight: 400;
  display: block;
}
.waited {
  display: block;
  color: var(--tight);
  font-weight: 600;
  font-size: 0.8667rem;
}
</style>
