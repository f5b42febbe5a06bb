<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { ref } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import { lasting, useTimes } from "../../format";
import NumberField from "../../parts/NumberField.vue";
import ProblemNote from "../../parts/ProblemNote.vue";

/** Timers that were started by hand. */
defineProps<{ timers: Schemas["TimerView"][]; now: number }>();
const times = useTimes();
const send = useCommands();
const name = ref("");
const minutes = ref(10);
const start = useMutation({
  mutationFn: () =>
    send([name.value, minutes.value], (header) =>
      answered(
        client.POST("/api/timers", { params: { header }, body: { name: name.value.trim(), minutes: minutes.value } }),
      ),
    ),
  onSuccess: () => (name.value = ""),
});
const stop = useMutation({
  mutationFn: (timer: string) =>
    send([timer], (header) =>
      answered(client.POST("/api/timers/{timer}/stop", { params: { header, path: { timer } } })),
    ),
});
</script>

<template>
  <section class="sheet timers" data-test="timers">
    <h2 class="lesser">Timers</h2>
    <ProblemNote :error="start.error.value ?? stop.error.value" />
    <p v-for="t in timers" :key="t.id" class="timer" :class="{ rings: t.rings }">
      <b>{{ t.rings ? $t("rings") : times.clock(t.ends) }}</b>
      <span>
        {{ t.name }}
        <span class="quiet">{{ t.by }}{{ t.rings ? "" : $t(", in {now}", { now: lasting(t.ends - now) }) }}</span>
      </span>
      <v-btn size="small" variant="tonal" @click="stop.mutate(t.id)">Stop</v-btn>
    </p>
    <form class="line" @submit.prevent="start.mutate()">
      <input v-model="name" class="own name" placeholder="what for" aria-label="What the timer is for" maxlength="80" />
      <label><NumberField whole v-model="minutes" /> min</label>
      <v-btn type="submit" size="small" variant="tonal" :disabled="!name.trim() || !person" data-test="start-timer"
        >Start</v-btn
      >
    </form>
  </section>
</template>

<style scoped>
.timers {
  padding: 12px 16px;
}
.timer {
  display: flex;
  gap: 10px;
  align-items: center;
  margin: 6px 0;
}
.timer > span {
  flex: 1;
}
.rings {
  background: var(--dust-wash);
  padding: 4px 8px;
}
.line {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
.name {
  min-width: 0;
  flex: 1;
}
</style>
