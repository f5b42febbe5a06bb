<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { ref } from "vue";
import { answered, client } from "../../api/client";
import { useAir } from "../../api/queries";
import { mass, useTimes } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import { useHanging } from "../drying/hanging";

/** What measures the air and where it hangs, and whether the scale answers. */
const { data: air } = useAir(ref(1));
const { data: scale } = useQuery({
  queryKey: ["scale", "once"],
  queryFn: () => answered(client.GET("/api/scale")),
  refetchInterval: 2000,
});
const times = useTimes();
const hang = useHanging();
const nowhere = "-";
const choose = (sensor: number, where: string) => hang.mutate({ sensor, ...(where === nowhere ? {} : { in: where }) });
</script>

<template>
  <p v-if="scale?.connected" class="quiet" data-test="scale-shows">
    <template v-if="scale.answers">The scale shows {{ mass(scale.milligrams) }}.</template>
    <template v-else>The scale at {{ scale.address }} does not answer: {{ scale.says }}</template>
  </p>
  <p v-else class="quiet">No scale is connected; what is weighed is typed.</p>
  <h3>What measures the air</h3>
  <table v-if="air?.sensors.length" class="ledger">
    <tbody>
      <tr v-for="s in air.sensors" :key="s.id">
        <td>
          <b>{{ s.device }}</b>
        </td>
        <td class="quiet">heard {{ times.full(s.last) }}</td>
        <td>
          <label>
            hangs in
            <select
              class="own"
              :data-test="`hangs-${s.device}`"
              :value="s.in ?? nowhere"
              @change="choose(s.id, ($event.target as HTMLSelectElement).value)"
            >
              <option :value="nowhere">nowhere: it is not listened to</option>
              <option v-for="p in air.places" :key="p.id" :value="p.id">{{ p.name }}</option>
            </select>
          </label>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-else class="quiet">
    No sensor has sent anything yet. Without one the plan reckons with the room's usual air. A sensor sends to
    <code>/api/readings</code>, with a key of its own once people sign in here.
  </p>
  <ProblemNote :error="hang.error.value" />
</template>
