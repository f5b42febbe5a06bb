<script setup lang="ts">
import { computed } from "vue";
import { person } from "../api/client";
import { type ClockStep, useMoveClock, useStudio } from "../api/queries";
import { useTimes } from "../format";
import { t } from "../words/said";

/** The studio's time; in the demo it stands until it is moved on. */
const { data: studio } = useStudio();
const times = useTimes();
const move = useMoveClock();
const steps: { by: ClockStep; name: string }[] = [
  { by: "quarter", name: t("15 minutes") },
  { by: "hour", name: t("an hour") },
  { by: "next", name: t("to the next thing") },
  { by: "morning", name: t("to the next morning") },
];
const sat = computed(() => person.value !== "");
</script>

<template>
  <div v-if="studio" class="clock">
    <span class="time" data-test="clock">{{ times.clock(studio.now) }}</span>
    <span class="day">{{ times.dayShort(studio.now) }}</span>
    <v-menu v-if="studio.standing">
      <template #activator="{ props }">
        <button v-bind="props" class="bare on" data-test="move-clock" title="The demo's clock stands; move it on">
          move on
        </button>
      </template>
      <div class="sheet menu">
        <p v-if="!sat" class="quiet">Say first who is at this bench.</p>
        <button
          v-for="s in steps"
          :key="s.by"
          class="bare"
          :disabled="!sat || move.isPending.value"
          :data-test="`clock-${s.by}`"
          @click="move.mutate(s.by)"
        >
          {{ s.name }}
        </button>
      </div>
    </v-menu>
  </div>
</template>

<style scoped>
.clock {
  display: grid;
  grid-template-columns: auto auto;
  column-gap: 8px;
  align-items: baseline;
  line-height: 1.1;
}
.time {
  font-family: var(--name);
  font-size: 1.5333rem;
  grid-row: span 2;
}
.day,
.on {
  font-size: 0.8333rem;
  white-space: nowrap;
}
.on {
  color: var(--petal);
  font-weight: 600;
}
.menu {
  display: grid;
  padding: 10px 0;
  min-width: 190px;
}
.menu button,
.menu p {
  padding: 9px 18px;
  margin: 0;
}
.menu button:hover {
  background: var(--leaf-wash);
}
</style>
