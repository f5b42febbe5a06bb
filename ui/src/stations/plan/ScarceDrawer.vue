<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { answered, client, type PlanView, type Schemas } from "../../api/client";
import { lasting } from "../../format";
import DearNote from "../../parts/DearNote.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import SideDrawer from "../../parts/SideDrawer.vue";
import { t } from "../../words/said";

/** What the chains of the orders waited for longest, and what one more of each would give. */
const props = defineProps<{ of: string; plan: PlanView }>();
const emit = defineEmits<{ close: [] }>();
const {
  data: scarce,
  error,
  isPending,
} = useQuery({
  queryKey: ["plan", "scarce", () => props.of],
  queryFn: () => answered(client.GET("/api/plan/scarce", { params: { query: { of: props.of } } })),
});

function more(s: Schemas["ScarceView"]): string {
  switch (s.kind) {
    case "material":
      return t("{name} there now", { name: s.name });
    case "skill":
      return t("one more who can “{name}”", { name: s.name });
    case "place":
    case "machine":
      return t("{n} more slot of {name} | {n} more slots of {name}", { name: s.name }, s.more ?? 0);
  }
  return t("one more {name}", { name: s.name });
}
function gives(s: Schemas["ScarceView"]): string {
  const late = s.weightedLateness - s.withWeightedLateness;
  if (s.stops && s.moved.length) return t("a date to {name}", { name: s.moved.map(name).join(", ") });
  if (late > 0)
    return t("{weightedLateness} % less late", { weightedLateness: Math.round((100 * late) / s.weightedLateness) });
  const slack = s.withWorstSlackMinutes - s.worstSlackMinutes;
  if (slack > 0) return t("{slack} more slack for the tightest", { slack: lasting(slack) });
  return t("nothing for the tightest order");
}
const name = (id: string) => props.plan.orders.find((o) => o.id === id)?.name ?? "";
</script>

<template>
  <SideDrawer title="What is scarce" data-test="scarce" @close="emit('close')">
    <p class="quiet">What the orders' chains waited for longest. Each was planned with one more, not guessed.</p>
    <ProblemNote :error="error" />
    <DearNote v-if="isPending" what="Planning with one more of each…" />
    <p v-else-if="!scarce?.length" class="quiet">No order waits for a person, a place, a tool or a material.</p>
    <dl>
      <template v-for="s in scarce" :key="s.kind + s.id">
        <dt>{{ more(s) }}</dt>
        <dd>
          gives <b>{{ gives(s) }}</b>
          <span class="quiet">
            <template v-if="s.stops"
              >{{ $t("{n} piece of work has | {n} pieces of work have", s.stops) }} no place for want of it</template
            ><template v-else>{{ lasting(s.waitedMinutes) }} were waited for it</template
            ><template v-if="s.moved.length && !s.stops">; earlier: {{ s.moved.map(name).join(", ") }}</template>
          </span>
        </dd>
      </template>
    </dl>
  </SideDrawer>
</template>

<style scoped>
dt {
  font-weight: 650;
  margin-top: 12px;
}
dd {
  margin: 2px 0 0;
}
dd .quiet {
  display: block;
}
</style>
