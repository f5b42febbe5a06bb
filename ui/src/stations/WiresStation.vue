<script setup lang="ts">
import type { Schemas } from "../api/client";
import { computed, ref } from "vue";
import { useWires } from "../api/queries";
import Swatch from "../drawings/Swatch.vue";
import WirePattern from "../drawings/WirePattern.vue";
import { length } from "../format";
import DaySpan from "../parts/DaySpan.vue";
import LaterDays from "../parts/LaterDays.vue";
import MaterialList from "../parts/MaterialList.vue";
import ProblemNote from "../parts/ProblemNote.vue";
import StationHead from "../parts/StationHead.vue";
import StemCheck from "../parts/StemCheck.vue";
import CutRecord from "./CutRecord.vue";
import { t } from "../words/said";

const days = ref(2);
const { data: wires, error } = useWires(days);
const later = computed(() =>
  (wires.value?.later ?? []).map((d) => ({ day: d.day, says: t("{n} wire | {n} wires", d.wires) })),
);
const laterWires = computed(() => (wires.value?.later ?? []).reduce((sum, d) => sum + d.wires, 0));
const cutting = ref<string>();
const recorded = computed(() => wires.value?.sheets.find((s) => s.material === cutting.value));
const full = computed(() => wires.value?.sheets.reduce((sum, s) => sum + s.cutting.fullWires, 0) ?? 0);
/** What makes up the length of a cut. */
const madeUp = (p: Schemas["WirePart"]) =>
  [
    t("{depthMicrometres} in the paste", { depthMicrometres: length(p.depthMicrometres) }),
    t("{stemMicrometres} stem", { stemMicrometres: length(p.stemMicrometres) }),
    ...(p.allowanceMicrometres
      ? [t("{allowanceMicrometres} hook", { allowanceMicrometres: length(p.allowanceMicrometres) })]
      : []),
  ].join(" + ");
</script>

<template>
  <div class="station">
    <StationHead title="Wires" :says="$t('{full} full wires to cut', { full })">
      <p class="caution">Wire ends are sharp and fly: guard your eyes. Wire is not food; count it.</p>
    </StationHead>
    <ProblemNote :error="error" />
    <DaySpan v-model="days" />
    <p v-if="wires && !wires.sheets.length" class="sheet empty">
      {{ later.length ? $t("No wires are taken up in these days.") : $t("No wires are needed now.") }}
    </p>
    <article v-for="s in wires?.sheets" :key="s.material" class="sheet wire" :data-test="`wire-${s.name}`">
      <div class="head">
        <h2>{{ s.name }}</h2>
        <p>
          <span class="figure">{{ s.cutting.fullWires }}</span>
          <span class="unit"> full wires of {{ length(s.wire.lengthMicrometres) }}</span>
        </p>
        <p v-if="s.cutting.offcuts">
          <span class="figure">{{ s.cutting.offcuts }}</span> offcuts first
        </p>
        <p class="quiet">
          {{ s.cutting.lowerBound }} full at the very least{{
            s.cutting.fullWires === s.cutting.lowerBound ? $t(": no way takes fewer") : ""
          }}
          · {{ s.onHand }} on hand
        </p>
        <p v-if="s.onHand < s.cutting.fullWires" class="word late">{{ s.cutting.fullWires - s.onHand }} short</p>
        <p v-for="r in s.ready" :key="r.lengthMicrometres" class="quiet">
          {{ r.number }} of {{ length(r.lengthMicrometres) }} lie cut
        </p>
        <v-btn
          v-if="s.cutting.patterns.length"
          variant="tonal"
          :data-test="`record-${s.name}`"
          @click="cutting = s.material"
          >These are cut</v-btn
        >
      </div>
      <table class="ledger">
        <thead>
          <tr>
            <th>for</th>
            <th class="n">wires</th>
            <th class="n">length</th>
            <th>of which</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in s.parts" :key="p.lot">
            <td><Swatch :colour="p.colour" :size="14" /> {{ p.name }}</td>
            <td class="n">
              <b>{{ p.number }}</b>
            </td>
            <td class="n nowrap">{{ length(p.lengthMicrometres) }}</td>
            <td class="quiet">{{ madeUp(p) }}</td>
          </tr>
        </tbody>
      </table>
      <div class="patterns">
        <div v-for="(p, i) in s.cutting.patterns" :key="i">
          <b>{{ p.wires }} ×<span v-if="p.fromMicrometres < s.wire.lengthMicrometres" class="quiet"> offcut</span></b>
          <WirePattern
            :cuts="p.cuts"
            :from="p.fromMicrometres"
            :offcut="p.offcutMicrometres"
            :kept="p.kept"
            :full="s.wire.lengthMicrometres"
          />
        </div>
      </div>
    </article>
    <LaterDays
      :days="later"
      :title="
        $t('{n} wire more, later | {n} wires more, later', laterWires) +
        $t(': cut together with these, fewer ends are left over')
      "
    />
    <StemCheck v-if="wires?.stems.length" :stems="wires.stems" />
    <CutRecord v-if="recorded" :sheet="recorded" @close="cutting = undefined" />
    <MaterialList v-if="wires" title="Tape and what else is counted out" :lines="wires.others" />
  </div>
</template>

<style scoped>
.wire {
  display: grid;
  grid-template-columns: 190px minmax(320px, 1fr) minmax(280px, 1fr);
  gap: 22px;
  align-items: start;
  padding: 16px 20px;
  margin-bottom: 12px;
}
.head p {
  margin: 4px 0;
}
.head .word,
.head .v-btn {
  display: flex;
  margin: 6px 0;
}
.caution {
  color: var(--soft);
  font-size: 0.9rem;
  max-width: 330px;
}
.nowrap {
  white-space: nowrap;
}
.patterns > div {
  display: grid;
  grid-template-columns: 46px 1fr;
  align-items: center;
  margin-bottom: 4px;
}
@media (max-width: 980px) {
  .wire {
    grid-template-columns: 1fr;
  }
}
</style>
