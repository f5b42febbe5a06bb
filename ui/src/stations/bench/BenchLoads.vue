<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed } from "vue";
import { answered, client, type Schemas, useCommands } from "../../api/client";
import { lasting, plain, useTimes } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import { t } from "../../words/said";

/** Machines that this maker sets off or empties soon, or should have. */
const props = defineProps<{ loads: Schemas["LoadView"][]; now: number }>();
const times = useTimes();
const send = useCommands();
const done = useMutation({
  mutationFn: ({ tasks, begins }: Schemas["LoadView"]) => {
    const body = { tasks, begins };
    return send(body, (header) => answered(client.POST("/api/loads", { params: { header }, body })));
  },
});
/** When it is due, of what is soon or was to be done already. */
const due = (at: number) =>
  at < props.now
    ? t("{now} ago", { now: lasting(props.now - at) })
    : at === props.now
      ? t("now")
      : t("in {now}", { now: lasting(at - props.now) });
/** What the studio says of these machines, each once. */
const cautions = computed(() => [...new Set(props.loads.flatMap((l) => l.cautions ?? []))]);
</script>

<template>
  <section v-if="loads.length" class="sheet loads" data-test="loads">
    <div v-for="l in loads" :key="l.machine + l.at + l.begins" :class="{ due: l.at <= now }">
      <span class="at"
        >{{ times.clock(l.at) }} <span class="quiet">{{ due(l.at) }}</span></span
      >
      <p v-if="l.begins">
        Set off <b>{{ l.name }}</b><template v-if="l.setting">, {{ l.setting }}</template
        ><template v-else-if="l.tenthsCelsius">, {{ plain(l.tenthsCelsius / 10) }} °C</template>, with
        {{ l.of.join(", ") }}
      </p>
      <p v-else>
        Take {{ l.of.join(", ") }} out of <b>{{ l.name }}</b>
      </p>
      <v-btn
        :variant="l.at <= now ? 'flat' : 'tonal'"
        :color="l.at <= now ? 'primary' : undefined"
        size="large"
        :disabled="done.isPending.value"
        data-test="set-off"
        @click="done.mutate(l)"
      >
        {{ l.begins ? $t("It is on") : $t("It is out") }}
      </v-btn>
    </div>
    <p v-for="c in cautions" :key="c" class="caution" data-test="machine-caution">{{ c }}</p>
    <p class="caution">It may be hot: use mitts, keep the door clear, and go by the machine's own instructions.</p>
    <ProblemNote :error="done.error.value" />
  </section>
</template>

<style scoped>
.loads {
  padding: 10px 20px;
  margin-bottom: 14px;
}
.loads > div {
  display: flex;
  gap: 18px;
  align-items: center;
  padding: 6px 0;
  font-size: 1.2rem;
}
.loads p {
  flex: 1;
  margin: 0;
}
.loads .caution {
  font-size: 0.9333rem;
  padding: 3px 12px;
  border-left: 4px solid var(--dust);
  background: var(--dust-wash);
}
.due .at {
  color: var(--petal);
  font-weight: 650;
}
.at {
  min-width: 150px;
}
</style>
