<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, type Schemas, useCommands } from "../../api/client";
import { useAir } from "../../api/queries";
import AirCurve from "../../drawings/AirCurve.vue";
import { lasting, plain, useTimes } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import { movedWords } from "../../words";
import { useHanging } from "./hanging";
import { speedWord } from "./words";
import { t } from "../../words/said";

/** The air now, behind and ahead, what the lead says of it, and what measures it. */
const behind = ref(1);
const { data: air, error } = useAir(behind);
const times = useTimes();
const send = useCommands();
const chosen = ref("");
const place = computed(() => air.value?.places.find((p) => p.id === chosen.value) ?? air.value?.places[0]);
const hourNow = computed(() => {
  const p = place.value;
  return p?.curve[Math.floor((air.value?.now ?? 0) / 60) - p.from];
});
const latest = computed(() => place.value?.latest ?? hourNow.value);
const sensors = computed(() => air.value?.sensors.filter((s) => (s.in ?? undefined) === place.value?.id) ?? []);
const strays = computed(() => air.value?.sensors.filter((s) => s.in === undefined || s.in === null) ?? []);
const bridged = computed(() => place.value?.curve.filter((p) => p.kind === "bridged").length ?? 0);
const word = computed(() => air.value?.words[0]);

const feels = ref<"dry" | "damp" | "very damp">("damp");
const days = ref(1);
const say = useMutation({
  mutationFn: () =>
    send([feels.value, days.value], (header) =>
      answered(
        client.POST("/api/air/words", {
          params: { header },
          body: { feels: feels.value, until: (air.value?.now ?? 0) + days.value * 1440 },
        }),
      ),
    ),
});
const unsay = useMutation({
  mutationFn: () => send(["unsay"], (header) => answered(client.DELETE("/api/air/words", { params: { header } }))),
});
const hang = useHanging();
const matter = (s: Schemas["SensorView"]) => {
  if (s.quiet) return t("silent since {last}", { last: times.value.moment(s.last) });
  if (s.stuck) return t("says the very same for hours");
  return "";
};
</script>

<template>
  <section class="sheet air" data-test="air">
    <ProblemNote :error="error ?? say.error.value ?? unsay.error.value ?? hang.error.value" />
    <template v-if="air && place">
      <nav>
        <button
          v-for="p in air.places"
          :key="p.id"
          class="bare"
          :class="{ here: p.id === place.id }"
          @click="chosen = p.id"
        >
          {{ p.name }}
        </button>
      </nav>
      <p v-if="latest" class="now">
        <span class="figure">{{ plain(latest.humidityPerMille / 10) }}</span><span class="unit"> % damp</span>
        <span class="figure">{{ plain(latest.tenthsCelsius / 10) }}</span><span class="unit"> °C</span>
        <span v-if="!place.latest" class="word tight">expected, nothing measures it</span>
      </p>
      <p v-if="hourNow" class="quiet">In this air {{ speedWord(hourNow.speed) }}.</p>
      <AirCurve :air="place" :now="air.now" :stall="air.stallPerMille / 10" :days="behind" />
      <p class="quiet">
        looking back
        <button
          v-for="d in [1, 14, 365]"
          :key="d"
          class="bare back"
          :class="{ here: behind === d }"
          :data-test="`behind-${d}`"
          @click="behind = d"
        >
          {{ d === 1 ? $t("a day") : d === 14 ? $t("two weeks") : $t("a year") }}
        </button>
      </p>
      <p v-if="bridged" class="quiet">{{ bridged }} h without readings are bridged (dotted).</p>
      <p v-if="place.aside" class="quiet" data-test="aside">
        {{ place.aside }} readings of the last day stood out and are left aside.
      </p>
      <p v-if="place.apart" class="word tight">Its sensors contradict each other by a tenth and more.</p>
      <p v-if="word" class="said">
        <b>{{ word.said }}</b> until {{ times.moment(word.until) }}, says the lead.
        <button class="bare add" data-test="unsay" @click="unsay.mutate()">Take it back</button>
      </p>
      <p v-if="air.taken && air.moved" class="quiet" data-test="moves">
        Plans reckon with the air as of {{ times.moment(air.taken) }}: {{ movedWords(air.moved) }}.
      </p>
      <div v-if="!word" class="say">
        <label>
          It will be
          <select v-model="feels" class="own" data-test="feels">
            <option>dry</option>
            <option>damp</option>
            <option>very damp</option>
          </select>
        </label>
        <label>
          for
          <select v-model.number="days" class="own">
            <option v-for="d in [1, 2, 3, 5, 7]" :key="d" :value="d">{{ lasting(d * 1440) }}</option>
          </select>
        </label>
        <v-btn variant="tonal" size="small" data-test="say" :loading="say.isPending.value" @click="say.mutate()"
          >Say so</v-btn
        >
      </div>
      <ul class="sensors">
        <li v-for="s in sensors" :key="s.id">
          <b>{{ s.device }}</b>
          <span v-if="matter(s)" class="word late">{{ matter(s) }}</span>
          <span v-else class="quiet">heard {{ times.clock(s.last) }}</span>
          <span v-if="s.refused" class="quiet"> · {{ s.refused }} readings refused: {{ s.refusal }}</span>
        </li>
        <li v-for="s in strays" :key="s.id" class="stray">
          <b>{{ s.device }}</b> sends, and nobody has said where it hangs.
          <select
            class="own"
            :data-test="`hang-${s.device}`"
            @change="hang.mutate({ sensor: s.id, in: ($event.target as HTMLSelectElement).value })"
          >
            <option disabled selected>it hangs in…</option>
            <option v-for="p in air.places" :key="p.id" :value="p.id">{{ p.name }}</option>
          </select>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.air {
  padding: 14px 16px;
}
nav {
  display: flex;
  gap: 16px;
  margin-bottom: 8px;
}
nav button {
  padding: 4px 0;
}
.now {
  margin: 4px 0;
}
.now .figure {
  font-size: 2.2667rem;
}
.now .unit + .figure {
  margin-left: 16px;
}
.air p {
  margin: 5px 0;
}
.back {
  margin-left: 10px;
}
.say {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
  margin-top: 8px;
}
.said {
  background: var(--dust-wash);
  padding: 6px 10px;
}
.sensors {
  list-style: none;
  padding: 8px 0 0;
  margin: 10px 0 0;
  border-top: 1px solid var(--vein);
  font-size: 0.9333rem;
}
.sensors li {
  margin: 3px 0;
}
.sensors b {
  margin-right: 6px;
}
.stray {
  background: var(--dust-wash);
  padding: 6px 10px;
}
</style>
