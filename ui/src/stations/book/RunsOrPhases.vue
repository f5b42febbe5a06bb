<script setup lang="ts">
import type { Schemas } from "../../api/client";
import { plain } from "../../format";
import { t } from "../../words/said";

/** The two schools of a flower whose parts are wanted fresh, side by side before one is chosen. */
defineProps<{ schools: Schemas["School"][] }>();
const emit = defineEmits<{ choose: [school: Schemas["School"]] }>();
const minutes = (m: number) => plain(Math.round(m / 1000));
const called = (s: Schemas["School"]) => (s.runs ? t("in runs") : t("in phases"));
</script>

<template>
  <table class="ledger" data-test="schools">
    <thead>
      <tr>
        <th>{{ schools[0].of }} of them</th>
        <th v-for="s in schools" :key="called(s)" class="n" :class="{ chosen: s.chosen }">{{ called(s) }}</th>
      </tr>
    </thead>
    <tbody>
      <tr>
        <td>made at a time</td>
        <td v-for="s in schools" :key="called(s)" class="n">
          {{ s.none ? $t("not one") : `${s.times} × ${s.atOnce}` }}
        </td>
      </tr>
      <tr>
        <td>at the bench, min</td>
        <td v-for="s in schools" :key="called(s)" class="n">{{ minutes(s.attendedMilliminutes) }}</td>
      </tr>
      <tr>
        <td>setup, min</td>
        <td v-for="s in schools" :key="called(s)" class="n">{{ minutes(s.setupMilliminutes) }}</td>
      </tr>
      <tr>
        <td>all of it can do</td>
        <td v-for="s in schools" :key="called(s)" class="n">{{ s.makers.join(", ") || $t("nobody alone") }}</td>
      </tr>
      <tr>
        <td>of places, each takes</td>
        <td v-for="s in schools" :key="called(s)" class="n">
          <template v-for="p in s.places" :key="p.place">{{ p.slots }} {{ p.name }}<br /></template>
          <template v-if="!s.places.length">none</template>
        </td>
      </tr>
      <tr>
        <td></td>
        <td v-for="s in schools" :key="called(s)" class="n">
          <span v-if="s.chosen" class="quiet">as it is written</span>
          <button
            v-else
            class="bare add"
            :data-test="s.runs ? 'choose-runs' : 'choose-phases'"
            @click="emit('choose', s)"
          >
            make it so
          </button>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  font-size: 0.9rem;
  margin: 6px 0 10px;
}
td {
  vertical-align: top;
}
th.chosen {
  color: var(--petal);
}
</style>
